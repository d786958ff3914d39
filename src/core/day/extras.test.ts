import * as fc from 'fast-check';

import { libraryLamp } from '../library/lamps';
import { PLAIN_CONTROLLER } from '../spectrum/lampKind';
import { type Day, dli, fullSeconds, levelsAt, litHours, secondsBetween } from './day';
import { DAY_MINUTES } from '../shape/ring';
import {
  CLOUD_DEPTH_MOST,
  cloudsOn,
  darkStretches,
  daylightHours,
  drifted,
  driftMinutes,
  extraDay,
  FLASHES_MOST,
  flashesOn,
  insertWindow,
  type Interlude,
  moonAsThreads,
  moonOn,
  type Weather,
} from './extras';
import { dayLength, mirrored, plateauOf, scaled, shifted, stretched, unrolled, withPlateau } from './moves';
import { ACTED, chainAt, lampDay, type ResolvedThread } from './thread';
import { behindWall, civilDay, clockRuns, nextClockChange, runsUpTo, secondsOver } from './wallClock';

const kind = libraryLamp('lib-nine');
const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 0.5]));
const threads: ResolvedThread[] = [
  { minute: 540, strengthShare: 0, mix },
  { minute: 720, strengthShare: 1, mix },
  { minute: 1080, strengthShare: 1, mix },
  { minute: 1200, strengthShare: 0, mix },
];
const shares = { capShare: 0.8, easingShare: 1 };
const berlin = (date: string) => ({ date, timeZone: 'Europe/Berlin' });
const plain = lampDay(kind, threads, shares);
const ones = kind.channels.map(() => 100);

describe('windows in a day', () => {
  test('inside it is what was put there, outside nothing has changed, and its dose is the difference', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 1, max: 600 }),
        fc.constantFrom('ramp' as const, 'hold' as const),
        (from, length, interpolation) => {
          const day: Day = { ...plain, interpolation };
          const to = Math.min(DAY_MINUTES, from + length);
          const levels = kind.channels.map((_, c) => (c % 3) / 4);
          const cut = insertWindow(day, from, to, levels);
          let worst = 0;
          for (let m = 0; m < DAY_MINUTES; m += 7) {
            const want = m >= from && m < to ? levels.map((v) => v * 0.8) : levelsAt(day, m);
            levelsAt(cut, m).forEach((v, c) => (worst = Math.max(worst, Math.abs(v - want[c]!))));
          }
          expect(worst).toBeLessThan(1e-5);
          const inside = secondsBetween(day, from, to);
          const off = fullSeconds(cut).map(
            (v, c) => v - (fullSeconds(day)[c]! - inside[c]! + levels[c]! * 0.8 * (to - from) * 60),
          );
          expect(Math.max(...off.map(Math.abs))).toBeLessThan(0.01);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('the dark of a day is one stretch over midnight; a day that never lights is dark all round', () => {
    expect(darkStretches(plain)).toEqual([{ from: 1200, to: 1980 }]);
    expect(darkStretches({ ...plain, knots: [{ minute: 60, levels: [0] }] })).toEqual([
      { from: 0, to: 1440 },
    ]);
    const held = lampDay(kind, threads, shares);
    expect(darkStretches({ ...held, interpolation: 'hold' })).toEqual([{ from: 1200, to: 2160 }]);
    expect(darkStretches({ ...plain, knots: [] })).toEqual([]);
  });
});

