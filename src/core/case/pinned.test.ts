/** Figures and rules that many screens speak of, each held to what it is meant to be. */
import { displayCase } from '@/demo/lagoon';

import { lampDay, chainAt, type ResolvedThread } from '../day/thread';
import { emittedAt, levelsAt, litHours, overall } from '../day/day';
import {
  CEILINGS,
  ceilingFor,
  DISASTER,
  PACES,
  stepRatio,
  steadyDay,
  TAU_DAYS,
  unknownStart,
} from '../easing/accustomed';
import { libraryLamp } from '../library/lamps';
import { channelGains } from '../meter/channelGains';
import { meterKind, parFactor, parRatio, shownUnder } from '../meter/kinds';
import { computeResponse } from '../optics/response';
import { sample } from '../spectrum/grid';
import type { EasingPlan, Runnable, RunningEntry } from '../record/history';
import type { Reading, Session } from '../record/readings';
import { reduceDay } from '../controller/reduce';
import { calibrate } from './calibrate';
import { bareCalibration, hungGroups } from './calibration';
import { windowsOf, onHours, steppedDawn, threadsOfWindows } from './dawn';
import { forecast } from './forecast';
import { bandUnder, lightBetween, parTable, zoneLight } from './light';
import { draftGroups, litRunnable, litRunning, riseShare, rigOf } from './lit';
import { planVisit } from './visit';
import { levelsById, rigGroups } from './plateaus';
import type { ParOf } from './replay';
import { runnable } from './runnable';
import { atSetting } from './settings';
import { simulatedReading } from './simulated';

const NOW = '2026-11-24T12:00:00.000Z';
const bundle = displayCase(Date.parse(NOW), 'UTC');
const zone = bundle.case.zones[0]!;
const entry = bundle.history.entries[0]!;
const panel = runnable(entry);
const on = (date: string) => ({ date, timeZone: 'UTC' });

test('ceilings, paces and starts are the field’s own', () => {
  expect(CEILINGS).toEqual({ gentle: 1.15, usual: 1.3, brisk: 1.5 });
  expect([DISASTER, TAU_DAYS]).toEqual([2, 10]);
  expect(PACES).toEqual({
    coral: { tauDays: 10, downDays: 7, stretch: 1 },
    algae: { tauDays: 4, downDays: 3, stretch: 2 },
  });
  expect(ceilingFor(1.3, PACES.coral)).toBeCloseTo(1.3, 12);
  expect(ceilingFor(1.3, PACES.algae)).toBeCloseTo(1.6, 12);
  // 100 µmol for 10 h are 3.6 mol
  expect(steadyDay(100, 10)).toEqual({ dli: 3.6, peak: 100 });
  expect(unknownStart(50)).toEqual({ dli: 1.44, peak: 50 });
  expect(stepRatio({ dli: 4, peak: 120 }, { dli: 2, peak: 100 })).toMatchObject({ ratio: 2, by: 'DLI' });
  expect(stepRatio({ dli: 2, peak: 150 }, { dli: 2, peak: 100 })).toMatchObject({ ratio: 1.5, by: 'peak' });
});

describe('a controller that eases by itself', () => {
  const rise = { date: '2026-11-10', days: 20, fromShare: 0.4, toShare: 0.9 };
  test('stands at its start before it begins and at its end for ever after', () => {
    expect(riseShare(rise, '2026-11-01')).toBeCloseTo(0.4, 12);
    expect(riseShare(rise, '2026-11-10')).toBeCloseTo(0.4, 12);
    expect(riseShare(rise, '2026-11-15')).toBeCloseTo(0.525, 12);
    expect(riseShare(rise, '2026-11-30')).toBeCloseTo(0.9, 12);
    expect(riseShare(rise, '2027-03-01')).toBeCloseTo(0.9, 12);
    expect(riseShare(rise, null)).toBe(0.9);
    expect(riseShare(undefined, '2026-11-15')).toBe(1);
    expect(riseShare({ ...rise, days: 0 }, '2026-11-10')).toBe(0.9);
  });
  test('lights its lamp by that, on top of its own easing', () => {
    const lit = (date: string) => overall(litRunning({ ...entry, rise, easingShare: 0.5 }, on(date)).day);
    expect(lit('2026-11-20') / lit('2026-12-24')).toBeCloseTo(0.65 / 0.9, 9);
    expect(lit('2026-12-24')).toBeCloseTo(entry.capShare * 0.5 * 0.9, 9);
  });
});

