import { lengthWords } from '../shape/units';
import { groundDepth } from '../optics/tank';
import type { DayLight } from '../easing/accustomed';
import { lightBetween } from './light';
import { litRunning, runningAt } from './lit';
import type { ParOf } from './replay';
import type { HistoryDoc } from '../record/history';
import type { Place, Zone } from '../record/zone';

/** Where a coral could stand for a while: from dark to its own place. */
export interface ClimbPlaces {
  places: (Place & { name: string; light: DayLight })[];
}

/** Points looked at on the ground, from left to right and from front to back. */
const ACROSS = 12;
const ALONG = 8;
/** A coral stands this much above the ground, cm. Mark: rule of thumb. */
const ABOVE_CM = 3;
/** Most places on the way, and by how much each should be brighter than the last. */
const MOST = 7;
const LEAST_RISE = 1.12;

const nameOf = (zone: Zone, p: Place): string => {
  const third = (v: number, of: number, names: readonly [string, string, string]) =>
    names[Math.min(2, Math.floor((3 * v) / of))]!;
  return `${third(p.yCm, zone.tank.widthCm, ['front', 'middle', 'back'])} ${third(p.xCm, zone.tank.lengthCm, ['left', 'centre', 'right'])}, ${lengthWords(p.depthCm)} deep`;
};

/**
 * Places for a coral that climbs instead of lamps being dimmed: free spots and the ground of the tank (sand and rock), each
 * clearly brighter than the last by DLI and by peak, the nearest to its own place among those of like light. Light as it runs.
 */
export function* climbSteps(
  zone: Zone,
  history: HistoryDoc,
  nowUtc: string,
  yellow440PerM: number,
  spotId: string,
  parOf: ParOf,
): Generator<number, ClimbPlaces> {
  const spot = zone.spots.find((s) => s.id === spotId)!;
  const free = zone.spots
    .filter((s) => s.need === null && s.id !== spotId)
    .map((s) => ({ name: s.name, xCm: s.xCm, yCm: s.yCm, depthCm: s.depthCm, openShare: s.openShare }));
  const ground = Array.from({ length: ACROSS * ALONG }, (_, i) => {
    const xCm = Math.round(((i % ACROSS) + 0.5) * (zone.tank.lengthCm / ACROSS));
    const yCm = Math.round((Math.floor(i / ACROSS) + 0.5) * (zone.tank.widthCm / ALONG));
    const depthCm = Math.max(1, Math.round(groundDepth(zone.tank, xCm, yCm)) - ABOVE_CM);
    const place = { xCm, yCm, depthCm, openShare: 1 };
    return { ...place, name: nameOf(zone, place) };
  }).filter((p) =>
    zone.spots.every(
      (s) => s.need === null || (s.xCm - p.xCm) ** 2 + (s.yCm - p.yCm) ** 2 > 25 || s.id === spotId,
    ),
  );
  const own = {
    name: spot.name,
    xCm: spot.xCm,
    yCm: spot.yCm,
    depthCm: spot.depthCm,
    openShare: spot.openShare,
  };
  const all = [own, ...free, ...ground];
  yield 0.1;
  const groups = runningAt(history, zone, nowUtc).map((e) => litRunning(e));
  const light = lightBetween(parOf(groups, yellow440PerM, all), groups, all.length);
  yield 0.9;
  const home = light[0]!;
  const off = (p: Place) => Math.hypot(p.xCm - spot.xCm, p.yCm - spot.yCm, p.depthCm - spot.depthCm);
  const darker = all
    .map((p, i) => ({ ...p, light: light[i]! }))
    .slice(1)
    .filter(
      (p) =>
        p.light.dli > 0 && p.light.dli * LEAST_RISE <= home.dli && p.light.peak * LEAST_RISE <= home.peak,
    );
  // from its own place downwards: each time the nearest of the places that are clearly darker, but not by much
  const places: ClimbPlaces['places'] = [{ ...own, light: home }];
  while (places.length < MOST) {
    const above = places[0]!.light;
    // two places of one name would read as the same place
    const below = darker.filter(
      (p) =>
        places.every(({ name }) => name !== p.name) &&
        p.light.dli * LEAST_RISE <= above.dli &&
        p.light.peak * LEAST_RISE <= above.peak,
    );
    const near = below.filter((p) => p.light.dli * LEAST_RISE ** 2.5 >= above.dli);
    const pick = (near.length > 0 ? near : below.sort((a, b) => b.light.dli - a.light.dli).slice(0, 3)).sort(
      (a, b) => off(a) - off(b),
    )[0];
    if (!pick) break;
    places.unshift(pick);
  }
  return { places };
}
