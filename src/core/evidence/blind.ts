import { seeded } from '../spectrum/random';

/** Two pictures to choose between, by index; which lies left is part of it. */
export interface Pair {
  left: number;
  right: number;
}
const MOST_PAIRS = 10;

function shuffled<T>(list: T[], random: () => number): T[] {
  for (let i = list.length - 1; i > 0; i -= 1) {
    const j = Math.floor(random() * (i + 1));
    [list[i], list[j]] = [list[j]!, list[i]!];
  }
  return list;
}

/** So many pictures by index in an order of chance, all once and then all again, none twice in a row. */
export function blindShows(pictures: number, seed: number): number[] {
  const random = seeded(seed);
  const all = Array.from({ length: pictures }, (_, i) => i);
  const once = shuffled([...all], random);
  const again = shuffled([...all], random);
  if (pictures > 1 && again[0] === once.at(-1)) again.push(again.shift()!);
  return [...once, ...again];
}

/** Scores of pictures that were each shown twice: the mean of both, and how far the two lay apart, mean over all. */
export function scored(
  shows: readonly number[],
  given: readonly number[],
): { scores: number[]; apart: number } {
  const by: number[][] = [];
  shows.forEach((picture, i) => (by[picture] ??= []).push(given[i]!));
  return {
    scores: by.map((x) => x.reduce((s, v) => s + v, 0) / x.length),
    apart: by.reduce((s, x) => s + Math.abs(x[0]! - x.at(-1)!), 0) / Math.max(1, by.length),
  };
}

/** Pairs of so many pictures, each asked twice with its sides changed, in an order of chance. */
export function blindPairs(pictures: number, seed: number): Pair[] {
  const random = seeded(seed);
  const shuffle = <T>(list: T[]): T[] => shuffled(list, random);
  const all: Pair[] = [];
  for (let a = 0; a < pictures; a += 1)
    for (let b = a + 1; b < pictures; b += 1) all.push({ left: a, right: b });
  const asked = shuffle(all).slice(0, MOST_PAIRS);
  // no pair comes twice in a row: all once, then all again with the sides changed
  const once = asked.map((p) => (random() < 0.5 ? p : { left: p.right, right: p.left }));
  return [...shuffle([...once]), ...shuffle(once.map((p) => ({ left: p.right, right: p.left })))];
}

export interface Judged {
  /** pairs asked twice, and those in which the eye said the same both times */
  pairs: number;
  agreed: number;
  /** of those in which it agreed: the later picture was chosen */
  later: number;
  /** how often chance alone would be so one-sided, to either side */
  p: number;
}

/** @param chosen picture by index, in the order of the pairs; pictures are in order of time */
export function judged(pairs: readonly Pair[], chosen: readonly number[]): Judged {
  const by = new Map<string, number[]>();
  pairs.forEach((p, i) => {
    if (chosen[i] === undefined) return;
    const key = `${Math.min(p.left, p.right)} ${Math.max(p.left, p.right)}`;
    by.set(key, [...(by.get(key) ?? []), chosen[i]!]);
  });
  const twice = [...by].filter(([, c]) => c.length === 2);
  const same = twice.filter(([, [a, b]]) => a === b);
  const later = same.filter(([key, [a]]) => a === Number(key.split(' ')[1])).length;
  return { pairs: twice.length, agreed: same.length, later, p: signP(later, same.length) };
}

/** The sign test, two-sided and exact. Mark: standard. */
export function signP(successes: number, n: number): number {
  if (n === 0) return 1;
  const extreme = Math.max(successes, n - successes);
  let tail = 0;
  let ways = 1;
  for (let k = 0; k <= n; k += 1) {
    if (k >= extreme) tail += ways;
    ways = (ways * (n - k)) / (k + 1);
  }
  return Math.min(1, (2 * tail) / 2 ** n);
}