const parOf: ParOf = (groups, yellow440PerM, places) => {
  const water = { ...zone, water: { ...zone.water, yellow440PerM } };
  return parTable(computeResponse(rigOf(groups, water, places)), groups, null);
};

test('what lies ahead of a coral that climbs is the light of the places it will stand at, from the day it goes there', () => {
  const spot = zone.spots[0]!;
  const deep = { xCm: spot.xCm, yCm: spot.yCm, depthCm: 45, openShare: 1 };
  const own = { xCm: spot.xCm, yCm: spot.yCm, depthCm: spot.depthCm, openShare: spot.openShare };
  const plan: EasingPlan = {
    id: 'p',
    zoneId: zone.id,
    name: 'Climb',
    createdUtc: NOW,
    targets: [],
    from: [],
    method: 'places',
    schedule: { kind: 'fastest' },
    ceiling: 1.3,
    climb: { spotId: spot.id, places: [deep, own] },
    steps: [
      { date: '2026-11-26', setting: 0, doneUtc: null },
      { date: '2026-11-30', setting: 1, doneUtc: null },
    ],
    state: 'active',
    deeds: [],
  };
  const groups = [litRunnable(panel)];
  const at = (place: typeof deep) =>
    lightBetween(parOf(groups, zone.water.yellow440PerM, [place]), groups, 1)[0]!;
  const used = zone.spots.map(() => at(own));
  const lived = (plans: EasingPlan[]) =>
    forecast(
      zone,
      { ...bundle.history, plans },
      NOW,
      '2026-11-24',
      zone.water.yellow440PerM,
      used,
      parOf,
      null,
      16,
    );
  const ratios = (plans: EasingPlan[]) => lived(plans).ratios.map((day) => day[0]!);
  const climbing = ratios([plan]);
  const still = ratios([]);
  // two days as it stands, then deep down, then home again to which it has grown a little unused
  climbing.slice(0, 2).forEach((r, i) => expect(r).toBeCloseTo(still[i]!, 9));
  expect(climbing[2]!).toBeLessThan(0.8);
  expect(climbing[5]!).toBeGreaterThan(climbing[2]!);
  expect(climbing[6]!).toBeGreaterThan(1.1);
  // a plan that is done or stopped leads nowhere
  expect(ratios([{ ...plan, state: 'stopped' }])).toEqual(still);
});

describe('hours eased over midnight', () => {
  const night = (threads: [number, number][]): Runnable => ({
    ...panel,
    threads: threads.map(([minute, strengthShare]) => ({
      minute,
      strengthShare,
      mix: entry.threads[2]!.mix,
      mixName: 'x',
    })),
  });
  test('are drawn together about the middle of the lit stretch, wherever midnight lies in it', () => {
    // 22:00 to 06:00, at its full from 00:00 to 04:00; the middle is 02:00
    const target = night([
      [1320, 0],
      [0, 1],
      [240, 1],
      [360, 0],
    ]);
    const half = atSetting({ targets: [target], from: [], method: 'hours' }, 0.5)[0]!;
    expect(half.threads.map((t) => t.minute)).toEqual([0, 60, 180, 240]);
    expect(litHours(litRunnable(half).day)).toBeCloseTo(4, 9);
    const most = atSetting({ targets: [target], from: [], method: 'hours' }, 0.75)[0]!;
    expect(most.threads.map((t) => t.minute)).toEqual([1380, 30, 210, 300]);
  });
  test('a switched lamp’s window keeps its middle over midnight', () => {
    const kind = libraryLamp('lib-tubes');
    const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
    const target: Runnable = {
      ...panel,
      lampKind: kind,
      capShare: 1,
      threads: [
        { minute: 1320, strengthShare: 1, mix, mixName: 'on' },
        { minute: 360, strengthShare: 0, mix, mixName: 'off' },
      ],
    };
    const half = atSetting({ targets: [target], from: [], method: 'hours' }, 0.5)[0]!;
    expect(windowsOf(litRunnable(half), kind.controls[0]!.id)).toEqual([{ from: 0, to: 240 }]);
  });
});

