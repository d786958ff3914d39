import { DAY_MINUTES } from '../shape/ring';
import { curvePiece, type Drive, staysDark, throughDrive } from '../spectrum/drive';

/** Levels at one time of a day; every knot of a day lists the same channels in the same order. */
export interface Knot {
  minute: number;
  levels: readonly number[];
}

/**
 * A day ready for arithmetic: knots in rising order of time, one level per channel after strength × mix; cap and easing
 * act on them. `ramp` runs linearly between knots, `hold` keeps a knot's levels until the next; both wrap at midnight.
 */
export interface Day {
  knots: readonly Knot[];
  capShare: number;
  easingShare: number;
  interpolation: 'ramp' | 'hold';
  /** largest level of the plain day, which a rescaling cap looks at; default: the largest of these knots */
  top?: number;
  /** default: the cap multiplies */
  capMeans?: 'multiplies' | 'rescales';
  /** default: light is proportional to the level */
  drive?: Drive;
}

/** A stretch of the ring between neighbouring knots; `start` may lie before midnight and `end` after it (end > 1440). */
interface Stretch {
  start: number;
  end: number;
  /** levels after cap and easing */
  from: readonly number[];
  /** levels reached at the end; equal to `from` when the day holds */
  to: readonly number[];
}

/** Largest level of any channel. */
export const topOf = (knots: readonly Knot[]): number => Math.max(0, ...knots.flatMap((k) => k.levels));

/** What cap and easing make of every level of this day: one factor. */
export function overall(day: Day): number {
  const cap = day.capShare * day.easingShare;
  if (day.capMeans !== 'rescales') return cap;
  const top = day.top ?? topOf(day.knots);
  return top > 0 ? cap / top : 0;
}

/** Levels after cap and easing. */
export function capped(day: Day, typed: readonly number[]): number[] {
  const factor = overall(day);
  return typed.map((v) => Math.min(1, v * factor));
}

/** Emitted share of every channel for typed levels, under a day's cap and easing: the whole chain. */
export const emittedAt = (day: Day, typed: readonly number[]): number[] =>
  throughDrive(day.drive, capped(day, typed)).light;

const kept = new WeakMap<Day, Stretch[]>();

/** The stretches of a day, kept with it: a day never changes in place. */
function stretches(day: Day): Stretch[] {
  let made = kept.get(day);
  if (!made) kept.set(day, (made = makeStretches(day)));
  return made;
}

function makeStretches(day: Day): Stretch[] {
  const scaled = day.knots.map((k) => capped(day, k.levels));
  return day.knots.map((k, i) => {
    const last = i + 1 === day.knots.length;
    const next = last ? 0 : i + 1;
    return {
      start: k.minute,
      end: day.knots[next]!.minute + (last ? DAY_MINUTES : 0),
      from: scaled[i]!,
      to: day.interpolation === 'ramp' ? scaled[next]! : scaled[i]!,
    };
  });
}

/** A piece of a stretch on which every channel's light is one formula: w runs from 0 to 1 along the stretch. */
interface Piece {
  w0: number;
  w1: number;
  /** per channel: dark below its lowest lit level */
  dark: readonly boolean[];
  /** the power budget holds the lamp down here */
  held: boolean;
}

const at = (s: Stretch, c: number, w: number) => s.from[c]! + (s.to[c]! - s.from[c]!) * w;

/** Cuts 0..1 at the places inside it. */
function cut(places: readonly number[]): number[] {
  const inside = places.filter((w) => w > 1e-12 && w < 1 - 1e-12).sort((a, b) => a - b);
  return [0, ...inside.filter((w, i) => i === 0 || w - inside[i - 1]! > 1e-12), 1];
}
/** Where a linear run from a to b takes the value v. */
const crossing = (a: number, b: number, v: number) => (a === b ? -1 : (v - a) / (b - a));

