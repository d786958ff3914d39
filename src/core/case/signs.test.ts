import { floorUmolOf } from '../record/needs';
import { displayCase } from '@/demo/lagoon';

import { choreDays, CHORES } from '../record/chores';
import { dueChores, hoursLit, overdueChores } from './chores';
import { actingEvents } from './course';
import { actsOnLight, type LogDoc, type LogEvent } from '../record/log';
import { aims } from './howMuch';
import { runnable } from './runnable';
import { type Eased } from './settings';
import { SIGNS, signsOf, signWords, type Sign } from '../record/log/sign';
import { signAdvice } from './signs';
import { easingPercent, stepLines, stepWords } from './stepWords';
import { entryWords, lightChangedUtc, roseDaysAgo, timeline } from './timeline';
import type { MetChange } from './replay';
import type { EasingPlan } from '../record/history';

const bundle = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = bundle.case.zones[0]!;
const entry = bundle.history.entries[0]!;

describe('signs', () => {
  const known = { roseDaysAgo: 5, ratio: 1.2, easing: true };

  test('after a step up each asks for care, and says when the light rose', () => {
    expect(signAdvice('paling', known)).toMatchObject({ propose: 'back', days: 10 });
    expect(signAdvice('paling', { ...known, ratio: 1.05 })).toMatchObject({ propose: 'hold' });
    expect(signAdvice('polypsIn', known)).toMatchObject({ propose: 'hold', days: 4 });
    expect(signAdvice('tissue', known)).toMatchObject({ propose: 'rescue' });
    expect(signAdvice('newColour', known).words).toMatch(
      /rose 5 days ago\. That is a caution, not yet a success/,
    );
    expect(signAdvice('browning', known).words).toMatch(/Before the lamp is touched/);
    expect(signAdvice('polypsOut', known).propose).toBeNull();
    expect(signAdvice('paling', { ...known, roseDaysAgo: 0 }).words).toContain('rose today');
    expect(signAdvice('paling', { ...known, roseDaysAgo: 1 }).words).toContain('rose yesterday');
  });

  test('long after any change the lamp is not the first suspect', () => {
    const calm = { roseDaysAgo: null, ratio: 1, easing: false };
    (Object.keys(SIGNS) as Sign[]).forEach((sign) => {
      const advice = signAdvice(sign, calm);
      expect(advice.propose).toBeNull();
      expect(advice.words.length).toBeGreaterThan(20);
    });
  });
});