describe('the chain', () => {
  test('of a tied control names its part of the control, and ends at what is emitted', () => {
    const kind = libraryLamp('lib-balance');
    const control = kind.controls.find((c) => c.kind === 'level' && Object.keys(c.drives).length > 1)!;
    if (control.kind !== 'level') throw new Error('no level');
    const trimmed = kind.controls.flatMap((c) => (c.kind === 'trim' ? c.channelIds : []));
    const [channelId, share] = Object.entries(control.drives).find(
      ([id, s]) => s !== 1 && s > 0 && !trimmed.includes(id),
    )!;
    const threads: ResolvedThread[] = [
      {
        minute: 600,
        strengthShare: 0.8,
        mix: { ...Object.fromEntries(kind.controls.map((c) => [c.id, 0])), [control.id]: 0.5 },
      },
      { minute: 1200, strengthShare: 0, mix: {} },
    ];
    const day = lampDay(kind, threads, { capShare: 0.5, easingShare: 0.5 });
    const chain = chainAt(threads, day, kind, channelId, 600);
    const part = chain.find((c) => c.name === 'its part of the control')!;
    expect(part.factor).toBe(share);
    expect(part.after).toBeCloseTo(0.4 * share, 9);
    const c = kind.channels.findIndex((x) => x.id === channelId);
    expect(chain.at(-1)!.after).toBeCloseTo(levelsAt(day, 600)[c]!, 9);
    expect(chain.map((x) => x.name).slice(0, 3)).toEqual([
      'mix',
      'strength of the thread',
      'typed into the lamp',
    ]);
  });

  test('a colour alone is emitted as the day emits it, also where the cap rescales', () => {
    const base = libraryLamp('lib-nine');
    const kind = { ...base, controller: { ...base.controller, capMeans: 'rescales' as const } };
    const mix = Object.fromEntries(kind.controls.map((c, i) => [c.id, i === 0 ? 0.7 : 0.2]));
    const threads = [
      { minute: 600, strengthShare: 0.8, mix },
      { minute: 1200, strengthShare: 0, mix },
    ];
    const day = lampDay(kind, threads, { capShare: 0.5, easingShare: 1 });
    const typed = kind.channels.map((_, c) => (c === 0 ? 0.56 : 0));
    expect(emittedAt(day, typed)[0]).toBeCloseTo(levelsAt(day, 600)[0]!, 9);
    // the largest level of the day is what the cap says
    expect(Math.max(...levelsAt(day, 600))).toBeCloseTo(0.5, 9);
  });
});