function pieces(s: Stretch, drive: Drive | undefined): Piece[] {
  if (!drive) return [{ w0: 0, w1: 1, dark: s.from.map(() => false), held: false }];
  const lowest = drive.dimming.map((d) => d.lowestLitShare);
  const channels = s.from.map((_, c) => c);
  const out: Piece[] = [];
  const first = cut(channels.map((c) => (lowest[c]! > 0 ? crossing(s.from[c]!, s.to[c]!, lowest[c]!) : -1)));
  for (let i = 1; i < first.length; i += 1) {
    const [a, b] = [first[i - 1]!, first[i]!];
    const dark = channels.map((c) => staysDark(drive.dimming[c]!, at(s, c, (a + b) / 2)));
    const watts = (w: number) =>
      channels.reduce((sum, c) => sum + (dark[c] ? 0 : drive.watts[c]! * at(s, c, w)), 0);
    const budget = drive.budgetWatts ?? Infinity;
    const second = cut([crossing(watts(a), watts(b), budget)].map((w) => w));
    for (let k = 1; k < second.length; k += 1) {
      const [w0, w1] = [a + (b - a) * second[k - 1]!, a + (b - a) * second[k]!];
      const held = watts((w0 + w1) / 2) > budget;
      // where a channel, as the budget leaves it, passes a corner of its curve: linear in w in both cases
      const corners = channels.flatMap((c) =>
        dark[c]
          ? []
          : drive.dimming[c]!.curve.map(([x]) =>
              held
                ? crossing(at(s, c, w0) * budget - x * watts(w0), at(s, c, w1) * budget - x * watts(w1), 0)
                : crossing(at(s, c, w0), at(s, c, w1), x),
            ),
      );
      const third = cut(corners);
      for (let j = 1; j < third.length; j += 1) {
        out.push({ w0: w0 + (w1 - w0) * third[j - 1]!, w1: w0 + (w1 - w0) * third[j]!, dark, held });
      }
    }
  }
  return out;
}

/** Emitted share of every channel at a place of a stretch. */
const lightAt = (s: Stretch, w: number, drive: Drive | undefined): number[] =>
  throughDrive(
    drive,
    s.from.map((_, c) => at(s, c, w)),
  ).light;

/** Mean emitted share of every channel between two places of a stretch: exact, piece by piece. */
function meanLight(s: Stretch, from: number, to: number, drive: Drive | undefined): number[] {
  const sums = s.from.map(() => 0);
  if (to <= from) return sums;
  if (!drive) return sums.map((_, c) => at(s, c, (from + to) / 2));
  for (const p of pieces(s, drive)) {
    const [a, b] = [Math.max(from, p.w0), Math.min(to, p.w1)];
    if (b <= a) continue;
    const share = (b - a) / (to - from);
    const watts = (w: number) =>
      sums.reduce((sum, _, c) => sum + (p.dark[c] ? 0 : drive!.watts[c]! * at(s, c, w)), 0);
    sums.forEach((_, c) => {
      if (p.dark[c]) return;
      const [l0, l1] = [at(s, c, a), at(s, c, b)];
      let mean = (l0 + l1) / 2;
      let middle = at(s, c, (a + b) / 2);
      if (p.held) {
        // level × budget / watts: a ratio of two straight lines
        mean = drive!.budgetWatts! * meanRatio(l0, l1, watts(a), watts(b));
        middle = (middle * drive!.budgetWatts!) / watts((a + b) / 2);
      }
      const curve = drive?.dimming[c]!.curve;
      if (curve && curve.length > 0) {
        const [x0, y0, x1, y1] = curvePiece(curve, middle);
        mean = y0 + ((y1 - y0) * (mean - x0)) / (x1 - x0);
      }
      sums[c]! += mean * share;
    });
  }
  return sums;
}

/** Mean over 0..1 of (l0 + (l1−l0) t) / (w0 + (w1−w0) t), w above 0. */
function meanRatio(l0: number, l1: number, w0: number, w1: number): number {
  const d = (w1 - w0) / w0;
  // near-level watts: the series of ln(1+d) avoids cancellation
  if (Math.abs(d) < 1e-4) {
    const mean = (l0 + l1) / 2;
    const slope = l1 - l0;
    return (mean - d * (l0 / 2 + slope / 3) + d * d * (l0 / 3 + slope / 4)) / w0;
  }
  const slope = (l1 - l0) / (w1 - w0);
  return slope + ((l0 - slope * w0) * Math.log(w1 / w0)) / (w1 - w0);
}

/** Emitted shares per channel at a minute (0 ≤ minute < 1440, fractions allowed): after cap, easing and drive. Empty for a day without knots. */
export function levelsAt(day: Day, minute: number): number[] {
  if (day.knots.length === 0) return [];
  const all = stretches(day);
  const t = minute < day.knots[0]!.minute ? minute + DAY_MINUTES : minute;
  const s = all.find((part) => t >= part.start && t < part.end) ?? all[all.length - 1]!;
  return lightAt(s, (t - s.start) / (s.end - s.start), day.drive);
}

/** Levels per channel as they are typed, before cap, easing and drive. */
export const typedAt = (day: Day, minute: number): number[] =>
  levelsAt({ knots: day.knots, interpolation: day.interpolation, capShare: 1, easingShare: 1 }, minute);

