import * as fc from 'fast-check';

import { displayCase } from '@/demo/lagoon';

import { type Day, dli, fullSeconds, kneeMinutes, levelsAt, secondsBetween } from '../day/day';
import { MOON_MOST_UMOL } from '../day/extras';
import { lampDay, type ResolvedThread } from '../day/thread';
import { bluestTint, colourClass, mixTurns } from '../library/colours';
import { libraryLamp } from '../library/lamps';
import { computeResponse } from '../optics/response';
import { type LampKind, PLAIN_CONTROLLER } from '../spectrum/lampKind';
import { interludeCost, weatherLoss } from './acted';
import { minutesForDose, runLonger } from './bandHours';
import { moveBeauty } from './beauty';
import { carryDay } from './carryDay';
import { circuitsOf, onHours, steppedDawn, switchedLamp, threadsOfWindows, windowsOf } from './dawn';
import { dayFigures, EK_UMOL, hoursAbove, kWhPerDay, whatChanged } from './dayFigures';
import { doableSteps } from './doable';
import {
  levelsOfGroups,
  lightOfGroup,
  parUnder,
  wattsUnder,
  type ZoneLight,
  zoneLight,
  zoneLitHours,
} from './light';
import { draftGroups, type LitGroup, rigOf } from './lit';
import { brightestUmol, moonColour, type MoonLamp, moonStrength } from './moonlight';
import { USUAL_HOME } from '../record/zone';
import { strengthForUmol } from './strength';

const bundle = displayCase(Date.parse('2026-11-24T12:00:00Z'), 'Europe/Berlin');
const zone = bundle.case.zones[0]!;
const groups = draftGroups(bundle.case, zone);
const light = zoneLight(computeResponse(rigOf(groups, zone, zone.spots)), groups);
const panel = groups[0]!;

/** A lamp of the library over the demo tank, with a day. */
function hung(kind: LampKind, threads: ResolvedThread[], capShare = 1): LitGroup {
  return {
    groupId: 'g',
    name: 'Lamps',
    lampKind: kind,
    lamps: panel.lamps,
    threads: threads.map((t) => ({ ...t, mixName: 'x' })),
    day: lampDay(kind, threads, { capShare, easingShare: 1 }),
  };
}
const lightOf = (all: LitGroup[]): ZoneLight => zoneLight(computeResponse(rigOf(all, zone, zone.spots)), all);
const full = (kind: LampKind) =>
  Object.fromEntries(kind.controls.map((c) => [c.id, c.kind === 'tint' ? 0.5 : 0.7]));

test('colours are told apart by their light', () => {
  const kind = libraryLamp('lib-nine');
  const of = (id: string) =>
    colourClass(
      kind,
      kind.controls.find((c) => c.id === id)!,
    );
  expect(['violet', 'royal-blue', 'cool-white', 'lime', 'deep-red'].map(of)).toEqual([
    'violet',
    'blue',
    'white',
    'white',
    'warm',
  ]);
  const turns = mixTurns(kind, full(kind));
  expect(turns.blue['cool-white']).toBe(0);
  expect(turns.white['cool-white']).toBe(1);
  expect(
    Object.entries(turns.violet)
      .filter(([, v]) => v > 0)
      .map(([id]) => id),
  ).toEqual(['near-uv', 'violet']);
  const tint = libraryLamp('lib-tint').controls.find((c) => c.kind === 'tint')!;
  expect(bluestTint(libraryLamp('lib-tint'), tint as never)).toBe(1);
  const one = libraryLamp('lib-blue-bar');
  expect(mixTurns(one, full(one)).white).toEqual(mixTurns(one, full(one)).blue);
});

