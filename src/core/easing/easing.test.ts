import fc from 'fast-check';

import { seeded } from '../spectrum/random';
import {
  aboveFloor,
  accustom,
  atPace,
  ceilingFor,
  type DayLight,
  dliRatio,
  heldPeak,
  type Pace,
  PACES,
  stepRatio,
  unknownStart,
} from './accustomed';
import {
  accustomedAfter,
  fastestRises as risesFastest,
  fewestRises as risesFewest,
  follow,
  type Grower,
  type Ladder,
  lineRises,
  type Rise,
  type Rules,
  selfRise as riseItself,
} from './ladder';
import { must, refusalOf } from '../fixtures/result';
import { fastestPlan as planned } from './plan';

// what can be planned
const fastestPlan = (...q: Parameters<typeof planned>) => must(planned(...q));
const fastestRises = (...q: Parameters<typeof risesFastest>) => must(risesFastest(...q));
const fewestRises = (...q: Parameters<typeof risesFewest>) => must(risesFewest(...q));
const selfRise = (...q: Parameters<typeof riseItself>) => must(riseItself(...q));

test('a peak is what all but a twentieth of the lit minutes stay under', () => {
  const run = (minutes: number, from: number, to = from) => ({ minutes, from, to });
  // a plateau's is its height, however steep its sides and however bright its night
  expect(heldPeak([run(60, 0, 100), run(300, 100), run(60, 100, 0), run(1020, 0)])).toBe(100);
  expect(heldPeak([run(60, 3, 100), run(300, 100), run(60, 100, 3), run(1020, 3)])).toBe(100);
  // a minute's flash is none; half an hour of ten is
  expect(heldPeak([run(600, 100), run(1, 500)])).toBeCloseTo(100, 3);
  expect(heldPeak([run(600, 100), run(40, 500)])).toBe(500);
  // a triangle: the twentieth of what is lit by more than a tenth of it lies above
  expect(heldPeak([run(300, 0, 100), run(300, 100, 0)])).toBeCloseTo(100 - 0.05 * 90, 3);
  expect([heldPeak([]), heldPeak([run(1440, 0)]), heldPeak([run(1440, 5)])]).toEqual([0, 0, 5]);
  const runs = fc.array(
    fc.record({
      minutes: fc.double({ min: 0.01, max: 300, noNaN: true }),
      from: fc.nat(500),
      to: fc.nat(500),
    }),
    { maxLength: 12 },
  );
  fc.assert(
    fc.property(runs, fc.double({ min: 0.1, max: 9, noNaN: true }), (of, times) => {
      const peak = heldPeak(of);
      const top = Math.max(0, ...of.flatMap((r) => [r.from, r.to]));
      expect(peak).toBeLessThanOrEqual(top);
      // it is of the light, not of its unit or its order
      const other = [...of]
        .reverse()
        .map((r) => ({ minutes: r.minutes, from: r.to * times, to: r.from * times }));
      expect(heldPeak(other)).toBeCloseTo(times * peak, 1);
    }),
  );
});

test('near darkness ratios mean little; where there is light the floor is next to nothing', () => {
  const day = (peak: number): DayLight => ({ dli: peak / 40, peak });
  expect(stepRatio(day(2), day(1)).ratio).toBe(2);
  expect(stepRatio(day(2), day(1), 10).ratio).toBeLessThan(1.15);
  expect(stepRatio(day(1), day(0), 10).ratio).toBeLessThan(1.15);
  expect(stepRatio(day(400), day(200), 10).ratio).toBeGreaterThan(1.9);
  expect(stepRatio(day(200), day(200), 10).ratio).toBe(1);
  expect(dliRatio(day(400), day(200), 10)).toBeCloseTo((10 + 0.288) / (5 + 0.288), 9);
  expect(aboveFloor(day(30), 10, 'peak')).toBe(0.75);
  expect([aboveFloor(day(0), 10, 'dli'), aboveFloor(day(30), 0, 'dli')]).toEqual([0, 1]);
});

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
  expect(refusalOf(planned(1, 2, 1)).say).toMatch(/ceiling/);
  expect(refusalOf(planned(0, 2, 1.3)).say).toMatch(/no light/);
  expect(refusalOf(planned(1, 1e9, 1.0001)).say).toMatch(/20000 days/);
});

