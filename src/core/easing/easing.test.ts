import fc from 'fast-check';

import { accustom, type DayLight, stepRatio, unknownStart } from './accustomed';
import { capSteps, fastestPlan, PlanRefused } from './plan';

test('accustomed light approaches the light it gets, 63 % in one time constant', () => {
  const a = accustom({ dli: 2, peak: 100 }, { dli: 4, peak: 200 }, 10);
  expect(a.dli).toBeCloseTo(4 - 2 / Math.E, 9);
  expect(a.peak).toBeCloseTo(200 - 100 / Math.E, 9);
  const twice = accustom(accustom({ dli: 2, peak: 100 }, { dli: 4, peak: 200 }, 3), { dli: 4, peak: 200 }, 7);
  expect(twice.dli).toBeCloseTo(a.dli, 9);
});

test('the step ratio is the larger of both and names it', () => {
  expect(stepRatio({ dli: 3, peak: 150 }, { dli: 2, peak: 100 })).toEqual({ ratio: 1.5, by: 'DLI' });
  expect(stepRatio({ dli: 2, peak: 200 }, { dli: 2, peak: 100 })).toEqual({ ratio: 2, by: 'peak' });
  expect(stepRatio({ dli: 1, peak: 1 }, { dli: 0, peak: 0 }).ratio).toBe(Infinity);
  expect(stepRatio({ dli: 0, peak: 0 }, { dli: 0, peak: 0 }).ratio).toBe(1);
  expect(unknownStart(50)).toEqual({ dli: 1.44, peak: 50 });
});

test('the fastest plan never passes its ceiling, never falls, reaches its target', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.01, max: 10, noNaN: true }),
      fc.double({ min: 0, max: 30, noNaN: true }),
      fc.double({ min: 1.05, max: 3, noNaN: true }),
      (from, to, ceiling) => {
        const days = fastestPlan(from, to, ceiling);
        expect(days[days.length - 1]).toBe(to);
        let a = from;
        days.forEach((l, i) => {
          expect(l).toBeLessThanOrEqual(Math.max(ceiling * a * (1 + 1e-12), 0));
          if (i > 0) expect(l).toBeGreaterThanOrEqual(days[i - 1]!);
          a = l + (a - l) * Math.exp(-0.1);
        });
      },
    ),
  );
  expect(fastestPlan(2, 1, 1.3)).toEqual([1]);
});

test('a plan that cannot be made says why', () => {
  expect(() => fastestPlan(1, 2, 1)).toThrow(/ceiling/);
  expect(() => fastestPlan(0, 2, 1.3)).toThrow(/no light/);
  expect(() => fastestPlan(1, 1e9, 1.0001)).toThrow(/20000 days/);
});

describe('cap steps', () => {
  const coral =
    (fullDli: number, fullPeak: number, restDli = 0) =>
    (cap: number): DayLight => ({ dli: restDli + cap * fullDli, peak: cap * fullPeak });
  const replay = (
    steps: { day: number; capShare: number }[],
    used: DayLight[],
    lightAt: (cap: number) => DayLight[],
  ) => {
    let worst = 0;
    let a = used;
    for (let day = 0; day <= steps[steps.length - 1]!.day; day += 1) {
      const cap = [...steps].reverse().find((s) => s.day <= day)!.capShare;
      lightAt(cap).forEach((l, i) => (worst = Math.max(worst, stepRatio(l, a[i]!).ratio)));
      a = a.map((x, i) => accustom(x, lightAt(cap)[i]!, 1));
    }
    return worst;
  };

  test('replayed, no coral ever passes the ceiling, and the last step is the target', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1.2, max: 3, noNaN: true }),
        fc.double({ min: 0.3, max: 1, noNaN: true }),
        (jump, target) => {
          const lights = [coral(5, 250), coral(3, 100, 0.05)];
          const lightAtCap = (cap: number) => lights.map((f) => f(cap));
          const used = lightAtCap(target).map((l) => ({ dli: l.dli / jump, peak: l.peak / jump }));
          const steps = capSteps({
            accustomed: used,
            lightAtCap,
            targetCap: target,
            stepShare: 0.01,
            ceiling: 1.3,
          });
          expect(steps[steps.length - 1]!.capShare).toBeCloseTo(target, 9);
          expect(replay(steps, used, lightAtCap)).toBeLessThanOrEqual(1.3 + 1e-6);
          steps.slice(1).forEach((s, i) => expect(s.capShare).toBeGreaterThan(steps[i]!.capShare));
        },
      ),
    );
  });

  test('a safe change is one step, today', () => {
    expect(
      capSteps({
        accustomed: [{ dli: 5, peak: 250 }],
        lightAtCap: (c) => [coral(5, 250)(c)],
        targetCap: 0.8,
        stepShare: 0.01,
        ceiling: 1.3,
      }),
    ).toEqual([{ day: 0, capShare: 0.8 }]);
  });

  test('steps too coarse for the ceiling are refused with the reason', () => {
    const input = {
      accustomed: [{ dli: 1, peak: 10 }],
      lightAtCap: (c: number) => [coral(1000, 10_000)(c)],
      targetCap: 1,
      stepShare: 0.01,
      ceiling: 1.3,
    };
    expect(() => capSteps(input)).toThrow(PlanRefused);
    expect(() => capSteps({ ...input, accustomed: [{ dli: 10, peak: 100 }] })).toThrow(/whole step/);
    expect(() => capSteps({ ...input, ceiling: 1 })).toThrow(/ceiling/);
  });
});
