import fc from 'fast-check';

import { displayCase } from '@/demo/lagoon';

import { dateOf, dayNumber, weekdayOf } from '../day/wallClock';
import { accustom, type DayLight, stepRatio, unknownStart } from '../easing/accustomed';
import { libraryLamp } from '../library/lamps';
import { parIn } from '../fixtures/parIn';
import { ended } from '../shape/ended';
import { beyondCeiling } from './beyond';
import { bareCalibration, type Calibration, hungGroups } from './calibration';
import { climbSteps } from './climb';
import { ownDay } from './course';
import { type EaseAnswer, type EaseQuestion, easeSteps } from './easePlan';
import { forecast } from './forecast';
import { lightBetween } from './light';
import { litRunnable, runningAt } from './lit';
import { aheadOf, anew, ceilingRunning, doneSteps, goesOn, openSteps } from './planAhead';
import { replay } from './replay';
import { rescueOf } from './rescue';
import { runnable } from './runnable';
import { atSetting, type Eased, methodsOf, settingsOf } from './settings';
import type { EasingPlan, HistoryDoc, RunningEntry } from '../record/history';
import type { LogDoc, LogEvent } from '../record/log';
import { floorUmolOf, lowerEdgeUmol } from '../record/needs';
import { plainSpot, type Zone } from '../record/zone';
import { seeded } from '../spectrum/random';

const NOW = '2026-11-24T12:00:00.000Z';
const TODAY = '2026-11-24';
const bundle = displayCase(Date.parse(NOW), 'UTC');
const zone = bundle.case.zones[0]!;
const entry = bundle.history.entries[0]!;
const at = (date: string, time = '12:00') => `${date}T${time}:00.000Z`;
const day = (n: number) => dateOf(dayNumber(TODAY) + n);

const parOf = parIn(zone);
const yellow = zone.water.yellow440PerM;
const history = (entries: RunningEntry[], plans: EasingPlan[] = []): HistoryDoc => ({
  ...bundle.history,
  entries,
  plans,
});
const log = (...events: object[]): LogDoc => ({
  ...bundle.log,
  events: events.map((e, i) => ({ id: `e${i}`, zoneId: zone.id, note: '', ...e }) as LogEvent),
});
const used = (h: HistoryDoc, l: LogDoc = log(), atUtc = NOW, z = zone) =>
  replay(z, h, l, null, atUtc, parIn(z));
const plainDay = (e: RunningEntry, z: Zone = zone): DayLight[] => {
  const groups = [litRunnable(runnable(e))];
  return lightBetween(parIn(z)(groups, z.water.yellow440PerM, z.spots), groups, z.spots.length);
};
const long: RunningEntry = { ...entry, atUtc: at(day(-40)) };
const louder = (e: Partial<RunningEntry>): RunningEntry => ({ ...long, id: 'louder', usedTo: false, ...e });

