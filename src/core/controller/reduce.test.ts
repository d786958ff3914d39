import * as fc from 'fast-check';

import { type Day, type Knot, levelsAt, litHours } from '../day/day';
import { DAY_MINUTES } from '../shape/ring';
import { lampDay, type ResolvedThread } from '../day/thread';
import { lampLibrary, libraryLamp } from '../library/lamps';
import { dims } from '../spectrum/controls';
import { type LampKind, PLAIN_CONTROLLER } from '../spectrum/lampKind';
import { lampKind } from '../spectrum/lamp';
import { type ChannelWorth, fitSteps, type FittedDay, lossOf, switchPlan } from './fit';
import { misfits, switchCount } from './misfits';
import { CONTROLLERS, profileWords } from './profiles';
import { peakError } from './corners';
import { reduceDay, type ReduceRules, settable } from './reduce';

type Plain = Pick<Day, 'knots' | 'interpolation'>;
const share = fc.integer({ min: 0, max: 20 }).map((v) => v / 20);
const daysOf = (most: number, every: number, interpolation: 'ramp' | 'hold' = 'ramp') =>
  fc
    .uniqueArray(fc.integer({ min: 0, max: 1440 / every - 1 }), { minLength: 2, maxLength: most })
    .chain((slots) =>
      fc
        .array(fc.tuple(share, share), { minLength: slots.length, maxLength: slots.length })
        .map((levels): Plain => ({
          interpolation,
          knots: [...slots]
            .sort((a, b) => a - b)
            .map((s, i): Knot => ({ minute: s * every, levels: levels[i]! })),
        })),
    );
const weights = [100, 40];

/** Level of a plain day just after a minute, written the slow way. */
function valueAt(day: Plain, minute: number, side: 'left' | 'right'): number[] {
  const { knots } = day;
  const m = side === 'left' ? minute - 1e-7 : minute + 1e-7;
  let at = -1;
  knots.forEach((k, i) => {
    if (k.minute <= m) at = i;
  });
  const a = knots[(at + knots.length) % knots.length]!;
  const b = knots[(at + 1) % knots.length]!;
  if (day.interpolation === 'hold') return [...a.levels];
  const span = (b.minute - a.minute + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
  const w = ((m - a.minute + DAY_MINUTES) % DAY_MINUTES) / span;
  return a.levels.map((v, c) => v + (b.levels[c]! - v) * w);
}

/** The peak error by looking at every minute from both sides. */
function slowError(wanted: Plain, reduced: Plain): number {
  let [worst, peak] = [0, 0];
  for (let m = 0; m < DAY_MINUTES; m += 1) {
    for (const side of ['left', 'right'] as const) {
      const [x, y] = [valueAt(wanted, m, side), valueAt(reduced, m, side)];
      peak = Math.max(peak, x[0]! * weights[0]! + x[1]! * weights[1]!);
      worst = Math.max(worst, Math.abs(x[0]! - y[0]!) * weights[0]! + Math.abs(x[1]! - y[1]!) * weights[1]!);
    }
  }
  return peak > 0 ? worst / peak : 0;
}

/** Every choice of so many candidates, on a coarse day. */
function* choices(n: number, k: number, from = 0): Generator<number[]> {
  if (k === 0) {
    yield [];
    return;
  }
  for (let i = from; i <= n - k; i += 1) for (const rest of choices(n, k - 1, i + 1)) yield [i, ...rest];
}

/** Without the dust of looking a hair beside the minute, so that ties are rounded alike. */
const even = (v: number) => Math.round(v * 1e5) / 1e5;

/** The best of all choices of points, by trying every one: ramps through the day's own levels, holds at mid-range. */
function bruteForce(day: Plain, rules: ReduceRules, minutes: readonly number[]): number {
  let best = Infinity;
  for (let k = 1; k <= rules.maxPoints!; k += 1) {
    for (const chosen of choices(minutes.length, k)) {
      const knots = chosen.map((i, n): Knot => {
        const from = minutes[i]!;
        if (rules.interpolation === 'ramp')
          return {
            minute: from,
            levels: valueAt(day, from, 'right').map((v) => settable(even(v), rules.stepShare)),
          };
        const to = minutes[chosen[(n + 1) % chosen.length]!]!;
        const span = (to - from + DAY_MINUTES) % DAY_MINUTES || DAY_MINUTES;
        const seen = [valueAt(day, from, 'right'), valueAt(day, (from + span) % DAY_MINUTES, 'left')];
        for (const x of day.knots) {
          const off = (x.minute - from + DAY_MINUTES) % DAY_MINUTES;
          if (off > 0 && off < span)
            seen.push(valueAt(day, x.minute, 'left'), valueAt(day, x.minute, 'right'));
        }
        return {
          minute: from,
          levels: [0, 1].map((c) =>
            settable(
              even((Math.min(...seen.map((v) => v[c]!)) + Math.max(...seen.map((v) => v[c]!))) / 2),
              rules.stepShare,
            ),
          ),
        };
      });
      best = Math.min(best, peakError(day, { knots, interpolation: rules.interpolation }, weights));
    }
  }
  return best;
}

test('the peak error is what a look at every minute from both sides finds', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('ramp' as const, 'hold' as const),
      daysOf(6, 15),
      daysOf(5, 30),
      (interpolation, a, b) => {
        const [x, y] = [a, { ...b, interpolation }];
        expect(peakError(x, y, weights)).toBeCloseTo(slowError(x, y), 3);
      },
    ),
    { numRuns: 40 },
  );
});

