import fc from 'fast-check';

import { displayCase } from '@/demo/lagoon';

import { CONTROLLERS } from '../controller/profiles';
import { litHours } from '../day/day';
import { lampLibrary, libraryLamp } from '../library/lamps';
import { windowsOf } from './dawn';
import { litRunnable } from './lit';
import { cutsOf } from './course';
import { runnable } from './runnable';
import { atSetting, type Eased, judgeOf, mayWait, methodProblem, methodsOf, settingsOf } from './settings';
import type { LogEvent } from '../record/log';
import type { Runnable } from '../record/history';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = bundle.case.zones[0]!;
const entry = bundle.history.entries[0]!;
const panel: Runnable = runnable(entry);
const clock = (): Runnable => {
  const kind = libraryLamp('lib-tubes');
  const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
  return {
    ...panel,
    groupId: 'tubes',
    groupName: 'Tubes',
    lampKind: kind,
    capShare: 1,
    threads: [
      { minute: 600, strengthShare: 1, mix, mixName: 'on' },
      { minute: 1200, strengthShare: 0, mix, mixName: 'off' },
    ],
  };
};
/** A lamp that dims, behind a timer: it is on at one strength or off. */
const timed = (): Runnable => ({
  ...clock(),
  lampKind: {
    ...panel.lampKind,
    controller: CONTROLLERS.find((c) => c.id === 'wall-timer')!.profile,
  },
  threads: [
    { minute: 600, strengthShare: 0.8, mix: panel.threads[1]!.mix, mixName: 'on' },
    { minute: 1200, strengthShare: 0, mix: panel.threads[1]!.mix, mixName: 'off' },
  ],
});
const eased = (change: Partial<Eased> = {}): Eased => ({
  targets: [panel],
  from: [panel],
  method: 'cap',
  ...change,
});
const hours = (t: Runnable) => litHours(litRunnable(t).day);

test('rungs rise from the lowest that can be set to the target, each another setting', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('cap' as const, 'hours' as const, 'height' as const, 'blend' as const),
      fc.integer({ min: 5, max: 100 }),
      fc.integer({ min: 2, max: 60 }),
      fc.boolean(),
      (method, cap, raiseCm, isNew) => {
        const plan = eased({
          method,
          raiseCm,
          targets: [{ ...panel, capShare: cap / 100 }],
          from: isNew ? [] : [panel],
        });
        const settings = settingsOf(plan);
        expect(settings.at(-1)).toBe(1);
        settings.slice(1).forEach((s, i) => expect(s).toBeGreaterThan(settings[i]!));
        expect(atSetting(plan, 1)).toEqual(plan.targets);
        // a lamp that ran already is never dark on its lowest rung
        if (method === 'cap') expect(settings[0] === 0).toBe(isNew);
        expect(mayWait(plan)).toBe(method === 'blend' || (isNew && method !== 'height'));
      },
    ),
  );
});

test('caps of several lamps keep their ratio, in whole percents', () => {
  const bar = { ...panel, groupId: 'bar', groupName: 'Bar', capShare: 0.4 };
  const plan = eased({ targets: [panel, bar] });
  for (const s of settingsOf(plan)) {
    const [a, b] = atSetting(plan, s).map((t) => t.capShare * 100);
    expect(Math.abs(a! - Math.round(a!))).toBeLessThan(1e-6);
    expect(Math.abs(b! - a! / 2)).toBeLessThanOrEqual(0.51);
  }
});

test('of several lamps the one with most settings says how many rungs there are', () => {
  const low = { ...panel, groupId: 'bar', capShare: 0.3 };
  expect(settingsOf(eased({ targets: [low, { ...panel, capShare: 0.8 }] }))).toHaveLength(80);
  expect(settingsOf(eased({ targets: [{ ...panel, capShare: 0.8 }, low] }))).toHaveLength(80);
  const short = clock();
  const { threads } = short;
  const long = { ...short, groupId: 'long', threads: [{ ...threads[0]!, minute: 480 }, threads[1]!] };
  // ten hours and twelve, five minutes each
  const ran = { method: 'hours' as const, from: [short, long] };
  expect(settingsOf(eased({ ...ran, targets: [short, long] }))).toHaveLength(144);
  expect(settingsOf(eased({ ...ran, targets: [long, short] }))).toHaveLength(144);
});

