import { parsed } from '../fixtures/events';
import type { Zone } from './zone';
import { kindNamed } from './log';
import { care } from './log/care';
import { doubtOf, measured, MEASURES } from './log/measures';
import { test as water } from './log/test';

const of = (id: (typeof MEASURES)[number]['id']) => MEASURES.find((m) => m.id === id)!;
const also = (id: (typeof MEASURES)[number]['id'], unit: string) => of(id).also.find((a) => a.unit === unit)!;

test('other units are turned into the kept one, by name or by their size', () => {
  // molar masses 94.97 of 30.97; 1 meq/l is 2.8 dKH; sea water of 35 ppt is 1.0264 times as dense as pure
  expect(also('phosphatePpm', 'ppb').to(20)).toBeCloseTo((0.02 * 94.97) / 30.974, 4);
  expect(also('alkalinityDkh', 'meq').to(3)).toBeCloseTo(8.41, 2);
  expect(also('salinityPpt', 'sg').to(1.0264)).toBeCloseTo(35, 0);
  expect(also('temperatureC', '°f').to(77)).toBeCloseTo(25, 10);
  expect(also('salinityPpt', 'sg').when!(1.026)).toBe(true);
  expect(also('salinityPpt', 'sg').when!(35)).toBe(false);
  expect(also('temperatureC', '°f').when!(78)).toBe(true);
  expect(also('temperatureC', '°f').when!(26)).toBe(false);
});

test('what is rare, and what leaps, is questioned; what is usual is not', () => {
  expect(doubtOf(of('ph'), 9.4, null)).toMatch(/rarely 9.4/);
  expect(doubtOf(of('alkalinityDkh'), 8.2, 8)).toBeNull();
  expect(doubtOf(of('alkalinityDkh'), 11, 8)).toMatch(/was 8 dKH last time/);
  expect(doubtOf(of('nitratePpm'), 12, 5)).toBeNull();
  expect(doubtOf(of('nitratePpm'), 25, 5)).toMatch(/was 5 ppm last time/);
  expect(doubtOf(of('nitratePpm'), 5, 0)).toBeNull();
  expect([
    measured(of('phosphatePpm'), 0.0614),
    measured(of('calciumPpm'), 421.4),
    measured(of('ph'), 8.15),
  ]).toEqual(['0.061 ppm', '421 ppm', '8.15']);
});

test('a test of anything at all is one; older ones without the newer measures still read', () => {
  const base = { id: 't', zoneId: 'z', atUtc: '2026-01-01T00:00:00.000Z', note: '', kind: 'test' as const };
  const old = parsed({ ...base, nitratePpm: 5, phosphatePpm: null });
  expect(kindNamed('test').words(old, {} as Zone)).toBe('Water test: nitrate 5 ppm');
  const none = Object.fromEntries(MEASURES.map((m) => [m.id, null]));
  expect(water.form!.make(none, {} as Zone, undefined)).toMatchObject({ field: 'nitratePpm' });
  const made = water.form!.make({ ...none, ph: 8.2 }, {} as Zone, undefined);
  expect(made).toEqual({ nitratePpm: null, phosphatePpm: null, ph: 8.2 });
});

test('two new additives at once are advised against; a known one is not', () => {
  const nowMs = Date.parse('2026-01-20T00:00:00.000Z');
  const dosed = (of: string, day: number) => ({
    ...{ id: of, zoneId: 'z', note: '', kind: 'care' as const, what: 'additive' as const, of },
    atUtc: `2026-01-${day}T00:00:00.000Z`,
  });
  const say = (of: string, ...earlier: ReturnType<typeof dosed>[]) =>
    care.form!.live!({ what: 'additive', of }, null as never, earlier, nowMs);
  expect(say('iodine 2 drops', dosed('amino 3 ml', 15))).toMatch(/“amino 3 ml” was dosed within 14 days/);
  expect(say('amino 5 ml', dosed('amino 3 ml', 15))).toBeNull();
  expect(say('iodine', dosed('amino 3 ml', 10), dosed('iodine', 11))).toBeNull();
  expect(say('iodine', { ...dosed('amino', 10), atUtc: '2026-01-01T00:00:00.000Z' })).toBeNull();
  expect(care.form!.make({ what: 'additive', of: ' ' }, {} as Zone, undefined)).toMatchObject({
    field: 'of',
  });
});
