import { BANDS, type BandId } from '../spectrum/bands';
import { mixSpectrum } from '../spectrum/lamp';
import { sharesOfPar } from '../mix/shape';
import { percent } from '../shape/percent';
import type { HistoryDoc, RunningEntry } from '../record/history';
import { kindOf, type LogDoc, type LogEventOf } from '../record/log';
import { begunCare } from '../record/log/care';
import { measured, MEASURES } from '../record/log/measures';
import { floorUmolOf } from '../record/needs';
import type { Sign } from '../record/log/sign';
import type { Zone } from '../record/zone';
import { type DayLight, stepRatio } from '../easing/accustomed';
import { changesBetween } from './difference';
import { entriesOf } from './lit';
import type { MetChange } from './replay';

/** What changed before a coral showed something, with amounts, the likeliest first; nothing is invented. */

export interface Cause {
  what: 'light' | 'spectrum' | 'water' | 'chemistry' | 'care' | 'befell' | 'moved' | 'outage';
  /** whole days before the sign */
  daysBefore: number;
  /** what happened, with its amount; of light its figures stand beside */
  words: string;
  light?: { before: DayLight; after: DayLight; ratio: number; bandShare: number };
  /** how well it fits the sign in time, direction and size, 0..1 */
  fit: number;
}

export interface Triage {
  causes: Cause[];
  /** the light of this coral, its lamps, water and place, did not change within the time looked at */
  lightStill: boolean;
  /** days looked at, and for how many of them it is known what ran */
  days: number;
  knownDays: number;
  /** what to look at next, in order */
  check: string[];
}

/** So far back it is looked. Mark: rule of thumb. */
const WEEKS_DAYS = 56;
const DAY_MS = 86_400_000;
/** Light that moved less than this is as before. Mark: rule of thumb. */
const LEAST_LIGHT = 0.05;
const LEAST_BAND = 0.03;

/**
 * When after a cause a sign shows, days: first, likeliest, last; whether it comes of more light or of less (or either); and what of the
 * water brings it. Marks: rule of thumb, field practice.
 */
const OF_SIGN: Record<
  Sign,
  {
    shows: readonly [number, number, number];
    light: 1 | -1 | 0;
    rises: readonly string[];
    falls: readonly string[];
  }
> = {
  paling: { shows: [1, 7, 35], light: 1, rises: [], falls: ['nitratePpm', 'phosphatePpm'] },
  browning: { shows: [5, 21, 56], light: -1, rises: ['nitratePpm', 'phosphatePpm'], falls: [] },
  deeper: { shows: [5, 21, 56], light: 0, rises: ['nitratePpm', 'phosphatePpm'], falls: [] },
  hueMoved: { shows: [3, 21, 56], light: 0, rises: [], falls: [] },
  newColour: { shows: [3, 21, 56], light: 1, rises: [], falls: ['nitratePpm', 'phosphatePpm'] },
  polypsIn: { shows: [0, 1, 10], light: 1, rises: [], falls: [] },
  polypsOut: { shows: [0, 1, 14], light: 0, rises: [], falls: [] },
  tissue: {
    shows: [0, 4, 21],
    light: 1,
    rises: ['temperatureC', 'alkalinityDkh'],
    falls: ['alkalinityDkh', 'salinityPpt'],
  },
  larger: { shows: [21, 42, 56], light: 0, rises: [], falls: [] },
  asBefore: { shows: [0, 14, 56], light: 0, rises: [], falls: [] },
};

/** 1 where it is likeliest, 0 before the first day and after the last. */
function inTime(days: number, [first, likely, last]: readonly [number, number, number]): number {
  if (days < first || days > last) return 0;
  return days <= likely
    ? 0.5 + (0.5 * (days - first)) / Math.max(1, likely - first)
    : 1 - (0.8 * (days - likely)) / Math.max(1, last - likely);
}

/** PAR shares by band of the brightest mix of what runs. */
function sharesOf(e: RunningEntry): Record<BandId, number> | null {
  const brightest = e.threads.reduce<RunningEntry['threads'][number] | null>(
    (a, b) => (a === null || b.strengthShare > a.strengthShare ? b : a),
    null,
  );
  return brightest ? sharesOfPar(mixSpectrum(e.lampKind, brightest.mix)) : null;
}

