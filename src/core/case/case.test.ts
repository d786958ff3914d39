import { displayCase } from '@/demo/lagoon';

import { accustom, type DayLight } from '../easing/accustomed';
import { sheetCsv, sheetPlainText } from '../formats/sheetText';
import { computeResponse, type ResponseMatrix } from '../optics/response';
import { par } from '../spectrum/bands';
import { differences } from './difference';
import {
  dayAt,
  parTable,
  dliUntil,
  doseAt,
  levelsOfGroups,
  partsUnder,
  parUnder,
  spectrumUnder,
  wattsUnder,
  zoneLight,
  zoneLitHours,
} from './light';
import { afterTyping, draftGroups, type LitGroup, litRunning, rigKey, rigOf, runningAt } from './lit';
import { bareCalibration } from './calibration';
import { judgeWater } from './judgement';
import { momentOf, threadsChanged } from './moment';
import { type ParOf, replay, soFarAt } from './replay';
import { endsWords, lampTable, roundingEffect } from './table';
import type { CaseBundle } from '../record/documents';
import type { HistoryDoc, RunningEntry } from '../record/history';
import type { Zone } from '../record/zone';

const NOW = '2026-11-24T12:00:00.000Z';
const bundle = displayCase(Date.parse(NOW), 'UTC');
const doc = bundle.case;
const zone = doc.zones[0]!;
const group = zone.groups[0]!;
const groups = draftGroups(doc, zone);
const matrixOf = (g: LitGroup[]): ResponseMatrix => computeResponse(rigOf(g, zone, zone.spots));
const parOf: ParOf = (g, yellow440PerM, places) =>
  parTable(computeResponse(rigOf(g, { ...zone, water: { ...zone.water, yellow440PerM } }, places)), g, null);
const used = (z: Zone, history: HistoryDoc, at: string) => replay(z, history, bundle.log, null, at, parOf);
const light = zoneLight(matrixOf(groups), groups);
const cal = bareCalibration(groups, zone);
const judged = (accustomed: DayLight[], of = zone) =>
  judgeWater({ state: 'runs', zone: of, groups, light, cal, accustomed, ceiling: 1.3 }).corals;

/** The demo with a second, unlike group: a bar that holds its level. */
function twoGroups(): CaseBundle {
  const bar = {
    ...doc.lampKinds[0]!,
    id: 'bar',
    channels: [doc.lampKinds[0]!.channels[3]!],
    controls: [doc.lampKinds[0]!.controls[3]!],
    controller: { ...doc.lampKinds[0]!.controller, pointStepShare: 0, interpolation: 'hold' as const },
  };
  const second = {
    ...group,
    id: 'g2',
    name: 'Bar',
    lampKindId: 'bar',
    capShare: 1,
    lamps: [{ id: 'b1', name: 'bar', xCm: 75, yCm: 8, heightCm: 15, turnDeg: 0 }],
    threads: [
      { id: 'x', minute: 720, strengthShare: 0.5, mix: { own: { blue: 1 } } },
      { id: 'y', minute: 900, strengthShare: 0, mix: { own: { blue: 1 } } },
    ],
  };
  return {
    ...bundle,
    case: { ...doc, lampKinds: [...doc.lampKinds, bar], zones: [{ ...zone, groups: [group, second] }] },
  };
}

test('light at a spot is the sum of its lamps, and PAR agrees with the spectrum', () => {
  for (const minute of [0, 600, 845, 1100]) {
    const levels = levelsOfGroups(groups, minute);
    const here = parUnder(light, levels, 1);
    expect(partsUnder(light, groups, levels, 1).reduce((s, p) => s + p.umol, 0)).toBeCloseTo(here, 9);
    expect(par(spectrumUnder(light, levels, 1))).toBeCloseTo(here, 6);
  }
  expect(wattsUnder(groups, levelsOfGroups(groups, 0))).toBe(0);
});

test('a gain scales PAR, spectra and doses alike', () => {
  const gains = { [group.id]: Object.fromEntries(groups[0]!.lampKind.channels.map((c) => [c.id, 1.4])) };
  const scaled = zoneLight(matrixOf(groups), groups, { gains });
  expect(dayAt(scaled, groups, 0).dli / dayAt(light, groups, 0).dli).toBeCloseTo(1.4, 9);
  expect(doseAt(scaled, groups, 0).violet / doseAt(light, groups, 0).violet).toBeCloseTo(1.4, 9);
});