describe('moon', () => {
  const moon = { mix: { 'royal-blue': 1 }, strengthShare: 0.02, fromMinute: 1320, toMinute: 240, real: null };
  const blue = kind.channels.findIndex((c) => c.id === 'royal-blue');

  test('shines in the dark alone, in its window, and the cap holds for it', () => {
    const day = extraDay(kind, threads, shares, { moon }, null);
    expect(levelsAt(day, 1380)[blue]).toBeCloseTo(0.02 * 0.8, 9);
    expect(levelsAt(day, 120)[blue]).toBeCloseTo(0.02 * 0.8, 9);
    expect(levelsAt(day, 300)[blue]).toBe(0);
    expect(levelsAt(day, 1260)[blue]).toBe(0);
    levelsAt(day, 900).forEach((v, c) => expect(v).toBeCloseTo(levelsAt(plain, 900)[c]!, 9));
    const shone = Array.from({ length: 1440 }, (_, m) => m + 0.5).filter((m) => levelsAt(day, m)[blue]! > 0);
    expect(shone.length / 60).toBeCloseTo(litHours(plain) + 6, 1);
    // it is no day
    expect(litHours(day)).toBeCloseTo(litHours(plain), 6);
  });

  test('as threads it is the same light within four minutes a night, also where the lamp holds', () => {
    for (const interpolation of ['ramp', 'hold'] as const) {
      const lamp = { ...kind, controller: { ...kind.controller, interpolation } };
      const made = moonAsThreads(lamp, threads, moon);
      expect(new Set(made.map((t) => t.minute)).size).toBe(made.length);
      const [typed, meant] = [lampDay(lamp, made, shares), extraDay(lamp, threads, shares, { moon }, null)];
      const off = fullSeconds(typed).map((v, c) => Math.abs(v - fullSeconds(meant)[c]!));
      expect(Math.max(...off)).toBeLessThan(0.02 * 0.8 * 60 * 6);
      expect(levelsAt(typed, 300).every((v) => v === 0)).toBe(true);
      expect(levelsAt(typed, 0)[blue]).toBeCloseTo(0.016, 9);
    }
    // a window that ends with the dark does not touch first light
    const long = moonAsThreads(kind, threads, { ...moon, fromMinute: 1200, toMinute: 540 });
    expect(long.map((t) => t.minute)).toEqual([538, 539, 540, 720, 1080, 1200, 1201, 1202]);
  });

  test('a rescaling cap looks at the plain day, not at what is put into it', () => {
    const rescales = { ...kind, controller: { ...PLAIN_CONTROLLER, capMeans: 'rescales' as const } };
    const strong = { ...moon, strengthShare: 1 };
    const day = extraDay(rescales, threads, shares, { moon: strong }, null);
    expect(Math.max(...levelsAt(day, 900))).toBeCloseTo(0.8, 9);
  });

  test('the real moon: full and new as the almanac has them, never brighter than it is set', () => {
    const place = { latitudeDeg: 52, longitudeDeg: 13 };
    // full moon 2026-01-03, new moon 2026-02-17 (astronomical almanac)
    expect(moonOn(place, berlin('2026-01-03')).litShare).toBeGreaterThan(0.98);
    expect(moonOn(place, berlin('2026-02-17')).litShare).toBeLessThan(0.02);
    const minutesUp = moonOn(place, berlin('2026-01-03')).up.reduce((s, [a, b]) => s + b - a, 0);
    // a full moon in winter stands high and long
    expect(minutesUp / 60).toBeGreaterThan(14);
    for (let d = 1; d <= 28; d += 3) {
      const on = berlin(`2026-02-${String(d).padStart(2, '0')}`);
      const day = extraDay(kind, threads, shares, { moon: { ...moon, real: place } }, on);
      for (let m = 0; m < 540; m += 30)
        expect(levelsAt(day, m)[blue]).toBeLessThanOrEqual(0.02 * 0.8 * moonOn(place, on).litShare + 1e-9);
    }
  });
});

