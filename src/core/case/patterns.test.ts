import { displayCase } from '@/demo/lagoon';

import { type Day, dli, levelsAt, litPieces } from '../day/day';
import { lampDay, type ResolvedThread } from '../day/thread';
import { lampLibrary, libraryLamp } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { CONTROLLERS } from '../controller/profiles';
import { dims } from '../spectrum/controls';
import type { LampKind } from '../spectrum/lampKind';
import { zoneLight } from './light';
import { draftGroups, type LitGroup, rigOf } from './lit';
import { baseOf } from './baseOf';
import { patternDay, type PatternInput, patternSteps } from './patterns';
import { patternOf, PATTERNS, patternsFor } from './schools';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'Europe/Berlin');
const zone = bundle.case.zones[0]!;
const panel = draftGroups(bundle.case, zone)[0]!;
const home = { fromMinute: 18 * 60, toMinute: 22 * 60 };
const full = (kind: LampKind) =>
  Object.fromEntries(kind.controls.map((c) => [c.id, c.kind === 'tint' ? 0.5 : 0.7]));

/** A lamp of the library over the demo tank: PAR of each channel at its first coral. */
const parOfKind = new Map<string, number[]>();
function parFor(kind: LampKind): number[] {
  let par = parOfKind.get(kind.id);
  if (!par) {
    const day = lampDay(kind, [], { capShare: 1, easingShare: 1 });
    const one: LitGroup = { groupId: 'g', name: 'L', lampKind: kind, lamps: panel.lamps, threads: [], day };
    par = zoneLight(computeResponse(rigOf([one], zone, zone.spots)), [one]).par[0]![0]!;
    parOfKind.set(kind.id, par);
  }
  return par;
}
function input(kind: LampKind, wanted: Partial<PatternInput> = {}): PatternInput {
  const par = parFor(kind);
  return {
    ...{ kind, base: full(kind), home, lit: null, others: [], wantedDli: 4, capShare: 0.6 },
    dliOf: (threads, capShare) => dli(lampDay(kind, threads, { capShare, easingShare: 1 }), par),
    ...wanted,
  };
}
const dayOf = (kind: LampKind, threads: readonly ResolvedThread[], capShare = 1): Day =>
  lampDay(kind, threads, { capShare, easingShare: 1 });
/** A display that is lit from ten to eight in the evening. */
const display = dayOf(panel.lampKind, [
  { minute: 600, strengthShare: 0, mix: panel.threads[1]!.mix },
  { minute: 630, strengthShare: 1, mix: panel.threads[1]!.mix },
  { minute: 1170, strengthShare: 1, mix: panel.threads[1]!.mix },
  { minute: 1200, strengthShare: 0, mix: panel.threads[1]!.mix },
]);

const LIBRARY = lampLibrary().map((l) => l.kind);

test.each(LIBRARY.map((k) => [k.id, k] as const))(
  '%s: every school gives the wanted light within 2 %, in the wanted hours, or says why not',
  (_, kind) => {
    for (const { id } of PATTERNS)
      for (const lit of [null, { fromMinute: 480, toMinute: 1260 }, { fromMinute: 1140, toMinute: 60 }])
        for (const wantedDli of [0.4, 6, 60]) {
          const asked = input(kind, { lit, wantedDli, others: [display] });
          const made = patternDay(id, asked);
          expect(made.dli).toBeCloseTo(asked.dliOf(made.threads, made.capShare), 9);
          if (made.reason === null) expect(Math.abs(made.dli / wantedDli - 1)).toBeLessThanOrEqual(0.02);
          else expect(made.reason).toMatch(/longest day|these hours|steps of/);
          // a minute says one thing, even where the clock is so coarse that corners fall together
          expect(new Set(made.threads.map((t) => t.minute)).size).toBe(made.threads.length);
          expect(made.threads.every((t) => t.strengthShare >= 0 && t.strengthShare <= 1)).toBe(true);
          const levels = made.threads.flatMap((t) => Object.values(t.mix));
          expect(levels.every((v) => v >= 0 && v <= 1)).toBe(true);
          expect(made.capShare).toBeGreaterThanOrEqual(0.6);
          expect(made.capShare).toBeLessThanOrEqual(1);
          // a cap in steps that are typed
          expect(made.capShare * 100).toBeCloseTo(Math.round(made.capShare * 100), 6);
          if (!lit || !patternsFor(true, true).some((p) => p.id === id)) continue;
          const slack = kind.controller.everyMin + 1;
          for (const piece of litPieces([dayOf(kind, made.threads, made.capShare)])) {
            const inside = (m: number) => {
              const after = (m - lit.fromMinute + slack + 2880) % 1440;
              return after <= ((lit.toMinute - lit.fromMinute + 1440) % 1440) + 2 * slack;
            };
            expect([id, inside(piece.from), inside(piece.to)]).toEqual([id, true, true]);
          }
        }
  },
);