test('doses inside PAR add up to the DLI; near UV stands apart', () => {
  const dose = doseAt(light, groups, 2);
  const inside = dose.violet + dose.royalBlue + dose.blue + dose.cyan + dose.green + dose.amber + dose.red;
  // far red counts towards DLI only to 700 nm
  expect(dayAt(light, groups, 2).dli).toBeGreaterThanOrEqual(inside);
  expect(dayAt(light, groups, 2).dli).toBeLessThanOrEqual(inside + dose.farRed);
  expect(dose.nearUv).toBeGreaterThan(0);
});

describe('two unlike groups', () => {
  const two = twoGroups();
  const z = two.case.zones[0]!;
  const lit = draftGroups(two.case, z);
  const both = zoneLight(matrixOf(lit), lit);

  test('add up at every moment, and the peak of the sum is the true one', () => {
    let sampled = 0;
    let integral = 0;
    for (let m = 0; m < 1440; m += 1) {
      const value = parUnder(both, levelsOfGroups(lit, m), 2);
      sampled = Math.max(sampled, value);
      integral += parUnder(both, levelsOfGroups(lit, m + 0.5), 2) * 60;
    }
    const day = dayAt(both, lit, 2);
    expect(day.peak).toBeGreaterThanOrEqual(sampled - 1e-9);
    expect(day.peak / sampled).toBeLessThan(1.002);
    expect(day.dli / (integral / 1e6)).toBeCloseTo(1, 3);
    expect(zoneLitHours(lit)).toBeCloseTo(11.5, 1);
  });

  test('a held level counts to its end: the instant before it goes dark may be the brightest', () => {
    const late = {
      ...lit[1]!,
      day: {
        ...lit[1]!.day,
        knots: [
          { minute: 700, levels: [0.9] },
          { minute: 845, levels: [0] },
        ],
      },
    };
    const day = dayAt(both, [lit[0]!, late], 2);
    expect(day.peak).toBeCloseTo(parUnder(both, levelsOfGroups([lit[0]!, late], 844.999999), 2), 3);
  });

  test('typing one group in leaves the other as it runs', () => {
    const after = afterTyping(two.case, two.history, z, 'g2', NOW);
    expect(after.map((g) => g.groupId)).toEqual(['demo-panels', 'g2']);
    expect(
      afterTyping(two.case, { ...two.history, entries: [] }, z, 'g2', NOW).map((g) => g.groupId),
    ).toEqual(['g2']);
    expect(runningAt(two.history, z, '2020-01-01T00:00:00.000Z')).toEqual([]);
  });
});

test('the key of a rig changes with what makes its light and with nothing else', () => {
  const key = rigKey(groups, zone, zone.spots);
  const louder = draftGroups(
    { ...doc, zones: [{ ...zone, groups: [{ ...group, capShare: 0.1 }] }] },
    { ...zone, groups: [{ ...group, capShare: 0.1 }] },
  );
  expect(rigKey(louder, zone, zone.spots)).toBe(key);
  const moved = [
    { ...groups[0]!, lamps: groups[0]!.lamps.map((l, i) => (i === 0 ? { ...l, xCm: l.xCm + 5 } : l)) },
  ];
  expect(rigKey(moved, zone, zone.spots)).not.toBe(key);
  expect(rigKey(groups, { ...zone, water: { ...zone.water, yellow440PerM: 0.5 } }, zone.spots)).not.toBe(key);
});

test('Mix speaks of the brightest thread that uses its plate', () => {
  expect(momentOf(light, groups, group, 'demo-late', 0)).toEqual({ minute: 1050, used: true });
  expect(momentOf(light, groups, group, 'demo-noon', 0)).toEqual({ minute: 845, used: true });
  expect(momentOf(light, groups, group, 'nowhere', 0).used).toBe(false);
  const brighter = draftGroups(
    {
      ...doc,
      plates: doc.plates.map((p) =>
        p.id === 'demo-late' ? { ...p, mix: { ...p.mix, 'royal-blue': 1 } } : p,
      ),
    },
    zone,
  );
  const changed = threadsChanged(light, groups, brighter, group, 'demo-late', 0);
  expect(changed.map((c) => c.time)).toEqual(['10:30', '17:30']);
  changed.forEach((c) => expect(c.after).toBeGreaterThan(c.before));
});