describe('signs of algae', () => {
  const alga = { need: 'macroalgae' as const };
  const known = { roseDaysAgo: 5, ratio: 1.4, easing: true, algae: true };

  test('they have no polyps and no glow, and words of their own', () => {
    expect(signsOf(alga).map(([sign]) => sign)).toEqual([
      'paling',
      'browning',
      'tissue',
      'asBefore',
      'larger',
    ]);
    expect(signsOf({ need: 'soft' })).toHaveLength(Object.keys(SIGNS).length);
    expect(signWords('tissue', alga)).toBe('falling apart or spilling');
    expect(signWords('tissue', { need: 'clam' })).toBe('losing tissue');
    expect(signWords('newColour', alga)).toBe(SIGNS.newColour);
  });

  test('pale after a step up: back; pale without one: the water first', () => {
    expect(signAdvice('paling', known)).toMatchObject({ propose: 'back', days: 5 });
    expect(signAdvice('paling', { ...known, roseDaysAgo: null })).toMatchObject({ propose: 'hold' });
    expect(signAdvice('paling', { ...known, roseDaysAgo: null, easing: false })).toMatchObject({
      propose: null,
      words: expect.stringContaining('Test nitrate and phosphate') as string,
    });
    expect(signAdvice('tissue', known)).toMatchObject({ propose: 'back' });
    expect(signAdvice('tissue', { ...known, ratio: 1 }).propose).toBe('hold');
    expect(signAdvice('browning', known).words).toMatch(/little flow, or its own shade/);
  });

  test('harvests, tests and chores as lines: a test in every water, light untouched by any of them', () => {
    const base = { zoneId: zone.id, note: '', atUtc: '2026-11-20T10:00:00.000Z' };
    const events: LogEvent[] = [
      {
        ...base,
        id: 'h',
        kind: 'harvest',
        spotId: zone.spots[0]!.id,
        wetG: 120.4,
        drained: 'drained',
        leftG: null,
      },
      { ...base, id: 't', zoneId: 'elsewhere', kind: 'test', nitratePpm: 5, phosphatePpm: null },
      { ...base, id: 'c', kind: 'chore', chore: 'drip' },
      { ...base, id: 'x', zoneId: 'elsewhere', kind: 'chore', chore: 'fan' },
    ];
    const lines = timeline(zone, { ...bundle.history, entries: [] }, { ...bundle.log, events }, [], 0);
    expect(lines.map((l) => [l.lane, l.title])).toEqual([
      ['chore', 'Drip loops: done'],
      ['test', 'Water test: nitrate 5 ppm'],
      ['harvest', 'Copper table: 120 g harvested'],
    ]);
    expect(lines.every((l) => l.met === null)).toBe(true);
    expect(events.map(actsOnLight)).toEqual([false, false, false, false]);
    expect(actsOnLight({ ...base, id: 'l', kind: 'lens', groupId: null, gainShare: 0.1 })).toBe(true);
    // what acts is found once for a log, in order of time, and of this water alone
    const wiped = (id: string, atUtc: string, zoneId = base.zoneId): LogEvent => ({
      ...{ ...base, id, atUtc, zoneId, kind: 'lens', groupId: null, gainShare: 0.1 },
    });
    const log: LogDoc = {
      ...bundle.log,
      events: [
        wiped('late', '2026-11-20T10:00:00.000Z'),
        ...events,
        wiped('early', '2026-11-10T10:00:00.000Z'),
        wiped('other', '2026-11-12T10:00:00.000Z', 'elsewhere'),
      ],
    };
    expect(actingEvents(log, base.zoneId).map((e) => e.id)).toEqual(['early', 'late']);
    expect(actingEvents(log, base.zoneId)).toBe(actingEvents(log, base.zoneId));
    expect(actingEvents({ ...log, events: [] }, base.zoneId)).toEqual([]);
  });
});