test('on the nine-channel panel and the two-circuit clock a usual day is met by every pattern', () => {
  for (const id of ['lib-nine', 'lib-two-circuit'])
    for (const p of patternsFor(true, false)) {
      const made = patternDay(
        p.id,
        input(libraryLamp(id), { wantedDli: id === 'lib-nine' ? 8 : 5, capShare: 1 }),
      );
      expect([p.id, made.reason, made.gave.filter((g) => !g.includes('longer'))]).toEqual([p.id, null, []]);
    }
});

test('white for company is white at home, also between hours that are given; no wish is refused with a reason', () => {
  const kind = libraryLamp('lib-nine');
  const white = kind.channels.findIndex((c) => c.id === 'cool-white');
  for (const lit of [null, { fromMinute: 9 * 60, toMinute: 23 * 60 }]) {
    const made = patternDay('watched', input(kind, { wantedDli: 6, capShare: 1, lit }));
    const day = dayOf(kind, made.threads);
    expect(levelsAt(day, 20 * 60)[white]).toBeGreaterThan(0);
    expect(levelsAt(day, 15 * 60)[white]).toBe(0);
    expect(levelsAt(day, 23 * 60 + 5).every((v) => v === 0)).toBe(true);
    expect(levelsAt(day, 22 * 60 + 45).every((v) => v === 0)).toBe(lit === null);
  }
  expect(patternDay('broad', input(kind, { wantedDli: 0 })).reason).toMatch(/above 0/);
});

test('where strength alone is not enough the mix gives first, then the cap, then its colour; and which gave is said', () => {
  const kind = libraryLamp('lib-nine');
  const base = Object.fromEntries(kind.controls.map((c, i) => [c.id, i % 2 === 0 ? 0.6 : 0.3]));
  const lit = { fromMinute: 10 * 60, toMinute: 20 * 60 };
  const at = (wantedDli: number) => patternDay('broad', input(kind, { base, lit, wantedDli }));
  // the day as it is with every thread at full
  const shape = at(0.5).threads.map((t) => ({ ...t, strengthShare: t.strengthShare > 0 ? 1 : 0 }));
  const whole = dli(dayOf(kind, shape, 0.6), parFor(kind));
  const plain = at(whole * 0.9);
  expect([plain.gave, plain.capShare]).toEqual([[], 0.6]);
  const mixed = at(whole * 1.3);
  expect(mixed.gave).toEqual([
    expect.stringMatching(/^the mix is 1\.\d+ times as strong, in the same proportions$/),
  ]);
  const [a, b] = kind.controls;
  const bright = mixed.threads.find((t) => t.strengthShare > 0)!.mix;
  expect(bright[a!.id]! / bright[b!.id]!).toBeCloseTo(2, 2);
  const capped = at(whole * 2);
  expect(capped.gave).toHaveLength(2);
  expect(capped.gave[1]).toMatch(/^the cap is \d+ % in place of 60 %$/);
  expect(capped.reason).toBeNull();
  const opened = at(whole * 3);
  expect(opened.gave[2]).toMatch(/opened/);
  expect(at(whole * 100).reason).toMatch(/in these hours: hang the lamp lower/);
});

test('each lamp behind each controller: its school of turn gives the wanted light in the wanted hours, or says why not', () => {
  const lit = { fromMinute: 540, toMinute: 1260 };
  const schools = patternsFor(true, false);
  LIBRARY.forEach((lamp, i) =>
    CONTROLLERS.forEach(({ profile }, k) => {
      // what is on or off cannot be ramped
      if (!dims(lamp) && profile.interpolation === 'ramp') return;
      const kind = { ...lamp, controller: profile };
      const { id } = schools[(i + k) % schools.length]!;
      const asked = input(kind, { lit, wantedDli: 5 });
      const made = patternDay(id, asked);
      if (made.reason === null) expect(Math.abs(made.dli / 5 - 1)).toBeLessThanOrEqual(0.02);
      else expect(made.reason).toMatch(/these hours|steps of/);
      for (const { from, to } of litPieces([dayOf(kind, made.threads, made.capShare)])) {
        expect(from).toBeGreaterThanOrEqual(lit.fromMinute - profile.everyMin);
        expect(to).toBeLessThanOrEqual(lit.toMinute + profile.everyMin);
      }
    }),
  );
});

