import { DAY_MINUTES } from '../shape/ring';
import { dli, type Knot } from '../day/day';
import { toStep } from '../spectrum/controls';
import { type Corner, corners, peakError, type Plain, sideAt } from './corners';
import { type Runs, runsOf } from './runs';
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

/** First error that is tried, over the brightest candidate's light, how it grows until a way is found, and where none will be. */
const FIRST_BOUND = 0.01;
const NEXT_BOUND = 1.7;
const NO_WAY = 3;

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

  if (takesAsItIs(day, wanted, rules, most)) {
    const own = made(wanted.map((c) => ({ minute: c.minute, levels: c.right.map(set) })));
    // whole steps may be met better by other times
    if (rules.maxPoints === null || own.peakErrorShare <= 1e-9) return own;
  }
  if (most === minutes.length)
    return made(minutes.map((m) => ({ minute: m, levels: sideAt(wanted, m, 'right').map(set) })));

  const runs = runsOf(wanted, minutes, parAtFull, set, rules.stepShare);
  const { stops, keepDark } = yield* cheapestStops(runs, most, rules);
  const isNight = (i: number, j: number) => keepDark && runs.coversNight(i, j);
  return made(
    rules.interpolation === 'ramp'
      ? settled(runs, stops, isNight, set, rules.stepShare)
      : held(runs, stops, isNight, rules.stepShare),
  );
}

/** Whether the controller takes the wanted day's own times as they are. */
function takesAsItIs(day: Plain, wanted: readonly Corner[], rules: ReduceRules, most: number): boolean {
  const every = rules.everyMin ?? 1;
  const jumps = wanted.some((c) => c.left.some((v, i) => Math.abs(v - c.right[i]!) > 1e-12));
  return (
    wanted.length <= most &&
    wanted.every((c) => c.minute % every === 0) &&
    (rules.interpolation === 'hold' ? day.interpolation === 'hold' : !jumps)
  );
}

interface Step {
  /** candidates passed */
  d: number;
  /** largest error on the way, µmol m⁻² s⁻¹ */
  cost: number;
}

/** Cost of the run from candidate i to j; beyond the bound any figure above it. */
function runCost(runs: Runs, rules: ReduceRules, keepDark: boolean) {
  const nothing = runs.own[0]!.map(() => 0);
  const all = [...nothing.keys()];
  // what a step of every channel is at most
  const most = Math.max(rules.stepShare, rules.lowestShare ?? 0) * runs.full;
  return (i: number, j: number, bound: number): number => {
    const night = keepDark && runs.coversNight(i, j);
    if (rules.interpolation === 'ramp')
      return night && (runs.light(i) > 1e-9 || runs.light(j) > 1e-9)
        ? Infinity
        : runs.runError(i, j, runs.own[i]!, runs.own[j]!, bound);
    if (night) return runs.runError(i, j, nothing, nothing, bound);
    const value = runs.heldValue(i, j, bound);
    if (!value) return runs.rangeError();
    // by the value it will hold in the end, where single steps could still bring it within the bound
    const error = runs.heldError(i, j, value, bound + most);
    if (error > bound + most || error <= runs.rangeError() + 1e-9) return error;
    return runs.nudged(i, j, value, all, error).error;
  };
}

/** Steps from every candidate that cost no more than a bound. Bounds rise from call to call; what is known is not looked at again. */
function stepsWithin(runs: Runs, rules: ReduceRules, keepDark: boolean): (bound: number) => Step[][] {
  const n = runs.minutes.length;
  const cost = runCost(runs, rules, keepDark);
  const known = new Float64Array(n * n);
  const exact = new Uint8Array(n * n);
  // a held range only grows: once it serves no value, a longer one serves none
  const stopsGrowing = rules.interpolation === 'hold' && !keepDark;
  return (bound) =>
    runs.minutes.map((_, i) => {
      const list: Step[] = [];
      for (let d = 1; d <= n; d += 1) {
        const at = i * n + d - 1;
        // what cost more than this before still does
        if (known[at]! > bound) continue;
        const c = exact[at] ? known[at]! : cost(i, (i + d) % n, bound);
        known[at] = c;
        if (c <= bound) {
          exact[at] = 1;
          list.push({ d, cost: c });
        } else if (stopsGrowing && runs.rangeError() > bound) break;
      }
      return list;
    });
}