test.each(['ramp', 'hold'] as const)(
  'small days, %s: within 1.05 of the best of all choices',
  (interpolation) => {
    // points on whole two-hour steps keep the number of all choices small enough to try them
    const minutes = Array.from({ length: 12 }, (_, i) => i * 120);
    fc.assert(
      fc.property(
        daysOf(7, 120),
        fc.integer({ min: 1, max: 4 }),
        fc.constantFrom(0, 0.05, 0.1),
        (day, maxPoints, stepShare) => {
          const rules: ReduceRules = { maxPoints, stepShare, interpolation, everyMin: 120 };
          const found = reduceDay(day, weights, rules);
          expect(found.knots.length).toBeLessThanOrEqual(maxPoints);
          expect(found.peakErrorShare).toBeLessThanOrEqual(1.05 * bruteForce(day, rules, minutes) + 1e-9);
        },
      ),
      { numRuns: 60 },
    );
  },
);

test('exact when points suffice, on the day’s own times too', () => {
  fc.assert(
    fc.property(daysOf(9, 1), fc.constantFrom('ramp' as const, 'hold' as const), (day, interpolation) => {
      const same = { ...day, interpolation };
      const found = reduceDay(same, weights, { maxPoints: day.knots.length, stepShare: 0.05, interpolation });
      expect(found.peakErrorShare).toBeLessThan(1e-9);
      expect(found.dliErrorShare).toBeLessThan(1e-9);
      expect(found.knots.length).toBeLessThanOrEqual(day.knots.length);
    }),
    { numRuns: 80 },
  );
});

test('more points are never worse, and every value is one that can be set', () => {
  fc.assert(
    fc.property(daysOf(10, 30), fc.constantFrom('ramp' as const, 'hold' as const), (day, interpolation) => {
      let last = Infinity;
      for (const maxPoints of [2, 4, 6]) {
        const found = reduceDay(day, weights, {
          maxPoints,
          stepShare: 0.02,
          lowestShare: 0.1,
          interpolation,
        });
        for (const v of found.knots.flatMap((k) => k.levels)) {
          expect(Math.abs(v / 0.02 - Math.round(v / 0.02))).toBeLessThan(1e-6);
          expect(v === 0 || v >= 0.1 - 1e-9).toBe(true);
        }
        // values are bettered after the points are chosen: a hair is allowed
        expect(found.peakErrorShare).toBeLessThanOrEqual(last * 1.02 + 1e-9);
        last = Math.min(last, found.peakErrorShare);
      }
    }),
    {
      numRuns: 20,
      // a hold's stretches are chosen by the values they hold in the end: six points were once worse than four here
      examples: [
        [
          {
            interpolation: 'ramp',
            knots: [
              { minute: 480, levels: [0, 0.35] },
              { minute: 1380, levels: [0.15, 0.5] },
            ],
          },
          'hold',
        ],
      ],
    },
  );
});

test('a day that never lights stays dark, and one without points stays without', () => {
  const dark: Plain = { interpolation: 'hold', knots: [{ minute: 600, levels: [0, 0] }] };
  const rules: ReduceRules = { maxPoints: 1, stepShare: 0.01, interpolation: 'hold' };
  expect(reduceDay(dark, weights, rules)).toMatchObject({ peakErrorShare: 0, dliErrorShare: 0 });
  expect(reduceDay({ knots: [], interpolation: 'ramp' }, weights, rules).knots).toEqual([]);
});

