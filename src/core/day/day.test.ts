import fc from 'fast-check';

import { formatHours, formatTime, parseTime, parseTypedTime } from './clock';
import { type Day, dli, fullSeconds, fullSecondsUntil, levelsAt, litHours, litSpan, parOf } from './day';
import { lampKind } from '../spectrum/lamp';
import { chainAt, lampDay, type ResolvedThread, threadBetween } from './thread';
import { toStep } from '../spectrum/controls';

const day = (knots: [number, ...number[]][], extra: Partial<Day> = {}): Day => ({
  knots: knots.map(([minute, ...levels]) => ({ minute, levels })),
  capShare: 1,
  easingShare: 1,
  interpolation: 'ramp',
  ...extra,
});
const arbitraryDay = fc
  .record({
    minutes: fc.uniqueArray(fc.integer({ min: 0, max: 1439 }), { minLength: 1, maxLength: 8 }),
    seeds: fc.array(
      fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })),
      { minLength: 8, maxLength: 8 },
    ),
    capShare: fc.double({ min: 0, max: 1, noNaN: true }),
    easingShare: fc.double({ min: 0, max: 1, noNaN: true }),
    interpolation: fc.constantFrom('ramp' as const, 'hold' as const),
  })
  .map(({ minutes, seeds, ...rest }) =>
    day(
      [...minutes].sort((a, b) => a - b).map((m, i): [number, ...number[]] => [m, ...seeds[i]!]),
      rest,
    ),
  );

test('a triangle: DLI, lit hours and levels in closed form', () => {
  const d = day(
    [
      [480, 0],
      [720, 1],
      [1200, 0],
    ],
    { capShare: 0.5 },
  );
  expect(dli(d, [100])).toBeCloseTo((0.5 * 50 * 12 * 3600) / 1e6, 12);
  expect(litHours(d)).toBe(12);
  expect(levelsAt(d, 600)).toEqual([0.25]);
  expect(levelsAt(d, 100)).toEqual([0]);
});

test('a day wraps at midnight, ramped and held', () => {
  const ramp = day([
    [120, 0],
    [1320, 1],
  ]);
  expect(levelsAt(ramp, 0)[0]).toBeCloseTo(0.5, 12);
  expect(levelsAt(ramp, 1380)[0]).toBeCloseTo(0.75, 12);
  const hold = day(
    [
      [120, 0],
      [1320, 1],
    ],
    { interpolation: 'hold' },
  );
  expect(levelsAt(hold, 0)[0]).toBe(1);
  expect(levelsAt(hold, 119)[0]).toBe(1);
  expect(levelsAt(hold, 120)[0]).toBe(0);
  expect(litHours(hold)).toBe(4);
  expect(litHours(day([[300, 0.2]]))).toBe(24);
  // two days that overlap across midnight count once
  const evening = day([
    [1200, 0],
    [1260, 1],
    [1380, 0],
  ]);
  const night = day(
    [
      [1320, 0],
      [60, 1],
      [120, 0],
    ].sort((a, b) => a[0]! - b[0]!) as [number, number][],
  );
  expect(litHours(evening, night)).toBe(6);
  expect(litHours(day([[300, 0.2]], { capShare: 0 }))).toBe(0);
});

test('integrals are exact: they agree with fine sampling of levelsAt', () => {
  fc.assert(
    fc.property(arbitraryDay, (d) => {
      const sampled = [0, 0];
      for (let i = 0; i < 14_400; i += 1)
        levelsAt(d, (i + 0.5) / 10).forEach((v, c) => (sampled[c]! += v * 6));
      fullSeconds(d).forEach((v, c) =>
        expect(Math.abs(v - sampled[c]!)).toBeLessThan(1e-6 * 86_400 + 1e-6 * v + 4),
      );
    }),
    { numRuns: 25 },
  );
});

test('DLI is linear in cap, easing and each channel', () => {
  fc.assert(
    fc.property(arbitraryDay, fc.double({ min: 0, max: 500, noNaN: true }), (d, p) => {
      const full = dli({ ...d, capShare: 1, easingShare: 1 }, [p, 2 * p]);
      expect(dli(d, [p, 2 * p])).toBeCloseTo(full * d.capShare * d.easingShare, 9);
      expect(dli(d, [p, 0]) + dli(d, [0, 2 * p])).toBeCloseTo(dli(d, [p, 2 * p]), 9);
    }),
  );
});

