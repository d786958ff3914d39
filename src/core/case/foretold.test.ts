import { watersCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import type { LogEvent } from '../record/log';
import { unanswered } from '../record/log/foretold';
import {
  expectedAtPlace,
  expectedOf,
  type Expected,
  foretell,
  foretoldEntry,
  toBeAsked,
  trackOf,
} from './foretold';
import type { Judgement } from './judgement';

const bundle = watersCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const zone = bundle.case.zones[0]!;
const first = (e: Partial<Expected>) =>
  foretell(zone, [{ peakUmol: 280, bandShare: 0.15, ratio: 1.2, largest: 1.2, ...e }])[0]?.chance;

test('as likely as its light is right, times how many bear the largest step; who keeps its light is not spoken of', () => {
  expect(first({})).toBeGreaterThan(0.9);
  // what is asked of one step is not asked of many small ones to the same light
  expect(first({ ratio: 1.8, largest: 1.1 })).toBeGreaterThan(0.9);
  expect(first({ ratio: 1.8, largest: 1.8 })).toBeLessThan(0.15);
  // light that is not known is less surely right
  expect(first({ peakUmol: 390, bandShare: 0.3 })).toBeLessThan(0.6);
  expect(first({ peakUmol: 900 })).toBeLessThan(0.02);
  // less light is no step to be borne, but may be too little
  expect(first({ peakUmol: 60, ratio: 0.3, largest: 0.3 })).toBeLessThan(0.02);
  expect(first({ ratio: 1.03 })).toBeUndefined();
  expect(foretell(zone, [null])).toEqual([]);
  const bold = { ...zone, spots: [{ ...zone.spots[0]!, bears: 1.7 }] };
  expect(
    foretell(bold, [{ peakUmol: 280, bandShare: 0.1, ratio: 1.6, largest: 1.6 }])[0]!.chance,
  ).toBeGreaterThan(0.9);
});

test('of a judgement, and kept as an entry that asks three weeks after the last step; none where nothing changes', () => {
  const coral = (spot: number, ratio: number) => ({
    ...{ spot, name: '', dayMol: null, wants: null, placed: null, gravity: 'calm' as const },
    peak: { umol: 280, bandShare: 0.15, minute: null },
    step: { ratio } as never,
  });
  const judged = { corals: [coral(0, 1.2), coral(1, 1)] } as Pick<Judgement, 'corals'>;
  const corals = expectedOf(zone, judged);
  expect(corals.map((c) => c.spotId)).toEqual([zone.spots[0]!.id]);
  const of = { id: 'f', zoneId: zone.id, atUtc: '2026-11-01T12:00:00.000Z', of: 'Panels typed in' };
  const entry = foretoldEntry({ ...of, lastDate: '2026-11-02' }, corals)!;
  expect(entry.askDate).toBe('2026-11-23');
  expect(parsed(entry)).toEqual(entry);
  expect(foretoldEntry({ ...of, lastDate: '2026-11-02' }, [])).toBeNull();
});

test('a coral that is given its place: as likely as its light is right, and the step from where it comes', () => {
  const spot = { ...zone.spots[0]!, id: 'new' };
  const at = (within: number, ratio: number) =>
    expectedAtPlace(spot, { placed: { within }, step: { ratio } });
  expect(at(0.8, 0.7)).toEqual([{ spotId: 'new', chance: 0.8 }]);
  expect(at(0.8, 1.3)[0]!.chance).toBeCloseTo(0.72, 10);
  expect(at(0.8, 2)[0]!.chance).toBeLessThan(0.02);
});

const told = (askDate: string, came: (string | undefined)[], chance = 0.8): LogEvent =>
  parsed({
    ...{ id: `${askDate} ${came.join()}`, zoneId: zone.id, atUtc: '2026-10-01T12:00:00.000Z', note: '' },
    ...{ kind: 'foretold', of: 'a change', askDate },
    corals: came.map((c, i) => ({ spotId: zone.spots[i]!.id, chance, ...(c ? { came: c } : {}) })),
  });

test('asked once it can have shown, for a while, and not of who is gone; how often it came is counted against what was said', () => {
  const asked = (...events: LogEvent[]) =>
    toBeAsked({ ...bundle.log, events }, zone, '2026-11-24').map((e) => e.askDate);
  expect(
    asked(
      told('2026-11-24', [undefined, 'well']),
      told('2026-11-25', [undefined]),
      told('2026-09-20', [undefined]),
      told('2026-11-20', ['well', 'unsure']),
    ),
  ).toEqual(['2026-11-24']);
  const gone = { ...told('2026-11-20', [undefined]) } as Extract<LogEvent, { kind: 'foretold' }>;
  expect(asked({ ...gone, corals: [{ spotId: 'gone', chance: 0.5 }] })).toEqual([]);
  expect(unanswered(gone)).toHaveLength(1);
  const track = trackOf({
    ...bundle.log,
    events: [
      told('2026-11-01', ['well', 'paled', 'unsure', undefined], 0.8),
      told('2026-11-02', ['well'], 0.5),
    ],
  });
  expect(track).toMatchObject({ answered: 3, well: 2 });
  expect(track.said).toBeCloseTo(0.7, 12);
  expect(trackOf({ ...bundle.log, events: [] }).said).toBe(0);
});
