import { blindPairs, blindShows, judged, scored, signP } from './blind';

test('every pair is asked twice, with its sides changed and not twice in a row; at most ten pairs', () => {
  for (const [n, pairs] of [
    [2, 1],
    [3, 3],
    [5, 10],
    [9, 10],
  ] as const) {
    const all = blindPairs(n, 3);
    expect(all).toHaveLength(2 * pairs);
    const key = (p: { left: number; right: number }) => [p.left, p.right].sort().join();
    const first = all.slice(0, pairs);
    expect(new Set(first.map(key)).size).toBe(pairs);
    for (const p of first) expect(all.slice(pairs)).toContainEqual({ left: p.right, right: p.left });
  }
  expect(blindPairs(5, 1)).not.toEqual(blindPairs(5, 2));
});

test('an eye that always takes the later picture, one that takes the left, and one that changes its mind', () => {
  const pairs = blindPairs(5, 7);
  const later = judged(
    pairs,
    pairs.map((p) => Math.max(p.left, p.right)),
  );
  expect(later).toMatchObject({ pairs: 10, agreed: 10, later: 10 });
  expect(later.p).toBeCloseTo(2 / 1024, 12);
  expect(
    judged(
      pairs,
      pairs.map((p) => p.left),
    ),
  ).toMatchObject({ pairs: 10, agreed: 0, p: 1 });
  // what is not answered yet counts for nothing
  expect(judged(pairs, [0, 1]).pairs).toBeLessThan(2);
});

test('the sign test as in its tables', () => {
  expect(signP(5, 5)).toBeCloseTo(0.0625, 12);
  expect(signP(9, 10)).toBeCloseTo(0.0215, 4);
  expect(signP(8, 10)).toBeCloseTo(0.1094, 4);
  expect(signP(5, 10)).toBe(1);
  expect(signP(0, 0)).toBe(1);
});

test('pictures shown one by one: all once, all again, none twice in a row; scores are means, with how far both lie apart', () => {
  for (let seed = 0; seed < 40; seed += 1) {
    const shows = blindShows(4, seed);
    expect([...shows.slice(0, 4)].sort()).toEqual([0, 1, 2, 3]);
    expect([...shows.slice(4)].sort()).toEqual([0, 1, 2, 3]);
    expect(shows.every((p, i) => p !== shows[i - 1])).toBe(true);
  }
  expect(scored([1, 0, 0, 1], [4, 7, 9, 5])).toEqual({ scores: [8, 4.5], apart: 1.5 });
  expect(blindShows(1, 1)).toEqual([0, 0]);
});