test('a switch plan is the best of all, and switches no more often than it may', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 })), {
        minLength: 6,
        maxLength: 10,
      }),
      fc.constantFrom(2, 4),
      (steps, most) => {
        const [off, on] = [steps.map((s) => s[0]), steps.map((s) => s[1])];
        const turns = (plan: readonly boolean[]) =>
          plan.filter((v, i) => v !== plan[(i + plan.length - 1) % plan.length]).length;
        const wrong = (plan: readonly boolean[]) =>
          plan.reduce((sum, v, i) => sum + (v ? on[i]! : off[i]!), 0);
        const plan = switchPlan(off, on, most);
        let best = Infinity;
        for (let bits = 0; bits < 2 ** steps.length; bits += 1) {
          const tried = steps.map((_, i) => ((bits >> i) & 1) === 1);
          if (turns(tried) <= most) best = Math.min(best, wrong(tried));
        }
        expect(turns(plan)).toBeLessThanOrEqual(most);
        expect(wrong(plan)).toBe(best);
      },
    ),
    { numRuns: 60 },
  );
});

const run = (
  kind: LampKind,
  threads: ResolvedThread[],
  worth: ChannelWorth,
  controller = kind.controller,
): FittedDay => {
  const steps = fitSteps(kind, threads, worth, controller);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
    expect(next.value).toBeGreaterThanOrEqual(0);
    expect(next.value).toBeLessThanOrEqual(1);
  }
};
const evenWorth = (kind: LampKind): ChannelWorth => ({
  par: kind.channels.map((_, c) => 40 + 10 * c),
  bands: kind.channels.map((_, c) => Array.from({ length: 9 }, (__, b) => (b === c % 9 ? 40 + 10 * c : 0))),
});
const profile = (id: string) => CONTROLLERS.find((c) => c.id === id)!.profile;