/** PAR of levels with one PAR-at-full per channel, µmol m⁻² s⁻¹. */
export const parOf = (levels: readonly number[], parAtFull: readonly number[]): number =>
  levels.reduce((sum, level, c) => sum + level * parAtFull[c]!, 0);

/**
 * Integral over the day of each channel's light, in seconds at full: exact, also through curves, lowest levels and a power
 * budget, whose knees the stretches are split at. DLI and every dose are products with it.
 */
export const fullSeconds = (day: Day): number[] => secondsBetween(day, 0, Infinity);

/** The part of a day from midnight to a minute as a day integral: seconds at full per channel. */
export const fullSecondsUntil = (day: Day, minute: number): number[] => secondsBetween(day, 0, minute);

/** The same between two minutes of a day, 0 ≤ from ≤ to ≤ 1440. */
export function secondsBetween(day: Day, fromMinute: number, toMinute: number): number[] {
  const sums = new Array<number>(day.knots[0]?.levels.length ?? 0).fill(0);
  for (const s of stretches(day)) {
    const length = s.end - s.start;
    // the stretch over midnight counts once, wherever it lies
    const shifts = toMinute === Infinity ? [0] : [0, -DAY_MINUTES];
    for (const shift of shifts) {
      const a = toMinute === Infinity ? s.start : Math.max(fromMinute, s.start + shift);
      const b = Math.min(toMinute, s.end + shift);
      if (b <= a) continue;
      const mean = meanLight(s, (a - s.start - shift) / length, (b - s.start - shift) / length, day.drive);
      mean.forEach((v, c) => (sums[c]! += v * (b - a) * 60));
    }
  }
  return sums;
}

/** Daily light integral, mol m⁻² d⁻¹, for one PAR-at-full per channel. */
export const dli = (day: Day, parAtFull: readonly number[]): number =>
  parOf(fullSeconds(day), parAtFull) / 1e6;

/** What gives less than this of a day's brightest is a night light: a moon is not day. Mark: rule of thumb. */
const NIGHT_LIGHT = 0.01;

/** Stretches in which a day is lit, by more than a night light, cut where that begins and ends. */
function litStretches(day: Day): { start: number; end: number }[] {
  const parts = stretches(day).flatMap((s) =>
    pieces(s, day.drive).map((p) => {
      const sum = (w: number) => lightAt(s, w, day.drive).reduce((a, v) => a + v, 0);
      return { s, p, middle: sum((p.w0 + p.w1) / 2), most: Math.max(sum(p.w0), sum(p.w1)) };
    }),
  );
  const brightest = Math.max(0, ...parts.map((x) => Math.max(x.middle, x.most)));
  return parts
    .filter((x) => x.middle > 0 && x.middle > NIGHT_LIGHT * brightest)
    .map(({ s, p }) => ({
      start: s.start + p.w0 * (s.end - s.start),
      end: s.start + p.w1 * (s.end - s.start),
    }));
}

/** A stretch of minutes on the line from midnight to midnight. */
export interface Lit {
  from: number;
  to: number;
}

/** When any of the days is lit: in order, cut at midnight so that the ring becomes a line, touching stretches joined. */
export function litPieces(days: readonly Day[]): Lit[] {
  const parts = days
    .flatMap(litStretches)
    .flatMap(({ start: from, end: to }): Lit[] =>
      to > DAY_MINUTES
        ? from >= DAY_MINUTES
          ? [{ from: from - DAY_MINUTES, to: to - DAY_MINUTES }]
          : [
              { from, to: DAY_MINUTES },
              { from: 0, to: to - DAY_MINUTES },
            ]
        : [{ from, to }],
    )
    .sort((a, b) => a.from - b.from);
  const out: Lit[] = [];
  for (const { from, to } of parts) {
    const last = out.at(-1);
    if (last && from <= last.to + 1e-9) last.to = Math.max(last.to, to);
    else out.push({ from, to });
  }
  return out;
}

/** Hours in which any of the days is lit, moonlight apart; hours lit by several count once. */
export const litHours = (...days: readonly Day[]): number =>
  litPieces(days).reduce((sum, p) => sum + p.to - p.from, 0) / 60;

/** Times at which the slope of a day may change: its knots and the knees of its drive. Sums of days change slope only at their union. */
export function kneeMinutes(days: readonly Day[]): number[] {
  const all = days.flatMap((d) =>
    d.drive
      ? stretches(d).flatMap((s) =>
          pieces(s, d.drive).map((p) => (s.start + p.w0 * (s.end - s.start)) % DAY_MINUTES),
        )
      : d.knots.map((k) => k.minute),
  );
  return [...new Set(all)].sort((a, b) => a - b);
}

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