describe('circuits', () => {
  test('are lit from the outermost inwards; a stagger that is too long is shortened', () => {
    expect(steppedDawn(3, 600, 1200, 30)).toEqual([
      { from: 600, to: 1200 },
      { from: 630, to: 1170 },
      { from: 660, to: 1140 },
    ]);
    expect(steppedDawn(3, 600, 660, 30)).toEqual([
      { from: 600, to: 660 },
      { from: 614, to: 646 },
      { from: 628, to: 632 },
    ]);
    expect(steppedDawn(1, 600, 660, 30)).toEqual([{ from: 600, to: 660 }]);
    expect(onHours([{ from: 1380, to: 1500 }])).toBe(2);
  });

  test('an inner circuit’s own windows survive what is set for another, over midnight too', () => {
    const kind = libraryLamp('lib-two-circuit');
    const [a, b] = kind.controls.map((c) => c.id) as [string, string];
    const group = { ...draftGroups(bundle.case, zone)[0]!, lampKind: kind };
    const threads = threadsOfWindows(
      { ...group, threads: [] },
      new Map([
        [a, [{ from: 480, to: 1320 }]],
        [
          b,
          [
            { from: 600, to: 660 },
            { from: 1380, to: 1500 },
          ],
        ],
      ]),
    ).map((t) => ({ ...t, mixName: 'x' }));
    const lit = { ...group, threads };
    expect(windowsOf(lit, a)).toEqual([{ from: 480, to: 1320 }]);
    expect(windowsOf(lit, b)).toEqual([
      { from: 600, to: 660 },
      { from: 1380, to: 1500 },
    ]);
    const changed = threadsOfWindows(lit, new Map([[a, [{ from: 540, to: 1200 }]]])).map((t) => ({
      ...t,
      mixName: 'x',
    }));
    expect(windowsOf({ ...lit, threads: changed }, b)).toEqual(windowsOf(lit, b));
    expect(windowsOf({ ...lit, threads: changed }, a)).toEqual([{ from: 540, to: 1200 }]);
  });
});

describe('meters', () => {
  const line = (nm: number) => sample((x) => (x === nm ? 1 : 0));
  test('a stray blue tail adds light below 500 nm and none from there on', () => {
    const lux = meterKind('lux');
    const piece = { shiftNm: 0, blueTail: 0.5 };
    const extra = (nm: number) => shownUnder(lux, line(nm), piece) - shownUnder(lux, line(nm));
    const tail = 0.5 * lux.spread.blueTail * 147;
    expect(extra(450)).toBeCloseTo(tail, 9);
    expect(extra(499)).toBeCloseTo(tail, 9);
    expect(extra(500)).toBe(0);
    expect(extra(620)).toBe(0);
    // the end of the grid counts by half, as in every integral
    expect(extra(360)).toBeCloseTo(tail / 2, 9);
    // a piece that is moved sees a wavelength as another sees its neighbour
    expect(shownUnder(lux, line(450), { shiftNm: 5, blueTail: 0 })).toBeCloseTo(
      shownUnder(lux, line(445)),
      9,
    );
  });

  test('the factor of a single colour is one over what the meter shows of it, its doubt what such meters differ by', () => {
    const lux = meterKind('lux');
    const factor = parFactor(lux, line(450))!;
    const shown = shownUnder(lux, line(450));
    expect(factor.parPerShown).toBeCloseTo(1 / shown, 9);
    const { shiftNm, blueTail } = lux.spread;
    const off = [
      shownUnder(lux, line(450 - shiftNm)) / shown - 1,
      shownUnder(lux, line(450 + shiftNm)) / shown - 1,
      (blueTail * 147) / shown,
    ].map(Math.abs);
    expect(factor.errorShare).toBeCloseTo(Math.hypot(lux.scaleError, Math.max(...off)), 6);
    expect(
      parFactor(
        lux,
        sample(() => 0),
      ),
    ).toBeNull();
    // with one meter the scale falls out
    const same = parRatio(lux, { shown: 100, light: line(450) }, { shown: 150, light: line(450) })!;
    expect(same.ratio).toBeCloseTo(1.5, 12);
    expect(same.errorShare).toBeLessThan(lux.scaleError);
  });

  test('two unequal readings give the gain that weighs them by their noise and by what was known', () => {
    const observed = [130, 60];
    const light = [[100], [80]];
    const { gain } = channelGains(observed, light);
    // the least of the same sum, found by trying
    const cost = (g: number, weights: readonly number[]) =>
      observed.reduce((s, o, i) => s + ((o - g * light[i]![0]!) / weights[i]!) ** 2, ((g - 1) / 0.25) ** 2);
    const weightsAt = (g: number) => light.map(([m]) => 0.05 * g * m! + 1);
    let g = 1;
    for (let k = 0; k < 50; k += 1) {
      const weights = weightsAt(g);
      let best = g;
      for (let x = 0.5; x < 1.6; x += 0.0005) if (cost(x, weights) < cost(best, weights)) best = x;
      g = best;
    }
    // both lie off by more than their noise, so that either pulls
    expect(gain[0]!).toBeGreaterThan(60 / 80);
    expect(gain[0]!).toBeLessThan(130 / 100);
    expect(Math.abs(gain[0]! - g)).toBeLessThan(0.06);
  });
});