describe('chores', () => {
  const runs = [{ ...entry, atUtc: '2026-10-01T10:00:00.000Z' }];
  const due = (z: typeof zone, events: LogEvent[] = [], entries = runs) =>
    dueChores(
      {
        ...bundle,
        case: { ...bundle.case, zones: [z] },
        history: { ...bundle.history, entries },
        log: { ...bundle.log, events },
      },
      z,
    );
  const DAY = 86_400_000;

  test('counted from when the first lamp ran; more often in damp places; as the keeper says', () => {
    const all = due(zone);
    expect(all.map((d) => d.chore.id)).toEqual([
      'test',
      'lens',
      'pictures',
      'salt',
      'fan',
      'drip',
      'residual',
      'clock',
      'age',
    ]);
    expect(all[1]!.dueMs).toBe(Date.parse('2026-10-01T10:00:00.000Z') + 30 * DAY);
    const damp = { ...zone, kind: 'refugium' as const };
    for (const c of CHORES.slice(0, 5)) expect(choreDays(damp, c.id)).toBeLessThan(choreDays(zone, c.id));
    expect(choreDays({ ...damp, choreDays: { fan: 200 } }, 'fan')).toBe(200);
    expect(due(zone, [], [])).toEqual([]);
  });

  test('a meter session comes round from the first on', () => {
    const reading = { id: 'r', spotId: null, value: 200 };
    const session = { id: 's', zoneId: zone.id, atUtc: '2026-11-01T10:00:00.000Z', readings: [reading] };
    const of = (readings: unknown[]) =>
      dueChores(
        {
          ...bundle,
          case: { ...bundle.case, zones: [zone] },
          history: { ...bundle.history, entries: runs },
          readings: {
            ...bundle.readings,
            sessions: [{ ...session, readings }] as unknown as typeof bundle.readings.sessions,
          },
        },
        zone,
      ).find((d) => d.chore.id === 'meter');
    expect(of([])).toBeUndefined();
    expect(of([reading])!.dueMs).toBe(Date.parse(session.atUtc) + 90 * DAY);
  });

  test('carbon comes round for who uses it, counted from the last; hours lit are those of the days that ran', () => {
    const carbon = {
      ...{ id: 'c', zoneId: zone.id, note: '', atUtc: '2026-11-20T10:00:00.000Z' },
      ...{ kind: 'carbon', yellowBefore: 0.2, yellowAfter: 0.03 },
    } as LogEvent;
    expect(due(zone).some((d) => d.chore.id === 'carbon')).toBe(false);
    expect(due({ ...zone, carbonDate: '2026-10-01' }).some((d) => d.chore.id === 'carbon')).toBe(true);
    const found = due(zone, [carbon]).find((d) => d.chore.id === 'carbon')!;
    expect(found.doneUtc).toBe(carbon.atUtc);
    // a picture that was taken is the photographs done, whoever's it is
    const photo = {
      ...{ id: 'p', zoneId: zone.id, note: '', atUtc: '2026-11-20T10:00:00.000Z' },
      kind: 'photo',
    };
    const pictured = due(zone, [photo as unknown as LogEvent]).find((d) => d.chore.id === 'pictures')!;
    expect(pictured.doneUtc).toBe(photo.atUtc);
    const from = Date.parse(runs[0]!.atUtc);
    // lit from 08:40 to 20:10
    const hours = hoursLit({ ...bundle.history, entries: runs }, zone.id, entry.groupId, from + 10 * DAY);
    expect(hours).toBeCloseTo(115, 0);
    const off = { ...entry, id: 'off', atUtc: new Date(from + 5 * DAY).toISOString(), threads: [] };
    expect(
      hoursLit({ ...bundle.history, entries: [...runs, off] }, zone.id, entry.groupId, from + 10 * DAY),
    ).toBeCloseTo(57.5, 0);
  });

  test('overdue is the most pressing of what is due: the same for the water on the desk and the others', () => {
    const late = (events: LogEvent[], atMs: number) =>
      overdueChores(
        dueChores(
          { ...bundle, history: { ...bundle.history, entries: runs }, log: { ...bundle.log, events } },
          zone,
        ),
        atMs,
      )[0];
    const tested = [
      {
        id: 't',
        zoneId: zone.id,
        note: '',
        kind: 'test',
        nitratePpm: 5,
        phosphatePpm: null,
        atUtc: '2026-10-29T10:00:00.000Z',
      },
    ] as LogEvent[];
    const [first] = due(zone, tested);
    expect(late(tested, first!.dueMs - 1)).toBeUndefined();
    expect(late(tested, first!.dueMs)!.chore.id).toBe('lens');
    const wiped = [
      {
        id: 'l',
        zoneId: zone.id,
        note: '',
        kind: 'lens',
        groupId: null,
        gainShare: 0.1,
        atUtc: new Date(first!.dueMs - DAY).toISOString(),
      },
    ] as LogEvent[];
    expect(late([...tested, ...wiped], first!.dueMs)?.chore.id).not.toBe('lens');
    // put off, it is not asked for until then
    const later = { ...zone, choreLater: { lens: '2026-12-24' } };
    const lens = (of: typeof zone) => due(of, tested).find((d) => d.chore.id === 'lens')!;
    expect(lens(later)).toMatchObject({ dueMs: Date.parse('2026-12-24'), putOff: true });
    expect(lens(zone).putOff).toBe(false);
  });

  test('done moves it on; a wiped lens of the log is the lens; another water’s chores are its own', () => {
    const base = { note: '', atUtc: '2026-11-10T10:00:00.000Z' };
    const all = due(zone, [
      { ...base, id: '1', zoneId: zone.id, kind: 'chore', chore: 'salt' },
      { ...base, id: '2', zoneId: zone.id, kind: 'lens', groupId: null, gainShare: 0.1 },
      { ...base, id: '3', zoneId: 'elsewhere', kind: 'chore', chore: 'fan' },
    ]);
    const of = (id: string) => all.find((d) => d.chore.id === id)!;
    expect(of('salt').dueMs).toBe(Date.parse(base.atUtc) + 60 * DAY);
    expect(of('lens')).toMatchObject({ doneUtc: base.atUtc });
    expect(of('fan').doneUtc).toBeNull();
    expect(all[0]!.dueMs).toBeLessThanOrEqual(all[1]!.dueMs);
  });

  test('every chore says what is done and what can go wrong', () => {
    expect(CHORES.every((c) => c.how.length > 30 && c.caution.length > 30)).toBe(true);
  });
});