describe('accustomed light from all that happened', () => {
  const light = plainDay(long);

  test('an outage takes its light away, in part where it is within a day, and every later step ratio follows', () => {
    const step = louder({ capShare: 0.95, atUtc: at(day(-2), '05:00') });
    const calm = used(history([long, step]));
    const out = used(
      history([long, step]),
      log({ kind: 'outage', atUtc: at(day(-6), '00:00'), toUtc: at(day(-3), '00:00'), groupIds: null }),
    );
    const met = (r: typeof calm) => r.changes.find((c) => c.ids.includes('louder'))!;
    expect(met(calm).used[0]!.dli).toBeCloseTo(light[0]!.dli, 9);
    expect(met(out).used[0]!.dli).toBeCloseTo(
      light[0]!.dli * (1 - (1 - Math.exp(-3 / 7)) * Math.exp(-0.1)),
      6,
    );
    expect(stepRatio(met(out).after[0]!, met(out).used[0]!).ratio).toBeGreaterThan(
      1.2 * stepRatio(met(calm).after[0]!, met(calm).used[0]!).ratio,
    );
    out.perSpot.forEach((a, s) => expect(a.dli).toBeLessThan(calm.perSpot[s]!.dli));
    // one group of which nothing is lit there is no outage
    const elsewhere = log({ kind: 'outage', atUtc: at(day(-6)), toUtc: at(day(-3)), groupIds: ['other'] });
    expect(used(history([long, step]), elsewhere).perSpot).toEqual(calm.perSpot);
    // an afternoon without power: the rest of that day counts
    const short = used(
      history([long]),
      log({ kind: 'outage', atUtc: at(day(-1), '12:00'), toUtc: at(day(-1), '23:59'), groupIds: null }),
    );
    const groups = [litRunnable(runnable(long))];
    const par = parOf(groups, yellow, zone.spots);
    const morning = lightBetween(par, groups, zone.spots.length, 0, 720);
    expect(short.perSpot[0]!.dli).toBeCloseTo(accustom(light[0]!, morning[0]!, 1).dli, 4);
    expect(morning[0]!.peak).toBeLessThan(light[0]!.peak);
  });

  test('a day of 25 hours gives the repeated hour twice, one of 23 the skipped one not at all', () => {
    const berlin = { ...zone, timeZone: 'Europe/Berlin' };
    const night = {
      ...long,
      threads: long.threads.map((t) => ({ ...t, minute: (t.minute + 780) % 1440 })),
    };
    const groups = [litRunnable(runnable(night))];
    const table = parOf(groups, yellow, zone.spots);
    const part = (from: number, to: number) => lightBetween(table, groups, 5, from, to)[0]!.taken!.dli;
    const hour = part(120, 180);
    expect(hour).toBeGreaterThan(0.05);
    for (const [began, now, more] of [
      ['2026-10-20', '2026-10-26', hour],
      ['2026-03-24', '2026-03-30', -hour],
    ] as const) {
      const lit = { ...night, atUtc: at(began, '10:00') };
      const { perSpot } = used(history([lit]), log(), at(now, '10:00'), berlin);
      const usual = part(0, 1440);
      const tau = more > 0 ? 10 : 7;
      expect(perSpot[0]!.taken!.dli).toBeCloseTo(usual + more * (1 - Math.exp(-1 / tau)), 6);
    }
    // cut within the repeated hour it is the same
    const cut = {
      kind: 'outage',
      groupIds: ['none'],
      atUtc: '2026-10-25T01:30:00.000Z',
      toUtc: '2026-10-25T02:30:00.000Z',
    };
    const lit = history([{ ...night, atUtc: at('2026-10-20', '10:00') }]);
    const whole = used(lit, log(), at('2026-10-26', '10:00'), berlin).perSpot[0]!;
    const inParts = used(lit, log(cut), at('2026-10-26', '10:00'), berlin).perSpot[0]!;
    expect(inParts.taken!.dli).toBeCloseTo(whole.taken!.dli, 5);
    expect(inParts.taken!.peak).toBeCloseTo(whole.taken!.peak, 5);
  });

  test('a lamp that was taken down gives nothing from then on, though it once ran', () => {
    const down = { ...long, id: 'down', usedTo: false, threads: [], atUtc: at(day(-7), '00:00') };
    const { perSpot, changes } = used(history([long, down]), log(), at(TODAY, '00:00'));
    expect(perSpot[0]!.taken!.dli).toBeCloseTo(light[0]!.taken!.dli * Math.exp(-7 / 7), 4);
    expect(changes.at(-1)!.after[0]).toMatchObject({ dli: 0, peak: 0 });
  });

  test('a minute of much light is no peak, and is none where it is entered and taken back', () => {
    const flash = louder({ capShare: 1, atUtc: at(TODAY, '14:00') });
    const back = { ...long, id: 'back', usedTo: false, atUtc: at(TODAY, '14:01') };
    const { perSpot } = used(
      history([{ ...long, capShare: 0.5 }, flash, { ...back, capShare: 0.5 }]),
      log(),
      at(day(1), '08:00'),
    );
    const [calm] = plainDay({ ...long, capShare: 0.5 });
    expect(perSpot[0]!.taken!.peak).toBeCloseTo(calm!.taken!.peak, 1);
    // what PAR there was once is told by PAR
    expect(perSpot[0]!.peak).toBeGreaterThan(1.01 * calm!.peak);
  });

  test('an alga takes light by its own bands: blue in place of white is another step for it than for a coral', () => {
    const spots = [
      { ...zone.spots[0]!, algaId: 'redLeaf' as const, need: 'macroalgae' as const },
      zone.spots[0]!,
    ];
    const [asAlga, asCoral] = used(history([long]), log(), NOW, { ...zone, spots }).perSpot;
    expect(asAlga!.dli).toBeCloseTo(asCoral!.dli, 9);
    const share = (u: typeof asAlga) => u!.taken!.dli / u!.dli;
    expect(Math.abs(share(asAlga) / share(asCoral) - 1)).toBeGreaterThan(0.05);
  });

  test('what each channel gave of it adds up to it; of what came before there is no channel', () => {
    const sum = (of: Record<string, number>) => Object.values(of).reduce((all, v) => all + v, 0);
    const step = louder({ capShare: 0.8, atUtc: at(day(-2), '05:00') });
    const { perSpot } = used(history([long, step]));
    // it was said that they were used to the first day: all of it came from these lamps
    perSpot.forEach((u) => {
      expect(sum(u.made!.dli)).toBeCloseTo(u.taken!.dli, 9);
      expect(sum(u.made!.peak)).toBeCloseTo(u.taken!.peak, 6);
    });
    // twenty days from an unknown start: e^(-2) of it is left
    const fresh = used(history([{ ...long, usedTo: false, atUtc: at(day(-20), '00:00') }]));
    const [first] = fresh.perSpot;
    const left = unknownStart(lowerEdgeUmol(zone.spots[0]!, zone)).dli * Math.exp(-2);
    expect(first!.taken!.dli - sum(first!.made!.dli)).toBeCloseTo(left, 6);
  });

  test('what a coral is used to moves with it', () => {
    const from = { xCm: 14, yCm: 14, depthCm: 44, openShare: 1 };
    const copper = zone.spots[0]!;
    const moved = log({ kind: 'moved', atUtc: at(TODAY, '10:00'), spotId: copper.id, from, to: copper });
    const now = used(history([long]), moved);
    const low = plainDay(long, { ...zone, spots: [{ ...copper, ...from }] })[0]!;
    expect(now.perSpot[0]!.dli).toBeCloseTo(low.dli, 9);
    expect(now.perSpot[0]!.dli).toBeLessThan(0.7 * light[0]!.dli);
    expect(now.perSpot[1]!.dli).toBeCloseTo(light[1]!.dli, 9);
    // a step in light, listed with what it changed
    const change = now.changes.at(-1)!;
    expect(change.ids).toEqual(['e0']);
    expect(change.before![0]!.dli).toBeCloseTo(low.dli, 9);
    expect(change.after[0]!.dli).toBeCloseTo(light[0]!.dli, 9);
    // ten days later it is used to two thirds of the step
    const later = used(history([long]), log({ ...moved.events[0]!, atUtc: at(day(-10), '00:00') }));
    expect(later.perSpot[0]!.dli).toBeCloseTo(light[0]!.dli + (low.dli - light[0]!.dli) / Math.E, 6);
  });

  test('fresh carbon and a wiped lens are steps up; before them there was less', () => {
    const clear: Zone = { ...zone, water: { ...zone.water, yellow440PerM: 0.04 } };
    const carbon = log({ kind: 'carbon', atUtc: at(TODAY, '09:00'), yellowBefore: 0.4, yellowAfter: 0.04 });
    const fresh = used(history([long]), carbon, NOW, clear);
    const clearDay = plainDay(long, clear);
    const j = stepRatio(clearDay[4]!, fresh.perSpot[4]!).ratio;
    expect(j).toBeGreaterThan(1.1);
    expect(fresh.changes.at(-1)!.after[4]!.dli).toBeCloseTo(clearDay[4]!.dli, 9);
    const wiped = used(
      history([long]),
      log({ kind: 'lens', atUtc: at(TODAY, '09:00'), groupId: null, gainShare: 0.1 }),
    );
    const step = stepRatio(light[0]!, wiped.perSpot[0]!).ratio;
    // dust came slowly, so that most of it was grown used to
    expect(step).toBeGreaterThan(1.05);
    expect(step).toBeLessThan(1.1);
    const twice = log(
      { kind: 'lens', atUtc: at(day(-7), '09:00'), groupId: null, gainShare: 0.1 },
      { kind: 'lens', atUtc: at(TODAY, '09:00'), groupId: null, gainShare: 0.02 },
    );
    expect(stepRatio(light[0]!, used(history([long]), twice).perSpot[0]!).ratio).toBeLessThan(step);
  });

  test('a new coral starts at the light it came from, on the day it came', () => {
    const z: Zone = {
      ...zone,
      spots: zone.spots.map((s, i) =>
        i === 0
          ? { ...s, arrived: day(-10), cameFrom: { peakUmol: 60, hours: 10 } }
          : i === 1
            ? { ...s, arrived: TODAY }
            : s,
      ),
    };
    const now = used(history([long]), log(), NOW, z);
    expect(now.perSpot[0]!.dli).toBeCloseTo(light[0]!.dli + (60 * 10 * 0.0036 - light[0]!.dli) / Math.E, 9);
    expect(now.perSpot[1]).toMatchObject({ dli: 180 * 8 * 0.0036, peak: 180 });
    expect(now.perSpot[2]!.dli).toBeCloseTo(light[2]!.dli, 9);
  });

  test('interludes and a rise of the controller’s own count on their days', () => {
    const show = {
      id: 'i',
      kind: 'viewing' as const,
      date: day(-1),
      fromMinute: 22 * 60,
      minutes: 90,
      strengthShare: 1,
      mix: long.threads[2]!.mix,
      mixName: 'Reading noon',
    };
    const lit = used(history([{ ...long, extras: { interludes: [show] } }]));
    expect(lit.perSpot[0]!.dli).toBeGreaterThan(light[0]!.dli * 1.005);
    // only the day of the interlude is not its plain day
    const guests = { ...long, extras: { interludes: [show] } };
    const own = [-2, -1, 0].map((n) => ownDay(guests, { date: day(n), timeZone: zone.timeZone }));
    expect(own).toEqual([false, true, false]);
    const rise = { date: day(-10), days: 20, fromShare: 0.5, toShare: 1 };
    const eased = used(history([{ ...long, usedTo: false, atUtc: at(day(-10), '00:00'), rise }]));
    // by hand: ten days from the start of its band, each by its own share
    let a = { dli: 180 * 8 * 0.0036, peak: 180 };
    for (let d = 0; d < 10; d += 1) {
      const share = 0.5 + (0.5 * d) / 20;
      a = accustom(a, { dli: light[0]!.dli * share, peak: light[0]!.peak * share }, 1);
    }
    expect(eased.perSpot[0]!.dli).toBeCloseTo(a.dli, 6);
    expect(eased.perSpot[0]!.peak).toBeCloseTo(a.peak, 4);
  });

  test('macroalgae follow within days', () => {
    const z: Zone = { ...zone, spots: zone.spots.map((s) => ({ ...s, need: 'macroalgae' as const })) };
    const h = history([{ ...long, usedTo: false, atUtc: at(day(-4), '00:00') }]);
    const now = used(h, log(), NOW, z).perSpot[0]!;
    const start = 60 * 8 * 0.0036;
    expect(now.dli).toBeCloseTo(light[0]!.dli + (start - light[0]!.dli) / Math.E, 9);
  });
});