describe('a day fitted to a controller', () => {
  const nine = libraryLamp('lib-nine');
  const mix = Object.fromEntries(nine.controls.map((c, i) => [c.id, 0.3 + 0.07 * i]));
  const blue = Object.fromEntries(nine.controls.map((c, i) => [c.id, i < 5 ? 0.8 : 0]));
  const threads: ResolvedThread[] = [
    { minute: 525, strengthShare: 0, mix: blue },
    { minute: 620, strengthShare: 0.4, mix: blue },
    { minute: 700, strengthShare: 0.9, mix },
    { minute: 845, strengthShare: 1, mix },
    { minute: 1050, strengthShare: 0.9, mix },
    { minute: 1140, strengthShare: 0.3, mix: blue },
    { minute: 1210, strengthShare: 0, mix: blue },
  ];
  const worth = evenWorth(nine);

  test.each(CONTROLLERS.map((c) => [c.id]))(
    '%s: what comes out can be typed in, and its loss is what it says',
    (id) => {
      const p = profile(id);
      const fitted = run(nine, threads, worth, p);
      expect(misfits(fitted.kind, fitted.threads)).toEqual([]);
      const open = { capShare: 1, easingShare: 1 };
      const again = lossOf(lampDay(nine, threads, open), lampDay(fitted.kind, fitted.threads, open), worth);
      expect(again).toEqual(fitted.loss);
      expect(fitted.loss.peakErrorShare).toBeGreaterThanOrEqual(0);
      expect(profileWords(p)).not.toBe('');
    },
  );

  test('ten ramps lose less than four whole hours, and those less than a timer', () => {
    const error = (id: string) => run(nine, threads, worth, profile(id)).loss.peakErrorShare;
    expect(error('ten-slots')).toBeLessThan(0.02);
    expect(error('four-slots')).toBeGreaterThan(error('ten-slots'));
    expect(error('wall-timer')).toBeGreaterThan(error('four-slots'));
  });

  test('a night stays dark, also where light in it would lessen the largest error', () => {
    for (const controller of [profile('four-slots'), { ...PLAIN_CONTROLLER, maxPoints: 4 }]) {
      const fitted = run(nine, threads, worth, controller);
      const day = lampDay(fitted.kind, fitted.threads, { capShare: 1, easingShare: 1 });
      const lit = litHours(day);
      expect(lit).toBeGreaterThan(7);
      expect(lit).toBeLessThan(15);
      expect(levelsAt(day, 60).every((v) => v === 0)).toBe(true);
    }
    // one point cannot hold a day and a night: it is light all day, and says so
    const one = run(nine, threads, worth, { ...PLAIN_CONTROLLER, maxPoints: 1, interpolation: 'hold' });
    expect(one.threads).toHaveLength(1);
    expect(one.loss.peakErrorShare).toBeGreaterThan(0.3);
  });

  test('a change of colour that no point is left for shows as spectral drift', () => {
    const two = run(nine, threads, worth, { ...PLAIN_CONTROLLER, maxPoints: 3 });
    expect(two.loss.spectralDriftShare).toBeGreaterThan(0.05);
    expect(run(nine, threads, worth).loss.spectralDriftShare).toBeLessThan(1e-9);
  });

  test('a day that jumps is followed by a ramp within a minute', () => {
    const held = { ...nine, controller: { ...nine.controller, interpolation: 'hold' as const } };
    const day: ResolvedThread[] = [
      { minute: 600, strengthShare: 1, mix },
      { minute: 1200, strengthShare: 0, mix },
    ];
    const fitted = run(held, day, worth, { ...PLAIN_CONTROLLER, maxPoints: 4 });
    expect(fitted.threads.map((t) => t.minute)).toEqual([599, 600, 1199, 1200]);
    expect(fitted.loss.dliChange).toBeCloseTo(0, 6);
  });

  test('circuits are fitted one by one; tint keeps its settings', () => {
    const tubes = libraryLamp('lib-tint');
    const t: ResolvedThread[] = [
      { minute: 600, strengthShare: 0, mix: { tint: 1, brightness: 0.8, violet: 0.5 } },
      { minute: 720, strengthShare: 1, mix: { tint: 0.2, brightness: 0.8, violet: 0.5 } },
      { minute: 1200, strengthShare: 0, mix: { tint: 1, brightness: 0.8, violet: 0.5 } },
    ];
    const fitted = run(tubes, t, evenWorth(tubes), profile('tint-keys'));
    expect(misfits(fitted.kind, fitted.threads)).toEqual([]);
    expect(fitted.loss.peakErrorShare).toBeLessThan(0.06);
    const circuits = lampLibrary().find((l) => !dims(l.kind) && l.kind.controls.length >= 2)!.kind;
    const [a, b] = circuits.controls;
    const day: ResolvedThread[] = [
      { minute: 593, strengthShare: 1, mix: { [a!.id]: 1, [b!.id]: 0 } },
      { minute: 660, strengthShare: 1, mix: { [a!.id]: 1, [b!.id]: 1 } },
      { minute: 1021, strengthShare: 1, mix: { [a!.id]: 1, [b!.id]: 0 } },
      { minute: 1200, strengthShare: 0, mix: { [a!.id]: 1, [b!.id]: 0 } },
    ];
    const clock = run(circuits, day, evenWorth(circuits), profile('two-circuits'));
    expect(misfits(clock.kind, clock.threads)).toEqual([]);
    expect(switchCount(clock.kind, clock.threads, a!.id)).toBe(2);
    expect(clock.threads.map((x) => x.minute)).toEqual([600, 660, 1020, 1200]);
  });
});

test('what does not fit is said in words', () => {
  const kind = lampKind({
    id: 'k',
    name: 'k',
    beamAngleDeg: 90,
    faceLengthCm: 20,
    faceWidthCm: 20,
    channels: [
      {
        id: 'a',
        name: 'A',
        groups: [{ light: { shape: 'line', peakNm: 450, fwhmNm: 20 }, count: 1, wattsEach: 1 }],
      },
    ],
    controller: profile('four-slots'),
  });
  const threads = [0, 1, 2, 3, 4].map((i) => ({
    minute: 600 + 61 * i,
    strengthShare: 0.02 * i,
    mix: { a: 1 },
  }));
  expect(misfits(kind, threads)).toEqual([
    'the day has 5 points; it takes 4',
    '4 times lie between its whole hours',
    'some values lie between 0 and 5 %, which it cannot set',
  ]);
  expect(misfits({ ...kind, controller: profile('wall-timer') }, threads)).toContain(
    'it only switches: every lit thread must be the same',
  );
});
