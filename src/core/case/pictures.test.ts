import { watersCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import type { Photo } from '../record/log/photo';
import { areaOf, drawnAround } from '../shape/outline';
import { grownBetween, outlinedOf, USUAL_OUTLINE } from './outlines';
import { litWords, picturesOf, unlike } from './pictures';
import { pictureNear } from './fromPictures';

const bundle = watersCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC');
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
  expect(litWords(zone, bundle.history, '2026-11-20T12:00:00.000Z')).toBe('Late light, Panels at 80 %');
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

/** A square around the middle, so wide, on a picture of 800 × 600. */
const square = (side: number) =>
  [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([x, y]) => ({ x: 0.5 + (x! * side) / 2, y: 0.5 + ((y! * side) / 2) * (800 / 600) }));
const points = { first: { x: 0.1, y: 0.5 }, second: { x: 0.6, y: 0.5 } };

test('an outline counts against two points that do not grow, whatever the camera’s distance, and in cm² once theirs is known', () => {
  const near = photo('b', '2026-11-20T12:00:00.000Z', { outline: square(0.4), ...points });
  // half as large in the frame: the camera stood twice as far away
  const far = photo('a', '2026-09-20T12:00:00.000Z', {
    outline: square(0.15),
    ...{ first: { x: 0.1, y: 0.5 }, second: { x: 0.35, y: 0.5 } },
  });
  const [a, b] = outlinedOf([far, { ...near, apartCm: 10 }]);
  expect(a!.relative).toBeCloseTo(0.36, 10);
  expect(b!.relative).toBeCloseTo(0.64, 10);
  expect([a!.cm2, b!.cm2].map((v) => v?.toFixed(3))).toEqual(['36.000', '64.000']);
  expect(outlinedOf([far, near]).map((o) => o.cm2)).toEqual([null, null]);
  // a line alone says nothing: how far the camera stood is not known
  expect(outlinedOf([photo('c', '2026-11-20T12:00:00.000Z', { outline: square(0.4) })])).toEqual([]);
  const grown = grownBetween(a!, b!, [a!, b!], zone);
  expect(grown).toMatchObject({ days: 61, noise: null });
  expect(grown.ratio).toBeCloseTo(16 / 9, 10);
  expect(grown.bandShare).toBeCloseTo(1.645 * Math.SQRT2 * USUAL_OUTLINE, 3);
});

test('lines of one day say how well a hand draws: their scatter gives the band', () => {
  const at = (id: string, day: string, side: number) =>
    photo(id, `2026-${day}T12:00:00.000Z`, { outline: square(side), ...points });
  const all = outlinedOf([at('a', '09-20', 0.3), at('b', '11-20', 0.32), at('c', '11-20', 0.33)]);
  const { noise, bandShare } = grownBetween(all[0]!, all[2]!, all, zone);
  expect(noise).toBeCloseTo(2 * Math.log(0.33 / 0.32), 10);
  // one pair of one's own beside three of what is usual
  const one = Math.sqrt((3 * USUAL_OUTLINE ** 2 + noise! ** 2 / 2) / 4);
  expect(bandShare).toBeCloseTo(1.645 * Math.SQRT2 * one, 3);
});

test('a line that a hand drew is kept with few points and the same area; what encloses nothing is none', () => {
  const circle = Array.from({ length: 900 }, (_, i) => ({
    x: 0.5 + 0.3 * Math.cos((i * Math.PI) / 450),
    y: 0.5 + 0.4 * Math.sin((i * Math.PI) / 450),
  }));
  const made = drawnAround(circle, 0.75)!;
  expect(made.length).toBeLessThan(60);
  expect(areaOf(made, 0.75) / (Math.PI * 0.09)).toBeCloseTo(1, 1);
  // a hand that trembles: still no more points than may be kept
  const rough = circle.map((p, i) => ({ ...p, x: p.x + 0.01 * Math.sin(97 * i) }));
  expect(drawnAround(rough, 0.75)!.length).toBeLessThanOrEqual(200);
  expect(drawnAround([{ x: 0.5, y: 0.5 }], 0.75)).toBeNull();
  expect(
    drawnAround(
      [
        { x: 0.1, y: 0.1 },
        { x: 0.5, y: 0.5 },
        { x: 0.9, y: 0.9 },
      ],
      1,
    ),
  ).toBeNull();
});

test('the picture nearest to a day, within four days and good for what is asked', () => {
  const all = ['14', '17', '30'].map((d) => photo(d, `2026-11-${d}T12:00:00.000Z`));
  expect(pictureNear(all, '2026-11-16', 'UTC', () => true)!.id).toBe('17');
  expect(pictureNear(all, '2026-11-16', 'UTC', (p) => p.id !== '17')!.id).toBe('14');
  expect(pictureNear(all, '2026-11-23', 'UTC', () => true)).toBeNull();
});