describe('ladders', () => {
  const growers = (used: DayLight[], pace: Pace = PACES.coral): Grower[] =>
    used.map((accustomed) => ({ accustomed, pace }));
  /** caps of a lamp over corals that get unlike shares of it, beside light that stays */
  const ladder = (
    rungs: number,
    full: DayLight[],
    rest: DayLight[] = full.map(() => ({ dli: 0, peak: 0 })),
  ): Ladder => ({
    rungs,
    lightAt: (rung) =>
      full.map((f, i) => ({
        dli: rest[i]!.dli + ((rung + 1) / rungs) * f.dli,
        peak: rest[i]!.peak + ((rung + 1) / rungs) * f.peak,
      })),
  });
  const rules: Rules = { ceiling: 1.3, judge: 'both', least: 0, mayWait: false };
  const worstOf = (l: Ladder, start: Grower[], rises: Rise[], days = rises.at(-1)!.day + 30) =>
    Math.max(...follow(l, start, rises, days).flatMap((d) => d.ratios.map((r) => r.ratio)));

  const tank = fc.record({
    jump: fc.double({ min: 1.2, max: 3, noNaN: true }),
    shares: fc.array(fc.double({ min: 0.2, max: 1, noNaN: true }), { minLength: 1, maxLength: 4 }),
    rest: fc.double({ min: 0, max: 0.5, noNaN: true }),
  });
  const build = ({ jump, shares, rest }: { jump: number; shares: number[]; rest: number }) => {
    const full = shares.map((s) => ({ dli: 8 * s, peak: 400 * s }));
    const others = shares.map((s) => ({ dli: rest * s, peak: 50 * rest * s }));
    const l = ladder(60, full, others);
    const start = growers(
      l.lightAt(59, 0).map((x, i) => ({ dli: x.dli / jump / (1 + 0.1 * i), peak: x.peak / jump })),
    );
    return { l, start };
  };

  test('the fastest never passes its ceiling, never falls, reaches its target', () => {
    fc.assert(
      fc.property(tank, (given_) => {
        const { l, start } = build(given_);
        const rises = fastestRises(l, start, rules);
        expect(rises.at(-1)!.rung).toBe(59);
        expect(worstOf(l, start, rises)).toBeLessThanOrEqual(1.3 + 1e-6);
        rises.slice(1).forEach((r, i) => expect(r.rung).toBeGreaterThan(rises[i]!.rung));
      }),
      { numRuns: 40 },
    );
  });

  test('and is no slower than the best of 200 random plans under the ceiling', () => {
    const random = seeded(7);
    for (let round = 0; round < 4; round += 1) {
      const { l, start } = build({ jump: 1.6 + round * 0.3, shares: [1, 0.7, 0.5], rest: 0.2 });
      const fastest = fastestRises(l, start, rules).at(-1)!.day;
      for (let plan = 0; plan < 50; plan += 1) {
        let used = start;
        let rung = -1;
        let day = 0;
        for (; rung < 59 && day < 400; day += 1) {
          const fitting = Array.from({ length: 60 }, (_, k) => k).filter(
            (k) =>
              k >= rung && l.lightAt(k, day).every((x, i) => stepRatio(x, used[i]!.accustomed).ratio <= 1.3),
          );
          // mostly large steps, so that the best of them is good
          if (fitting.length > 0) rung = fitting[Math.floor(fitting.length * Math.sqrt(random()))]!;
          if (rung >= 0) used = accustomedAfter(l.lightAt(rung, day), used);
        }
        expect(day - 1).toBeGreaterThanOrEqual(fastest);
      }
    }
  });

  test('planned anew from any state on its way it goes on as it was', () => {
    const { l, start } = build({ jump: 2.2, shares: [1, 0.6], rest: 0.1 });
    const rises = fastestRises(l, start, rules);
    const lived = follow(l, start, rises, rises.at(-1)!.day + 1);
    for (const day of [1, 3, 6, rises.at(-1)!.day]) {
      const then = lived[day]!.used.map((accustomed) => ({ accustomed, pace: PACES.coral }));
      const again = fastestRises(l, then, rules);
      const days = rises.at(-1)!.day - day + 1;
      expect(follow(l, then, again, days).map((d) => d.rung)).toEqual(lived.slice(day).map((d) => d.rung));
    }
  });

  test('few changes: the smallest worst step ratio of all that could be made (against every plan)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1.3, max: 3, noNaN: true }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 9 }),
        fc.double({ min: 0.4, max: 1, noNaN: true }),
        (jump, changes, every, second) => {
          const l = ladder(7, [
            { dli: 6, peak: 300 },
            { dli: 4 * second, peak: 320 * second },
          ]);
          const top = l.lightAt(6, 0);
          const start = growers(top.map((x) => ({ dli: x.dli / jump, peak: x.peak / jump })));
          const days = Array.from({ length: changes }, (_, i) => i * every);
          const rises = fewestRises(l, start, days, rules);
          expect(rises.at(-1)!.rung).toBe(6);
          expect(rises.length).toBeLessThanOrEqual(changes);
          let best = Infinity;
          const all = (chosen: number[]) => {
            if (chosen.length === changes) {
              if (chosen[changes - 1] !== 6) return;
              const plan = chosen.map((rung, i) => ({ day: days[i]!, rung }));
              best = Math.min(best, worstOf(l, start, plan));
              return;
            }
            for (let k = chosen.at(-1) ?? 0; k < 7; k += 1) all([...chosen, k]);
          };
          all([]);
          expect(worstOf(l, start, rises)).toBeCloseTo(best, 6);
        },
      ),
      { numRuns: 30 },
    );
  });

  test('a line of the controller’s own: as short as the ceiling lets it be', () => {
    const { l, start } = build({ jump: 2, shares: [1, 0.8], rest: 0 });
    const shares = Array.from({ length: 60 }, (_, i) => (i + 1) / 60);
    const found = selfRise(l, shares, start, rules);
    const worst = (days: number) => worstOf(l, start, lineRises(shares, found.fromShare, days));
    expect(worst(found.days)).toBeLessThanOrEqual(1.3 + 1e-6);
    expect(worst(found.days - 1)).toBeGreaterThan(1.3);
    // a line is never faster than steps as large as the ceiling lets them be
    expect(found.days).toBeGreaterThanOrEqual(fastestRises(l, start, rules).at(-1)!.day);
  });

  test('other kinds have their own pace; hours are judged by DLI alone', () => {
    const l = ladder(50, [{ dli: 6, peak: 300 }]);
    const used = [{ dli: 3, peak: 150 }];
    const coral = fastestRises(l, growers(used), rules).at(-1)!.day;
    const algae = fastestRises(l, growers(used, PACES.algae), rules).at(-1)!.day;
    expect(algae).toBeLessThan(coral / 2);
    expect(ceilingFor(1.3, PACES.algae)).toBeCloseTo(1.6, 9);
    const hours: Ladder = { rungs: 10, lightAt: (k) => [{ dli: (k + 1) * 0.6, peak: 300 }] };
    expect(refusalOf(risesFastest(hours, growers(used), rules)).say).toMatch(/smallest setting/);
    expect(fastestRises(hours, growers(used), { ...rules, judge: 'dli' }).at(-1)!.rung).toBe(9);
  });

  test('what cannot be planned says why, and a lamp that is not on yet may wait', () => {
    const l = ladder(10, [{ dli: 6, peak: 300 }]);
    const noRise = risesFastest(l, growers([{ dli: 6, peak: 300 }]), { ...rules, ceiling: 1 });
    expect(refusalOf(noRise)).toMatchObject({ field: 'ceiling', say: expect.stringMatching(/ceiling/) });
    const tooCoarse = risesFastest(
      ladder(3, [{ dli: 60, peak: 300 }]),
      growers([{ dli: 16, peak: 80 }]),
      rules,
    );
    expect(refusalOf(tooCoarse).say).toMatch(/larger than the ceiling allows/);
    const unlit = risesFewest(l, growers([{ dli: 0, peak: 0 }]), [0], rules);
    expect(refusalOf(unlit).field).toBe('from');
    // light that rose elsewhere must first be grown used to
    const risen: Ladder = { rungs: 5, lightAt: (k) => [{ dli: 4 + k * 0.5, peak: 200 + 25 * k }] };
    const rises = fastestRises(risen, growers([{ dli: 2.9, peak: 145 }]), { ...rules, mayWait: true });
    expect(rises[0]).toEqual({ day: 0, rung: 0 });
    expect(rises[1]!.day).toBeGreaterThan(0);
    expect(rises.at(-1)!.rung).toBe(4);
  });
});