describe('weather', () => {
  const weather: Weather = { seed: 7, depthShare: 0.5, cloudyShare: 1, storms: true, flashesPerSecond: 3 };

  test('clouds take at most their depth, come back the same for a seed, and only ever take', () => {
    let cloudy = 0;
    for (let d = 1; d <= 30; d += 1) {
      const on = berlin(`2026-06-${String(d).padStart(2, '0')}`);
      const corners = cloudsOn(weather, on);
      expect(cloudsOn(weather, on)).toEqual(corners);
      corners.forEach(([m, left], i) => {
        expect(left).toBeGreaterThanOrEqual(1 - CLOUD_DEPTH_MOST - 1e-9);
        expect(m).toBeGreaterThan(corners[i - 1]?.[0] ?? -1);
      });
      const day = extraDay(kind, threads, shares, { weather }, on);
      expect(dli(day, ones)).toBeLessThan(dli(plain, ones));
      expect(dli(day, ones)).toBeGreaterThan(0.5 * dli(plain, ones));
      let above = 0;
      for (let m = 0; m < DAY_MINUTES; m += 11)
        levelsAt(day, m).forEach((v, c) => (above = Math.max(above, v - levelsAt(plain, m)[c]!)));
      expect(above).toBeLessThan(1e-6);
      cloudy += cloudsOn({ ...weather, cloudyShare: 0.3 }, on).length > 0 ? 1 : 0;
    }
    expect(cloudy).toBeGreaterThan(2);
    expect(cloudy).toBeLessThan(18);
  });

  test('never more than three flashes in any second, over two hundred storms', () => {
    let storms = 0;
    for (let seed = 0; seed < 1200; seed += 1) {
      const flashes = flashesOn({ ...weather, seed, flashesPerSecond: 99 }, berlin('2026-06-01'), 1200);
      if (flashes.length === 0) continue;
      storms += 1;
      const most = Math.max(
        ...flashes.map((f) => flashes.filter((x) => x.atS >= f.atS && x.atS < f.atS + 1).length),
      );
      expect(most).toBeLessThanOrEqual(FLASHES_MOST);
      expect(flashes.every((f, i) => f.atS > (flashes[i - 1]?.atS ?? -1))).toBe(true);
    }
    expect(storms).toBeGreaterThan(100);
    expect(flashesOn({ ...weather, storms: false }, berlin('2026-06-01'), 1200)).toEqual([]);
  });
});

describe('interludes', () => {
  const interlude = (change: Partial<Interlude> = {}): Interlude => ({
    id: 'i',
    kind: 'photograph',
    date: '2026-11-24',
    fromMinute: 800,
    minutes: 20,
    strengthShare: 0.5,
    mix: { 'cool-white': 1 },
    mixName: 'Photographs',
    ...change,
  });
  const white = kind.channels.findIndex((c) => c.id === 'cool-white');

  test('takes the place of the threads on its date alone, ends for certain, and keeps the cap', () => {
    const on = berlin('2026-11-24');
    const day = extraDay(kind, threads, shares, { interludes: [interlude()] }, on);
    expect(levelsAt(day, 810)[white]).toBeCloseTo(0.4, 9);
    expect(levelsAt(day, 810).filter((v) => v > 0)).toHaveLength(1);
    levelsAt(day, 820).forEach((v, c) => expect(v).toBeCloseTo(levelsAt(plain, 820)[c]!, 6));
    const other = extraDay(kind, threads, shares, { interludes: [interlude()] }, berlin('2026-11-25'));
    expect(fullSeconds(other)).toEqual(fullSeconds(plain));
  });

  test('the chain says what took the place of the threads, and ends at the light there is', () => {
    const on = berlin('2026-11-24');
    const day = extraDay(kind, threads, shares, { interludes: [interlude({ strengthShare: 0.3 })] }, on);
    const chain = chainAt(threads, day, kind, 'cool-white', 810);
    expect(chain.map((f) => f.name)).toEqual(['between its threads', ACTED, 'cap', 'easing']);
    expect(chain.find((f) => f.name === ACTED)!.after).toBeCloseTo(0.3, 9);
    expect(chain.at(-1)!.after).toBeCloseTo(levelsAt(day, 810)[white]!, 9);
    expect(chainAt(threads, day, kind, 'cool-white', 900).map((f) => f.name)).not.toContain(ACTED);
    const moon = {
      mix: { 'royal-blue': 1 },
      strengthShare: 0.02,
      fromMinute: 1320,
      toMinute: 240,
      real: null,
    };
    const night = extraDay(kind, threads, shares, { moon }, null);
    expect(chainAt(threads, night, kind, 'royal-blue', 60).at(-1)!.after).toBeCloseTo(0.016, 9);
  });

  test('one over midnight ends on the next date; without the cap it is as strong as it says', () => {
    const late = interlude({ fromMinute: 1430, minutes: 30 });
    const free = { ...kind, controller: { ...PLAIN_CONTROLLER, interludeUnderCap: false } };
    const next = extraDay(free, threads, shares, { interludes: [late] }, berlin('2026-11-25'));
    expect(levelsAt(next, 10)[white]).toBeCloseTo(0.5, 9);
    expect(levelsAt(next, 20)[white]).toBe(0);
    const first = extraDay(free, threads, shares, { interludes: [late] }, berlin('2026-11-24'));
    expect(levelsAt(first, 1435)[white]).toBeCloseTo(0.5, 9);
    expect(levelsAt(first, 5)[white]).toBe(0);
  });
});

