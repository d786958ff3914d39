import { accustom, type DayLight, NEVER_USED, TAU_DAYS, unknownStart } from '../easing/accustomed';
import type { ResponseMatrix } from '../optics/response';
import { civilDay } from '../day/wallClock';
import { dayAt, dliUntil, type ZoneLight, zoneLight } from './light';
import { entriesOf, type LitGroup, litRunning, runningAt } from './lit';
import type { Calibration } from './calibration';
import { type HistoryDoc, livesByLight, lowerEdgeUmol, type RunningEntry, type Zone } from './types';

const DAY_MS = 86_400_000;

/**
 * What the corals of a zone are used to at an instant, from the history of what really ran. Before the first entry a
 * coral is used to that entry's light when the keeper said so, otherwise to the lower edge of its band for 8 hours.
 * Tenants that do not live by light are used to any.
 * @param matrixOf response matrix of lit groups over the zone's spots
 * @returns per spot; with no history every coral stands at its unknown start
 */
export function accustomedAt(
  zone: Zone,
  history: HistoryDoc,
  cal: Calibration | null,
  atUtc: string,
  matrixOf: (groups: LitGroup[]) => ResponseMatrix,
): { perSpot: DayLight[]; known: boolean } {
  const entries = entriesOf(history, zone.id).filter((e) => e.atUtc <= atUtc);
  const unknown = zone.spots.map((s) =>
    livesByLight(s) ? unknownStart(lowerEdgeUmol(s, zone)) : NEVER_USED,
  );
  if (entries.length === 0) return { perSpot: unknown, known: false };

  const lightOf = lighter(cal, matrixOf);
  const running = new Map<string, RunningEntry>();
  let used = unknown;
  entries.forEach((entry, i) => {
    running.set(entry.groupId, entry);
    const next = entries[i + 1]?.atUtc ?? atUtc;
    // groups that were already there but typed in moments later belong to the same first light
    const groups = [...running.values()].map((e) => litRunning(e));
    const lit = lightOf(groups);
    const light = zone.spots.map((_, s) => dayAt(lit, groups, s));
    if (entry.usedTo) used = light.map((l, s) => (livesByLight(zone.spots[s]!) ? l : NEVER_USED));
    const days = (Date.parse(next) - Date.parse(entry.atUtc)) / DAY_MS;
    used = used.map((a, s) => accustom(a, light[s]!, days, TAU_DAYS));
  });
  return { perSpot: used, known: true };
}

/** Lights zones from their response matrices; the same matrix is summed once. */
function lighter(cal: Calibration | null, matrixOf: (groups: LitGroup[]) => ResponseMatrix) {
  const made = new Map<ResponseMatrix, ZoneLight>();
  return (groups: LitGroup[]): ZoneLight => {
    const matrix = matrixOf(groups);
    let light = made.get(matrix);
    if (!light) made.set(matrix, (light = zoneLight(matrix, groups, cal)));
    return light;
  };
}

/** A part of today's wall clock, with an instant inside it that says what ran then. */
export interface Stretch {
  fromMinute: number;
  toMinute: number;
  atUtc: string;
}

/** Light so far per spot, mol m⁻², over stretches of today: each by what ran in it. */
export function soFarAt(
  zone: Zone,
  history: HistoryDoc,
  cal: Calibration | null,
  stretches: readonly Stretch[],
  matrixOf: (groups: LitGroup[]) => ResponseMatrix,
): number[] {
  const lightOf = lighter(cal, matrixOf);
  const sums = zone.spots.map(() => 0);
  for (const part of stretches) {
    const groups = runningAt(history, zone, part.atUtc).map((e) =>
      litRunning(e, civilDay(Date.parse(part.atUtc), zone.timeZone)),
    );
    if (groups.length === 0) continue;
    const light = lightOf(groups);
    sums.forEach((_, s) => {
      sums[s]! += dliUntil(light, groups, s, part.toMinute) - dliUntil(light, groups, s, part.fromMinute);
    });
  }
  return sums;
}
