import { demoCase } from '@/demo/lagoon';

import { aims } from './howMuch';
import { runnable } from './runnable';
import { type Eased } from './settings';
import { signAdvice, SIGNS } from './signs';
import { easingPercent, stepLines, stepWords } from './stepWords';
import { entryWords, roseDaysAgo, timeline } from './timeline';
import type { MetChange } from './replay';
import type { EasingPlan, LogEvent, Sign } from './types';

const bundle = demoCase(Date.UTC(2026, 10, 24), 'UTC');
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

test('how much light at all: stage and attention move the aim, high light is named', () => {
  const peaks = zone.spots.map((_, i) => [250, 420, 190, 90, 60][i]!);
  const young = aims(zone, peaks, 'young', 'seldom');
  const mature = aims(zone, peaks, 'mature', 'daily');
  expect(young.map((a) => a.standing)).toEqual(['within', 'above', 'within', 'within', 'within']);
  expect(mature[2]!.standing).toBe('below');
  young.forEach((a, i) => expect(a.toUmol).toBeLessThan(mature[i]!.toUmol));
  expect(young.map((a) => a.high)).toEqual([false, true, false, false, false]);
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
  expect(stepWords({ ...eased, method: 'hours' }, 0.5)).toMatch(/^\d\d:\d\d-\d\d:\d\d \(\d h/);
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
  const changes: MetChange[] = [
    {
      atUtc: at(20),
      ids: ['b'],
      before: [{ dli: 4, peak: 200 }],
      after: [{ dli: 5, peak: 260 }],
      used: [{ dli: 4, peak: 200 }],
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
    'Fresh carbon: 0.30 → 0.04 per metre at 440 nm',
    'Power out: Panels',
    'Panels: cap 80 % → 60 %',
    'Lens wiped: about 8 % more light',
    'Power out: all lamps',
    'Fed twice',
    expect.stringMatching(/^a coral since removed moved: 17 → 15 cm deep/),
    expect.stringMatching(/^Panels: first typed in, cap 80 %, 6 threads/),
  ]);
  expect(lines[4]!.met).toMatchObject({ ratioBefore: 1, ratioAfter: 1.3 });
  expect(lines[3]!.details).toEqual(['not back yet']);
  expect(lines[6]!.details).toEqual(['for 3 h 30 min']);
  expect(lines[5]!.details).toEqual(['salt']);
  expect(roseDaysAgo(changes, 0, Date.parse(at(24)))).toBe(4);
  expect(roseDaysAgo(changes, 0, Date.parse(at(19)))).toBeNull();
});
