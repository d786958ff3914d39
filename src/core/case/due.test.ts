import { watersCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import type { Experiment } from '../record/experiment';
import type { EasingPlan, Runnable } from '../record/history';
import { dueList } from './due';

const NOW = Date.parse('2026-11-24T12:00:00Z');
const bundle = watersCase(NOW, 'UTC');
const zone = bundle.case.zones[0]!;
const running = bundle.history.entries[0]!;
const plan: EasingPlan = {
  ...{ id: 'p', zoneId: zone.id, name: 'Up again', createdUtc: '2026-11-10T12:00:00.000Z', method: 'cap' },
  ...{
    targets: [running as Runnable],
    from: [running as Runnable],
    schedule: { kind: 'fastest' },
    ceiling: 1.3,
  },
  ...{ state: 'active', deeds: [] },
  steps: [
    { date: '2026-11-12', setting: 0.5, doneUtc: '2026-11-12T12:00:00.000Z' },
    { date: '2026-11-26', setting: 0.8, doneUtc: null },
  ],
} as EasingPlan;
const experiment: Experiment = {
  ...{ id: 'e', name: 'Does it grow?', change: '', measure: 'mass', start: '2026-10-01', phases: 'AB' },
  ...{ phaseDays: 42, restDays: 14, values: [], fragments: [{ id: 'f', name: 'f', spotId: null }] },
};

test('one list of all waters: steps, measures, what came of changes, upkeep; what is late first, what is far left out', () => {
  const all = {
    ...bundle,
    case: {
      ...bundle.case,
      zones: bundle.case.zones.map((z, i) => (i === 0 ? { ...z, experiments: [experiment] } : z)),
    },
    history: { ...bundle.history, plans: [plan, { ...plan, id: 'paused', state: 'paused' as const }] },
    log: {
      ...bundle.log,
      events: [
        ...bundle.log.events,
        parsed({
          ...{ id: 'f', zoneId: zone.id, atUtc: '2026-10-01T12:00:00.000Z', note: '', kind: 'foretold' },
          ...{
            of: 'Panels typed in',
            askDate: '2026-11-20',
            corals: [{ spotId: zone.spots[0]!.id, chance: 0.8 }],
          },
        }),
      ],
    },
  };
  const list = dueList(all, NOW, 14);
  expect([...list].sort((a, b) => (a.date < b.date ? -1 : 1)).map((d) => d.date)).toEqual(
    list.map((d) => d.date),
  );
  const of = (is: string) => list.filter((d) => d.what.is === is);
  expect(of('step').map((d) => [d.date, d.title])).toEqual([['2026-11-26', expect.stringContaining('%')]]);
  expect(of('ask').map((d) => [d.date, d.title])).toEqual([
    ['2026-11-20', 'What came of it: Panels typed in'],
  ]);
  // what was missed a month ago is asked no more
  expect(of('measure').map((d) => [d.date, d.title])).toEqual([
    ['2026-11-26', 'weighed mass: Does it grow?'],
  ]);
  expect(new Set(of('chore').map((d) => d.zoneName))).toEqual(new Set(['Display', 'Refugium']));
  expect(new Set(list.map((d) => d.key)).size).toBe(list.length);
  expect(dueList(all, NOW, 0).every((d) => d.date <= '2026-11-24')).toBe(true);
  expect(dueList({ ...all, case: { ...all.case, zones: [] } }, NOW, 14)).toEqual([]);
});