test('the day so far grows from nothing to the whole day', () => {
  fc.assert(
    fc.property(arbitraryDay, fc.integer({ min: 0, max: 1440 }), (d, m) => {
      const part = fullSecondsUntil(d, m);
      fullSeconds(d).forEach((v, c) => {
        expect(part[c]!).toBeLessThanOrEqual(v + 1e-6);
        expect(part[c]!).toBeGreaterThanOrEqual(-1e-6);
      });
      fullSecondsUntil(d, 1440).forEach((v, c) => expect(v).toBeCloseTo(fullSeconds(d)[c]!, 6));
    }),
  );
});

test('the lit span leaves out the longest dark stretch, also across midnight', () => {
  expect(
    litSpan([
      day([
        [480, 0],
        [720, 1],
        [1200, 0],
      ]),
    ]),
  ).toEqual({ start: 480, end: 1200 });
  expect(
    litSpan([
      day([
        [120, 0],
        [1080, 0],
        [1320, 1],
      ]),
    ]),
  ).toEqual({ start: 1080, end: 1560 });
  expect(litSpan([day([[0, 0]])])).toBeNull();
  expect(litSpan([day([[0, 1]])])).toEqual({ start: 0, end: 1440 });
  expect(
    litSpan([
      day([
        [480, 0],
        [600, 1],
        [700, 0],
      ]),
      day([
        [900, 0],
        [960, 1],
        [1000, 0],
      ]),
    ]),
  ).toEqual({ start: 480, end: 1000 });
});

/** A plain lamp with these channels. */
const lamp = (...ids: string[]) =>
  lampKind({
    id: 'k',
    name: 'plain',
    channels: ids.map((id) => ({
      id,
      name: id,
      groups: [{ light: { shape: 'line', peakNm: 450, fwhmNm: 20 }, count: 4, wattsEach: 2.2 }],
    })),
    beamAngleDeg: 90,
    faceLengthCm: 20,
    faceWidthCm: 10,
  });

describe('threads', () => {
  const threads: ResolvedThread[] = [
    { minute: 480, strengthShare: 0, mix: { a: 0.8, b: 0.4 } },
    { minute: 720, strengthShare: 0.9, mix: { a: 0.8, b: 0.4 } },
    { minute: 1200, strengthShare: 0.3, mix: { a: 0.5, b: 1 } },
  ];

  test('typed values are whole steps of mix × strength', () => {
    expect(toStep(0.285, 0.01)).toBeCloseTo(0.29, 12);
    expect(toStep(0.123456, 0)).toBe(0.123456);
    const { knots } = lampDay(lamp('a', 'b', 'c'), threads, { capShare: 1, easingShare: 1 });
    expect(knots[1]!.levels.map((v) => Math.round(v * 100))).toEqual([72, 36, 0]);
  });

  test('the chain multiplies out to the level of the day', () => {
    const two = lamp('a', 'b');
    const d = lampDay(two, threads, { capShare: 0.62, easingShare: 0.9 });
    for (const minute of [0, 480, 600, 720, 1000]) {
      for (const [c, id] of ['a', 'b'].entries()) {
        const chain = chainAt(threads, d, two, id, minute);
        expect(chain[chain.length - 1]!.after).toBeCloseTo(levelsAt(d, minute)[c]!, 12);
      }
    }
    expect(chainAt(threads, d, two, 'a', 720).map((f) => f.name)).toEqual([
      'mix',
      'strength of the thread',
      'typed into the lamp',
      'cap',
      'easing',
    ]);
  });

  test('a thread added between others changes nothing that is lit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1439 }), (minute) => {
        fc.pre(!threads.some((t) => t.minute === minute));
        const free = lamp('a', 'b');
        free.controller.pointStepShare = 0;
        const added = { minute, ...threadBetween(threads, minute, free) };
        const full = { capShare: 1, easingShare: 1 };
        const before = lampDay(free, threads, full);
        const after = lampDay(free, [...threads, added], full);
        for (const t of [0, 333, 600, 800, 1100, 1300]) {
          levelsAt(after, t).forEach((v, c) => expect(v).toBeCloseTo(levelsAt(before, t)[c]!, 9));
        }
      }),
    );
  });
});

test('times are read as people type them and printed as clocks do', () => {
  expect(parseTime('08:05')).toBe(485);
  for (const bad of ['8:05', '24:00', '12:60', '', '12:3']) expect(parseTime(bad)).toBeNull();
  for (const [text, minute] of [
    ['8', 480],
    ['8:5', 485],
    ['0805', 485],
    ['8.05', 485],
    [' 23:59 ', 1439],
  ] as const)
    expect(parseTypedTime(text)).toBe(minute);
  for (const bad of ['24', '8:70', 'noon', '-1']) expect(parseTypedTime(bad)).toBeNull();
  expect(formatTime(1445)).toBe('00:05');
  expect(formatHours(11 + 1 / 3)).toBe('11 h 20 min');
  expect(parOf([0.5, 1], [100, 10])).toBe(60);
});
