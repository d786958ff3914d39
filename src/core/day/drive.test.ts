import fc from 'fast-check';

import { lampKind, type PlainLamp } from '../spectrum/lamp';
import { fullSeconds, fullSecondsUntil, kneeMinutes, levelsAt, litHours, overall } from './day';
import { chainAt, lampDay, type ResolvedThread, threadBetween } from './thread';

const lamp = (extra: Partial<PlainLamp> = {}, lowest = 0, curve: [number, number][] = []) =>
  lampKind({
    id: 'k',
    name: 'driven',
    channels: [
      {
        id: 'a',
        name: 'A',
        groups: [{ light: { shape: 'line', peakNm: 450, fwhmNm: 20 }, count: 10, wattsEach: 4.4 }],
        dimming: { lowestLitShare: lowest, curve },
      },
      {
        id: 'b',
        name: 'B',
        groups: [{ light: { shape: 'line', peakNm: 660, fwhmNm: 20 }, count: 5, wattsEach: 4.4 }],
      },
    ],
    beamAngleDeg: 90,
    faceLengthCm: 20,
    faceWidthCm: 10,
    ...extra,
    controller: { pointStepShare: 0, ...extra.controller },
  });
const full = { capShare: 1, easingShare: 1 };
const threads: ResolvedThread[] = [
  { minute: 480, strengthShare: 0, mix: { a: 1, b: 0.4 } },
  { minute: 720, strengthShare: 1, mix: { a: 1, b: 0.4 } },
  { minute: 1020, strengthShare: 0.6, mix: { a: 0.3, b: 1 } },
  { minute: 1200, strengthShare: 0, mix: { a: 1, b: 0.4 } },
];

/** Midpoint sampling, fine enough to hold exact integrals against. */
function sampled(day: Parameters<typeof levelsAt>[0], to = 1440): number[] {
  const n = 40_000;
  const sums = [0, 0];
  for (let i = 0; i < n; i += 1)
    levelsAt(day, ((i + 0.5) / n) * to).forEach((v, c) => (sums[c]! += (v * to * 60) / n));
  return sums;
}

test.each([
  ['a lowest lit level', lamp({}, 0.2)],
  [
    'a curve',
    lamp({}, 0, [
      [0.2, 0.05],
      [0.6, 0.4],
    ]),
  ],
  ['a power budget', lamp({ powerBudgetWatts: 40 })],
  [
    'all of them',
    lamp({ powerBudgetWatts: 45 }, 0.12, [
      [0.3, 0.1],
      [0.7, 0.55],
    ]),
  ],
])('integrals through %s are exact: they agree with fine sampling', (_, kind) => {
  for (const shares of [full, { capShare: 0.7, easingShare: 0.9 }]) {
    const day = lampDay(kind, threads, shares);
    sampled(day).forEach((v, c) => expect(fullSeconds(day)[c]! / v).toBeCloseTo(1, 3.4));
    sampled(day, 700).forEach((v, c) => expect(fullSecondsUntil(day, 700)[c]! / v).toBeCloseTo(1, 3.4));
  }
});

test('the budget is never passed, and nothing is lit below its lowest level', () => {
  const kind = lamp({ powerBudgetWatts: 40 }, 0.2);
  const day = lampDay(kind, threads, full);
  for (let m = 0; m < 1440; m += 7) {
    const [a, b] = levelsAt(day, m) as [number, number];
    expect(a * 50 + b * 25).toBeLessThanOrEqual(40 + 1e-9);
    expect(a === 0 || a >= 0.1).toBe(true);
  }
  // dark until the first channel passes its lowest level: b has none, so the lamp is lit from the start
  expect(litHours(day)).toBeCloseTo(12, 6);
  const alone = lampDay(
    kind,
    threads.map((t) => ({ ...t, mix: { a: 1 } })),
    full,
  );
  expect(litHours(alone)).toBeCloseTo(12 - 48 / 60 - 60 / 60, 6);
  expect(kneeMinutes([alone])).toContain(528);
});

test('a cap that rescales makes the largest channel level equal to the cap; one that multiplies does not', () => {
  const half: ResolvedThread[] = threads.map((t) => ({ ...t, strengthShare: t.strengthShare * 0.5 }));
  const multiplied = lampDay(lamp(), half, { capShare: 0.4, easingShare: 1 });
  const rescaled = lampDay(lamp({ controller: { capMeans: 'rescales' } }), half, {
    capShare: 0.4,
    easingShare: 1,
  });
  expect(levelsAt(multiplied, 720)[0]).toBeCloseTo(0.2, 12);
  expect(levelsAt(rescaled, 720)[0]).toBeCloseTo(0.4, 12);
  expect(overall(lampDay(lamp({ controller: { capMeans: 'rescales' } }), [], full))).toBe(0);
});

test('the chain multiplies out to the light, through every factor', () => {
  const kinds = [
    lamp({ powerBudgetWatts: 40 }, 0.2, [[0.3, 0.1]]),
    lamp({ controller: { capMeans: 'rescales' } }),
    lamp({ controls: [{ kind: 'level', id: 'a', name: 'Key', drives: { a: 1, b: 0.5 } }] }),
  ];
  for (const kind of kinds) {
    const day = lampDay(kind, threads, { capShare: 0.8, easingShare: 0.9 });
    for (const minute of [0, 480, 500, 600, 720, 1020, 1100]) {
      kind.channels.forEach((ch, c) => {
        const chain = chainAt(threads, day, kind, ch.id, minute);
        expect(chain[chain.length - 1]!.after).toBeCloseTo(levelsAt(day, minute)[c]!, 10);
      });
    }
  }
  const names = chainAt(threads, lampDay(kinds[0]!, threads, full), kinds[0]!, 'a', 720).map((f) => f.name);
  expect(names).toEqual([
    'mix',
    'strength of the thread',
    'typed into the lamp',
    'cap',
    'easing',
    'lowest lit level',
    'power budget',
    'dimming curve',
  ]);
});

test('a thread added between others keeps circuits and tint', () => {
  const kind = lamp({
    controls: [
      { kind: 'onOff', id: 'a', name: 'A', drives: { a: 1 } },
      { kind: 'level', id: 'b', name: 'B', drives: { b: 1 } },
    ],
    controller: { interpolation: 'hold' },
  });
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1439 }), (minute) => {
      fc.pre(!threads.some((t) => t.minute === minute));
      const before = lampDay(kind, threads, full);
      const after = lampDay(kind, [...threads, { minute, ...threadBetween(threads, minute, kind) }], full);
      for (const t of [0, 500, 720, 721, 1100, 1300])
        expect(levelsAt(after, t).map((v) => v.toFixed(9))).toEqual(
          levelsAt(before, t).map((v) => v.toFixed(9)),
        );
    }),
  );
});