test('the sheet says when the day ends dark, over midnight too, and what never goes out', () => {
  const ends = (times: string[], ...rows: number[][]) =>
    endsWords({
      times,
      controls: rows.map((percents, i) => ({ name: ['Blue', 'White'][i]!, kind: 'level', percents })),
      capPercent: 80,
    });
  expect(ends(['08:00', '14:00', '22:00'], [0, 60, 0], [0, 40, 0])).toBe('Ends dark at 22:00.');
  expect(ends(['01:00', '10:00', '14:00', '23:00'], [0, 0, 60, 20])).toBe('Ends dark at 01:00.');
  // a pause at noon is no night
  expect(ends(['08:00', '10:00', '12:00', '13:00', '15:00', '20:00'], [0, 50, 0, 0, 50, 0])).toBe(
    'Ends dark at 20:00.',
  );
  expect(ends(['08:00', '14:00', '22:00'], [5, 60, 8], [0, 40, 0])).toBe(
    '▲ It is never dark: Blue never falls below 5 %.',
  );
  expect(ends(['08:00', '20:00'], [5, 0], [0, 5])).toBe(
    '▲ It is never dark: at every time something is lit.',
  );
  expect(ends(['08:00'], [0])).toBe('Every value is 0: the lamp stays dark.');
  expect(ends([])).toBe('No time is set: the lamp stays dark.');
  expect(endsWords(lampTable(groups[0]!))).toBe('Ends dark at 20:10.');
});

test('the draft says what it changes, a sentence each', () => {
  const running = bundle.history.entries[0]!;
  expect(differences(doc, group, running)).toEqual([]);
  expect(differences(doc, group, undefined)).toEqual(['nothing is known to be running yet']);
  const threads = group.threads
    .map((t) => (t.minute === 1050 ? { ...t, minute: 1080, strengthShare: 0.5 } : t))
    .slice(0, 5);
  const draft = { ...group, capShare: 0.5, threads, lamps: [{ ...group.lamps[0]!, heightCm: 30 }] };
  expect(differences(doc, draft, running)).toEqual([
    'cap 80 % → 50 %',
    '17:30 → 18:00, strength 92 % → 50 %',
    'thread at 20:10 removed',
    'lamp left hangs elsewhere',
    'lamp right taken down',
  ]);
  // all threads slid alike are one change
  const slid = (by: number) => ({
    ...group,
    threads: group.threads.map((t) => ({ ...t, minute: (t.minute + by + 1440) % 1440 })),
  });
  expect(differences(doc, slid(30), running)).toEqual(['the whole day 30 min later']);
  expect(differences(doc, { ...slid(-600), capShare: 0.5 }, running)).toEqual([
    'cap 80 % → 50 %',
    'the whole day 10 h earlier',
  ]);
  const plates = doc.plates.map((p) => (p.id === 'demo-noon' ? { ...p, mix: { ...p.mix, violet: 0.1 } } : p));
  expect(differences({ ...doc, plates }, group, running)).toEqual(['14:05: Reading noon changed']);
});

