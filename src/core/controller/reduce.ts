import { DAY_MINUTES } from '../shape/ring';
import { dli, type Knot } from '../day/day';
import { toStep } from '../spectrum/controls';
import { type Corner, corners, peakError, type Plain, sideAt } from './corners';
import { better, startsToTry, type Tour, tour } from './tour';

/**
 * Fitting a day to a controller: which of its times to keep, and what to set there, so that the largest error in light at any
 * moment is least. Error at t = Σ_c parAtFull_c · |reduced_c − wanted_c| / the day's peak PAR. Exact for the candidate times by
 * dynamic programming over the ring; values are then bettered where that lowers the error.
 */
export interface ReduceRules {
  /** most points; null = any number */
  maxPoints: number | null;
  /** values are whole multiples of this; 0 = any value */
  stepShare: number;
  interpolation: 'ramp' | 'hold';
  /** lowest value apart from 0 */
  lowestShare?: number;
  /** points stand at multiples of this many minutes */
  everyMin?: number;
  /** a night stays a night: no light over a stretch that the wanted day keeps dark, even if the largest error would be less */
  keepDark?: boolean;
}

export interface Reduced {
  knots: Knot[];
  /** largest error at any moment over the day's peak PAR */
  peakErrorShare: number;
  /** |DLI ratio − 1| */
  dliErrorShare: number;
}

/** DLI of what is typed, cap and easing apart. */
const typedDli = ({ knots, interpolation }: Plain, parAtFull: readonly number[]): number =>
  dli({ knots, interpolation, capShare: 1, easingShare: 1 }, parAtFull);

const dliError = (wanted: Plain, reduced: Plain, parAtFull: readonly number[]): number => {
  const want = typedDli(wanted, parAtFull);
  return want > 0 ? Math.abs(typedDli(reduced, parAtFull) / want - 1) : 0;
};

/** Points may stand at the day's own times and at every quarter hour. */
const QUARTER = 15;

/** Times at which points may stand. */
function candidateMinutes(wanted: readonly Corner[], every: number): number[] {
  const out = new Set(wanted.map((c) => c.minute).filter((m) => m % every === 0));
  for (let m = 0; m < DAY_MINUTES; m += QUARTER % every === 0 ? QUARTER : every) out.add(m);
  return [...out].sort((a, b) => a - b);
}

/** A value as the controller takes it. */
export function settable(share: number, stepShare: number, lowestShare = 0): number {
  const v = toStep(Math.min(1, Math.max(0, share)), stepShare);
  if (v <= 0 || v >= lowestShare - 1e-9) return v;
  return v < lowestShare / 2 ? 0 : lowestShare;
}

/** Dark stretches of this length are a night, minutes. Mark: rule of thumb. */
const NIGHT_MIN = 120;

/** First error that is tried, as a share of the peak, and how it grows until a way is found. */
const FIRST_BOUND = 0.01;
const NEXT_BOUND = 1.7;

/**
 * Reduces a day to what a controller takes; yields how far it is, 0..1.
 * @param parAtFull PAR of each channel at full where it matters, µmol m⁻² s⁻¹
 */
export function* reduceSteps(
  day: Plain,
  parAtFull: readonly number[],
  rules: ReduceRules,
): Generator<number, Reduced> {
  const up = yield* reduceRounded(day, parAtFull, rules, 0);
  if (rules.interpolation === 'hold' || !(rules.stepShare > 0) || up.peakErrorShare <= 1e-9) return up;
  // levels that lie half way between two settable values could be taken down as well as up
  const wanted = corners(day);
  const tie = candidateMinutes(wanted, rules.everyMin ?? 1).some((m) =>
    sideAt(wanted, m, 'right').some((v) => {
      const part = v / rules.stepShare;
      return Math.abs(part - Math.floor(part) - 0.5) < 1e-6;
    }),
  );
  if (!tie) return up;
  const down = yield* reduceRounded(day, parAtFull, rules, 1e-6 * rules.stepShare);
  return down.peakErrorShare < up.peakErrorShare - 1e-9 ? down : up;
}

