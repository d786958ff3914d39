import { groundDepth } from '../optics/tank';
import { computeResponse } from '../optics/response';
import { livesByLight, type Wants, wantsOf } from '../record/needs';
import type { Zone } from '../record/zone';
import type { Calibration } from './calibration';
import { daysAt, zoneLight } from './light';
import { type LitGroup, rigOf } from './lit';
import { placeName } from './places';
import { racks } from './placing';

/** A coral put elsewhere, and what it gets before and after, µmol at its brightest. */
export interface Move {
  spot: number;
  to: { xCm: number; yCm: number; depthCm: number; name: string };
  fromUmol: number;
  toUmol: number;
}

/** Which corals would have to go where, so that as many as can be have the light they want under some lamps. */
export interface Criticism {
  moves: Move[];
  /** who finds light it wants nowhere */
  left: number[];
  /** corals with a range, and those within it before and after the moves */
  judged: number;
  before: number;
  after: number;
}

/** Places on floor and rock are looked at so many along and across. */
const GRID = { along: 6, across: 4 } as const;
/** Corals stay at least this far from one another, and from the panes, cm. Marks: rule of thumb. */
export const APART_CM = 12;
const FROM_PANE_CM = 6;

/** Floor, rock and racks: where a coral could stand. */
export function standing(zone: Zone) {
  const { tank } = zone;
  const along = (i: number, n: number, length: number) =>
    FROM_PANE_CM + ((length - 2 * FROM_PANE_CM) * (i + 0.5)) / n;
  const ground = Array.from({ length: GRID.along * GRID.across }, (_, k) => {
    const xCm = along(k % GRID.along, GRID.along, tank.lengthCm);
    const yCm = along(Math.floor(k / GRID.along), GRID.across, tank.widthCm);
    const at = { xCm, yCm, depthCm: groundDepth(tank, xCm, yCm) };
    return { ...at, name: placeName(tank, at) };
  }).filter((p) => p.depthCm > 2);
  return [...ground, ...racks(zone).map(({ xCm, yCm, depthCm, name }) => ({ xCm, yCm, depthCm, name }))];
}

const inside = (umol: number, w: Wants) => umol >= w.fromUmol && umol <= w.toUmol;
/** How far from the middle of a range, by ratio. */
const away = (umol: number, w: Wants) =>
  Math.abs(Math.log(Math.max(0.1, umol) / Math.sqrt(Math.max(1, w.fromUmol) * w.toUmol)));

/**
 * The fewest moves that bring corals to light they want: only who is outside is moved, who is farthest outside first, each to the free
 * place nearest to the middle of its range, its own neighbours' room left to them. Light at its brightest, as reckoned.
 */
export function critic(zone: Zone, groups: readonly LitGroup[], cal: Calibration): Criticism {
  const places = standing(zone);
  const at = [...zone.spots, ...places.map((p) => ({ ...p, openShare: 1 }))];
  const light = zoneLight(computeResponse(rigOf(groups, zone, at, cal)), groups, cal);
  const umol = daysAt(
    light,
    groups,
    at.map((_, i) => i),
  ).map((d) => d.peak);
  const wants = zone.spots.map((s) => (livesByLight(s) && s.need !== null ? wantsOf(s, zone) : null));
  const judged = wants.flatMap((w, spot) => (w ? [{ spot, w }] : []));
  const outside = judged
    .filter(({ spot, w }) => !inside(umol[spot]!, w))
    .sort((a, b) => away(umol[b.spot]!, b.w) - away(umol[a.spot]!, a.w));
  const moves: Move[] = [];
  const left: number[] = [];
  for (const { spot, w } of outside) {
    const others = zone.spots.flatMap((s, i) => {
      if (i === spot || s.need === null) return [];
      return [moves.find((m) => m.spot === i)?.to ?? s];
    });
    const free = places
      .map((p, k) => ({ p, v: umol[zone.spots.length + k]! }))
      .filter(
        ({ p, v }) =>
          inside(v, w) &&
          others.every((o) => Math.hypot(o.xCm - p.xCm, o.yCm - p.yCm, o.depthCm - p.depthCm) >= APART_CM),
      );
    if (free.length === 0) {
      left.push(spot);
      continue;
    }
    const best = free.reduce((a, b) => (away(b.v, w) < away(a.v, w) ? b : a));
    moves.push({ spot, to: best.p, fromUmol: umol[spot]!, toUmol: best.v });
  }
  const before = judged.length - outside.length;
  return { moves, left, judged: judged.length, before, after: before + moves.length };
}