describe('what the corals are used to', () => {
  const entry = bundle.history.entries[0]!;
  const at = (days: number) => new Date(Date.parse(entry.atUtc) + days * 86_400_000).toISOString();
  const history = (entries: RunningEntry[]) => ({ ...bundle.history, entries });

  test('a tank that was used to its light is at 1 for as long as nothing changes', () => {
    const now = used(zone, bundle.history, NOW);
    judged(now.perSpot).forEach((c) => expect(c.step!.ratio).toBeCloseTo(1, 9));
    expect(now.known).toBe(true);
  });

  test('new light starts from the unknown and is approached day by day', () => {
    const fresh = history([{ ...entry, usedTo: false }]);
    const start = used(zone, fresh, entry.atUtc).perSpot[0]!;
    expect(start).toMatchObject({ dli: 180 * 8 * 0.0036, peak: 180 });
    // typed in at noon: half of the first day, then nine whole ones
    const later = used(zone, fresh, at(10)).perSpot[0]!;
    const expected = accustom(start, dayAt(light, groups, 0), 9.5);
    expect(later.dli).toBeCloseTo(expected.dli, 9);
    expect(later.peak).toBeCloseTo(expected.peak, 9);
    expect(used(zone, history([]), NOW)).toMatchObject({ known: false, changes: [] });
  });

  it('lives through clouds day by day for a year or so, whatever came before: half a century costs no more', () => {
    const weather = { seed: 7, depthShare: 0.5, cloudyShare: 1, storms: false, flashesPerSecond: 1 };
    const cloudy = (atUtc: string): HistoryDoc => ({
      ...bundle.history,
      entries: [{ ...entry, extras: { weather }, usedTo: false, atUtc }],
    });
    const timed = (atUtc: string) => {
      const began = performance.now();
      return { perSpot: used(zone, cloudy(atUtc), NOW).perSpot, ms: performance.now() - began };
    };
    const { perSpot: recent, ms: short } = timed('2025-06-24T08:00:00.000Z');
    const { perSpot: old, ms: long } = timed('1970-01-02T08:00:00.000Z');
    old.forEach((light, s) => expect(light.dli).toBeCloseTo(recent[s]!.dli, 4));
    const plain = used(zone, history([entry]), NOW).perSpot;
    expect(old[0]!.dli).toBeLessThan(0.95 * plain[0]!.dli);
    // day by day it would be forty times as long
    expect(long).toBeLessThan(5 * short);
  });

  test('a sketch changes nothing; a step typed in earlier weighs more', () => {
    const louder = { ...entry, id: 'b', capShare: 1, usedTo: false };
    const late = used(zone, history([entry, { ...louder, atUtc: at(10) }]), at(12)).perSpot[0]!;
    const early = used(zone, history([entry, { ...louder, atUtc: at(4) }]), at(12)).perSpot[0]!;
    expect(early.peak).toBeGreaterThan(late.peak);
    expect(late.peak).toBeGreaterThan(dayAt(light, groups, 0).peak);
    // the order of the list is no matter
    expect(used(zone, history([{ ...louder, atUtc: at(4) }, entry]), at(12)).perSpot[0]!).toEqual(early);
  });

  test('a change met says how sure its step is, as the judgement of that day does; another lamp is less sure than the same one brighter', () => {
    const with_ = (next: RunningEntry) =>
      replay(zone, history([entry, next]), bundle.log, cal, next.atUtc, parOf);
    const louder = { ...entry, id: 'b', capShare: 1, usedTo: false, atUtc: at(10) };
    const { changes, perSpot } = with_(louder);
    const lit = litRunning(louder);
    const then = zoneLight(matrixOf([lit]), [lit]);
    const { corals } = judgeWater({
      ...{ state: 'runs', zone, groups: [lit], light: then, cal, accustomed: perSpot, ceiling: 1.3 },
    });
    corals.forEach((c) => expect(changes[1]!.bandShares[c.spot]).toBeCloseTo(c.step!.bandShare, 6));
    expect(Math.max(...changes[1]!.bandShares)).toBeLessThan(0.05);
    const other = with_({ ...louder, groupId: 'other', groupName: 'Other lamp' }).changes[1]!;
    expect(Math.min(...other.bandShares)).toBeGreaterThan(0.1);
    // a group whose id is of several words is one group, too
    const groupId = 'front bar';
    const named = groups.map((g) => ({ ...g, groupId }));
    const both = [entry, louder].map((e) => ({ ...e, groupId }));
    const ofWords = bareCalibration(named, zone);
    const spaced = replay(zone, history(both), bundle.log, ofWords, louder.atUtc, parOf).changes[1]!;
    spaced.bandShares.forEach((b, s) => expect(b).toBeCloseTo(changes[1]!.bandShares[s]!, 9));
    expect(used(zone, history([entry, louder]), at(10)).changes[1]!.bandShares.every((b) => b === 0)).toBe(
      true,
    );
  });

  test('light so far follows what ran, cut where something was typed in', () => {
    const whole = soFarAt(
      zone,
      bundle.history,
      bundle.log,
      null,
      [{ fromMinute: 0, toMinute: 1440, atUtc: NOW }],
      parOf,
    );
    whole.forEach((sum, s) => expect(sum).toBeCloseTo(dayAt(light, groups, s).dli, 9));
    const off = { ...entry, id: 'off', capShare: 0, atUtc: at(11.9) };
    const cut = soFarAt(
      zone,
      history([entry, off]),
      bundle.log,
      null,
      [
        { fromMinute: 0, toMinute: 800, atUtc: at(11) },
        { fromMinute: 800, toMinute: 1440, atUtc: at(11.95) },
      ],
      parOf,
    );
    expect(cut[0]).toBeCloseTo(dliUntil(light, groups, 0, 800), 9);
  });
});

