import { watersCase } from '@/demo/lagoon';

import { compareGroups, detectable, permutationP } from '../evidence/compare';
import { parsed } from '../fixtures/events';
import { type Experiment, measuredOn, measurings, phasesOf } from '../record/experiment';
import type { LogDoc, LogEvent } from '../record/log';
import { normal, seeded } from '../spectrum/random';
import { doseRatio, resultOf, spoilers, wouldShow } from './experiment';
import { fromPictures, untold } from './fromPictures';
import type { MetChange } from './replay';

const bundle = watersCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const zone = bundle.case.zones[0]!;
const fragments = ['a', 'b', 'c', 'd'].map((id) => ({ id, name: id, spotId: zone.spots[0]!.id }));
const plan: Experiment = {
  ...{
    id: 'e',
    name: 'Does violet make it grow?',
    change: 'violet 20 → 60',
    measure: 'mass',
    start: '2026-01-01',
  },
  ...{ phases: 'ABA', phaseDays: 30, restDays: 14, fragments, values: [] },
};
const NOW = '2026-06-01T00:00:00.000Z';
const weighed = (rates: readonly number[], days = 30): Experiment => ({
  ...plan,
  values: rates.flatMap((rate, phase) =>
    fragments.flatMap(({ id }, i) => {
      const { from, to } = phasesOf(plan)[phase]!;
      const start = 900 + 40 * i;
      return [
        { phase, fragmentId: id, at: 'start' as const, value: start, date: from },
        {
          phase,
          fragmentId: id,
          at: 'end' as const,
          value: start * Math.exp((rate + i * 1e-4) * days),
          date: to,
        },
      ];
    }),
  ),
});

test('phases follow one another, each after its rest; what is to be measured when', () => {
  expect(phasesOf(plan)).toEqual([
    { light: 'A', restFrom: '2026-01-01', from: '2026-01-15', to: '2026-02-14' },
    { light: 'B', restFrom: '2026-02-14', from: '2026-02-28', to: '2026-03-30' },
    { light: 'A', restFrom: '2026-03-30', from: '2026-04-13', to: '2026-05-13' },
  ]);
  expect(measurings(plan).map((m) => [m.phase, m.at, m.date, m.done])).toEqual([
    [0, 'start', '2026-01-15', 0],
    [0, 'end', '2026-02-14', 0],
    [1, 'start', '2026-02-28', 0],
    [1, 'end', '2026-03-30', 0],
    [2, 'start', '2026-04-13', 0],
    [2, 'end', '2026-05-13', 0],
  ]);
  expect(measuredOn([plan], '2026-03-01')).toEqual([{ e: plan, to: '2026-03-30' }]);
  expect(measuredOn([plan], '2026-02-20')).toEqual([]);
  expect(measurings({ ...plan, measure: 'score' }).map((m) => m.at)).toEqual(['end', 'end', 'end']);
});

test('the effect is that of growth by the days between, its going as A comes again', () => {
  const { phases, effect, back } = resultOf(weighed([0.004, 0.006, 0.004]));
  expect(phases.map((p) => [p.light, p.n])).toEqual([
    ['A', 4],
    ['B', 4],
    ['A', 4],
  ]);
  expect(phases[0]!.mean).toBeCloseTo(0.00415, 10);
  expect(effect!.difference).toBeCloseTo(0.002, 10);
  expect(effect!.p).toBeCloseTo(2 / 70, 10);
  expect(back!.difference).toBeCloseTo(-0.002, 10);
  // two days late by the calendar counts as it was
  const late = weighed([0.004]);
  const end = late.values.find((x) => x.at === 'end' && x.fragmentId === 'a')!;
  const moved = { ...late, values: late.values.map((x) => (x === end ? { ...x, date: '2026-02-16' } : x)) };
  expect(resultOf(moved).phases[0]!.mean).toBeLessThan(resultOf(late).phases[0]!.mean);
  expect(resultOf(plan)).toMatchObject({ effect: null, back: null });
  const scored = {
    ...plan,
    measure: 'score' as const,
    values: [0, 1].flatMap((phase) =>
      fragments.map(({ id }, i) => ({
        phase,
        fragmentId: id,
        at: 'end' as const,
        value: 3 + 2 * phase + i / 10,
        date: NOW.slice(0, 10),
      })),
    ),
  };
  expect(resultOf(scored).effect!.difference).toBeCloseTo(2, 10);
});