test('less light is grown used to faster than more; a day and its light each by its own direction', () => {
  const from = { dli: 10, peak: 100 };
  const after = accustom(from, { dli: 5, peak: 200 }, 7);
  expect(after.dli).toBeCloseTo(5 + 5 * Math.exp(-1), 9);
  expect(after.peak).toBeCloseTo(200 - 100 * Math.exp(-0.7), 9);
  // in one go or day by day
  let daily = from;
  for (let i = 0; i < 7; i += 1) daily = accustom(daily, { dli: 5, peak: 200 }, 1);
  expect(daily.dli).toBeCloseTo(after.dli, 9);
  expect(daily.peak).toBeCloseTo(after.peak, 9);
  expect(atPace(PACES.coral, 'quick')).toEqual({ tauDays: 5, downDays: 3.5, stretch: 1 });
  expect(accustom(from, { dli: 20, peak: 100 }, 3, atPace(PACES.coral, 'slow')).dli).toBeLessThan(
    accustom(from, { dli: 20, peak: 100 }, 3).dli,
  );
});

test('a plan for light that may be more stays under its ceiling if it is, and a floor lets it begin in the dark', () => {
  const [from, to, ceiling, doubt] = [40, 120, 1.3, 0.4];
  const plain = fastestPlan(from, to, ceiling, 10);
  const wary = fastestPlan(from, to, ceiling, 10, { doubt });
  expect(wary.length).toBeGreaterThan(plain.length);
  let a = from;
  for (const l of wary) {
    const real = l * (1 + doubt);
    expect(real / a).toBeLessThanOrEqual(ceiling + 1e-9);
    a = real + (a - real) * Math.exp(-1 / 10);
  }
  const dark = fastestPlan(0, 50, ceiling, 10, { floor: 5 });
  expect(dark[0]).toBeCloseTo(0.3 * 5, 9);
  expect(dark.at(-1)).toBe(50);
  expect(refusalOf(planned(0, 50, ceiling, 10)).field).toBe('from');
});