/** The candidates to keep, rising: bounds on the error rise until a way round the day is found that keeps them. */
function* cheapestStops(
  runs: Runs,
  most: number,
  rules: ReduceRules,
): Generator<number, { stops: number[]; keepDark: boolean }> {
  const n = runs.minutes.length;
  const brightest = Math.max(1e-9, ...runs.minutes.map((_, i) => runs.light(i)));
  let keepDark = rules.keepDark ?? false;
  let within = stepsWithin(runs, rules, keepDark);
  let best: Tour | null = null;
  let bound = FIRST_BOUND * brightest;
  for (let round = 0; !best; round += 1, bound *= NEXT_BOUND) {
    // too few points for a day and a night: then the light comes first
    if (bound > NO_WAY * brightest && keepDark) {
      keepDark = false;
      within = stepsWithin(runs, rules, keepDark);
    }
    const steps = within(bound);
    const starts = startsToTry(steps);
    for (const [s, start] of starts.entries()) {
      const found = tour(start, n, most, best?.cost ?? bound, steps);
      if (found && (!best || found.cost < best.cost - 1e-12 || better(found, best))) best = found;
      if (s % 8 === 7) yield Math.min(0.95, (round + s / starts.length) / 10);
    }
  }
  return { stops: best.stops.map((i) => i % n).sort((a, b) => a - b), keepDark };
}

type IsNight = (i: number, j: number) => boolean;

/** Held values at the stops, each bettered by single steps; a night is nothing. */
function held(runs: Runs, stops: readonly number[], isNight: IsNight, stepShare: number): Knot[] {
  return stops.map((i, k) => {
    const j = stops[(k + 1) % stops.length]!;
    const minute = runs.minutes[i]!;
    const channels = [...runs.own[i]!.keys()];
    if (isNight(i, j)) return { minute, levels: channels.map(() => 0) };
    const value = runs.heldValue(i, j, Infinity)!;
    if (!(stepShare > 0)) return { minute, levels: value };
    return { minute, levels: runs.nudged(i, j, value, channels, runs.heldError(i, j, value, Infinity)).held };
  });
}

/** Passes over a ramp's stops, and the step where any value can be set. */
const PASSES = 12;
const FINE_STEP = 0.005;

/** The stops' own settings, single values moved by a step where that lowers the error of the runs they end; never worse. */
function settled(
  runs: Runs,
  stops: readonly number[],
  isNight: IsNight,
  set: (v: number) => number,
  stepShare: number,
): Knot[] {
  const levels = stops.map((i) => runs.own[i]!);
  const step = stepShare > 0 ? stepShare : FINE_STEP;
  const after = (k: number) => (k + 1) % stops.length;
  const before = (k: number) => (k + stops.length - 1) % stops.length;
  const error = (k: number, bound: number) =>
    runs.runError(stops[k]!, stops[after(k)]!, levels[k]!, levels[after(k)]!, bound);
  const night = stops.map((i, k) => isNight(i, stops[after(k)]!));
  let moved = true;
  for (let pass = 0; moved && pass < PASSES; pass += 1) {
    moved = false;
    for (let k = 0; k < stops.length; k += 1) {
      // the ends of a night stay dark
      if (night[before(k)] || night[k]) continue;
      let least = Math.max(error(before(k), Infinity), error(k, Infinity));
      for (let c = 0; c < levels[k]!.length; c += 1) {
        for (const by of [step, -step, 3 * step, -3 * step]) {
          const was = levels[k]!;
          const value = set(was[c]! + by);
          if (value === was[c]) continue;
          levels[k] = was.with(c, value);
          const e = Math.max(error(before(k), least), error(k, least));
          if (e < least - 1e-9) [least, moved] = [e, true];
          else levels[k] = was;
        }
      }
    }
  }
  return stops.map((i, k) => ({ minute: runs.minutes[i]!, levels: [...levels[k]!] }));
}

/** The same at once. */
export function reduceDay(day: Plain, parAtFull: readonly number[], rules: ReduceRules): Reduced {
  const steps = reduceSteps(day, parAtFull, rules);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}