describe('drift through the year', () => {
  test('daylight follows the almanac, within the minutes allowed', () => {
    // 52° N: 16 h 45 min on 21 June, 7 h 45 min on 21 December (sunrise equation)
    expect(daylightHours(52, '2026-06-21')).toBeCloseTo(16.75, 0);
    expect(daylightHours(52, '2026-12-21')).toBeCloseTo(7.7, 0);
    expect(daylightHours(0, '2026-06-21')).toBeCloseTo(12.1, 1);
    expect(daylightHours(80, '2026-06-21')).toBe(24);
    expect(daylightHours(80, '2026-12-21')).toBe(0);
    expect(driftMinutes({ latitudeDeg: 52, mostMinutes: 45 }, '2026-06-21')).toBe(45);
    expect(driftMinutes({ latitudeDeg: 52, mostMinutes: 45 }, '2026-12-21')).toBe(-45);
    // half of what the day is longer than 12 h at either end: 16 h 45 min are 2 h 22 min earlier and later
    const free = driftMinutes({ latitudeDeg: 52, mostMinutes: 300 }, '2026-06-21');
    expect(free).toBeCloseTo(30 * daylightHours(52, '2026-06-21') - 360, 9);
    expect(free).toBeGreaterThan(130);
    expect(free).toBeLessThan(150);
  });

  test('first and last light move apart in summer, nothing else is lost', () => {
    const summer = drifted(threads, { latitudeDeg: 52, mostMinutes: 60 }, '2026-06-21');
    expect(summer.map((t) => t.strengthShare)).toEqual(threads.map((t) => t.strengthShare));
    expect(summer[0]!.minute).toBe(480);
    expect(summer[3]!.minute).toBe(1260);
    expect(new Set(summer.map((t) => t.minute)).size).toBe(4);
  });
});

describe('clocks that change', () => {
  const lit = lampDay(kind, [{ minute: 0, strengthShare: 1, mix }], { capShare: 1, easingShare: 1 });
  test('the skipped hour is not lit, the repeated one twice', () => {
    expect(clockRuns(berlin('2026-03-29'))).toEqual([
      { fromMinute: 0, toMinute: 120 },
      { fromMinute: 180, toMinute: 1440 },
    ]);
    expect(clockRuns(berlin('2026-10-25'))).toEqual([
      { fromMinute: 0, toMinute: 180 },
      { fromMinute: 120, toMinute: 1440 },
    ]);
    expect(clockRuns(berlin('2026-11-24'))).toEqual([{ fromMinute: 0, toMinute: 1440 }]);
    const hours = (date: string) => secondsOver(lit, clockRuns(berlin(date)))[0]! / 3600;
    expect(hours('2026-03-29')).toBeCloseTo(23 * 0.5, 9);
    expect(hours('2026-10-25')).toBeCloseTo(25 * 0.5, 9);
    expect(hours('2026-11-24')).toBeCloseTo(24 * 0.5, 9);
  });

  test('a clock of its own runs on: in summer it is an hour behind the wall', () => {
    const own = { follows: false as const, setUtc: '2026-01-10T12:00:00Z' };
    expect(clockRuns(berlin('2026-01-20'), own)).toEqual([{ fromMinute: 0, toMinute: 1440 }]);
    expect(clockRuns(berlin('2026-06-20'), own)).toEqual([
      { fromMinute: 1380, toMinute: 1440 },
      { fromMinute: 0, toMinute: 1380 },
    ]);
    expect(clockRuns(berlin('2026-03-29'), own)).toEqual([{ fromMinute: 0, toMinute: 1380 }]);
  });

  test('light so far is counted by the clock: cut where something is typed in and where the clocks change', () => {
    const runs = runsUpTo(Date.parse('2026-10-25T05:00:00Z'), 'Europe/Berlin', [
      Date.parse('2026-10-24T08:00:00Z'),
      Date.parse('2026-10-25T03:30:00Z'),
    ]);
    expect(runs.map((r) => [r.fromMinute, r.toMinute])).toEqual([
      [0, 180],
      [120, 270],
      [270, 360],
    ]);
    const spring = runsUpTo(Date.parse('2026-03-29T02:00:00Z'), 'Europe/Berlin', []);
    expect(spring.map((r) => [r.fromMinute, r.toMinute])).toEqual([
      [0, 120],
      [180, 240],
    ]);
    expect(behindWall(berlin('2026-07-01'), '2026-01-10T12:00:00Z')).toBe(60);
    expect(behindWall(berlin('2026-02-01'), '2026-01-10T12:00:00Z')).toBe(0);
  });

  test('the next change is found, and none where there is none', () => {
    expect(nextClockChange(berlin('2026-11-24'))).toEqual({ date: '2027-03-28', hours: 23 });
    expect(nextClockChange({ date: '2026-11-24', timeZone: 'Asia/Tokyo' })).toBeNull();
    expect(civilDay(Date.parse('2026-11-24T23:30:00Z'), 'Europe/Berlin').date).toBe('2026-11-25');
  });
});