test('the band that is promised of the next reading is about what a real refit gives', () => {
  const groups = draftGroups(bundle.case, zone);
  const bare = bareCalibration(hungGroups(bundle.case, zone), zone);
  const matrix = computeResponse(rigOf(groups, zone, zone.spots));
  const light = zoneLight(matrix, groups);
  const levels = groups.map((g) => levelsAt(g.day, 845));
  const corals = zone.spots.map((_, s) => s);
  const visit = planVisit(bare, light, groups, levels, corals, 3)!;
  const next = { ...visit, ...visit.stops[0]! };
  const under = next.alone
    ? groups.map((g) => g.lampKind.channels.map((c) => (c.id === next.alone!.channelId ? 1 : 0)))
    : levels;
  const spot = zone.spots[next.spot]!;
  const lit = levelsById(groups, under);
  const meter = { kind: 'ideal' as const, immersionFactor: 1, sensorAboveCm: 0, simulated: false };
  const { shown } = simulatedReading(
    { matrix: computeResponse(rigOf(groups, zone, [spot])), gains: {} },
    groups,
    lit,
    0,
    meter,
    0,
    3,
    's',
  );
  const reading: Reading = {
    id: 'r',
    spotId: spot.id,
    name: spot.name,
    xCm: spot.xCm,
    yCm: spot.yCm,
    depthCm: spot.depthCm,
    atUtc: NOW,
    tries: [shown],
    bands: null,
    levels: lit,
  };
  const session: Session = {
    id: 's',
    zoneId: zone.id,
    name: 's',
    atUtc: NOW,
    meter,
    pumpsOn: false,
    lit: '',
    counts: true,
    rig: rigGroups(groups),
    readings: [reading],
  };
  const cal = calibrate(bundle.case, zone, [session]);
  const fitted = zoneLight(computeResponse(rigOf(groups, zone, zone.spots, cal)), groups, cal);
  const mean = (c: typeof cal, l: typeof light) =>
    corals.reduce((s, i) => s + bandUnder(c, l, groups, levels, i), 0) / corals.length;
  expect(next.bandBefore).toBeCloseTo(mean(bare, light), 2);
  expect(next.bandAfter).toBeLessThan(next.bandBefore);
  const real = mean(cal, fitted);
  expect(next.bandAfter / real).toBeGreaterThan(0.6);
  expect(next.bandAfter / real).toBeLessThan(1.67);
});

test('held values half way between two steps are taken where the error is less', () => {
  // one channel at 0.25 and 0.75 on a controller that knows halves only
  const day = {
    knots: [
      { minute: 0, levels: [0.25] },
      { minute: 600, levels: [0.75] },
      { minute: 1200, levels: [0] },
    ],
    interpolation: 'hold' as const,
  };
  const rules = { maxPoints: 3, stepShare: 0.5, interpolation: 'hold' as const };
  const made = reduceDay(day, [100], rules);
  made.knots.forEach((k) => expect([0, 0.5, 1]).toContain(k.levels[0]));
  // no setting of halves is nearer than a quarter of full, that is a third of the day's peak
  expect(made.peakErrorShare).toBeCloseTo(0.25 / 0.75, 9);
  const fine = reduceDay(day, [100], { ...rules, stepShare: 0.25 });
  expect(fine.peakErrorShare).toBeCloseTo(0, 12);
  expect(fine.knots).toEqual(day.knots);
});

test('an entry is lit by what it says, whatever was asked before', () => {
  const louder: RunningEntry = { ...entry, capShare: entry.capShare / 2 };
  expect(overall(litRunning(louder).day)).toBeCloseTo(overall(litRunning(entry).day) / 2, 12);
});