const ask = (plan: Partial<EaseQuestion>): EaseQuestion => ({
  planId: null,
  targets: [],
  from: [runnable(long)],
  method: 'cap',
  schedule: { kind: 'fastest' },
  ceiling: 1.3,
  today: TODAY,
  start: TODAY,
  ...plan,
});
function plan(h: HistoryDoc, q: EaseQuestion, l: LogDoc = log(), z = zone, atUtc = NOW): EaseAnswer {
  const p = parIn(z);
  const steps = easeSteps(z, h, atUtc, z.water.yellow440PerM, replay(z, h, l, null, atUtc, p).perSpot, q, p);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}

describe('plans', () => {
  const quiet: RunningEntry = { ...long, capShare: 0.4 };
  const target = { ...runnable(long), capShare: 0.8 };

  test('who bears more may get more: first is who limits, and what is beyond a ceiling is so by its own', () => {
    const brave: Zone = { ...zone, spots: zone.spots.map((s, i) => (i === 2 ? s : { ...s, bears: 2 })) };
    const change = ask({ targets: [target], from: [runnable(quiet)] });
    const { limits, atOnce } = plan(history([quiet]), change, log(), brave);
    expect(limits[0]!.spot).toBe(2);
    expect(limits[0]!.ratio).toBeLessThan(atOnce.worst.ratio);
    expect(beyondCeiling(atOnce, brave, 1.3, TODAY)).toMatchObject({ spot: 2, date: TODAY });
    expect(beyondCeiling(atOnce, brave, 2.5, TODAY)).toBeNull();
  });

  test('a higher cap: under the ceiling at every coral, in whole percents, to the target', () => {
    const answer = plan(history([quiet]), ask({ targets: [target], from: [runnable(quiet)] }));
    expect(answer.refused).toBeNull();
    // who follows twice as fast, or half as fast, takes about half or twice as long
    const last = dayNumber(answer.steps.at(-1)!.date) - dayNumber(TODAY);
    const [fast, slow] = answer.daysRange!;
    expect(fast).toBeGreaterThan(0.35 * last);
    expect(fast).toBeLessThan(0.75 * last);
    expect(slow).toBeGreaterThan(1.5 * last);
    expect(slow).toBeLessThan(2.5 * last);
    // twice the light, less what little light leaves of a ratio
    expect(answer.atOnce.worst.ratio).toBeLessThan(2);
    expect(answer.atOnce.worst.ratio).toBeGreaterThan(1.9);
    expect(answer.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
    expect(answer.steps[0]!.date).toBe(TODAY);
    expect(answer.steps.at(-1)!.setting).toBe(1);
    answer.steps.slice(1).forEach((s, i) => expect(s.setting).toBeGreaterThan(answer.steps[i]!.setting));
    answer.steps.forEach((s) => {
      const cap = atSetting(ask({ targets: [target] }), s.setting)[0]!.capShare;
      expect(Math.abs(cap * 100 - Math.round(cap * 100))).toBeLessThan(1e-9);
    });
    expect(answer.course!.settled.every((d) => d !== null && d >= 10)).toBe(true);
    // a start later on is a plan for later, from what they are used to then
    const later = plan(history([quiet]), ask({ targets: [target], start: day(5) }));
    expect(later.steps[0]!.date).toBe(day(5));
    expect(later.course!.ratios[0]![0]).toBeCloseTo(1, 6);
    expect(later.steps.length).toBe(answer.steps.length);
    // lower goes at once
    const down = plan(history([long]), ask({ targets: [{ ...target, capShare: 0.3 }] }));
    expect(down.steps.map((s) => [s.date, s.setting])).toEqual([[TODAY, 1]]);
  });

  test('with one new lamp of two, the coral under it limits the plan', () => {
    const [left, right] = long.lamps;
    const one: RunningEntry = { ...long, lamps: [left!] };
    const answer = plan(history([one]), ask({ targets: [runnable(long)], from: [runnable(one)] }));
    const under = (spot: number) => Math.abs(zone.spots[spot]!.xCm - right!.xCm);
    expect(under(answer.limits[0]!.spot)).toBeLessThan(25);
    expect(answer.limits[0]!.ratio).toBeGreaterThan(answer.limits.at(-1)!.ratio * 1.5);
    expect(answer.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
  });

  test('few changes on Sundays, a straight line, a controller that eases by itself', () => {
    const q = ask({ targets: [target], from: [runnable(quiet)] });
    const sundays = plan(history([quiet]), {
      ...q,
      schedule: { kind: 'few', changes: 4, everyDays: 7, weekday: 7 },
    });
    expect(sundays.steps.length).toBeLessThanOrEqual(4);
    sundays.steps.forEach((s) => expect(weekdayOf(s.date)).toBe(7));
    expect(sundays.steps.at(-1)!.setting).toBe(1);
    const line = plan(history([quiet]), { ...q, schedule: { kind: 'line', fromShare: 0.5, days: 14 } });
    expect(line.steps.at(-1)!.date).toBe(day(14));
    expect(line.course!.worst.ratio).toBeLessThan(2);
    const itself = plan(history([quiet]), { ...q, schedule: { kind: 'itself' } });
    expect(itself.itself!.fromShare).toBeGreaterThan(0.5);
    expect(itself.itself!.fromShare).toBeLessThanOrEqual(0.65);
    expect(itself.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
  });

  test('another day is mixed in, lamps come down, each to the target and under the ceiling', () => {
    const old = runnable(quiet);
    const other = { ...target, threads: target.threads.map((t) => ({ ...t, mix: { ...t.mix, violet: 1 } })) };
    const blend = plan(history([quiet]), ask({ targets: [other], from: [old], method: 'blend' }));
    expect(blend.refused).toBeNull();
    expect(blend.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
    const height = plan(
      history([quiet]),
      ask({ targets: [{ ...target, capShare: 0.6 }], from: [old], method: 'height', raiseCm: 40 }),
    );
    expect(height.refused).toBeNull();
    expect(height.steps[0]!.setting).toBeLessThan(1);
    expect(height.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
    const lamps = atSetting(ask({ targets: [target], method: 'height', raiseCm: 40 }), 0.5)[0]!.lamps;
    expect(lamps[0]!.heightCm).toBe(zone.groups[0]!.lamps[0]!.heightCm + 20);
    // when even the greatest height is too strong it says so
    expect(plan(history([quiet]), ask({ targets: [target], method: 'height', raiseCm: 3 })).refused).toMatch(
      /smallest setting/,
    );
  });

  test('the halves of a blend: at 0 what ran, at 1 what is to run, between them between', () => {
    const other = { ...target, threads: target.threads.map((t) => ({ ...t, minute: t.minute + 30 })) };
    const eased: Eased = { targets: [other], from: [runnable(quiet)], method: 'blend' };
    const light = (share: number) => {
      const groups = [litRunnable(atSetting(eased, share)[0]!)];
      return lightBetween(parOf(groups, yellow, zone.spots), groups, 1)[0]!.dli;
    };
    expect(light(0) / plainDay(quiet)[0]!.dli).toBeCloseTo(1, 1);
    expect(light(1)).toBeCloseTo(plainDay({ ...long, ...other })[0]!.dli, 9);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 19 }), (k) => {
        expect(light((k + 1) / 20)).toBeGreaterThan(light(k / 20) * 0.99);
      }),
      { numRuns: 10 },
    );
  });

  test('lamps that cannot be dimmed: by hours, or one circuit after the other; their peak cannot be eased and is told', () => {
    const kind = libraryLamp('lib-tubes');
    const threads = [
      {
        minute: 600,
        strengthShare: 1,
        mix: Object.fromEntries(kind.controls.map((c) => [c.id, 1])),
        mixName: 'all on',
      },
      { minute: 1200, strengthShare: 0, mix: {}, mixName: 'off' },
    ];
    const tubes = { ...target, groupId: 'tubes', groupName: 'Tubes', lampKind: kind, threads, capShare: 1 };
    const eased: Eased = { targets: [tubes], from: [], method: 'hours' };
    expect(methodsOf(eased)).toEqual(expect.arrayContaining(['hours', 'height']));
    expect(methodsOf(eased)).not.toContain('cap');
    expect(settingsOf(eased)[0]).toBe(0);
    const answer = plan(history([quiet]), ask({ targets: [tubes], from: [], method: 'hours' }));
    expect(answer.refused).toBeNull();
    expect(answer.peak!.ratio).toBeGreaterThan(1);
    expect(answer.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
    const first = atSetting(eased, answer.steps[0]!.setting)[0]!;
    const last = atSetting(eased, 1)[0]!;
    expect(last.threads).toEqual(threads);
    expect(first.threads.every((t) => t.minute >= 600 && t.minute <= 1200)).toBe(true);
    expect(plan(history([quiet]), ask({ targets: [tubes], from: [], method: 'cap' })).refused).toMatch(
      /cannot be dimmed/,
    );
  });

  test('a light that nobody has measured is planned for by what it may be; the same lamp by itself alone', () => {
    const cal = bareCalibration(hungGroups(bundle.case, zone), zone);
    const wary = (h: HistoryDoc, q: EaseQuestion, known: Calibration = cal) =>
      ended(easeSteps(zone, h, NOW, yellow, used(h).perSpot, q, parOf, known));
    // more of the same light: what it may be off is the same before and after
    const same = ask({ targets: [target], from: [runnable(quiet)] });
    const { limits, ...known } = wary(history([quiet]), same);
    expect({ ...known, limits: limits.map((l) => ({ ...l, bandShare: 0 })) }).toEqual(
      plan(history([quiet]), same),
    );
    limits.forEach((l) => expect(l.bandShare).toBeLessThan(0.05));
    // another lamp in its place
    const other = { ...target, groupId: 'new', lamps: [{ ...target.lamps[0]!, id: 'n' }] };
    const swap = ask({ targets: [{ ...target, capShare: 0.05 }, other], from: [runnable(quiet)] });
    const answer = wary(history([quiet]), swap);
    const bold = plan(history([quiet]), swap);
    expect(bold.doubt).toBeNull();
    const { share, allowed, daysLess } = answer.doubt!;
    expect(allowed).toBe(true);
    expect(share).toBeGreaterThan(0.2);
    expect(answer.limits.find((l) => l.spot === answer.doubt!.spot)!.bandShare).toBe(share);
    expect(answer.steps.length).toBeGreaterThan(bold.steps.length);
    const lasts = (a: EaseAnswer) => dayNumber(a.steps.at(-1)!.date) - dayNumber(TODAY);
    expect(daysLess).toBe(lasts(answer) - lasts(bold));
    expect(daysLess).toBeGreaterThan(0);
    // were there so much more, nobody would pass the ceiling all the same
    const growers = used(history([quiet])).perSpot;
    let living = growers.map((u): DayLight => u);
    const course = answer.course!.light;
    course.forEach((lights) => {
      lights.forEach((l, s) => {
        const by = 1 + share;
        const real: DayLight = {
          ...{ dli: l.dli * by, peak: l.peak * by },
          taken: { dli: l.taken!.dli * by, peak: l.taken!.peak * by },
        };
        if (s === answer.doubt!.spot) {
          const floor = floorUmolOf(zone.spots[s]!, zone);
          expect(stepRatio(real, living[s]!, floor).ratio).toBeLessThanOrEqual(1.3 + 1e-6);
        }
        living = living.map((a, i) => (i === s ? accustom(a, real, 1) : a));
      });
    });
    // known to a hair, it is planned as reckoned
    const sure = {
      ...cal,
      covariance: cal.covariance.map((r) => r.map(() => 0)),
      parameters: cal.parameters.map((p) => ({ ...p })),
    };
    const ownColours = ask({
      targets: [{ ...target, threads: target.threads.slice(1) }],
      from: [runnable(quiet)],
    });
    expect(wary(history([quiet]), ownColours, sure).doubt).toBeNull();
  });

  test('plans under way are counted in', () => {
    const bar = { ...target, groupId: 'bar', groupName: 'Bar', lamps: [{ ...target.lamps[0]!, id: 'b' }] };
    const other: EasingPlan = {
      ...ask({ targets: [target], from: [runnable(quiet)] }),
      id: 'p',
      zoneId: zone.id,
      name: 'Higher cap',
      createdUtc: NOW,
      steps: [{ date: day(3), setting: 1, doneUtc: null }],
      state: 'active',
      deeds: [],
    };
    const q = ask({ targets: [bar], from: [] });
    const alone = plan(history([quiet]), q);
    const both = plan(history([quiet], [other]), q);
    expect(both.steps.at(-1)!.date > alone.steps.at(-1)!.date).toBe(true);
    // what lies ahead knows of it too
    const ahead = (h: HistoryDoc) => forecast(zone, h, NOW, TODAY, yellow, used(h).perSpot, parOf);
    expect(ahead(history([quiet])).worst.ratio).toBeCloseTo(1, 6);
    const { ratios, worst } = ahead(history([quiet], [other]));
    expect(Math.max(...ratios[2]!)).toBeCloseTo(1, 6);
    expect(Math.max(...ratios[3]!)).toBeGreaterThan(1.25);
    expect(worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
    expect(ahead(history([quiet], [other])).settled[0]).toBeGreaterThan(15);
    // stopped, it is no longer counted
    const stopped = plan(history([quiet], [{ ...other, state: 'stopped' }]), q);
    expect(stopped.steps).toEqual(alone.steps);
  });

  test('replanned after days without power it goes down first', () => {
    const later = louder({ capShare: 0.6, atUtc: at(day(-1), '00:00') });
    const dark = log({
      kind: 'outage',
      atUtc: at(day(-14), '00:00'),
      toUtc: at(TODAY, '00:00'),
      groupIds: null,
    });
    const answer = plan(history([quiet, later]), ask({ targets: [target] }), dark);
    expect(atSetting(ask({ targets: [target] }), answer.steps[0]!.setting)[0]!.capShare).toBeLessThan(0.4);
    expect(answer.course!.worst.ratio).toBeLessThanOrEqual(1.3 + 1e-6);
  });
});

test('a coral climbs through places that are each clearly brighter, to its own', () => {
  const steps = climbSteps(zone, history([long]), NOW, yellow, zone.spots[0]!.id, parOf);
  let next = steps.next();
  while (!next.done) next = steps.next();
  const { places } = next.value;
  expect(places.length).toBeGreaterThan(2);
  expect(places.at(-1)!.name).toBe('Copper table');
  places.slice(1).forEach((p, i) => {
    expect(p.light.dli).toBeGreaterThan(places[i]!.light.dli * 1.1);
    expect(p.light.peak).toBeGreaterThan(places[i]!.light.peak * 1.1);
  });
  const z: Zone = {
    ...zone,
    spots: zone.spots.map((s, i) =>
      i === 0 ? { ...s, arrived: TODAY, cameFrom: { peakUmol: 90, hours: 9 } } : s,
    ),
  };
  const climb = { spotId: z.spots[0]!.id, places };
  const answer = plan(
    history([long]),
    ask({ method: 'places', climb, schedule: { kind: 'few', changes: 5, everyDays: 6, weekday: null } }),
    log(),
    z,
  );
  expect(answer.refused).toBeNull();
  expect(answer.steps.at(-1)!.setting).toBe(1);
  expect(answer.course!.worst.ratio).toBeLessThan(answer.atOnce.worst.ratio);
  // nobody else moves: their light is that of their own places
  answer.steps.forEach((step) =>
    plainDay(long)
      .slice(1)
      .forEach((l, i) => expect(step.light[i + 1]!.dli).toBeCloseTo(l.dli, 9)),
  );
});

test('a rescue cuts as little as it must, by caps first; what stays over is named', () => {
  const loud = louder({ capShare: 0.8, atUtc: at(TODAY, '01:00') });
  const h = history([{ ...long, capShare: 0.3 }, loud]);
  const a = used(h).perSpot;
  const found = rescueOf(zone, h, NOW, yellow, a, 1.1, parOf);
  expect(Math.max(...found.now.map((n) => n.ratio))).toBeGreaterThan(2);
  expect(found.cut!.method).toBe('cap');
  expect(found.over).toEqual([]);
  const worst = Math.max(...found.cut!.ratios);
  expect(worst).toBeLessThanOrEqual(1.1 + 1e-9);
  expect(worst).toBeGreaterThan(1.05);
  expect(found.cut!.targets[0]!.capShare).toBeCloseTo(0.33, 2);
  // the same lamp brighter is known well, whatever it gives; how well is looked at with what is known of it
  const cal = bareCalibration(hungGroups(bundle.case, zone), zone);
  const doubts = rescueOf(zone, h, NOW, yellow, a, 1.1, parOf, cal).now.map((n) => n.bandShare);
  doubts.forEach((d) => expect(d).toBeLessThan(0.1));
  expect(Math.max(...doubts)).toBeGreaterThan(0);
  expect(
    rescueOf(zone, history([long]), NOW, yellow, used(history([long])).perSpot, 1.1, parOf).cut,
  ).toBeNull();
  // circuits and hours where nothing dims; a coral from the dark stays over and is named
  const kind = libraryLamp('lib-tubes');
  const mix = Object.fromEntries(kind.controls.map((c) => [c.id, 1]));
  const tubes: RunningEntry = {
    ...loud,
    lampKind: kind,
    capShare: 1,
    threads: [
      { minute: 600, strengthShare: 1, mix, mixName: 'on' },
      { minute: 1200, strengthShare: 0, mix, mixName: 'off' },
    ],
  };
  const cut = rescueOf(
    zone,
    history([tubes]),
    NOW,
    yellow,
    zone.spots.map(() => ({ dli: 0.5, peak: 5 })),
    1.1,
    parOf,
  );
  expect(cut.cut!.method).not.toBe('cap');
  expect(cut.over.length).toBeGreaterThan(0);
  // but nobody is put into the dark for weeks
  expect(Math.min(...cut.cut!.ratios)).toBeGreaterThan(0.1);
  // hours that are no more than they were used to are left, however bright their peak
  const short = zone.spots.map(() => ({ dli: 100, peak: 5 }));
  const left = rescueOf(zone, history([tubes]), NOW, yellow, short, 1.1, parOf);
  expect([left.cut, left.over.length > 0]).toEqual([null, true]);
  expect(plainSpot({ ...zone.spots[0]!, cameFrom: null })).not.toHaveProperty('cameFrom');
  expect(runningAt(h, zone, NOW)[0]!.id).toBe('louder');
});

describe('a plan under way', () => {
  const PLANS = process.env.LONG ? 200 : 12;
  const quiet: RunningEntry = { ...long, capShare: 0.4 };
  const target = { ...runnable(long), capShare: 0.8 };
  const begun = (q: EaseQuestion, answer: EaseAnswer): EasingPlan => ({
    ...q,
    raiseCm: q.raiseCm ?? 0,
    id: 'plan',
    zoneId: zone.id,
    name: 'Brighter',
    createdUtc: NOW,
    ceiling: answer.ceiling,
    steps: answer.steps.map(({ date, setting }) => ({ date, setting, doneUtc: null })),
    state: 'active',
    deeds: [],
  });
  const typed = (p: EasingPlan, setting: number, atUtc: string): RunningEntry => ({
    ...quiet,
    ...atSetting(p, setting)[0]!,
    id: atUtc,
    atUtc,
    usedTo: false,
    planId: 'plan',
  });
  const outage = (from: string, to: string) =>
    log({ kind: 'outage', atUtc: at(from, '00:00'), toUtc: at(to, '00:00'), groupIds: null });

  test('three days without power: a few changes become more, none above the ceiling, all in one voice', () => {
    const q = ask({
      targets: [target],
      from: [runnable(quiet)],
      schedule: { kind: 'few', changes: 8, everyDays: 7, weekday: null },
      ceiling: 1.15,
    });
    const first = plan(history([quiet]), q);
    expect(first.course!.worst.ratio).toBeGreaterThan(1.1);
    const kept = begun(q, first);
    const now = typed(kept, first.steps[0]!.setting, NOW);
    const under = { ...kept, steps: kept.steps.map((s, i) => (i === 0 ? { ...s, doneUtc: NOW } : s)) };
    const h = history([quiet, now], [under]);
    const due = openSteps(under)[0]!.date;
    // nothing happened: what was planned stays, and its own numbers are told
    const calm = aheadOf(under, plan(h, goesOn(under, due)!, log(), zone, at(due, '04:00')), due)!;
    expect(calm).toMatchObject({ asPlanned: true, due: true, coming: openSteps(under) });
    expect(calm.next.worst.ratio).toBeLessThanOrEqual(kept.ceiling + 0.005);
    expect(calm.last.light).not.toEqual(calm.next.light);
    // the same week with three days dark at its end
    const dark = outage(dateOf(dayNumber(due) - 3), due);
    const late = aheadOf(under, plan(h, goesOn(under, due)!, dark, zone, at(due, '04:00')), due)!;
    expect(late.asPlanned).toBe(false);
    expect(late.coming[0]!.setting).toBeLessThan(calm.coming[0]!.setting);
    expect(late.coming.length).toBeGreaterThanOrEqual(calm.coming.length);
    expect(late.coming.at(-1)!.setting).toBe(1);
    expect(late.next.worst.ratio).toBeLessThanOrEqual(kept.ceiling + 1e-6);
    // slower is slower: under the half, not the same jump
    const slower = plan(h, anew(under, due, due, { ceiling: 1.075 }), dark, zone, at(due, '04:00'));
    expect(slower.course!.worst.ratio).toBeLessThanOrEqual(1.075 + 1e-6);
    expect(slower.steps.length).toBeGreaterThan(late.coming.length);
  });

  test('a late step is made up for today, the rest is on its weekday again', () => {
    const q = ask({
      targets: [target],
      from: [runnable(quiet)],
      schedule: { kind: 'few', changes: 4, everyDays: 7, weekday: 2 },
    });
    const kept = begun(q, plan(history([quiet]), q));
    expect(kept.steps.map((x) => [x.date, weekdayOf(x.date)])).toEqual(
      [0, 7, 14, 21].map((n) => [day(n), 2]),
    );
    const dates = (late: number) => {
      const today = day(late);
      const answer = plan(history([quiet], [kept]), goesOn(kept, today)!, log(), zone, at(today, '04:00'));
      expect(aheadOf(kept, answer, today)!.due).toBe(true);
      expect(answer.steps.slice(1).every((x) => weekdayOf(x.date) === 2)).toBe(true);
      return answer.steps.slice(0, 2).map((x) => x.date);
    };
    // on Friday: then the Tuesday four days later; on Saturday that would be too soon
    expect(dates(3)).toEqual([3, 7].map(day));
    expect(dates(4)).toEqual([4, 14].map(day));
    expect(dates(7)).toEqual([7, 14].map(day));
  });

  test('a straight line off its track becomes longer, and a late step is never kept', () => {
    const q = ask({
      targets: [target],
      from: [runnable(quiet)],
      schedule: { kind: 'line', fromShare: 0.6, days: 20 },
    });
    const first = plan(history([quiet]), q);
    const kept = { ...begun(q, first), ceiling: 1.15 };
    const answer = plan(history([quiet], [kept]), { ...goesOn(kept, TODAY)!, open: undefined });
    expect(answer.course!.worst.ratio).toBeLessThanOrEqual(1.15 + 1e-6);
    expect(answer.steps.at(-1)!.date > day(20)).toBe(true);
    expect(goesOn(kept, day(1))!.open).toBeUndefined();
    expect(goesOn(kept, TODAY)!.open).toEqual(openSteps(kept));
    expect(goesOn({ ...kept, state: 'paused' }, TODAY)).toBeNull();
    expect(goesOn({ ...kept, steps: [] }, TODAY)).toBeNull();
  });

  test(`${PLANS} plans through outages and delays: no step passes the ceiling, by a replay of its own`, () => {
    const random = seeded(17);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
    let steps = 0;
    let anewly = 0;
    let stopped = 0;
    for (let n = 0; n < PLANS; n += 1) {
      const before: RunningEntry = { ...long, capShare: 0.2 + Math.round(random() * 30) / 100 };
      const to = { ...target, capShare: Math.min(1, before.capShare * (1.3 + 2 * random())) };
      const method = pick(['cap', 'cap', 'blend', 'height'] as const);
      const q = ask({
        targets: [to],
        from: [runnable(before)],
        method,
        raiseCm: 60,
        ceiling: pick([1.1, 1.15, 1.3, 1.5]),
        schedule: pick([
          { kind: 'fastest' },
          { kind: 'few', changes: 2 + Math.floor(random() * 6), everyDays: 7, weekday: null },
          { kind: 'few', changes: 5, everyDays: 3, weekday: null },
          { kind: 'line', fromShare: 0.5, days: 10 + Math.floor(random() * 20) },
        ] as const),
      });
      const first = plan(history([before]), q);
      if (first.refused) continue;
      let kept = begun(q, first);
      const entries = [before];
      const dark: object[] = [];
      for (let turn = 0; turn < 25 && openSteps(kept).length > 0; turn += 1) {
        const next = openSteps(kept)[0]!.date;
        // now and then the power fails before the step, or nobody has time for days
        if (random() < 0.4) {
          const days = 1 + Math.floor(random() * 5);
          const from = dateOf(Math.max(dayNumber(TODAY), dayNumber(next) - days));
          if (from < next)
            dark.push({ kind: 'outage', atUtc: at(from, '00:00'), toUtc: at(next, '00:00'), groupIds: null });
        }
        const today = dateOf(dayNumber(next) + (random() < 0.2 ? Math.floor(random() * 9) : 0));
        const nowUtc = turn === 0 && today === TODAY ? NOW : at(today, '04:00');
        const h = history(entries, [kept]);
        const l = log(...dark);
        const answer = plan(h, goesOn(kept, today)!, l, zone, nowUtc);
        const ahead = answer.refused ? null : aheadOf(kept, answer, today);
        if (!ahead) {
          stopped += 1;
          break;
        }
        anewly += Number(!ahead.asPlanned);
        if (!ahead.due) {
          kept = { ...kept, steps: [...doneSteps(kept), ...ahead.coming] };
          continue;
        }
        const [step, ...rest] = ahead.coming;
        const entered = typed(kept, step!.setting, nowUtc);
        const was = replay(zone, h, l, null, nowUtc, parOf).perSpot;
        const brought = plainDay(entered);
        brought.forEach((b, s) => {
          expect(stepRatio(b, was[s]!, floorUmolOf(zone.spots[s]!, zone)).ratio).toBeLessThanOrEqual(
            kept.ceiling + 0.005,
          );
        });
        expect(ahead.next.light.map((x) => x.dli)).toEqual(brought.map((b) => expect.closeTo(b.dli, 6)));
        entries.push(entered);
        kept = { ...kept, steps: [...doneSteps(kept), { ...step!, doneUtc: nowUtc }, ...rest] };
        steps += 1;
      }
    }
    expect(steps).toBeGreaterThan(2 * PLANS);
    expect(anewly).toBeGreaterThan(PLANS / 3);
    expect(stopped).toBeLessThan(PLANS / 10);
  });

  test('doubt that comes later holds a plan where it is, and never takes it below what it has reached', () => {
    const cal = bareCalibration(hungGroups(bundle.case, zone), zone);
    const low: RunningEntry = { ...long, capShare: 0.1 };
    const other = { ...target, groupId: 'new', capShare: 0.6, lamps: [{ ...target.lamps[0]!, id: 'n' }] };
    const q = ask({ targets: [other], from: [] });
    let kept = begun(q, plan(history([low]), q));
    const first = kept.steps[0]!;
    expect(first.setting).toBeGreaterThan(0);
    const entered = typed(kept, first.setting, NOW);
    kept = { ...kept, steps: kept.steps.map((s, i) => (i === 0 ? { ...s, doneUtc: NOW } : s)) };
    const h = history([low, entered], [kept]);
    const [today, nowUtc] = [day(2), at(day(2), '04:00')];
    const again = { ...anew(kept, today, today), open: undefined };
    const answer = ended(
      easeSteps(zone, h, nowUtc, yellow, used(h, log(), nowUtc).perSpot, again, parOf, cal),
    );
    expect(answer.doubt!.share).toBeGreaterThan(0.2);
    expect(answer.refused).toBeNull();
    for (const s of answer.steps) expect(s.setting).toBeGreaterThan(first.setting - 1e-9);
    // it does not stand still for good either, and takes longer than what is known
    expect(answer.steps.at(-1)!.setting).toBe(1);
    const bold = ended(easeSteps(zone, h, nowUtc, yellow, used(h, log(), nowUtc).perSpot, again, parOf));
    expect(answer.steps.at(-1)!.date >= bold.steps.at(-1)!.date).toBe(true);
  });

  test('what runs by a plan is judged by the plan’s ceiling, everything else by the keeper’s', () => {
    const p = {
      ...begun(ask({ targets: [target] }), plan(history([quiet]), ask({ targets: [target] }))),
      ceiling: 1.5,
    };
    const own = typed(p, 0.5, NOW);
    expect(ceilingRunning(1.3, [p], [own], NOW)).toBe(1.5);
    expect(ceilingRunning(1.3, [p], [quiet], NOW)).toBe(1.3);
    expect(ceilingRunning(1.6, [p], [own], NOW)).toBe(1.6);
    const place = { xCm: 1, yCm: 1, depthCm: 1, openShare: 1 };
    const climb = (doneUtc: string): EasingPlan => ({
      ...p,
      climb: { spotId: 'x', places: [place, place] },
      steps: [{ date: TODAY, setting: 1, doneUtc }],
    });
    expect(ceilingRunning(1.3, [climb(at(day(-29)))], [quiet], NOW)).toBe(1.5);
    expect(ceilingRunning(1.3, [climb(at(day(-31)))], [quiet], NOW)).toBe(1.3);
    expect(ceilingRunning(1.3, [{ ...climb(at(day(-2))), zoneId: 'other' }], [quiet], NOW)).toBe(1.3);
  });
});