test('how much light at all: stage and attention move the aim, high light is named', () => {
  const peaks = zone.spots.map((_, i) => [250, 420, 190, 90, 60][i]!);
  const young = aims(zone, peaks, 'young', 'seldom');
  const mature = aims(zone, peaks, 'mature', 'daily');
  expect(young.map((a) => a.standing)).toEqual(['within', 'above', 'within', 'within', 'within']);
  expect(mature[2]!.standing).toBe('below');
  young.forEach((a, i) => expect(a.toUmol).toBeLessThan(mature[i]!.toUmol));
  expect(young.map((a) => a.high)).toEqual([false, true, false, false, false]);
  // too much for a soft coral is not yet high light
  const soft = { ...zone, spots: zone.spots.map((s) => ({ ...s, need: 'soft' as const, wants: null })) };
  const of = (umol: number) =>
    aims(
      soft,
      zone.spots.map(() => umol),
      'growing',
      'weekly',
    )[0]!;
  expect([of(180).standing, of(180).high, of(260).high]).toEqual(['above', false, true]);
});

test('steps in words, and percents that say what they are of', () => {
  const target = { ...runnable(entry), capShare: 0.8 };
  const eased: Eased = { targets: [target], from: [], method: 'cap' };
  expect(stepWords(eased, 0.5)).toBe('cap 40 %');
  expect(
    stepLines({ ...eased, targets: [target, { ...target, groupName: 'Bar', capShare: 0.5 }] }, 0.5),
  ).toEqual(['Panels cap 40 %', 'Bar cap 25 %']);
  expect(stepWords({ ...eased, method: 'height', raiseCm: 20 }, 0.5)).toBe(
    '34 cm over the water (10 cm higher)',
  );
  expect(stepWords({ ...eased, method: 'hours' }, 0.5)).toMatch(/^\d\d:\d\d–\d\d:\d\d \(\d h/);
  expect(stepWords({ ...eased, method: 'blend', from: [target] }, 0.35)).toBe(
    '35 % of the way to the new day',
  );
  const of = (easingOf: 'lamp' | 'cap' | 'target') =>
    easingPercent(
      {
        ...target,
        lampKind: { ...target.lampKind, controller: { ...target.lampKind.controller, easingOf } },
      },
      0.5,
    );
  expect(of('lamp')).toEqual({ percent: 40, of: 'of the lamp' });
  expect(of('cap')).toEqual({ percent: 50, of: 'of its cap, 80 %' });
  expect(of('target')).toEqual({ percent: 50, of: 'of the target' });
});

test('the log: every kind of line, newest first, with what it brought', () => {
  const second = {
    ...entry,
    id: 'b',
    capShare: 0.6,
    atUtc: '2026-11-20T10:00:00.000Z',
    rise: { date: '2026-11-20', days: 10, fromShare: 0.5, toShare: 1 },
  };
  expect(entryWords(second, entry)).toEqual([
    'cap 80 % → 60 %',
    'rises by itself from 50 % to 100 % of the target over 10 days',
  ]);
  expect(entryWords(entry, entry)).toEqual(['typed in again, unchanged']);
  const event = (e: object) => ({ zoneId: zone.id, note: '', ...e }) as LogEvent;
  const at = (d: number) => `2026-11-${d}T10:00:00.000Z`;
  const log = {
    ...bundle.log,
    events: [
      event({ id: 'o', kind: 'outage', atUtc: at(21), toUtc: null, groupIds: ['demo-panels'] }),
      event({ id: 'p', kind: 'outage', atUtc: at(18), toUtc: '2026-11-18T13:30:00.000Z', groupIds: null }),
      event({ id: 'c', kind: 'carbon', atUtc: at(22), yellowBefore: 0.3, yellowAfter: 0.04 }),
      event({ id: 'l', kind: 'lens', atUtc: at(19), groupId: null, gainShare: 0.08, note: 'salt' }),
      event({ id: 's', kind: 'sign', atUtc: at(23), spotId: 'demo-moss', sign: 'paling' }),
      event({ id: 'n', kind: 'note', atUtc: at(17), note: 'Fed twice' }),
      event({
        id: 'm',
        kind: 'moved',
        atUtc: at(16),
        spotId: 'gone',
        from: zone.spots[0],
        to: zone.spots[1],
      }),
      event({ id: 'x', kind: 'note', atUtc: at(17), note: 'elsewhere', zoneId: 'other' }),
    ],
  };
  // carbon changes the light, a sign and a note do not, and what is still to come has not
  const ran = { ...bundle.history, entries: [entry, second] };
  expect(lightChangedUtc(zone, ran, log, at(24))).toBe(at(22));
  expect(lightChangedUtc(zone, ran, { ...log, events: [] }, at(24))).toBe(second.atUtc);
  expect(lightChangedUtc(zone, { ...ran, entries: [] }, log, at(15))).toBeNull();
  const changes: MetChange[] = [
    {
      atUtc: at(20),
      ids: ['b'],
      before: [{ dli: 4, peak: 200 }],
      after: [{ dli: 5, peak: 260 }],
      used: [{ dli: 4, peak: 200 }],
      bandShares: [0.2],
    },
  ];
  const plan = {
    id: 'p',
    zoneId: zone.id,
    deeds: [{ id: 'd', atUtc: at(24), what: 'step', words: 'Step 2 of 3.' }],
  } as unknown as EasingPlan;
  const lines = timeline(
    zone,
    { ...bundle.history, entries: [entry, second], plans: [plan] },
    log,
    changes,
    0,
  );
  expect(lines.map((l) => l.title)).toEqual([
    'Step 2 of 3.',
    'Moss branch: paling',
    'Fresh carbon: yellow in the water 0.30 → 0.04 per m',
    'Power out: Panels',
    'Panels: cap 80 % → 60 %',
    'Lens wiped: about 8 % more light',
    'Power out: all lamps',
    'Fed twice',
    expect.stringMatching(/^something since removed moved: 17 → 15 cm deep/),
    expect.stringMatching(/^Panels: first typed in, cap 80 %, 6 threads/),
  ]);
  const floor = floorUmolOf(zone.spots[0]!, zone);
  expect(lines[4]!.met).toMatchObject({ ratioBefore: 1, ratioAfter: (260 + floor) / (200 + floor) });
  expect(lines[3]!.details).toEqual(['not back yet']);
  expect(lines[6]!.details).toEqual(['for 3 h 30 min']);
  expect(lines[5]!.details).toEqual(['salt']);
  expect(roseDaysAgo(changes, 0, Date.parse(at(24)))).toBe(4);
  expect(roseDaysAgo(changes, 0, Date.parse(at(19)))).toBeNull();
});

test('sessions of readings stand on the time line of their water, with what was read at the chosen coral', () => {
  const z = bundle.case.zones[0]!;
  const session = (id: string, zoneId: string, spotId: string | null) => ({
    ...{
      id,
      zoneId,
      name: 'evening',
      atUtc: '2026-11-12T10:00:00.000Z',
      lit: 'Reading noon',
      pumpsOn: false,
      counts: true,
      rig: null,
    },
    meter: { kind: 'lux', simulated: false, immersionFactor: 1, sensorAboveCm: 1 },
    readings: spotId === null ? [] : [{ id: 'r', name: 'Copper table', spotId, tries: [4100, 4200, 4300] }],
  });
  const lines = timeline(z, { ...bundle.history, entries: [] }, { ...bundle.log, events: [] }, [], 0, [
    session('a', z.id, z.spots[0]!.id),
    session('elsewhere', 'another', z.spots[0]!.id),
    session('empty', z.id, null),
  ] as never);
  expect(lines.map((l) => [l.lane, l.title])).toEqual([['reading', 'Readings: evening, 1 place']]);
  expect(lines[0]!.details.join('; ')).toMatch(/Reading noon; Copper table: 4200 lux$/);
});
