import { normal, seeded } from '../spectrum/random';
import { compareGroups, permutationP, summary, welchFreedom } from './compare';
import { growthOf, growthPerDay } from './growth';

describe('two groups', () => {
  // Student 1908, extra hours of sleep under two drugs: the data and Welch's result are in every statistics package
  const first = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2];
  const second = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4];

  test('the published interval of a known set: t 1.8608 on 17.776 degrees of freedom, −0.2055 to 3.3655', () => {
    const { difference, interval95 } = compareGroups(first, second);
    expect(welchFreedom(summary(first), summary(second))).toBeCloseTo(17.776, 3);
    expect(difference).toBeCloseTo(1.58, 10);
    expect(interval95![0]).toBeCloseTo(-0.2054832, 6);
    expect(interval95![1]).toBeCloseTo(3.3654832, 6);
  });

  test('a group apart from another is found in 2 of all ways to deal them out', () => {
    expect(permutationP([1, 2, 3], [11, 12, 13])).toEqual({ p: 2 / 20, exact: true });
    expect(permutationP([1, 2], [1, 2])).toEqual({ p: 1, exact: true });
    expect(permutationP([4], [9])).toEqual({ p: 1, exact: true });
  });

  test('draws come near to what counting gives', () => {
    const random = seeded(5);
    const draw = (n: number, by: number) => Array.from({ length: n }, () => by + normal(random));
    const [a, b] = [draw(8, 0), draw(8, 1)];
    const counted = permutationP(a, b);
    expect(counted.exact).toBe(true);
    // one more far out on either side leaves p much as it was, and makes 43 758 ways and more: they are drawn
    const drawn = permutationP([...a, 0.5], [...b, 0.5]);
    expect(drawn.exact).toBe(false);
    expect(Math.abs(drawn.p - counted.p)).toBeLessThan(0.05);
    expect(permutationP([...a, 0.5], [...b, 0.5]).p).toBe(drawn.p);
  });

  test('the interval holds the truth in 95 of 100, p cries in 5 of 100 where nothing differs', () => {
    const random = seeded(17);
    const runs = 2000;
    let [held, cried] = [0, 0];
    for (let i = 0; i < runs; i += 1) {
      const a = Array.from({ length: 5 }, () => normal(random));
      const b = Array.from({ length: 4 }, () => 2 * normal(random));
      const { interval95, p } = compareGroups(a, b);
      if (interval95![0] <= 0 && interval95![1] >= 0) held += 1;
      const same = compareGroups(
        a,
        a.map(() => normal(random)),
      );
      if (same.p <= 0.05) cried += 1;
      expect(p).toBeGreaterThan(0);
    }
    expect(held / runs).toBeGreaterThan(0.935);
    expect(held / runs).toBeLessThan(0.975);
    expect(cried / runs).toBeLessThan(0.065);
  });

  test('a single measure has no error, equal ones an interval of no width', () => {
    expect(compareGroups([1], [2, 3])).toMatchObject({ difference: 1.5, interval95: null });
    expect(compareGroups([1, 1], [2, 2])).toMatchObject({ difference: 1, interval95: [1, 1] });
  });
});

test('growth is ln of the ratio a day, whatever the unit', () => {
  expect(growthPerDay({ startMg: 100, endMg: 200, days: 70 })).toBeCloseTo(Math.LN2 / 70, 12);
  const fragments = (by: number) =>
    [100, 140, 90].map((startMg, i) => ({
      ...{ startMg, days: 30 + i },
      endMg: startMg * Math.exp((by + i / 1e4) * (30 + i)),
    }));
  const { phases, difference, p } = growthOf([
    { name: 'blue', fragments: fragments(0.004) },
    { name: 'white', fragments: fragments(0.006) },
  ]);
  expect(phases.map((x) => [x.name, x.n])).toEqual([
    ['blue', 3],
    ['white', 3],
  ]);
  expect(phases[0]!.mean).toBeCloseTo(0.0041, 12);
  expect(phases[0]!.standardError).toBeCloseTo(1e-4 / Math.sqrt(3), 12);
  expect(difference).toBeCloseTo(0.002, 12);
  expect(p).toBe(0.1);
});