test.each([5, 8])(
  '%i in each group find what is said to be found in four of five, within three points',
  (n) => {
    const effect = detectable(1, n)!;
    const random = seeded(40 + n);
    // of the larger groups deals are drawn sparingly: chance of p is small beside three points
    const RUNS = n > 6 ? 700 : 3000;
    let found = 0;
    for (let k = 0; k < RUNS; k += 1) {
      const draw = (by: number) => Array.from({ length: n }, () => by + normal(random));
      if (permutationP(draw(0), draw(effect)).p <= 0.05) found += 1;
    }
    const chance = 2 * Math.sqrt((0.8 * 0.2) / RUNS);
    expect(Math.abs(found / RUNS - 0.8)).toBeLessThan(0.03 + (n > 6 ? chance / 2 : 0));
    expect(detectable(1, 1)).toBeNull();
  },
);

test('what so many fragments would show shrinks with their number and with a better scale', () => {
  const of = (count: number, error: number) =>
    wouldShow(
      { ...plan, fragments: Array.from({ length: count }, (_, i) => ({ ...fragments[0]!, id: `${i}` })) },
      error,
    )!;
  expect(of(8, 0.01)).toBeLessThan(of(4, 0.01));
  expect(of(8, 0.05)).toBeGreaterThan(of(8, 0.01));
  expect(of(4, 0.01)).toBeGreaterThan(0.3);
});

test('a spoiler is named: light changed within a measured stretch, chemistry that leapt, what befell a fragment', () => {
  const base = (id: string, day: string) => ({
    id,
    zoneId: zone.id,
    note: '',
    atUtc: `${day}T10:00:00.000Z`,
  });
  const nitrate = (id: string, day: string, value: number) =>
    parsed({ ...base(id, day), kind: 'test', nitratePpm: value, phosphatePpm: null });
  const events: LogEvent[] = [
    parsed({ ...base('c', '2026-01-20'), kind: 'carbon', yellowBefore: 0.3, yellowAfter: 0.03 }),
    // in the rest before B: that is what a rest is for
    parsed({ ...base('r', '2026-02-20'), kind: 'lens', groupId: null, gainShare: 0.1 }),
    nitrate('n1', '2026-03-01', 4),
    nitrate('n2', '2026-03-10', 30),
    parsed({ ...base('b', '2026-04-20'), kind: 'befell', spotId: zone.spots[0]!.id, what: 'knocked' }),
    parsed({ ...base('o', '2026-04-21'), kind: 'befell', spotId: zone.spots[1]!.id, what: 'knocked' }),
  ];
  const log: LogDoc = { ...bundle.log, events };
  const found = spoilers(plan, zone, { ...bundle.history, entries: [] }, log, NOW);
  expect(found.map((s) => [s.phase, s.date, s.words.slice(0, 14)])).toEqual([
    [0, '2026-01-20', 'Fresh carbon: '],
    [1, '2026-03-10', 'nitrate 4 ppm '],
    [2, '2026-04-20', expect.stringContaining(zone.spots[0]!.name.slice(0, 6))],
  ]);
  // without a rest the change to B on its first day is the experiment's own; feeding goes on
  const bare = { ...plan, restDays: 0, start: '2026-01-01' };
  const change = parsed({ ...base('own', '2026-01-31'), kind: 'lens', groupId: null, gainShare: 0.1 });
  const fed = ['2025-12-01', '2026-01-10'].map((day) =>
    parsed({ ...base(`fed ${day}`, day), kind: 'care', what: 'food', of: '' }),
  );
  expect(
    spoilers(bare, zone, { ...bundle.history, entries: [] }, { ...log, events: [change, ...fed] }, NOW),
  ).toEqual([]);
  // what is still to come has spoilt nothing
  expect(spoilers(plan, zone, { ...bundle.history, entries: [] }, log, '2026-01-10T00:00:00.000Z')).toEqual(
    [],
  );
});