/** The same with ties taken up, or down by a hair that is taken off before rounding. */
function* reduceRounded(
  day: Plain,
  parAtFull: readonly number[],
  rules: ReduceRules,
  hair: number,
): Generator<number, Reduced> {
  const wanted = corners(day);
  const set = (v: number) => settable(v > hair ? v - 2 * hair : v, rules.stepShare, rules.lowestShare);
  const made = (knots: Knot[]): Reduced => {
    const reduced = { knots, interpolation: rules.interpolation };
    return {
      knots,
      peakErrorShare: peakError(day, reduced, parAtFull),
      dliErrorShare: dliError(day, reduced, parAtFull),
    };
  };
  if (wanted.length === 0) return made([]);
  const minutes = candidateMinutes(wanted, rules.everyMin ?? 1);
  const most = Math.min(rules.maxPoints ?? Infinity, minutes.length);

  // points enough for the day as it is
  const every = rules.everyMin ?? 1;
  const jumps = wanted.some((c) => c.left.some((v, i) => Math.abs(v - c.right[i]!) > 1e-12));
  if (
    wanted.length <= most &&
    wanted.every((c) => c.minute % every === 0) &&
    (rules.interpolation === 'hold' ? day.interpolation === 'hold' : !jumps)
  ) {
    const own = made(wanted.map((c) => ({ minute: c.minute, levels: c.right.map(set) })));
    // whole steps may be met better by other times
    if (rules.maxPoints === null || own.peakErrorShare <= 1e-9) return own;
  }
  if (most === minutes.length)
    return made(minutes.map((m) => ({ minute: m, levels: sideAt(wanted, m, 'right').map(set) })));

  const n = minutes.length;
  const channels = parAtFull.length;
  const weights = Float64Array.from(parAtFull);
  // all corners and candidates on one ring, twice round, so that a run never wraps
  const times = [...new Set([...minutes, ...wanted.map((c) => c.minute)])].sort((a, b) => a - b);
  const at = new Map(times.map((t, i) => [t, i]));
  const ring = times.length;
  const flat = (side: 'left' | 'right') =>
    Float64Array.from(times.flatMap((t) => [...sideAt(wanted, t, side)]));
  const [left, right] = [flat('left'), flat('right')];
  const own = minutes.map((m) => Float64Array.from(sideAt(wanted, m, 'right').map(set)));
  const place = minutes.map((m) => at.get(m)!);

  const light = (i: number) => own[i]!.reduce((sum, v, c) => sum + v * weights[c]!, 0);
  const stepsBetween = (i: number, j: number) => (place[j]! - place[i]! + ring) % ring || ring;
  // imported constants are looked up anew each time: hot loops keep them
  const dayMinutes = DAY_MINUTES;
  const minuteOf = Float64Array.from(minutes);
  const timeOf = Float64Array.from(times);
  /**
   * Largest error between candidates i and j when the reduced day runs evenly from a to b (the same for a held value): at every
   * corner inside from both sides, at the ends from within. It begins in the middle, where a run that is no good shows it, and ends
   * beyond the bound.
   */
  const runError = (i: number, j: number, a: Float64Array, b: Float64Array, bound: number): number => {
    const from = minuteOf[i]!;
    const span = (minuteOf[j]! - from + dayMinutes) % dayMinutes || dayMinutes;
    const first = place[i]!;
    const steps = (place[j]! - first + ring) % ring || ring;
    let worst = 0;
    for (let n1 = -1; n1 <= steps && worst <= bound; n1 += 1) {
      const k = n1 < 0 ? steps >> 1 : n1;
      const at = (first + k) % ring;
      const w = k === steps ? 1 : ((timeOf[at]! - from + dayMinutes) % dayMinutes) / span;
      const t = at * channels;
      let eLeft = 0;
      let eRight = 0;
      for (let c = 0; c < channels; c += 1) {
        const v = a[c]! + (b[c]! - a[c]!) * w;
        const weight = weights[c]!;
        eLeft += weight * Math.abs(v - left[t + c]!);
        eRight += weight * Math.abs(v - right[t + c]!);
      }
      if (k > 0 && eLeft > worst) worst = eLeft;
      if (k < steps && eRight > worst) worst = eRight;
    }
    return worst;
  };
  const heldError = (i: number, j: number, held: readonly number[], bound: number): number => {
    const value = Float64Array.from(held);
    return runError(i, j, value, value, bound);
  };
  const low = new Float64Array(channels);
  const high = new Float64Array(channels);
  const widen = (t: number, from: Float64Array) => {
    for (let c = 0; c < channels; c += 1) {
      const v = from[t * channels + c]!;
      if (v < low[c]!) low[c] = v;
      if (v > high[c]!) high[c] = v;
    }
  };
  let ranged = { i: -1, steps: 0 };
  /** The value held from candidate i until j: mid-range in whole steps; null beyond the bound. */
  const heldValue = (i: number, j: number, bound: number): number[] | null => {
    const steps = stepsBetween(i, j);
    // the range of a longer run from the same start holds that of the shorter
    if (ranged.i !== i || ranged.steps > steps) {
      low.fill(Infinity);
      high.fill(-Infinity);
      widen(place[i]!, right);
      ranged = { i, steps: 0 };
    }
    for (let k = ranged.steps; k < steps; k += 1) {
      if (k > 0) widen((place[i]! + k) % ring, right);
      widen((place[i]! + k + 1) % ring, left);
    }
    ranged.steps = steps;
    if (rangeError() > bound) return null;
    const held = Array.from(low, (l, c) => set((l + high[c]!) / 2));
    // a middle that lies half way between two settable values could go either way
    const ties = held.flatMap((v, c) =>
      rules.stepShare > 0 && Math.abs(Math.abs((low[c]! + high[c]!) / 2 - v) / rules.stepShare - 0.5) < 1e-6
        ? [c]
        : [],
    );
    return ties.length > 0 ? nudged(i, j, held, ties) : held;
  };
  /** A held value with channels moved by a step where that lowers its error. */
  const nudged = (i: number, j: number, held: readonly number[], which: readonly number[]): number[] => {
    const value = [...held];
    let least = heldError(i, j, value, Infinity);
    for (const c of which) {
      for (const by of [rules.stepShare, -rules.stepShare]) {
        const before = value[c]!;
        value[c] = set(before + by);
        const e = heldError(i, j, value, least);
        if (e < least - 1e-12) least = e;
        else value[c] = before;
      }
    }
    return value;
  };
  /** No value serves both ends of a range better than half of it: the least error of any held value. */
  const rangeError = (): number => {
    let most = 0;
    for (let c = 0; c < channels; c += 1) most = Math.max(most, (weights[c]! * (high[c]! - low[c]!)) / 2);
    return most;
  };
  // minutes that the wanted day is dark, summed along the ring
  const isDark = (from: Float64Array, t: number) => {
    for (let c = 0; c < channels; c += 1) if (from[t * channels + c]! > 1e-9) return false;
    return true;
  };
  const darkUntil = [0];
  for (let t = 0; t < ring; t += 1) {
    const next = (t + 1) % ring;
    const span = (times[next]! - times[t]! + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
    darkUntil.push(darkUntil[t]! + (isDark(right, t) && isDark(left, next) ? span : 0));
  }
  let keepDark = rules.keepDark ?? false;
  const coversNight = (i: number, j: number): boolean => {
    if (!keepDark) return false;
    const [a, b] = [place[i]!, place[i]! + stepsBetween(i, j)];
    const dark =
      b <= ring ? darkUntil[b]! - darkUntil[a]! : darkUntil[ring]! - darkUntil[a]! + darkUntil[b - ring]!;
    return dark >= NIGHT_MIN;
  };
  const nothing = new Array<number>(channels).fill(0);
  const cost = (i: number, j: number, bound: number) => {
    const night = coversNight(i, j);
    if (rules.interpolation === 'ramp')
      return night && (light(i) > 1e-9 || light(j) > 1e-9)
        ? Infinity
        : runError(i, j, own[i]!, own[j]!, bound);
    if (night) return heldError(i, j, nothing, bound);
    const held = heldValue(i, j, bound);
    return held ? heldError(i, j, held, bound) : rangeError();
  };

  // bounds that rise until a way is found: what costs more than the bound is never looked at
  let bound = FIRST_BOUND * Math.max(1e-9, ...minutes.map((_, i) => light(i)));
  const beyond = 3 * Math.max(1e-9, ...minutes.map((_, i) => light(i)));
  const known = new Float64Array(n * n);
  const exact = new Uint8Array(n * n);
  let best: Tour | null = null;
  for (let round = 0; !best; round += 1, bound *= NEXT_BOUND) {
    // too few points for a day and a night: then the light comes first
    if (bound > beyond && keepDark) {
      keepDark = false;
      known.fill(0);
      exact.fill(0);
    }
    // a held range only grows: once it serves no value, a longer one serves none
    const stopsGrowing = rules.interpolation === 'hold' && !keepDark;
    const edges: { d: number; cost: number }[][] = [];
    for (let i = 0; i < n; i += 1) {
      const list: { d: number; cost: number }[] = [];
      for (let d = 1; d <= n; d += 1) {
        const at = i * n + d - 1;
        // what cost more than this before still does
        if (known[at]! > bound) continue;
        const c = exact[at] ? known[at]! : cost(i, (i + d) % n, bound);
        known[at] = c;
        if (c <= bound) {
          exact[at] = 1;
          list.push({ d, cost: c });
        } else if (stopsGrowing && rangeError() > bound) break;
      }
      edges.push(list);
    }
    const starts = startsToTry(edges);
    for (let s = 0; s < starts.length; s += 1) {
      const found = tour(starts[s]!, n, most, best?.cost ?? bound, edges);
      if (found && (!best || found.cost < best.cost - 1e-12 || better(found, best))) best = found;
      if (s % 8 === 7) yield Math.min(0.95, (round + s / starts.length) / 10);
    }
  }
  const stops = best!.stops.map((i) => i % n).sort((a, b) => a - b);
  const knots = stops.map((i, k): Knot => ({
    minute: minutes[i]!,
    levels:
      rules.interpolation === 'ramp'
        ? [...own[i]!]
        : coversNight(i, stops[(k + 1) % stops.length]!)
          ? [...nothing]
          : heldValue(i, stops[(k + 1) % stops.length]!, Infinity)!,
  }));
  if (rules.interpolation === 'ramp') settle(knots);
  else if (rules.stepShare > 0)
    stops.forEach((i, k) => {
      if (coversNight(i, stops[(k + 1) % stops.length]!)) return;
      const all = parAtFull.map((_, c) => c);
      knots[k] = { ...knots[k]!, levels: nudged(i, stops[(k + 1) % stops.length]!, knots[k]!.levels, all) };
    });
  return made(knots);

  /** Moves single values by a step where that lowers the error of the runs they end; never worse. */
  function settle(all: Knot[]): void {
    const step = rules.stepShare > 0 ? rules.stepShare : 0.005;
    const endsError = (k: number, bound: number) => {
      const next = (k + 1) % stops.length;
      const [from, to] = [Float64Array.from(all[k]!.levels), Float64Array.from(all[next]!.levels)];
      return runError(stops[k]!, stops[next]!, from, to, bound);
    };
    for (let pass = 0; pass < 12; pass += 1) {
      let moved = false;
      for (let k = 0; k < stops.length; k += 1) {
        const previous = (k + stops.length - 1) % stops.length;
        // the ends of a night stay dark
        if (
          coversNight(stops[previous]!, stops[k]!) ||
          coversNight(stops[k]!, stops[(k + 1) % stops.length]!)
        )
          continue;
        let here = Math.max(endsError(previous, Infinity), endsError(k, Infinity));
        for (let c = 0; c < channels; c += 1) {
          for (const by of [step, -step, 3 * step, -3 * step]) {
            const before = all[k]!;
            const value = set(before.levels[c]! + by);
            if (value === before.levels[c]) continue;
            all[k] = { ...before, levels: before.levels.map((v, j) => (j === c ? value : v)) };
            const e = Math.max(endsError(previous, here), endsError(k, here));
            if (e < here - 1e-9) [here, moved] = [e, true];
            else all[k] = before;
          }
        }
      }
      if (!moved) return;
    }
  }
}

/** The same at once. */
export function reduceDay(day: Plain, parAtFull: readonly number[], rules: ReduceRules): Reduced {
  const steps = reduceSteps(day, parAtFull, rules);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}
