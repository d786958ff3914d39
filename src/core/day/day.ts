/** Minutes in a wall-clock day. Days are rings of wall-clock minutes. */
export const DAY_MINUTES = 1440;

/** Levels at one time of a day; every knot of a day lists the same channels in the same order. */
export interface Knot {
  minute: number;
  levels: readonly number[];
}

/**
 * A day ready for arithmetic: knots in rising order of time, one level per channel after strength × mix; cap and easing
 * multiply. `ramp` runs linearly between knots, `hold` keeps a knot's levels until the next; both wrap at midnight.
 */
export interface Day {
  knots: readonly Knot[];
  capShare: number;
  easingShare: number;
  interpolation: 'ramp' | 'hold';
}

/** A stretch of the ring between neighbouring knots; `start` may lie before midnight and `end` after it (end > 1440). */
interface Stretch {
  start: number;
  end: number;
  from: readonly number[];
  /** levels reached at the end; equal to `from` when the day holds */
  to: readonly number[];
}

function stretches(day: Day): Stretch[] {
  return day.knots.map((k, i) => {
    const next = day.knots[i + 1] ?? day.knots[0]!;
    const end = i + 1 < day.knots.length ? next.minute : next.minute + DAY_MINUTES;
    return {
      start: k.minute,
      end,
      from: k.levels,
      to: day.interpolation === 'ramp' ? next.levels : k.levels,
    };
  });
}

/** Cap × easing, which multiply every level. */
const overall = (day: Day) => day.capShare * day.easingShare;

/** Levels per channel at a minute (0 ≤ minute < 1440, fractions allowed), after cap and easing. Empty for a day without knots. */
export function levelsAt(day: Day, minute: number): number[] {
  if (day.knots.length === 0) return [];
  const all = stretches(day);
  const t = minute < day.knots[0]!.minute ? minute + DAY_MINUTES : minute;
  const s = all.find((part) => t >= part.start && t < part.end) ?? all[all.length - 1]!;
  const w = (t - s.start) / (s.end - s.start);
  return s.from.map((v, c) => overall(day) * (v + (s.to[c]! - v) * w));
}

/** PAR of levels with one PAR-at-full per channel, µmol m⁻² s⁻¹. */
export const parOf = (levels: readonly number[], parAtFull: readonly number[]): number =>
  levels.reduce((sum, level, c) => sum + level * parAtFull[c]!, 0);

/**
 * Integral over the day of each channel's level, in seconds at full: exact for piecewise-linear days.
 * DLI and every dose are products with it.
 */
export function fullSeconds(day: Day): number[] {
  const sums = new Array<number>(day.knots[0]?.levels.length ?? 0).fill(0);
  for (const s of stretches(day)) {
    s.from.forEach((v, c) => (sums[c]! += ((v + s.to[c]!) / 2) * (s.end - s.start) * 60));
  }
  return sums.map((v) => v * overall(day));
}

/** Daily light integral, mol m⁻² d⁻¹, for one PAR-at-full per channel. */
export const dli = (day: Day, parAtFull: readonly number[]): number =>
  parOf(fullSeconds(day), parAtFull) / 1e6;

/** Stretches in which a day has any level above 0. */
const litStretches = (day: Day): Stretch[] =>
  overall(day) === 0
    ? []
    : stretches(day).filter((s) => s.from.some((v) => v > 0) || s.to.some((v) => v > 0));

/** Hours in which any of the days has any level above 0; hours lit by several count once. */
export function litHours(...days: readonly Day[]): number {
  // cut at midnight, so that the ring becomes a line
  const parts = days
    .flatMap(litStretches)
    .flatMap(({ start, end }) =>
      end > DAY_MINUTES
        ? [[start, DAY_MINUTES] as const, [0, end - DAY_MINUTES] as const]
        : [[start, end] as const],
    )
    .sort((a, b) => a[0] - b[0]);
  let minutes = 0;
  let reach = 0;
  for (const [start, end] of parts) {
    minutes += Math.max(0, end - Math.max(start, reach));
    reach = Math.max(reach, end);
  }
  return minutes / 60;
}

/** The part of a day from midnight to a minute as a day integral: seconds at full per channel. */
export function fullSecondsUntil(day: Day, minute: number): number[] {
  const sums = new Array<number>(day.knots[0]?.levels.length ?? 0).fill(0);
  for (const s of stretches(day)) {
    for (const shift of [0, -DAY_MINUTES]) {
      const a = Math.max(0, s.start + shift);
      const b = Math.min(minute, s.end + shift);
      if (b <= a) continue;
      const at = (t: number, c: number) =>
        s.from[c]! + ((s.to[c]! - s.from[c]!) * (t - s.start - shift)) / (s.end - s.start);
      s.from.forEach((_, c) => (sums[c]! += ((at(a, c) + at(b, c)) / 2) * (b - a) * 60));
    }
  }
  return sums.map((v) => v * overall(day));
}

/** Times at which the slope of a day may change: its knots. Sums of days change slope only at the union of these. */
export const kneeMinutes = (days: readonly Day[]): number[] =>
  [...new Set(days.flatMap((d) => d.knots.map((k) => k.minute)))].sort((a, b) => a - b);

/** Lit span for drawing: the longest dark stretch is left out. Null when always dark, whole day when never dark. */
export function litSpan(days: readonly Day[]): { start: number; end: number } | null {
  const lit = days.flatMap(litStretches).map((s) => [s.start, s.end] as const);
  if (lit.length === 0) return null;
  const sorted = [...lit].sort((a, b) => a[0] - b[0]);
  let reach = -Infinity;
  let gapEnd = sorted[0]![0];
  let gapStart = Math.max(...sorted.map((s) => s[1])) - DAY_MINUTES;
  let gap = gapEnd - gapStart;
  for (const [a, b] of sorted) {
    if (reach > -Infinity && a - reach > gap) {
      gap = a - reach;
      [gapStart, gapEnd] = [reach, a];
    }
    reach = Math.max(reach, b);
  }
  if (gap <= 0) return { start: 0, end: DAY_MINUTES };
  return { start: gapEnd, end: gapStart > gapEnd ? gapStart : gapStart + DAY_MINUTES };
}
