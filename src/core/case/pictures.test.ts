import { demoCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import type { Photo } from '../record/log/photo';
import { litWords, picturesOf, unlike } from './pictures';

const bundle = demoCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
const zone = bundle.case.zones[0]!;
const spotId = zone.spots[0]!.id;
const photo = (id: string, atUtc: string, more: Partial<Photo> = {}): Photo =>
  parsed({
    ...{ id, zoneId: zone.id, atUtc, note: '', kind: 'photo', spotId, lit: '' },
    ...{ widthPx: 800, heightPx: 600, bytes: 1000, ...more },
  }) as Photo;

test('pictures of one coral, oldest first', () => {
  const all = [
    photo('b', '2026-11-20T12:00:00.000Z'),
    photo('a', '2026-11-14T12:00:00.000Z'),
    photo('other', '2026-11-14T12:00:00.000Z', { spotId: zone.spots[1]!.id }),
  ];
  expect(picturesOf({ ...bundle.log, events: all }, spotId).map((p) => p.id)).toEqual(['a', 'b']);
});

test('what ran as it was taken; nothing where nothing is known to have', () => {
  expect(litWords(zone, bundle.history, '2026-11-20T12:00:00.000Z')).toBe('Panels at 80 %');
  expect(litWords(zone, bundle.history, '2020-01-01T12:00:00.000Z')).toBe('');
});

test('what speaks against comparing two: lamps, hour, format, and what befell the coral between', () => {
  const of = (a: Photo, b: Photo, events: Parameters<typeof parsed>[0][] = []) =>
    unlike(a, b, zone, bundle.history, { ...bundle.log, events: events.map(parsed) });
  const a = photo('a', '2026-11-14T12:00:00.000Z');
  expect(of(a, photo('b', '2026-11-20T12:30:00.000Z'))).toEqual([]);
  expect(of(photo('b', '2026-11-20T15:30:00.000Z'), a)).toEqual(['4 h apart in the day']);
  expect(of(photo('old', '2026-11-01T12:00:00.000Z'), a)).toEqual(['the lamps were set otherwise']);
  expect(of(a, photo('b', '2026-11-20T12:00:00.000Z', { heightPx: 800 }))).toEqual([
    'taken in another format',
  ]);
  const cut = (day: string, spot: string) => ({
    ...{ id: day + spot, zoneId: zone.id, atUtc: `2026-11-${day}T08:00:00.000Z`, note: '' },
    ...{ kind: 'befell' as const, spotId: spot, what: 'cut' },
  });
  expect(
    of(a, photo('b', '2026-11-20T12:00:00.000Z'), [
      cut('16', spotId),
      cut('22', spotId),
      cut('17', zone.spots[1]!.id),
    ]),
  ).toEqual([`${zone.spots[0]!.name}: cut`]);
});