test('the sheet holds what is typed, rounding is told in light, and formulas are defused', () => {
  const table = lampTable(groups[0]!);
  expect(table.capPercent).toBe(80);
  expect(table.times).toEqual(['08:40', '10:30', '14:05', '17:30', '19:00', '20:10']);
  table.controls.forEach((c) => c.percents.forEach((p) => expect(p).toBe(Math.round(p))));
  const effect = roundingEffect(groups[0]!, light, 0, 0);
  expect(Math.abs(effect.umol)).toBeGreaterThan(0);
  expect(Math.abs(effect.umol)).toBeLessThan(3);
  const csv = sheetCsv({
    ...table,
    controls: [{ name: '=cmd()', kind: 'level', percents: table.times.map(() => 1) }],
  });
  expect(csv.split('\r\n')[0]).toBe(`time,"'=cmd() (%)",cap (%)`);
  expect(sheetPlainText('Panel', table)).toContain('Royal blue     0    29    82    79    24     0');
});

describe('what a place hangs on', () => {
  const lampWith = (change: object) => ({
    ...groups[0]!,
    lamps: groups[0]!.lamps.map((l, i) => (i === 0 ? { ...l, ...change } : l)),
  });
  const key = (g: LitGroup[], bent: Parameters<typeof rigKey>[3] = null) => rigKey(g, zone, zone.spots, bent);

  test('a rig is another when a lamp leans, an optic changes, the water yellows or a beam is found sharper', () => {
    const keys = [
      key(groups),
      key([lampWith({ tiltDeg: 10 })]),
      key([lampWith({ tiltDeg: 10, tiltTowardDeg: 90 })]),
      key([{ ...groups[0]!, lampKind: { ...groups[0]!.lampKind, diffuserShare: 0.3 } }]),
      key(groups, { yellow440PerM: 0.3, beams: {} }),
      key(groups, { yellow440PerM: zone.water.yellow440PerM, beams: { [groups[0]!.groupId]: 1.2 } }),
    ];
    expect(new Set(keys).size).toBe(keys.length);
    // a day or a cap is no part of it
    expect(key([{ ...groups[0]!, day: { ...groups[0]!.day, capShare: 0.1 } }])).toBe(keys[0]);
    expect(key(groups, { yellow440PerM: zone.water.yellow440PerM, beams: {} })).toBe(keys[0]);
  });

  test('a leaning lamp and another optic are told against what runs', () => {
    const running = bundle.history.entries[0]!;
    const [first, ...rest] = group.lamps;
    const leaning = { ...group, lamps: [{ ...first!, tiltDeg: 15, tiltTowardDeg: 90 }, ...rest] };
    expect(differences(doc, leaning, running)).toEqual(['lamp left hangs elsewhere']);
    // a direction without a tilt is none
    expect(
      differences(doc, { ...group, lamps: [{ ...first!, tiltTowardDeg: 90 }, ...rest] }, running),
    ).toEqual([]);
    const matt = { ...doc, lampKinds: doc.lampKinds.map((k) => ({ ...k, diffuserShare: 0.5 })) };
    expect(differences(matt, group, running)).toEqual(['the lamp is described differently']);
  });

  test('what does not live by light is used to any, and no change is a step for it', () => {
    const dark = {
      ...zone,
      spots: zone.spots.map((s, i) => (i === 1 ? { ...s, need: 'nonPhotosynthetic' as const } : s)),
    };
    const now = used(dark, bundle.history, NOW);
    expect(now.perSpot[1]).toEqual({ dli: Infinity, peak: Infinity });
    expect(judged(now.perSpot, dark)[1]!.step).toBeNull();
    expect(now.perSpot[0]!.peak).toBeLessThan(1000);
    const fresh = used(dark, { ...bundle.history, entries: [] }, NOW);
    expect(fresh.perSpot[1]!.peak).toBe(Infinity);
  });
});