describe('the beauty moved, the dose kept', () => {
  const kind = panel.lampKind;
  const par = light.par[0]![0]!;
  const dayOf = (t: readonly ResolvedThread[]): Day => lampDay(kind, t, { capShare: 0.8, easingShare: 1 });

  test('whatever the hours and the look: each channel’s light a day stays, and at home it is the look', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 95 }).map((q) => q * 15),
        fc.integer({ min: 8, max: 20 }).map((q) => q * 15),
        fc.constantFrom(...bundle.case.plates.map((p) => p.mix)),
        (fromMinute, length, look) => {
          const home = { fromMinute, toMinute: (fromMinute + length) % 1440 };
          const made = moveBeauty({ kind, threads: panel.threads, home, look, dayOf, par });
          expect(made.reason).toBeNull();
          expect(made.doseErrorShare).toBeLessThan(0.01);
          const before = fullSeconds(panel.day);
          const after = fullSeconds(dayOf(made.threads));
          const all = before.reduce((sum, v, c) => sum + v * par[c]!, 0);
          expect(Math.max(...before.map((v, c) => (Math.abs(v - after[c]!) * par[c]!) / all))).toBeLessThan(
            0.01,
          );
        },
      ),
      { numRuns: 40 },
    );
  });

  test('at every coral the dose per band is kept, because each channel’s is', () => {
    const home = { fromMinute: 18 * 60, toMinute: 22 * 60 };
    const look = bundle.case.plates.find((p) => p.name === 'Reading noon')!.mix;
    const made = moveBeauty({ kind, threads: panel.threads, home, look, dayOf, par });
    const moved = { ...panel, day: dayOf(made.threads) };
    zone.spots.forEach((_, s) => {
      const [a, b] = [dayFigures(light, groups, s, null), dayFigures(light, [moved], s, null)];
      for (const band of ['violet', 'royalBlue', 'blue', 'green', 'red'] as const)
        expect(Math.abs(b.dose[band] / a.dose[band] - 1)).toBeLessThan(0.03);
      expect(whatChanged(a, b)).toMatch(/^The same light a day.*white light about .* later/);
      // red without green or amber is not called white
      const red = ({ dose, ...f }: typeof a) => ({ ...f, dose: { ...dose, green: 0, amber: 0 } });
      expect(whatChanged(red(a), red(b))).toMatch(/red light about .* later/);
    });
  });

  test('circuits keep their hours; a tint is moved as a whole; a dark look is refused', () => {
    const circuits = libraryLamp('lib-two-circuit');
    const [a, b] = circuits.controls;
    const threads: ResolvedThread[] = [
      { minute: 540, strengthShare: 1, mix: { [a!.id]: 1, [b!.id]: 0 } },
      { minute: 660, strengthShare: 1, mix: { [a!.id]: 1, [b!.id]: 1 } },
      { minute: 960, strengthShare: 0, mix: {} },
    ];
    const open = (k: LampKind) => (t: readonly ResolvedThread[]) =>
      lampDay(k, t, { capShare: 1, easingShare: 1 });
    const input = {
      kind: circuits,
      threads,
      home: { fromMinute: 1080, toMinute: 1320 },
      look: { [b!.id]: 1 },
      dayOf: open(circuits),
      par: circuits.channels.map(() => 50),
    };
    const moved = moveBeauty(input);
    expect(moved.doseErrorShare).toBeLessThan(1e-9);
    const lit = hung(circuits, moved.threads);
    expect(windowsOf(lit, b!.id)).toEqual([{ from: 1020, to: 1320 }]);
    const tint = libraryLamp('lib-tint');
    const mixes = [1, 0, 1].map((t, i) => ({
      minute: 480 + 180 * i,
      strengthShare: i === 1 ? 1 : 0,
      mix: { tint: t, brightness: 1 },
    }));
    const whole = moveBeauty({
      ...input,
      kind: tint,
      threads: mixes,
      look: { tint: 0, brightness: 1 },
      dayOf: open(tint),
      par: tint.channels.map(() => 50),
    });
    expect(whole.reason).toMatch(/moved as a whole/);
    expect(whole.doseErrorShare).toBeLessThan(1e-6);
    expect(
      moveBeauty({ kind, threads: panel.threads, home: input.home, look: {}, dayOf, par }).reason,
    ).toMatch(/dark/);
    expect(moveBeauty({ ...input, threads: [] }).reason).toMatch(/no day yet/);
  });
});

