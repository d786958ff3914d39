import { type Field, cellX, cellY, parInField } from '../optics/field';
import { groundDepth, type Tank } from '../optics/tank';
import { NEEDS, type NeedId, standingOf, type Wants, wantsOf, wantsOfKind } from '../record/needs';
import type { Spot, Zone } from '../record/zone';
import { type Placed, placed } from './judgement';

export interface Liking {
  /** of the kind, or of the coral */
  id: string;
  name: string;
  wants: Wants;
  placed: Placed;
}

/** Who would like light of so many µmol, ± a share of it at 90 %, those it suits first. */
export const likings = (umol: number, bandShare: number, zone: Pick<Zone, 'needs'>): Liking[] =>
  (Object.keys(NEEDS) as NeedId[])
    .map((need): Liking => {
      const wants = wantsOfKind(need, zone);
      return { id: need, name: NEEDS[need].name, wants, placed: placed(umol, bandShare, wants) };
    })
    .sort((a, b) => b.placed.within - a.placed.within);

/** The same of those who live here. */
export const ownLikings = (umol: number, bandShare: number, zone: Zone): Liking[] =>
  zone.spots.flatMap((s): Liking[] => {
    const wants = s.need === null ? null : wantsOf(s, zone);
    return wants ? [{ id: s.id, name: s.name, wants, placed: placed(umol, bandShare, wants) }] : [];
  });

/** What a search for places found. */
export interface FoundPlaces {
  candidates: Candidate[];
  /** share of floor and rock that suits */
  groundShare: number;
}

export interface Candidate {
  xCm: number;
  yCm: number;
  depthCm: number;
  umol: number;
  /** a spot of the keeper's that stands empty, when it is one */
  spotId: string | null;
  name: string;
}

/** Corals keep at least this far from one another, and suggestions twice as far, cm. Mark: rule of thumb. */
const APART_CM = 10;
/** Places this close to a pane are hard to keep clean, cm. Mark: rule of thumb. */
const FROM_GLASS_CM = 5;
const MOST_PLACES = 4;

/** How well light suits a want: 1 in its middle (by ratio), 0 at its edges, below outside. */
function fitness(umol: number, wants: Wants): number {
  const low = Math.max(1, wants.fromUmol);
  const middle = Math.sqrt(low * wants.toUmol);
  return 1 - Math.abs(Math.log(Math.max(umol, 0.1) / middle)) / Math.log(wants.toUmol / middle);
}

/**
 * Where a coral could go: its keeper's empty spots with the light it wants, then the best places on floor and rock, apart from
 * the corals and from each other; and the share of that ground that suits it.
 * @param shares emitted share of every row of the field
 */
export function placesFor(
  field: Field,
  tank: Tank,
  spots: readonly Spot[],
  wants: Wants,
  shares: ArrayLike<number>,
): FoundPlaces {
  const parHere = (x: number, y: number, z: number) => parInField(field, x, y, z, shares);
  const taken = spots.filter((s) => s.need !== null);
  const far = (x: number, y: number, others: readonly { xCm: number; yCm: number }[], apart: number) =>
    others.every((o) => Math.hypot(o.xCm - x, o.yCm - y) >= apart);

  const empty = spots
    .filter((s) => s.need === null)
    .map((s): Candidate => ({
      xCm: s.xCm,
      yCm: s.yCm,
      depthCm: s.depthCm,
      umol: parHere(s.xCm, s.yCm, s.depthCm) * s.openShare,
      spotId: s.id,
      name: s.name,
    }))
    .filter((c) => standingOf(c.umol, wants) === 'within')
    .sort((a, b) => fitness(b.umol, wants) - fitness(a.umol, wants));

  const ground: Candidate[] = [];
  let suits = 0;
  for (let j = 0; j < field.grid.ny; j += 1) {
    for (let i = 0; i < field.grid.nx; i += 1) {
      const [x, y] = [cellX(field, i), cellY(field, j)];
      const z = groundDepth(tank, x, y);
      const umol = parHere(x, y, z);
      if (standingOf(umol, wants) !== 'within') continue;
      suits += 1;
      const edge = Math.min(x, y, tank.lengthCm - x, tank.widthCm - y);
      if (edge < FROM_GLASS_CM) continue;
      ground.push({ xCm: x, yCm: y, depthCm: z, umol, spotId: null, name: '' });
    }
  }
  ground.sort((a, b) => fitness(b.umol, wants) - fitness(a.umol, wants));
  const chosen = [...empty];
  for (const place of ground) {
    if (chosen.length >= MOST_PLACES + empty.length) break;
    if (far(place.xCm, place.yCm, taken, APART_CM) && far(place.xCm, place.yCm, chosen, 2 * APART_CM))
      chosen.push({ ...place, name: placeName(tank, place) });
  }
  return { candidates: chosen, groundShare: suits / (field.grid.nx * field.grid.ny) };
}

/**
 * Places of floor and rock from dark to bright, apart from corals and from each other: half of them with the light that is wanted, the
 * rest darker, to grow used to light at.
 */
export function groundPlaces(
  field: Field,
  tank: Tank,
  spots: readonly Spot[],
  wants: Wants,
  shares: ArrayLike<number>,
  most: number,
): { xCm: number; yCm: number; depthCm: number; umol: number }[] {
  const taken = spots.filter((s) => s.need !== null);
  const all: { xCm: number; yCm: number; depthCm: number; umol: number }[] = [];
  for (let j = 0; j < field.grid.ny; j += 1)
    for (let i = 0; i < field.grid.nx; i += 1) {
      const [xCm, yCm] = [cellX(field, i), cellY(field, j)];
      if (Math.min(xCm, yCm, tank.lengthCm - xCm, tank.widthCm - yCm) < FROM_GLASS_CM) continue;
      if (taken.some((s) => Math.hypot(s.xCm - xCm, s.yCm - yCm) < APART_CM)) continue;
      const depthCm = groundDepth(tank, xCm, yCm);
      all.push({ xCm, yCm, depthCm, umol: parInField(field, xCm, yCm, depthCm, shares) });
    }
  const out: typeof all = [];
  const take = (from: readonly (typeof all)[number][], upTo: number) => {
    for (const p of from) {
      if (out.length >= upTo) break;
      if (out.every((o) => Math.hypot(o.xCm - p.xCm, o.yCm - p.yCm) >= 1.5 * APART_CM)) out.push(p);
    }
  };
  const inOrder = [...all].sort((a, b) => fitness(b.umol, wants) - fitness(a.umol, wants));
  take(inOrder, Math.ceil(most / 2));
  take(
    inOrder.filter((p) => p.umol < wants.fromUmol),
    most,
  );
  return out;
}

/** A place in words: left or right, front or back, on what. */
export function placeName(tank: Tank, at: { xCm: number; yCm: number; depthCm: number }): string {
  const third = (v: number, length: number, names: readonly [string, string, string]) =>
    names[Math.min(2, Math.floor((3 * v) / length))]!;
  const ground = groundDepth(tank, at.xCm, at.yCm);
  const on =
    at.depthCm > ground + 1
      ? 'inside rock'
      : at.depthCm < ground - 1
        ? 'in open water'
        : ground < tank.depthCm - 0.5
          ? 'on rock'
          : 'on the floor';
  const across = third(at.xCm, tank.lengthCm, ['left', 'middle', 'right']);
  const deep = third(at.yCm, tank.widthCm, ['front', 'middle', 'back']);
  return `${on}, ${across === deep ? 'middle' : `${across} ${deep}`}`;
}
