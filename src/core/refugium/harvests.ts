import type { LogDoc, LogEvent } from '../record/log';
import { asDrained, asPpm, type Ppm, removed } from '../feeding/removal';
import { type Range, scaled } from '../feeding/range';

export type Harvest = Extract<LogEvent, { kind: 'harvest' }>;
export type WaterTest = Extract<LogEvent, { kind: 'test' }>;

const byTime = <T extends LogEvent>(list: T[]): T[] =>
  list.sort((a, b) => (a.atUtc < b.atUtc ? -1 : a.atUtc > b.atUtc ? 1 : 0));

/** Harvests at some spots, oldest first. */
export const harvestsOf = (log: LogDoc, spotIds: readonly string[]): Harvest[] =>
  byTime(log.events.filter((e): e is Harvest => e.kind === 'harvest' && spotIds.includes(e.spotId)));

/** Tests of the water all zones share, oldest first. */
export const testsOf = (log: LogDoc): WaterTest[] =>
  byTime(log.events.filter((e): e is WaterTest => e.kind === 'test'));

const DAY_MS = 86_400_000;

/** The mat between two harvests. Grams as drained the usual way. */
export interface Interval {
  fromUtc: string;
  toUtc: string;
  days: number;
  /** what it put on, by what came out, when the mat was left the same */
  gainGPerDay: number;
  /** specific growth rate ln(m₂/m₁)/days, where it was said what was left; else null */
  perDay: number | null;
  /** how heavy the mat was on the way; null when it was not said what was left */
  meanG: number | null;
  /** drained differently at both ends */
  mixed: boolean;
}

/** Growth of one mat from harvest to harvest, oldest first. */
export function intervals(harvests: readonly Harvest[]): Interval[] {
  return harvests.slice(1).flatMap((h, i): Interval[] => {
    const before = harvests[i]!;
    const days = (Date.parse(h.atUtc) - Date.parse(before.atUtc)) / DAY_MS;
    if (days < 0.5) return [];
    const start = before.leftG === null ? null : asDrained(before.leftG, before.drained);
    const left = h.leftG === null ? null : asDrained(h.leftG, h.drained);
    const taken = asDrained(h.wetG, h.drained);
    const grown = start !== null && left !== null && start > 0 ? taken + left : null;
    return [
      {
        fromUtc: before.atUtc,
        toUtc: h.atUtc,
        days,
        gainGPerDay: grown !== null ? (grown - start!) / days : taken / days,
        perDay: grown !== null && grown > 0 ? Math.log(grown / start!) / days : null,
        meanG: grown !== null ? (grown + start!) / 2 : null,
        mixed: h.drained !== before.drained,
      },
    ];
  });
}

/** Older growth says nothing of the present, days; and how many intervals are looked at. Mark: rule of thumb. */
const GROWTH_DAYS = 120;
const GROWTH_INTERVALS = 3;

/** Growth of one mat lately, oldest first. */
export const lateIntervals = (harvests: readonly Harvest[], nowMs: number): Interval[] =>
  intervals(harvests)
    .filter((i) => nowMs - Date.parse(i.toUtc) <= GROWTH_DAYS * DAY_MS)
    .slice(-GROWTH_INTERVALS);

/** A test older than this says nothing of the present, days. Mark: rule of thumb. */
export const TEST_DAYS = 28;

/** The last value of a nutrient that still speaks of the present, ppm; null without one. */
export const latestTest = (
  tests: readonly WaterTest[],
  of: 'nitratePpm' | 'phosphatePpm',
  nowMs: number,
): number | null =>
  tests.findLast((t) => t[of] !== null && nowMs - Date.parse(t.atUtc) <= TEST_DAYS * DAY_MS)?.[of] ?? null;

/** What was taken out a week over a stretch of harvests. */
export interface Export {
  wetGPerWeek: number;
  days: number;
  harvests: number;
  nitrogenGPerWeek: Range;
  phosphorusGPerWeek: Range;
  /** per week; null while nobody knows how much water there is */
  ppm: Ppm | null;
}

/** Harvests older than this say little of the present. Mark: rule of thumb. */
export const LATELY_DAYS = 90;

/**
 * What left the water a week by harvests, from one harvest to the last; the first only marks the start. Null with fewer than two.
 */
export function exported(harvests: readonly Harvest[], litres: number | null, nowMs: number): Export | null {
  const late = harvests.filter((h) => nowMs - Date.parse(h.atUtc) <= LATELY_DAYS * DAY_MS);
  const kept = late.length >= 2 ? late : harvests.slice(-2);
  if (kept.length < 2) return null;
  const days = (Date.parse(kept.at(-1)!.atUtc) - Date.parse(kept[0]!.atUtc)) / DAY_MS;
  if (days < 0.5) return null;
  const weeks = days / 7;
  const sums = kept.slice(1).map((h) => removed(h.wetG, h.drained));
  const add = (pick: (r: (typeof sums)[number]) => Range): Range =>
    scaled(
      sums.map(pick).reduce((a, b) => ({ low: a.low + b.low, mid: a.mid + b.mid, high: a.high + b.high })),
      1 / weeks,
    );
  const nitrogenG = add((r) => r.nitrogenG);
  const phosphorusG = add((r) => r.phosphorusG);
  return {
    wetGPerWeek: kept.slice(1).reduce((sum, h) => sum + asDrained(h.wetG, h.drained), 0) / weeks,
    days,
    harvests: kept.length - 1,
    nitrogenGPerWeek: nitrogenG,
    phosphorusGPerWeek: phosphorusG,
    ppm: litres === null ? null : asPpm({ nitrogenG, phosphorusG }, litres),
  };
}

/** How a test value moves, ppm a week, by least squares over what was tested lately; null with fewer than three tests or two weeks. */
export function trend(
  tests: readonly WaterTest[],
  of: 'nitratePpm' | 'phosphatePpm',
  nowMs: number,
): { perWeek: number; standardError: number; latest: number; latestUtc: string } | null {
  const late = tests.filter((t) => t[of] !== null && nowMs - Date.parse(t.atUtc) <= LATELY_DAYS * DAY_MS);
  const n = late.length;
  const last = late.at(-1);
  if (!last || n < 3) return null;
  const x = late.map((t) => (Date.parse(t.atUtc) - Date.parse(late[0]!.atUtc)) / (7 * DAY_MS));
  const y = late.map((t) => t[of]!);
  if (x[n - 1]! < 2) return null;
  const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / n;
  const [mx, my] = [mean(x), mean(y)];
  const sxx = x.reduce((s, v) => s + (v - mx) ** 2, 0);
  const perWeek = x.reduce((s, v, i) => s + (v - mx) * (y[i]! - my), 0) / sxx;
  const rest = y.reduce((s, v, i) => s + (v - my - perWeek * (x[i]! - mx)) ** 2, 0);
  return {
    perWeek,
    standardError: Math.sqrt(rest / Math.max(1, n - 2) / sxx),
    latest: last[of]!,
    latestUtc: last.atUtc,
  };
}
