import { livesByLight, type Wants, wantsOf } from '../record/needs';
import { plainSpot, type Zone } from '../record/zone';
import { APART_CM } from './critic';
import { costOf } from './hang';

/** Who stands where: those with a place may be moved, those in hand are given one. */

/** Somebody with a place, by index of its spot, or in hand, by index there. */
export type Who = { spot: number; hand?: undefined } | { hand: number; spot?: undefined };

export interface Tenant {
  who: Who;
  /** null = does not live by light: it keeps its place */
  wants: Wants | null;
  /** where it stands; null = in hand */
  at: Point | null;
}
export interface Point {
  xCm: number;
  yCm: number;
  depthCm: number;
}
/** A place that is free, where its light stands among all that were asked. */
export interface Free extends Point {
  name: string;
}

/** A move is worth making from this gain on, as cost. Mark: rule of thumb. */
const MOVE_COST = 0.25;
/** In hand without a place: as bad as light off by about two times. */
const NOWHERE = 2;

/** Everybody of a water, those in hand last. */
export const tenantsIn = (zone: Zone): Tenant[] => [
  ...zone.spots.flatMap((s, spot): Tenant[] =>
    s.need === null ? [] : [{ who: { spot }, wants: livesByLight(s) ? wantsOf(s, zone) : null, at: s }],
  ),
  ...(zone.inHand ?? []).map((c, hand): Tenant => {
    const tenant = plainSpot({ ...c, xCm: 0, yCm: 0, depthCm: 0 });
    return { who: { hand }, wants: livesByLight(tenant) ? wantsOf(tenant, zone) : null, at: null };
  }),
];

export interface Arranged {
  /** mean over all who live by light */
  cost: number;
  within: number;
  judged: number;
  /** who with a place would go elsewhere */
  moves: number;
  /** by tenant: index of the free place it takes; null = it stays, or finds none */
  to: (number | null)[];
}

const apart = (a: Point, b: Point) => Math.hypot(a.xCm - b.xCm, a.yCm - b.yCm, a.depthCm - b.depthCm);

/**
 * Gives everybody a place, each to whom it matters most first: who stands where its light is wrong goes where that is worth a move, who
 * is in hand to the best that is left.
 * @param here µmol where each tenant stands; @param free µmol of each free place; @param moving whether who has a place may be moved
 */
export function arranged(
  tenants: readonly Tenant[],
  places: readonly Free[],
  here: readonly number[],
  free: ArrayLike<number>,
  moving: boolean,
): Arranged {
  const to: (number | null)[] = tenants.map(() => null);
  const stay = tenants.map((t, i) =>
    t.wants === null ? 0 : t.at === null ? NOWHERE : costOf(here[i]!, t.wants),
  );
  const costs = [...stay];
  const at = tenants.map((t): Point | null => t.at);
  const order = tenants
    .map((_, i) => i)
    .filter((i) => tenants[i]!.wants && (tenants[i]!.at === null || (moving && stay[i]! > MOVE_COST)))
    .sort((a, b) => Number(tenants[a]!.at === null) - Number(tenants[b]!.at === null) || stay[b]! - stay[a]!);
  let moves = 0;
  for (const i of order) {
    const { wants, at: stands } = tenants[i]!;
    let best: { place: number; cost: number } | null = null;
    for (let p = 0; p < places.length; p += 1) {
      const cost = costOf(free[p]!, wants!);
      if (best && cost >= best.cost) continue;
      if (at.every((x, k) => k === i || x === null || apart(x, places[p]!) >= APART_CM))
        best = { place: p, cost };
    }
    if (!best || (stands && best.cost + MOVE_COST >= stay[i]!)) continue;
    to[i] = best.place;
    at[i] = places[best.place]!;
    costs[i] = best.cost;
    if (stands) moves += 1;
  }
  const judged = tenants.flatMap((t, i) => (t.wants ? [i] : []));
  return {
    cost: judged.length > 0 ? judged.reduce((s, i) => s + costs[i]!, 0) / judged.length : 0,
    within: judged.filter((i) => {
      const { wants, at: stands } = tenants[i]!;
      const umol = to[i] !== null ? free[to[i]!]! : stands ? here[i]! : -1;
      return umol >= wants!.fromUmol && umol <= wants!.toUmol;
    }).length,
    judged: judged.length,
    moves,
    to,
  };
}
