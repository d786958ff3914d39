import { watersCase } from '@/demo/lagoon';

import type { LogDoc, LogEvent } from '../record/log';
import { parsed } from '../fixtures/events';
import type { MetChange } from './replay';
import { stillness } from './stillness';
import { fitWords, triage } from './triage';

const NOW = '2026-11-24T14:40:00.000Z';
const bundle = watersCase(Date.parse(NOW), 'UTC');
const zone = bundle.case.zones[0]!;
const history = { ...bundle.history, entries: [] };
const ago = (days: number) => new Date(Date.parse(NOW) - days * 86_400_000).toISOString();
const log = (...events: LogEvent[]): LogDoc => ({ ...bundle.log, events });
const spot = 0;
const light = (days: number, was: number, is: number): MetChange => {
  const all = (peak: number) => zone.spots.map(() => ({ peak, dli: peak * 0.03 }));
  return {
    atUtc: ago(days),
    ids: [],
    before: all(was),
    after: all(is),
    used: all(was),
    bandShares: zone.spots.map(() => 0),
  };
};
const base = (days: number, id: string) => ({ id, zoneId: zone.id, atUtc: ago(days), note: '' });
const test_ = (days: number, values: Record<string, number>): LogEvent =>
  parsed({ ...base(days, `t${days}`), kind: 'test', nitratePpm: null, phosphatePpm: null, ...values });
const ask = (sign: Parameters<typeof triage>[5], events: LogEvent[], changes: MetChange[] = []) =>
  triage(zone, history, log(...events), changes, spot, sign, NOW);

test('light that did not change is not blamed: the lamp is left alone, and what did change stands first', () => {
  const found = ask('browning', [
    test_(70, { nitratePpm: 5, phosphatePpm: 0.05 }),
    test_(20, { nitratePpm: 28, phosphatePpm: 0.05 }),
  ]);
  expect(found.lightStill).toBe(true);
  // nothing is known to have run: that is not the same as nothing having changed
  expect(found.knownDays).toBe(0);
  expect(triage(zone, bundle.history, bundle.log, [], spot, 'browning', NOW).knownDays).toBe(12);
  expect(found.causes).toHaveLength(1);
  expect(found.causes[0]).toMatchObject({
    what: 'chemistry',
    daysBefore: 20,
    words: 'nitrate 5 ppm → 28 ppm',
  });
  // the same water explains paling less: it rose where it would have to fall
  expect(
    ask('paling', [test_(70, { nitratePpm: 5 }), test_(20, { nitratePpm: 28 })]).causes[0]!.fit,
  ).toBeLessThan(found.causes[0]!.fit);
});

test('more light within a week before paling fits best, with its figures; less light hardly', () => {
  const up = ask('paling', [], [light(7, 120, 190)]);
  expect(up.lightStill).toBe(false);
  expect(up.causes[0]!.light).toMatchObject({ before: { peak: 120 }, after: { peak: 190 } });
  expect(up.causes[0]!.light!.ratio).toBeGreaterThan(1.4);
  expect(fitWords(up.causes[0]!.fit)).toBe('fits well');
  expect(fitWords(ask('paling', [], [light(7, 190, 120)]).causes[0]!.fit)).not.toBe('fits well');
  expect(fitWords(ask('browning', [], [light(21, 190, 120)]).causes[0]!.fit)).toBe('fits well');
  // nothing after it, nothing beyond eight weeks, nothing below a twentieth
  expect(ask('paling', [], [light(-1, 100, 300), light(60, 100, 300), light(5, 100, 103)])).toMatchObject({
    causes: [],
    lightStill: true,
  });
});

test('what befell this coral counts, and not what befell another; nothing is invented', () => {
  const befell = (spotId: string, days: number) =>
    parsed({ ...base(days, `b${spotId}`), kind: 'befell', spotId, what: 'stung' });
  const found = ask('tissue', [befell(zone.spots[0]!.id, 4), befell(zone.spots[1]!.id, 4)]);
  expect(found.causes.map((c) => c.what)).toEqual(['befell']);
  expect(found.causes[0]!.words).toContain('stung by a neighbour');
  expect(ask('tissue', []).causes).toEqual([]);
  expect(ask('tissue', []).check[0]).toMatch(/^test nitrate, phosphate, alkalinity/);
});

test('stillness: days since the light changed by anything, how often lately, and what else changed with it', () => {
  const carbon = parsed({ ...base(9, 'c'), kind: 'carbon', yellowBefore: 0.3, yellowAfter: 0.03 });
  const dose = parsed({ ...base(8, 'd'), kind: 'care', what: 'additive', of: 'amino 2 ml' });
  const still = stillness(zone, history, log(carbon, dose), NOW);
  expect(still).toMatchObject({ days: 9, changes90: 1 });
  expect(still.together).toEqual([expect.stringContaining('Fresh carbon'), 'Dosed: amino 2 ml']);
  // what goes on every day is no change, neither for stillness nor as a cause
  const fed = (days: number) =>
    parsed({ ...base(days, `f${days}`), kind: 'care', what: 'food', of: 'flakes 2 g' });
  const daily = [fed(200), ...[10, 9, 8, 7].map(fed)];
  expect(stillness(zone, history, log(carbon, ...daily), NOW).together).toHaveLength(1);
  expect(ask('browning', daily).causes).toEqual([]);
  expect(ask('browning', [fed(20), fed(9)]).causes.map((c) => c.daysBefore)).toEqual([20]);
  expect(stillness(zone, history, log(dose), NOW)).toEqual({ days: null, changes90: 0, together: [] });
  const ran = stillness(zone, bundle.history, bundle.log, NOW);
  expect(ran.days).not.toBeNull();
  expect(ran.together[0]).toBe('the lamps');
  // what is still to come has changed nothing
  expect(stillness(zone, history, log({ ...carbon, atUtc: ago(-2) }), NOW).days).toBeNull();
});