test('a colour runs longer at the strength it has: its dose grows by top × time, nothing else moves', () => {
  // rounding to whole percents belongs to typing
  const fine = { ...panel.lampKind, controller: { ...panel.lampKind.controller, pointStepShare: 0 } };
  for (const interpolation of ['ramp', 'hold'] as const) {
    const kind = { ...fine, controller: { ...fine.controller, interpolation } };
    const dayOf = (t: readonly ResolvedThread[]): Day => lampDay(kind, t, { capShare: 1, easingShare: 1 });
    const violet = kind.channels.findIndex((c) => c.id === 'violet');
    const seconds = (minutes: number) =>
      fullSeconds(dayOf(runLonger(kind, panel.threads, ['violet'], minutes)));
    const top = Math.max(...dayOf(panel.threads).knots.map((k) => k.levels[violet]!));
    const [was, is] = [seconds(0), seconds(120)];
    is.forEach((v, c) => expect(v - was[c]!).toBeCloseTo(c === violet ? top * 7200 : 0, 3));
    const longer = dayOf(runLonger(kind, panel.threads, ['violet'], 120));
    expect(Math.max(...longer.knots.map((k) => k.levels[violet]!))).toBeCloseTo(top, 9);
    expect(minutesForDose((m) => seconds(m)[violet]!, seconds(200)[violet]!)).toBe(200);
    expect(minutesForDose((m) => seconds(m)[violet]!, 1e9)).toBeNull();
  }
  expect(runLonger(fine, panel.threads, ['violet'], 0)).toEqual(panel.threads);
});

describe('circuits', () => {
  test('a stepped dawn: first on, last off; never negative', () => {
    expect(steppedDawn(3, 600, 1200, 20)).toEqual([
      { from: 600, to: 1200 },
      { from: 620, to: 1180 },
      { from: 640, to: 1160 },
    ]);
    for (const w of steppedDawn(4, 600, 700, 90)) expect(w.to).toBeGreaterThan(w.from);
  });

  test('windows of a lamp of circuits are read from its threads and written back the same', () => {
    const kind = libraryLamp('lib-tubes');
    const windows = new Map(kind.controls.map((c, i) => [c.id, [{ from: 600 + 20 * i, to: 1500 - 20 * i }]]));
    const lit = hung(kind, threadsOfWindows({ lampKind: kind, threads: [] }, windows));
    expect(circuitsOf([lit]).map((c) => c.controlId)).toEqual(kind.controls.map((c) => c.id));
    for (const c of kind.controls) {
      expect(windowsOf(lit, c.id)).toEqual(windows.get(c.id));
      expect(onHours(windowsOf(lit, c.id))).toBeCloseTo(
        (windows.get(c.id)![0]!.to - windows.get(c.id)![0]!.from) / 60,
      );
    }
    expect(circuitsOf(groups)).toEqual([]);
    const bar = libraryLamp('lib-five-step');
    const on = switchedLamp(bar, full(bar), 1, { from: 600, to: 1100 });
    expect(windowsOf(hung(bar, on), null)).toEqual([{ from: 600, to: 1100 }]);
  });
});