/**
 * @param changes of the light as corals met it, of the replay
 * @param spot by index
 */
export function triage(
  zone: Zone,
  history: HistoryDoc,
  log: LogDoc,
  changes: readonly MetChange[],
  spot: number,
  sign: Sign,
  atUtc: string,
): Triage {
  const tenant = zone.spots[spot]!;
  const of = OF_SIGN[sign];
  const atMs = Date.parse(atUtc);
  const before = (utc: string) => (atMs - Date.parse(utc)) / DAY_MS;
  const within = (utc: string) => before(utc) >= 0 && before(utc) <= WEEKS_DAYS;
  const causes: Cause[] = [];
  const add = (what: Cause['what'], utc: string, words: string, size: number, light?: Cause['light']) => {
    const daysBefore = Math.floor(before(utc));
    const fit = inTime(daysBefore, of.shows) * Math.min(1, Math.max(0, size));
    causes.push({ what, daysBefore, words, fit, ...(light ? { light } : {}) });
  };
  let lightStill = true;
  const entries = entriesOf(history, zone.id);
  for (const c of changes) {
    if (!within(c.atUtc)) continue;
    const [was, is] = [c.before?.[spot], c.after[spot]];
    if (!was || !is) continue;
    const [peak, dose] = [is.peak / Math.max(0.1, was.peak), is.dli / Math.max(0.01, was.dli)];
    const far = Math.max(Math.abs(Math.log(peak)), Math.abs(Math.log(dose)));
    if (far >= Math.log(1 + LEAST_LIGHT)) {
      lightStill = false;
      const ratio = stepRatio(is, c.used[spot]!, floorUmolOf(tenant, zone)).ratio;
      const up = Math.log(peak) + Math.log(dose) > 0 ? 1 : -1;
      // against its direction it explains little
      const fits = of.light === 0 || of.light === up ? 1 : 0.2;
      add('light', c.atUtc, 'light', fits * Math.min(1, far / Math.log(1.5)), {
        ...{ before: was, after: is, ratio, bandShare: c.bandShares[spot]! },
      });
    }
    for (const id of c.ids) {
      const entry = entries.find((e) => e.id === id);
      const last = entry && entries.findLast((e) => e.groupId === entry.groupId && e.atUtc < entry.atUtc);
      const [a, b] = [last && sharesOf(last), entry && sharesOf(entry)];
      if (!a || !b) continue;
      const moved = BANDS.map((band) => ({ band, by: b[band.id] - a[band.id] })).sort(
        (x, y) => Math.abs(y.by) - Math.abs(x.by),
      )[0]!;
      if (Math.abs(moved.by) < LEAST_BAND) continue;
      lightStill = false;
      add(
        'spectrum',
        c.atUtc,
        `${moved.band.name} ${percent(a[moved.band.id])} → ${percent(b[moved.band.id])} of PAR at ${entry!.groupName} (${changesBetween(last!, entry!)[0] ?? 'another mix'})`,
        Math.min(1, Math.abs(moved.by) / 0.15) *
          (sign === 'hueMoved' || sign === 'newColour' || sign === 'deeper' ? 1 : 0.6),
      );
    }
  }
  const begun = new Set(begunCare(log.events).map((e) => e.id));
  for (const e of log.events) {
    if (!within(e.atUtc) || (e.zoneId !== zone.id && !kindOf(e).shared)) continue;
    const words = kindOf(e).words(e, zone);
    if (e.kind === 'outage') add('outage', e.atUtc, words, 0.4);
    if (e.kind === 'carbon') {
      lightStill = false;
      add(
        'water',
        e.atUtc,
        words,
        Math.min(1, Math.abs(e.yellowBefore - e.yellowAfter) / 0.2) * (of.light === -1 ? 0.3 : 0.8),
      );
    }
    if (e.kind === 'lens') {
      lightStill = false;
      add('water', e.atUtc, words, Math.min(1, e.gainShare / 0.3) * (of.light === -1 ? 0.3 : 0.8));
    }
    if (e.kind === 'care' && begun.has(e.id)) add('care', e.atUtc, words, e.what === 'additive' ? 0.6 : 0.4);
    if (e.kind === 'befell' && e.spotId === tenant.id && e.what !== 'arrived')
      add('befell', e.atUtc, words, 0.9);
    if (e.kind === 'befell' && e.spotId === tenant.id && e.what === 'arrived')
      add('befell', e.atUtc, words, 0.7);
    if (e.kind === 'moved' && e.spotId === tenant.id) {
      lightStill = false;
      add('moved', e.atUtc, words, 0.7);
    }
  }
  causes.push(
    ...chemistry(log, zone, atUtc, of).map((c) => ({
      ...c,
      fit: c.fit * inTime(c.daysBefore, [0, 10, WEEKS_DAYS]),
    })),
  );
  causes.sort((a, b) => b.fit - a.fit);
  return {
    causes,
    lightStill,
    days: WEEKS_DAYS,
    knownDays: entries[0] ? Math.max(0, Math.min(WEEKS_DAYS, Math.floor(before(entries[0].atUtc)))) : 0,
    check: checks(sign, log, zone, atUtc),
  };
}

