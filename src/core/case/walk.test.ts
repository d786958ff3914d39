import { draftGroups } from './lit';
import { plainSpot } from '../record/zone';
import type { Reading, Session } from '../record/readings';
import { displayCase } from '@/demo/lagoon';
import { DEFAULT_SETTINGS } from '@/store/settings';

import {
  levelsByName,
  lightings,
  likelyLit,
  litWords,
  readingAt,
  readUnderDay,
  stopsOf,
  withNames,
} from './walk';

const { case: doc } = displayCase(Date.UTC(2026, 10, 24), 'UTC');
const zone = doc.zones[0]!;
const groups = draftGroups(doc, zone);
const habits = DEFAULT_SETTINGS.readings;
const kind = groups[0]!.lampKind;
const session: Session = {
  id: 's',
  zoneId: zone.id,
  name: 's',
  atUtc: '2026-11-24T12:00:00.000Z',
  meter: { kind: 'ideal', immersionFactor: 1, sensorAboveCm: 0, simulated: false },
  pumpsOn: false,
  lit: '',
  counts: true,
  rig: [{ groupId: groups[0]!.groupId, name: 'Panels', lampKind: kind, lamps: groups[0]!.lamps }],
  readings: [],
};

test('a walk goes by the spots in their order, then the grid in a serpentine over rock and floor', () => {
  expect(stopsOf(zone, habits).map((s) => s.name)).toEqual(zone.spots.map((s) => s.name));
  const grid = stopsOf(zone, { ...habits, places: 'grid', gridColumns: 3, gridRows: 2, gridDepthCm: 45 });
  expect(grid.map((s) => s.name)).toEqual(['A1', 'A2', 'A3', 'B3', 'B2', 'B1']);
  // two stops in a row are always neighbours
  grid
    .slice(1)
    .forEach((s, i) =>
      expect(Math.hypot(s.xCm - grid[i]!.xCm, s.yCm - grid[i]!.yCm)).toBeLessThanOrEqual(
        zone.tank.lengthCm / 3,
      ),
    );
  expect(stopsOf(zone, { ...habits, places: 'both' })).toHaveLength(zone.spots.length + 15);
  const rock = {
    id: 'r',
    name: 'r',
    shape: 'block' as const,
    xCm: 25,
    yCm: 15,
    lengthCm: 30,
    widthCm: 20,
    topCm: 20,
    bottomCm: 50,
  };
  const onRock = stopsOf(
    { ...zone, tank: { ...zone.tank, solids: [rock] } },
    { ...habits, places: 'grid', gridColumns: 3, gridRows: 2, gridDepthCm: 45 },
  );
  // the sensor stands on the rock, not in it
  expect(onRock[0]!.depthCm).toBe(20);
  expect(onRock[1]!.depthCm).toBe(45);
});

test('what can be lit: plateaus, now, full, plates by hand, and every colour alone at its share', () => {
  const all = lightings(doc, groups, 700);
  const ids = all.map((l) => l.id);
  expect(ids).toEqual(expect.arrayContaining(['now', 'full', `alone:${groups[0]!.groupId}/violet`]));
  expect(ids.filter((id) => id.startsWith('plateau:')).length).toBeGreaterThan(1);
  expect(ids.filter((id) => id.startsWith('plate:'))).toHaveLength(doc.plates.length);
  const alone = all.find((l) => l.id.endsWith('/violet'))!.levelsAt(0.4)[groups[0]!.groupId]!;
  expect(alone.violet).toBeCloseTo(0.4, 9);
  expect(Object.values(alone).filter((v) => v > 0)).toHaveLength(1);
  const full = all.find((l) => l.id === 'full')!;
  expect(Object.values(full.levelsAt(1)[groups[0]!.groupId]!).every((v) => v > 0)).toBe(true);
  // the day's own light is not scaled by hand
  const plateau = all.find((l) => l.id.startsWith('plateau:'))!;
  expect(plateau.scaled).toBe(false);
  expect(plateau.levelsAt(0.1)).toEqual(plateau.levelsAt(1));
});