describe('what a day gives and takes', () => {
  test('energy and hours above a bound agree with a walk by the minute', () => {
    let [joules, minutes] = [0, 0];
    for (let s = 0; s < 1440 * 4; s += 1) {
      const levels = levelsOfGroups(groups, s / 4 + 0.125);
      joules += wattsUnder(groups, levels) * 15;
      if (parUnder(light, levels, 0) > EK_UMOL.soft!) minutes += 0.25;
    }
    expect(kWhPerDay(groups)).toBeCloseTo(joules / 3.6e6, 4);
    expect(hoursAbove(light, groups, 0, EK_UMOL.soft!)).toBeCloseTo(minutes / 60, 2);
  });

  test('the sentence names what changed and nothing else', () => {
    const a = dayFigures(light, groups, 0, 'smallPolyp');
    expect(whatChanged(a, a)).toBe('Nothing that a coral would notice.');
    const more = {
      ...a,
      dli: a.dli * 1.5,
      dose: Object.fromEntries(Object.entries(a.dose).map(([k, v]) => [k, v * 1.5])) as typeof a.dose,
    };
    expect(whatChanged(a, more)).toBe('50 % more light a day.');
    expect(
      whatChanged(a, {
        ...a,
        dose: { ...a.dose, violet: a.dose.violet * 1.3 },
        peak: a.peak * 0.8,
        litHours: a.litHours + 2,
      }),
    ).toBe('The same light a day, its peak 20 % lower, violet 30 % up, lit 2 h longer.');
    expect(dayFigures(light, groups, 0, 'nonPhotosynthetic').response).toBeNull();
  });
});

describe('a day carried to another lamp', () => {
  const spectra = light.spectra[0]![0]!;

  test('to the same lamp at the same place it is the identity', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 95 }), fc.integer({ min: 0, max: 100 }), fc.nat(2)), {
          minLength: 2,
          maxLength: 6,
        }),
        fc.integer({ min: 20, max: 100 }),
        (points, cap) => {
          const threads = [...new Map(points.map((p) => [p[0], p])).values()].map(
            ([slot, strength, plate]) => ({
              minute: slot * 15,
              strengthShare: strength / 100,
              mix: bundle.case.plates[plate]!.mix,
            }),
          );
          fc.pre(threads.some((t) => t.strengthShare > 0.05));
          // rounding to whole percents belongs to typing, not to carrying
          const kind = { ...panel.lampKind, controller: { ...panel.lampKind.controller, pointStepShare: 0 } };
          const lit = hung(kind, threads, cap / 100);
          const carried = carryDay({ lit, spectra }, { kind, spectra });
          const back = lampDay(kind, carried.threads, { capShare: carried.capShare, easingShare: 1 });
          let worst = 0;
          for (const m of kneeMinutes([lit.day]))
            levelsAt(lit.day, m).forEach(
              (v, c) => (worst = Math.max(worst, Math.abs(v - levelsAt(back, m)[c]!))),
            );
          expect(worst).toBeLessThan(2e-4);
          expect(carried.match).toBeGreaterThan(0.9999);
          expect(carried.reachShare).toBeCloseTo(1, 3);
          expect(carried.lost).toEqual([]);
        },
      ),
      { numRuns: 25 },
    );
  });

  test('a lamp without violet says so; one too weak says how far it comes', () => {
    const kind = libraryLamp('lib-day-bar');
    const one = hung(kind, []);
    const target = { kind, spectra: lightOf([one]).spectra[0]![0]! };
    const carried = carryDay({ lit: panel, spectra }, target);
    expect(carried.lost.join(' ')).toMatch(/no emitter for violet|less violet/);
    expect(carried.match).toBeLessThan(0.8);
    const weak = carryDay(
      { lit: panel, spectra: spectra.map((s) => s.map((v) => v * 40)) },
      { kind: panel.lampKind, spectra },
    );
    expect(weak.capShare).toBe(1);
    expect(weak.reachShare).toBeLessThan(0.1);
    expect(weak.threads.every((t) => t.strengthShare <= 1)).toBe(true);
  });

  test('a day that is dark has nothing to match and nothing out of reach', () => {
    const dark = hung(panel.lampKind, [{ minute: 600, strengthShare: 0, mix: { violet: 1 } }]);
    const carried = carryDay({ lit: dark, spectra }, { kind: panel.lampKind, spectra });
    expect([carried.match, carried.reachShare]).toEqual([1, 1]);
    expect(carried.threads.every((t) => t.strengthShare === 0)).toBe(true);
  });

  test('a switched day on a lamp that ramps, and a ramped one on a lamp that holds, keep their light', () => {
    const bar = libraryLamp('lib-violet-bar');
    const switched = hung(bar, [
      { minute: 560, strengthShare: 1, mix: { violet: 1 } },
      { minute: 1230, strengthShare: 0, mix: { violet: 1 } },
    ]);
    const barLight = lightOf([switched]);
    const onPanel = carryDay(
      { lit: switched, spectra: barLight.spectra[0]![0]!.map((x) => x.map((v) => v / 4)) },
      { kind: panel.lampKind, spectra },
    );
    expect(onPanel.threads.map((t) => t.minute)).toEqual([559, 560, 1229, 1230]);
    const given = dli(
      lampDay(panel.lampKind, onPanel.threads, { capShare: onPanel.capShare, easingShare: 1 }),
      light.par[0]![0]!,
    );
    expect(given / (dli(switched.day, barLight.par[0]![0]!) / 4)).toBeCloseTo(1, 1);
    const holds = {
      ...panel.lampKind,
      controller: { ...panel.lampKind.controller, interpolation: 'hold' as const },
    };
    const held = carryDay({ lit: panel, spectra }, { kind: holds, spectra });
    const back = dli(
      lampDay(holds, held.threads, { capShare: held.capShare, easingShare: 1 }),
      light.par[0]![0]!,
    );
    expect(back / dli(panel.day, light.par[0]![0]!)).toBeCloseTo(1, 1);
  });

  test('equal PAR: what is wanted at each thread is given', () => {
    const kind = libraryLamp('lib-eight-blue');
    const target = {
      kind: { ...kind, powerBudgetWatts: null },
      spectra: lightOf([hung(kind, [])]).spectra[0]![0]!,
    };
    const carried = carryDay({ lit: panel, spectra }, target);
    for (const t of carried.threads) expect(t.givenUmol).toBeCloseTo(t.wantedUmol * carried.reachShare, 1);
  });
});