/** All steps of a generator. */
function answers(wanted: Partial<Parameters<typeof patternSteps>[0]>, kind: LampKind) {
  const steps = patternSteps({
    ...input(kind),
    ...{ lookedAt: true, easingShare: 1, par: parFor(kind), present: [] },
    ...wanted,
  });
  let next = steps.next();
  while (!next.done) {
    expect(next.value).toBeLessThan(1);
    next = steps.next();
  }
  return next.value;
}

test('a lamp of circuits: schools it cannot tell apart are one answer; both circuits stay in use', () => {
  const kind = libraryLamp('lib-two-circuit');
  const [blue, white] = kind.controls;
  // blue from ten to eight, white from eleven to seven
  const present: ResolvedThread[] = [
    { minute: 600, strengthShare: 1, mix: { [blue!.id]: 1, [white!.id]: 0 } },
    { minute: 660, strengthShare: 1, mix: { [blue!.id]: 1, [white!.id]: 1 } },
    { minute: 1140, strengthShare: 1, mix: { [blue!.id]: 1, [white!.id]: 0 } },
    { minute: 1200, strengthShare: 0, mix: { [blue!.id]: 0, [white!.id]: 0 } },
  ];
  const base = baseOf(kind, present, parFor(kind))!;
  expect(base).toMatchObject({ [blue!.id]: 1, [white!.id]: 1 });
  const wantedDli = dli(dayOf(kind, present), parFor(kind));
  const found = answers(
    { base, wantedDli, present, capShare: 1, lit: { fromMinute: 600, toMinute: 1200 } },
    kind,
  );
  expect(found.flatMap((a) => a.ids).sort()).toEqual(
    patternsFor(true, false)
      .map((p) => p.id)
      .sort(),
  );
  expect(found.length).toBeLessThan(8);
  expect(found.some((a) => a.ids.length > 1)).toBe(true);
  for (const { day } of found.filter((a) => a.day.reason === null))
    expect(day.threads.some((t) => (t.mix[white!.id] ?? 0) > 0 && (t.mix[blue!.id] ?? 0) > 0)).toBe(true);
});

test('what is the present day is not offered as news', () => {
  const kind = libraryLamp('lib-nine');
  const taken = patternDay('evening', input(kind, { wantedDli: 5 }));
  const found = answers({ wantedDli: 5, present: taken.threads, capShare: taken.capShare }, kind);
  expect(found.filter((a) => a.isPresent).map((a) => a.ids)).toEqual([['evening']]);
});

test('a water that nobody looks at has schools of its own: opposite, half, round the clock, along', () => {
  for (const kind of [libraryLamp('lib-nine'), libraryLamp('lib-two-circuit')]) {
    const found = answers(
      { lookedAt: false, others: [display], wantedDli: dims(kind) ? 2 : 8, capShare: 1 },
      kind,
    );
    expect(found.flatMap((a) => a.ids)).toEqual(['opposite', 'half', 'round', 'along']);
    const lit = (id: string) => {
      const { day } = found.find((a) => a.ids.some((x) => x === id))!;
      return litPieces([dayOf(kind, day.threads)]).reduce((s, p) => s + p.to - p.from, 0);
    };
    expect(lit('round')).toBe(1440);
    expect(lit('half')).toBeCloseTo(720, -2);
    expect(lit('along')).toBeCloseTo(600, -2);
    expect(lit('opposite')).toBeCloseTo(840, -2);
    const opposite = dayOf(kind, found.find((a) => a.ids.includes('opposite'))!.day.threads);
    expect(levelsAt(opposite, 900).every((v) => v === 0)).toBe(true);
    expect(levelsAt(opposite, 60).some((v) => v > 0)).toBe(true);
  }
  // without a display there is nothing to be opposite to
  expect(patternsFor(false, false).map((p) => p.id)).toEqual(['half', 'round']);
  expect(patternOf('half').givesUp.length).toBeGreaterThan(10);
});

test('a lamp that only switches says what it cannot: too little, or too much, in hours that are given', () => {
  const kind = libraryLamp('lib-two-circuit');
  const lit = { fromMinute: 600, toMinute: 1200 };
  expect(patternDay('broad', input(kind, { lit, wantedDli: 500 })).reason).toMatch(/cannot be made stronger/);
  expect(patternDay('broad', input(kind, { lit, wantedDli: 0.01 })).reason).toMatch(/cannot be dimmed/);
  expect(baseOf(kind, [{ minute: 0, strengthShare: 0, mix: {} }], parFor(kind))).toBeNull();
});
