import { demoCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import { broughtBack, writtenAhead } from './clockAhead';
import { runningAt } from './lit';

const NOW = Date.parse('2026-11-24T12:00:00Z');
const bundle = demoCase(NOW, 'UTC');
const zone = bundle.case.zones[0]!;
const entry = bundle.history.entries.find((e) => e.id === 'demo-running')!;
const ahead = {
  ...bundle,
  history: {
    ...bundle.history,
    entries: [
      ...bundle.history.entries,
      { ...entry, id: 'second', atUtc: '2027-02-28T12:05:00.000Z', capShare: 0.5 },
      { ...entry, id: 'first', atUtc: '2027-02-28T12:00:00.000Z', capShare: 0.4 },
    ],
  },
  log: {
    ...bundle.log,
    events: [
      ...bundle.log.events,
      parsed({ id: 'n', zoneId: zone.id, atUtc: '2027-02-28T12:03:00.000Z', kind: 'note', note: 'typed' }),
      // two clocks that differ by minutes are no jump
      parsed({ id: 'm', zoneId: zone.id, atUtc: '2026-11-24T12:04:00.000Z', kind: 'note', note: 'soon' }),
    ],
  },
};

test('what a clock that ran ahead wrote is found, and brought back in its order; then it is what runs', () => {
  expect(writtenAhead(bundle, NOW)).toEqual([]);
  expect(writtenAhead(ahead, NOW)).toEqual(['first', 'n', 'second']);
  expect(runningAt(ahead.history, zone, new Date(NOW).toISOString())[0]!.id).toBe('demo-running');
  const back = broughtBack(ahead, NOW);
  expect(writtenAhead(back, NOW)).toEqual([]);
  const at = (id: string) => [...back.history.entries, ...back.log.events].find((e) => e.id === id)!.atUtc;
  expect(['first', 'n', 'second'].map(at)).toEqual([
    '2026-11-24T11:59:58.000Z',
    '2026-11-24T11:59:59.000Z',
    '2026-11-24T12:00:00.000Z',
  ]);
  expect(at('m')).toBe('2026-11-24T12:04:00.000Z');
  expect(runningAt(back.history, zone, new Date(NOW).toISOString())[0]!.id).toBe('second');
  expect(broughtBack(bundle, NOW).log.events).toEqual(bundle.log.events);
});