describe('what acts on a day, in figures', () => {
  const par = light.par[0]![0]!;
  const moon: MoonLamp = { kind: panel.lampKind, capShare: 0.8, par: light.par[0]! };

  test('a moon is of a blue that is no violet, settable, and never above what a moon may be', () => {
    const colour = moonColour(moon)!;
    expect(['violet', 'near-uv']).not.toContain(colour.id);
    for (const wanted of [0.05, 0.3, 0.9, 5]) {
      const strength = moonStrength(moon, colour.id, wanted)!;
      const umol = brightestUmol(moon, { [colour.id]: 1 }, strength);
      expect(umol).toBeGreaterThan(0);
      expect(umol).toBeLessThanOrEqual(MOON_MOST_UMOL);
      expect(Math.round(strength * 100)).toBeCloseTo(strength * 100, 6);
    }
    const coarse = { ...panel.lampKind, controller: { ...panel.lampKind.controller, pointStepShare: 0.2 } };
    const loud = { ...moon, kind: coarse, par: moon.par.map((p) => p.map((v) => v * 20)) };
    expect(moonColour(loud)!.leastUmol).toBeGreaterThan(MOON_MOST_UMOL);
    expect(moonStrength(loud, moonColour(loud)!.id, 0.5)).toBeNull();
    expect(moonColour({ ...moon, kind: libraryLamp('lib-two-circuit') })).toBeNull();
  });

  test('a night with a moon is a night: the day is lit as long as without, and others lie opposite to it alike', () => {
    const moonlit = (strengthShare: number) =>
      draftGroups(bundle.case, {
        ...zone,
        groups: zone.groups.map((g) => ({
          ...g,
          extras: {
            moon: {
              ...{ fromMinute: 1290, toMinute: 420, mix: { [moonColour(moon)!.id]: 1 }, strengthShare },
              real: null,
            },
          },
        })),
      });
    expect(levelsAt(moonlit(0.01)[0]!.day, 120).some((v) => v > 0)).toBe(true);
    expect(zoneLitHours(moonlit(0.01))).toBeCloseTo(zoneLitHours(groups), 9);
    // a lamp at a third all night is no moon
    expect(zoneLitHours(moonlit(0.3))).toBeGreaterThan(zoneLitHours(groups) + 5);
  });

  test('an interlude costs what its date loses; the same date without it is the plain day', () => {
    const one = {
      id: 'i',
      kind: 'feeding' as const,
      date: '2026-11-24',
      fromMinute: 800,
      minutes: 60,
      strengthShare: 0,
      mix: {},
      mixName: 'dark',
    };
    const cost = interludeCost({ ...panel, extras: { interludes: [one] } }, 'i', 'Europe/Berlin', par)!;
    expect(cost.withoutDli).toBeCloseTo(dli(panel.day, par), 9);
    const lost = secondsBetween(panel.day, 800, 860).reduce((sum, v, c) => sum + v * par[c]!, 0) / 1e6;
    expect(cost.withoutDli - cost.withDli).toBeCloseTo(lost, 6);
    expect(dli(cost.lit.day, par)).toBe(cost.withDli);
    expect(interludeCost(panel, 'i', 'Europe/Berlin', par)).toBeNull();
  });

  test('weather takes between nothing and its depth', () => {
    const days = Array.from({ length: 20 }, (_, d) => ({
      date: `2026-07-${String(d + 1).padStart(2, '0')}`,
      timeZone: 'Europe/Berlin',
    }));
    const weather = { seed: 4, depthShare: 0.4, cloudyShare: 1, storms: true, flashesPerSecond: 1 };
    const loss = weatherLoss(panel, weather, days, par);
    expect(loss.cloudy).toBe(20);
    expect(loss.meanShare).toBeGreaterThan(0);
    expect(loss.meanShare).toBeLessThanOrEqual(loss.mostShare);
    expect(loss.mostShare).toBeLessThan(0.4);
    expect(loss.storms).toBeLessThan(20);
    expect(weatherLoss(panel, { ...weather, depthShare: 0 }, days, par)).toMatchObject({
      meanShare: 0,
      cloudy: 0,
    });
  });

  test('a strength for a light: met within rounding, or the range that can be had', () => {
    const umolAt = (threads: readonly ResolvedThread[]) =>
      parUnder(light, levelsOfGroups([hung(panel.lampKind, [...threads], 0.8)], 845), 0);
    for (const wanted of [20, 100, 200]) {
      const found = strengthForUmol(panel.threads, 845, wanted, umolAt);
      if (!('strengthShare' in found)) throw new Error('no strength');
      const made = panel.threads.map((t) => (t.minute === 845 ? { ...t, ...found } : t));
      expect(Math.abs(umolAt(made) - wanted)).toBeLessThan(3);
    }
    const beyond = strengthForUmol(panel.threads, 845, 9000, umolAt);
    expect(beyond).toMatchObject({ fromUmol: 0 });
  });

  test('days that a controller can do give the present light and can be typed in', () => {
    const input = {
      kind: panel.lampKind,
      base: panel.threads[2]!.mix,
      home: USUAL_HOME,
      capShare: 0.8,
      easingShare: 1,
      lit: null,
      others: [],
      lookedAt: true,
      par,
    };
    const worth = { par, bands: par.map((p) => [p, 0, 0, 0, 0, 0, 0, 0, 0]) };
    const steps = doableSteps(input, panel.threads, worth, { ...PLAIN_CONTROLLER, maxPoints: 6 });
    let next = steps.next();
    while (!next.done) next = steps.next();
    expect(next.value.length).toBeGreaterThan(0);
    next.value.forEach((d, i, all) => {
      expect(Math.abs(d.dli / dli(panel.day, par) - 1)).toBeLessThanOrEqual(0.02);
      expect(d.threads.length).toBeLessThanOrEqual(6);
      expect(d.awayShare).toBeGreaterThanOrEqual(all[i - 1]?.awayShare ?? 0);
    });
  });

  test('the light of one group alone is that group’s', () => {
    const alone = lightOfGroup(light, 0);
    expect(parUnder(alone, levelsOfGroups([panel], 845), 2)).toBeCloseTo(
      parUnder(light, levelsOfGroups(groups, 845), 2),
      9,
    );
  });
});
