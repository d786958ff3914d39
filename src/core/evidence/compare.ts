import { jStat } from 'jstat';

import { seeded } from '../spectrum/random';

/** What two groups of measures say of the difference between them. */

export interface Summary {
  mean: number;
  /** of the mean, from n − 1; null with a single measure */
  standardError: number | null;
  n: number;
}

export interface Difference {
  /** second mean − first mean */
  difference: number;
  /** 95 %; null where a group has a single measure */
  interval95: readonly [number, number] | null;
  /** two-sided */
  p: number;
  /** every arrangement was counted, not drawn */
  exact: boolean;
}

/** At most so many arrangements are counted; beyond them as many as `DRAWS` are drawn. Mark: standard (of this house). */
const MOST_EXACT = 20_000;
const DRAWS = 10_000;
const SEED = 20_011;

const meanOf = (values: readonly number[]): number => values.reduce((s, v) => s + v, 0) / values.length;

/** Mean and its standard error with n − 1. */
export function summary(values: readonly number[]): Summary {
  const [n, mean] = [values.length, meanOf(values)];
  if (n < 2) return { mean, standardError: null, n };
  const variance = values.reduce((s, v) => s + (v - mean) ** 2, 0) / (n - 1);
  return { mean, standardError: Math.sqrt(variance / n), n };
}

/** Degrees of freedom of a difference of means of unequal variances. Source: Welch 1947, Satterthwaite 1946. Mark: standard. */
export function welchFreedom(a: Summary, b: Summary): number {
  const [va, vb] = [a.standardError! ** 2, b.standardError! ** 2];
  return (va + vb) ** 2 / (va ** 2 / (a.n - 1) + vb ** 2 / (b.n - 1));
}

/** Half width of the interval that holds a difference of means in 95 of 100; null where a group has a single measure. */
export function welchHalf(a: Summary, b: Summary): number | null {
  if (a.standardError === null || b.standardError === null) return null;
  const error = Math.hypot(a.standardError, b.standardError);
  return error === 0 ? 0 : error * jStat.studentt.inv(0.975, welchFreedom(a, b));
}

/** How many ways there are to take k of n; stops counting beyond `most`. */
function ways(n: number, k: number, most: number): number {
  let count = 1;
  for (let i = 1; i <= Math.min(k, n - k); i += 1) {
    count = (count * (n - i + 1)) / i;
    if (count > most) return Infinity;
  }
  return Math.round(count);
}

/** Each way to take k of 0..n−1, in order. */
function* takings(n: number, k: number): Generator<readonly number[]> {
  const at = Array.from({ length: k }, (_, i) => i);
  for (;;) {
    yield at;
    let i = k - 1;
    while (i >= 0 && at[i] === n - k + i) i -= 1;
    if (i < 0) return;
    at[i]! += 1;
    for (let j = i + 1; j < k; j += 1) at[j] = at[j - 1]! + 1;
  }
}

/**
 * How often chance alone, dealing the measures out to the two groups anew, sets their means at least as far apart, to either side.
 * Source: Fisher 1935; of draws (1 + as far) / (1 + drawn), Phipson & Smyth 2010. Mark: standard.
 */
export function permutationP(
  first: readonly number[],
  second: readonly number[],
): { p: number; exact: boolean } {
  const all = [...first, ...second];
  const [n, k] = [all.length, second.length];
  const sum = all.reduce((s, v) => s + v, 0);
  const apart = (taken: number) => Math.abs(taken / k - (sum - taken) / (n - k));
  // sums in another order differ in their last digits
  const far =
    apart(second.reduce((s, v) => s + v, 0)) - 1e-12 * all.reduce((s, v) => Math.max(s, Math.abs(v)), 0);
  let [counted, asFar] = [0, 0];
  const count = (taken: number) => {
    counted += 1;
    if (apart(taken) >= far) asFar += 1;
  };
  if (ways(n, k, MOST_EXACT) <= MOST_EXACT) {
    for (const at of takings(n, k)) count(at.reduce((s, i) => s + all[i]!, 0));
    return { p: asFar / counted, exact: true };
  }
  const random = seeded(SEED);
  const dealt = [...all];
  while (counted < DRAWS) {
    let taken = 0;
    for (let i = 0; i < k; i += 1) {
      const j = i + Math.floor(random() * (n - i));
      [dealt[i], dealt[j]] = [dealt[j]!, dealt[i]!];
      taken += dealt[i]!;
    }
    count(taken);
  }
  return { p: (1 + asFar) / (1 + counted), exact: false };
}

/** The difference of the second group from the first. */
export function compareGroups(first: readonly number[], second: readonly number[]): Difference {
  const [a, b] = [summary(first), summary(second)];
  const difference = b.mean - a.mean;
  const half = welchHalf(a, b);
  return {
    difference,
    interval95: half === null ? null : [difference - half, difference + half],
    ...permutationP(first, second),
  };
}

/** Of five such comparisons four find a difference that is there. */
const POWER = 0.8;

/**
 * The difference of two means that as many measures in each group find in four of five comparisons, at p 0.05.
 * @param spread standard deviation of a measure; the answer is in its unit
 * @returns null with fewer than two in each
 */
export function detectable(spread: number, each: number): number | null {
  if (each < 2) return null;
  const freedom = 2 * each - 2;
  const error = spread * Math.sqrt(2 / each);
  return error * (jStat.studentt.inv(0.975, freedom) + jStat.studentt.inv(POWER, freedom));
}