test('hours grow about the middle of the day, on the lamp’s clock, never beyond the target', () => {
  for (const target of [panel, clock(), timed()]) {
    const plan = eased({ method: 'hours', targets: [target], from: [] });
    let last = 0;
    for (const s of settingsOf(plan)) {
      const now = hours(atSetting(plan, s)[0]!);
      expect(now).toBeGreaterThanOrEqual(last - 0.05);
      expect(now).toBeLessThanOrEqual(hours(target) + 1e-9);
      last = now;
    }
    expect(last).toBeCloseTo(hours(target), 9);
    expect(hours(atSetting(plan, 0)[0]!)).toBe(0);
  }
});

test('circuit by circuit: the second comes on when the first has its hours', () => {
  const { kind } = lampLibrary().find(
    (l) => l.kind.controls.length > 1 && l.kind.controls.every((c) => c.kind === 'onOff'),
  )!;
  const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
  const target: Runnable = {
    ...clock(),
    lampKind: kind,
    threads: clock().threads.map((t) => ({ ...t, mix })),
  };
  const plan = eased({ method: 'circuits', targets: [target], from: [] });
  expect(methodsOf(plan)).toContain('circuits');
  const on = (s: number, i: number) =>
    windowsOf(litRunnable(atSetting(plan, s)[0]!), kind.controls[i]!.id).reduce(
      (m, w) => m + w.to - w.from,
      0,
    );
  const half = 1 / kind.controls.length;
  expect([on(half / 2, 0) > 200, on(half / 2, 1)]).toEqual([true, 0]);
  expect(on(half, 0)).toBe(600);
  expect(on(half * 1.5, 1)).toBeGreaterThan(200);
  expect(on(half * 1.5, 0)).toBe(600);
});

test('what lamps cannot do is said with its reason; hours are judged by DLI', () => {
  expect(methodProblem(eased({ targets: [clock()] }))).toMatch(/Tubes cannot be dimmed/);
  expect(methodProblem(eased({ method: 'circuits' }))).toMatch(/several circuits/);
  expect(methodProblem(eased({ method: 'places' }))).toMatch(/no darker place/);
  expect(methodProblem(eased({ method: 'blend', from: [] }))).toMatch(/the same lamps/);
  const more = { ...panel, lamps: [...panel.lamps, { ...panel.lamps[0]!, id: 'more' }] };
  expect(methodProblem(eased({ method: 'blend', targets: [more] }))).toMatch(/the same lamps/);
  const rescales: Runnable = {
    ...panel,
    lampKind: { ...panel.lampKind, controller: { ...panel.lampKind.controller, capMeans: 'rescales' } },
  };
  expect(methodProblem(eased({ method: 'blend', targets: [rescales] }))).toMatch(/a cap that multiplies/);
  expect(methodProblem(eased({ method: 'blend' }))).toBeNull();
  expect([judgeOf('hours'), judgeOf('circuits'), judgeOf('cap'), judgeOf('height')]).toEqual([
    'dli',
    'dli',
    'both',
    'both',
  ]);
});

test('the time line is cut wherever light may change, dust by the week, nothing before the first entry', () => {
  const at = (day: string) => `2026-${day}T10:00:00.000Z`;
  const event = (e: object) => ({ zoneId: zone.id, note: '', ...e }) as LogEvent;
  const history = { ...bundle.history, entries: [{ ...entry, atUtc: at('10-01') }] };
  const log = {
    ...bundle.log,
    events: [
      event({ id: 'early', kind: 'carbon', atUtc: at('09-01'), yellowBefore: 0.3, yellowAfter: 0.1 }),
      event({ id: 'o', kind: 'outage', atUtc: at('10-05'), toUtc: at('10-06'), groupIds: null }),
      event({ id: 'l', kind: 'lens', atUtc: at('10-25'), groupId: null, gainShare: 0.1 }),
      event({ id: 's', kind: 'sign', atUtc: at('10-10'), spotId: 'demo-moss', sign: 'paling' }),
    ],
  };
  expect(cutsOf(zone, history, log).map((ms) => new Date(ms).toISOString().slice(5, 10))).toEqual([
    '10-01',
    '10-05',
    '10-06',
    '10-08',
    '10-15',
    '10-22',
    '10-25',
  ]);
  expect(cutsOf(zone, { ...history, entries: [] }, log)).toEqual([]);
});