/** Measures that moved within the time looked at, from the last test before it or the first in it. */
function chemistry(log: LogDoc, zone: Zone, atUtc: string, of: (typeof OF_SIGN)[Sign]): Cause[] {
  const atMs = Date.parse(atUtc);
  const tests = log.events
    .filter((e): e is LogEventOf<'test'> => e.kind === 'test' && e.atUtc <= atUtc)
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));
  return MEASURES.flatMap((m): Cause[] => {
    const with_ = tests.filter((t) => typeof t[m.id] === 'number');
    const inIt = with_.filter((t) => atMs - Date.parse(t.atUtc) <= WEEKS_DAYS * DAY_MS);
    const from = with_.findLast((t) => !inIt.includes(t)) ?? inIt[0];
    if (!from || inIt.length === 0) return [];
    const start = from[m.id]!;
    // the value farthest from where it began, not the last: a swing that came back was one
    const far = inIt.reduce((a, b) => (Math.abs(b[m.id]! - start) > Math.abs(a[m.id]! - start) ? b : a));
    const by = far[m.id]! - start;
    const span = Math.max(0.1 * Math.abs(start), 0.02 * (m.usual[1] - m.usual[0]), 1e-9);
    if (Math.abs(by) < span) return [];
    const meant = (by > 0 ? of.rises : of.falls).includes(m.id);
    return [
      {
        what: 'chemistry',
        daysBefore: Math.floor((atMs - Date.parse(far.atUtc)) / DAY_MS),
        words: `${m.name} ${measured(m, start)} → ${measured(m, far[m.id]!)}`,
        fit: Math.min(1, Math.abs(by) / (0.5 * (m.usual[1] - m.usual[0]))) * (meant ? 1 : 0.4),
      },
    ];
  });
}

const TEST_DAYS = 14;
/** What to look at before the lamp is touched. */
function checks(sign: Sign, log: LogDoc, zone: Zone, atUtc: string): string[] {
  const lately = log.events.filter(
    (e): e is LogEventOf<'test'> =>
      e.kind === 'test' && e.atUtc <= atUtc && Date.parse(atUtc) - Date.parse(e.atUtc) < TEST_DAYS * DAY_MS,
  );
  const untested = MEASURES.filter((m) => !lately.some((t) => typeof t[m.id] === 'number')).map(
    (m) => m.name,
  );
  const yellow = zone.water.yellow440PerM;
  return [
    ...(untested.length > 0 ? [`test ${untested.join(', ')}: not tested within ${TEST_DAYS} days`] : []),
    'look again at noon under the same light, with the eye and not the camera',
    ...(sign === 'tissue' || sign === 'polypsIn'
      ? ['look for pests and stinging neighbours, at night too']
      : []),
    ...(yellow >= 0.3
      ? [
          `the water is yellow by the model (${yellow.toFixed(2)} per metre at 440 nm): hold a white card in it`,
        ]
      : []),
  ];
}

/** How well a cause fits, in a word. */
export const fitWords = (fit: number): string =>
  fit >= 0.5 ? 'fits well' : fit >= 0.2 ? 'may be part of it' : 'hardly fits';