test('the dose of B over that of A at the fragments, once both have run', () => {
  const change = (day: string, dli: number): MetChange => ({
    ...{ atUtc: `${day}T08:00:00.000Z`, ids: [], before: null, used: [], bandShares: [] },
    after: zone.spots.map(() => ({ peak: 1, dli })),
  });
  expect(doseRatio(plan, zone, [change('2025-12-01', 6), change('2026-02-14', 7.2)])).toBeCloseTo(1.2, 12);
  expect(doseRatio(plan, zone, [change('2025-12-01', 6)])).toBeNull();
  expect(
    doseRatio({ ...plan, fragments: [{ ...fragments[0]!, spotId: null }] }, zone, [
      change('2025-12-01', 6),
      change('2026-02-14', 9),
    ]),
  ).toBeNull();
});

test('one plain number of fragments: the difference agrees with the groups by hand', () => {
  const e = weighed([0.004, 0.006]);
  const rates = [0, 1].map((p) => fragments.map((_, i) => [0.004, 0.006][p]! + i * 1e-4));
  expect(resultOf(e).effect!.interval95![0]).toBeCloseTo(
    compareGroups(rates[0]!, rates[1]!).interval95![0],
    8,
  );
});

const own = zone.spots.slice(0, 4).map((s, i) => ({ id: `f${i}`, name: s.name, spotId: s.id }));
const taken = (id: string, spotId: string, day: string, more: object = {}) =>
  parsed({
    ...{ id, zoneId: zone.id, atUtc: `${day}T12:00:00.000Z`, note: '', kind: 'photo', spotId, lit: '' },
    ...{ widthPx: 800, heightPx: 800, bytes: 1000, ...more },
  });
const outlined = {
  outline: [
    { x: 0.2, y: 0.2 },
    { x: 0.8, y: 0.2 },
    { x: 0.8, y: 0.8 },
    { x: 0.2, y: 0.8 },
  ],
  ...{ first: { x: 0.1, y: 0.9 }, second: { x: 0.9, y: 0.9 }, apartCm: 8 },
};

test('measures from pictures: those near the day that have what is needed, of corals of which each has one to itself', () => {
  const area: Experiment = { ...plan, measure: 'area', fragments: own };
  const [a, b, c] = own.map((f) => f.spotId);
  const events = [
    taken('late', a!, '2026-02-20', outlined),
    taken('here', a!, '2026-02-13', outlined),
    taken('bare', b!, '2026-02-14'),
    taken('card', c!, '2026-02-14', { grey: { x: 0.1, y: 0.1 }, patch: { x: 0.5, y: 0.5 } }),
  ];
  const log = { ...bundle.log, events };
  const at = { date: '2026-02-14' };
  const found = (e: Experiment) =>
    fromPictures(e, at, log, zone).map((f) => [f.fragmentId, f.photo.id, f.value]);
  expect(found(area).map(([f, p]) => [f, p])).toEqual([['f0', 'here']]);
  expect(found(area)[0]![2]).toBeCloseTo(36, 10);
  expect(found({ ...area, measure: 'chroma' })).toEqual([['f2', 'card', null]]);
  expect(found({ ...area, measure: 'blind' }).map(([f]) => f)).toEqual(['f0', 'f1', 'f2']);
  expect(found({ ...area, measure: 'mass' })).toEqual([]);
  // two at one coral cannot be told apart
  expect(untold(plan)).toHaveLength(4);
  expect(found({ ...plan, measure: 'blind' })).toEqual([]);
});

test('days are those of the water’s own clock', () => {
  const west = { ...zone, timeZone: 'America/Los_Angeles' };
  // the evening of the day before the measured days begin, there
  const cut = parsed({
    ...{ id: 'c', zoneId: zone.id, atUtc: '2026-01-15T05:00:00.000Z', note: '' },
    ...{ kind: 'befell', spotId: zone.spots[0]!.id, what: 'cut' },
  });
  const of = (z: typeof zone) => spoilers(plan, z, bundle.history, { ...bundle.log, events: [cut] }, NOW);
  expect(of(west)).toEqual([]);
  expect(of(zone)).toMatchObject([{ date: '2026-01-15', phase: 0 }]);
});