describe('moves of the whole day', () => {
  const named = threads.map((t, i) => ({ ...t, id: `t${i}` }));
  const minutes = (all: readonly { minute: number }[]) => all.map((t) => t.minute);

  test('shift, stretch, plateau, scale and mirror do what they say', () => {
    expect(minutes(shifted(named, 300))).toEqual([840, 1020, 1380, 60]);
    expect(minutes(stretched(named, 330))).toEqual([705, 795, 975, 1035]);
    expect(dayLength(named)).toBe(660);
    expect(plateauOf(named)).toEqual({ first: 1, last: 2, minutes: 360 });
    expect(minutes(withPlateau(named, 120, (t) => t))).toEqual([660, 840, 960, 1080]);
    expect(scaled(named, 0.5).map((t) => t.strengthShare)).toEqual([0, 0.5, 0.5, 0]);
    expect(scaled(named, 3).map((t) => t.strengthShare)).toEqual([0, 1, 1, 0]);
    expect(minutes(mirrored(named))).toEqual([540, 660, 1020, 1200]);
    const single = named.filter((t) => t.id !== 't2');
    expect(minutes(withPlateau(single, 100, (t) => ({ ...t, id: 'twin' })))).toEqual([490, 670, 770, 1250]);
  });

  test('several threads move together and never land on others', () => {
    const moved = shifted(named, 180, new Set(['t0']));
    expect(moved.find((t) => t.id === 't0')!.minute).toBe(721);
    expect(moved.filter((t) => t.id !== 't0')).toEqual(named.slice(1));
    expect(scaled(named, 0.5, new Set(['t1'])).map((t) => t.strengthShare)).toEqual([0, 0.5, 1, 0]);
  });

  test('over midnight too, a mirrored day mirrored again is itself, and times stay apart', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 700 }), { minLength: 2, maxLength: 8 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 60, max: 1200 }),
        (offsets, start, length) => {
          const day = offsets.map((o, i) => ({
            id: String(i),
            minute: (start + o) % 1440,
            strengthShare: (i + 1) / 10,
          }));
          const key = (all: readonly { id: string; minute: number }[]) =>
            [...all].sort((a, b) => a.minute - b.minute).map((t) => `${t.id}@${t.minute}`);
          expect(key(mirrored(mirrored(day)))).toEqual(key(day));
          for (const moved of [
            stretched(day, length),
            withPlateau(day, length, (t) => ({ ...t, id: 'c' })),
            mirrored(day),
          ])
            expect(new Set(moved.map((t) => t.minute)).size).toBe(moved.length);
          expect(unrolled(day).map((t) => t.minute)).toEqual(
            [...unrolled(day).map((t) => t.minute)].sort((a, b) => a - b),
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  test('a held day mirrored holds each value over the mirrored stretch', () => {
    const held = [
      { id: 'a', minute: 600, strengthShare: 0.3 },
      { id: 'b', minute: 700, strengthShare: 1 },
      { id: 'c', minute: 1000, strengthShare: 0 },
    ];
    expect(mirrored(held, 'hold').map((t) => [t.id, t.minute])).toEqual([
      ['b', 600],
      ['a', 900],
      ['c', 1000],
    ]);
  });
});