test('under a light that moves with the day a reading counts by the light of its own minute', () => {
  const [first, second] = stopsOf(zone, habits);
  const minuteOf = (utc: string) => 60 * Number(utc.slice(11, 13)) + Number(utc.slice(14, 16));
  const now = lightings(doc, groups, 1080).find((l) => l.id === 'now')!;
  const at = (minute: string, levels = now.dayAt!(minuteOf(`2026-11-24T${minute}`))): Reading => ({
    ...first!,
    ...{ id: minute, atUtc: `2026-11-24T${minute}:00.000Z`, tries: [1], bands: null, levels },
  });
  const walked = { ...session, readings: [at('14:05'), at('17:20')] };
  expect(readingAt(walked, first!, now.levelsAt(1))).toBeUndefined();
  expect(readUnderDay(walked, first!, now, minuteOf)!.id).toBe('17:20');
  expect(readUnderDay(walked, second!, now, minuteOf)).toBeUndefined();
  // what was read under something else is not the day's
  const full = lightings(doc, groups, 1080).find((l) => l.id === 'full')!;
  expect(
    readUnderDay({ ...session, readings: [at('14:05', full.levelsAt(1))] }, first!, now, minuteOf),
  ).toBeUndefined();
  expect(readUnderDay(walked, first!, full, minuteOf)).toBeUndefined();
});

test('a reading belongs to its place and its light', () => {
  const [first, second] = stopsOf(zone, habits);
  const levels = { g: { a: 1 } };
  const reading = { ...first!, id: 'r', atUtc: '2026-11-24T12:00:00.000Z', tries: [1], bands: null, levels };
  const read = { ...session, readings: [reading] };
  expect(readingAt(read, first!, levels)).toBe(reading);
  expect(readingAt(read, second!, levels)).toBeUndefined();
  expect(readingAt(read, first!, { g: { a: 0.5 } })).toBeUndefined();
  const spotless = { ...first!, spotId: null };
  expect(readingAt(read, spotless, levels)).toBeUndefined();
  expect(plainSpot({ id: 'x', name: 'x', xCm: 1, yCm: 1, depthCm: 1, need: null }).openShare).toBe(1);
});

test('levels go out under their names and come back under their ids', () => {
  const levels = { [groups[0]!.groupId]: { violet: 0.5, blue: 0 } };
  const reading = { ...stopsOf(zone, habits)[0]!, id: 'r', atUtc: '', tries: [1], bands: null, levels };
  const named = withNames(reading, session).levels;
  expect(named).toEqual({ 'Panels / Violet': 0.5, 'Panels / Blue': 0 });
  const back = levelsByName(named, groups)!;
  expect(back[groups[0]!.groupId]).toMatchObject({ violet: 0.5, blue: 0, cyan: 0 });
  expect(levelsByName({ 'Other / Red': 1 }, groups)).toBeNull();
  expect(levelsByName(null, groups)).toBeNull();
  expect(litWords(reading, session, 1)).toBe('Violet alone at 50 %');
  expect(litWords({ ...reading, levels: { [groups[0]!.groupId]: { violet: 1, blue: 1 } } }, session, 1)).toBe(
    '2 channels lit',
  );
});

test('a first reading far from what was expected names what else would give it, the nearest first', () => {
  const others = [
    { id: 'now', shown: 250 },
    { id: 'full', shown: 640 },
    { id: 'plate', shown: 215 },
    { id: 'blue', shown: 205 },
    { id: 'dark', shown: 0 },
    { id: 'other', shown: 262 },
  ];
  const ids = (shown: number, expected: number, band: number) =>
    likelyLit(shown, expected, band, others)?.map((l) => l.id) ?? null;
  // 531 ± 37 % reaches down to 335: 252 is beyond it
  expect(ids(252, 531, 0.37)).toEqual(['now', 'other', 'plate']);
  expect(ids(340, 531, 0.37)).toBeNull();
  expect(ids(730, 531, 0.37)).toEqual(['full']);
  expect(ids(725, 531, 0.37)).toBeNull();
  // however well fitted, a hand is off by some
  expect(ids(100, 112, 0.02)).toBeNull();
  expect(ids(94, 112, 0.02)).toEqual([]);
  expect(ids(0, 100, 0.3)).toEqual(['dark']);
});
