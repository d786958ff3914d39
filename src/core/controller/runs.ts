import { DAY_MINUTES } from '../shape/ring';
import { type Corner, sideAt } from './corners';

/**
 * What the stretches of a reduced day cost: each runs from one candidate time to another, evenly between two settings or at one
 * held value. Candidates are known by their index; levels are in the order of the channels.
 */
export interface Runs {
  /** minute of every candidate */
  minutes: readonly number[];
  /** what the controller would be set to at every candidate */
  own: readonly Float64Array[];
  /** light of everything full, µmol m⁻² s⁻¹ */
  full: number;
  /** light of a candidate's own setting, µmol m⁻² s⁻¹ */
  light: (i: number) => number;
  /**
   * Largest error in light between candidates i and j when the reduced day runs evenly from a to b, µmol m⁻² s⁻¹: at every corner
   * inside from both sides, at the ends from within. Beyond the bound it may stop early, at any figure above the bound.
   */
  runError: (i: number, j: number, a: Float64Array, b: Float64Array, bound: number) => number;
  /** The same at one held value. */
  heldError: (i: number, j: number, held: readonly number[], bound: number) => number;
  /** The best value to hold from i until j: the middle of the wanted range, settable; null where none can keep the bound. */
  heldValue: (i: number, j: number, bound: number) => number[] | null;
  /** A held value of the error `least` with these channels moved by a step where that lowers it, and its error then. */
  nudged: (
    i: number,
    j: number,
    held: readonly number[],
    channels: readonly number[],
    least: number,
  ) => { held: number[]; error: number };
  /** Least error that any held value could have over the range heldValue looked at last. */
  rangeError: () => number;
  /** whether the wanted day is dark for the length of a night somewhere between i and j */
  coversNight: (i: number, j: number) => boolean;
}

/** Dark stretches of this length are a night, minutes. Mark: rule of thumb. */
const NIGHT_MIN = 120;

/**
 * @param wanted corners of the wanted day, at least one
 * @param minutes candidate times, rising
 * @param parAtFull PAR of each channel at full, µmol m⁻² s⁻¹
 * @param set a share as the controller takes it, in steps of stepShare (0 = any value)
 */
export function runsOf(
  wanted: readonly Corner[],
  minutes: readonly number[],
  parAtFull: readonly number[],
  set: (share: number) => number,
  stepShare: number,
): Runs {
  const channels = parAtFull.length;
  const weights = Float64Array.from(parAtFull);
  // all corners and candidates on one ring
  const times = [...new Set([...minutes, ...wanted.map((c) => c.minute)])].sort((a, b) => a - b);
  const indexOf = new Map(times.map((t, i) => [t, i]));
  const ring = times.length;
  const flat = (side: 'left' | 'right') =>
    Float64Array.from(times.flatMap((t) => [...sideAt(wanted, t, side)]));
  const [left, right] = [flat('left'), flat('right')];
  const own = minutes.map((m) => Float64Array.from(sideAt(wanted, m, 'right').map(set)));
  const place = minutes.map((m) => indexOf.get(m)!);
  // imported constants are looked up anew each time: hot loops keep them
  const dayMinutes = DAY_MINUTES;
  const minuteOf = Float64Array.from(minutes);
  const timeOf = Float64Array.from(times);

  const stepsBetween = (i: number, j: number) => (place[j]! - place[i]! + ring) % ring || ring;

  const runError: Runs['runError'] = (i, j, a, b, bound) => {
    const from = minuteOf[i]!;
    const span = (minuteOf[j]! - from + dayMinutes) % dayMinutes || dayMinutes;
    const first = place[i]!;
    const steps = (place[j]! - first + ring) % ring || ring;
    let worst = 0;
    // the middle comes first: there a run that is no good shows it
    for (let n = -1; n <= steps && worst <= bound; n += 1) {
      const k = n < 0 ? steps >> 1 : n;
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
  const heldError: Runs['heldError'] = (i, j, held, bound) => {
    const value = Float64Array.from(held);
    return runError(i, j, value, value, bound);
  };

  // the range of what is wanted over the run looked at last: a longer run from the same start only widens it
  const low = new Float64Array(channels);
  const high = new Float64Array(channels);
  let ranged = { i: -1, steps: 0 };
  const widen = (t: number, from: Float64Array) => {
    for (let c = 0; c < channels; c += 1) {
      const v = from[t * channels + c]!;
      if (v < low[c]!) low[c] = v;
      if (v > high[c]!) high[c] = v;
    }
  };
  const rangeOver = (i: number, steps: number) => {
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
  };
  // no value serves both ends of a range better than half of it
  const rangeError = (): number => {
    let most = 0;
    for (let c = 0; c < channels; c += 1) most = Math.max(most, (weights[c]! * (high[c]! - low[c]!)) / 2);
    return most;
  };
  const nudged: Runs['nudged'] = (i, j, held, which, least) => {
    const value = Float64Array.from(held);
    let error = least;
    for (const c of which) {
      for (const by of [stepShare, -stepShare]) {
        const before = value[c]!;
        value[c] = set(before + by);
        if (value[c] === before) continue;
        const e = runError(i, j, value, value, error);
        if (e < error - 1e-12) error = e;
        else value[c] = before;
      }
    }
    return { held: [...value], error };
  };
  const heldValue: Runs['heldValue'] = (i, j, bound) => {
    rangeOver(i, stepsBetween(i, j));
    if (rangeError() > bound) return null;
    const middle = Array.from(low, (l, c) => (l + high[c]!) / 2);
    const held = middle.map(set);
    // a middle that lies half way between two settable values could go either way
    const ties = held.flatMap((v, c) =>
      stepShare > 0 && Math.abs(Math.abs(middle[c]! - v) / stepShare - 0.5) < 1e-6 ? [c] : [],
    );
    return ties.length > 0 ? nudged(i, j, held, ties, heldError(i, j, held, Infinity)).held : held;
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

  return {
    minutes,
    own,
    full: parAtFull.reduce((sum, v) => sum + v, 0),
    light: (i) => own[i]!.reduce((sum, v, c) => sum + v * weights[c]!, 0),
    runError,
    heldError,
    heldValue,
    nudged,
    rangeError,
    coversNight: (i, j) => {
      const [a, b] = [place[i]!, place[i]! + stepsBetween(i, j)];
      const dark =
        b <= ring ? darkUntil[b]! - darkUntil[a]! : darkUntil[ring]! - darkUntil[a]! + darkUntil[b - ring]!;
      return dark >= NIGHT_MIN;
    },
  };
}
