import { dateOf, dayNumber } from '../day/wallClock';
import { CEILINGS } from '../easing/accustomed';
import { borneChance } from '../easing/borne';
import type { LogDoc } from '../record/log';
import { type Foretold, unanswered } from '../record/log/foretold';
import { ceilingOf, livesByLight, wantsOf } from '../record/needs';
import type { Spot, Zone } from '../record/zone';
import type { EaseAnswer } from './easePlan';
import { type Judgement, type Placed, placed } from './judgement';

/** A change can have shown so long after its last step. Mark: rule of thumb. */
export const SHOWN_DAYS = 21;
/** So long after that nobody remembers: it is no longer asked for. Mark: rule of thumb. */
const ASKED_DAYS = 60;
/** Light that changes by less is no change for a coral. Mark: rule of thumb. */
const LEAST = 1.05;

/** What a change brings one spot. */
export interface Expected {
  /** its brightest in the end, µmol, and the half width of its 90 % band as a share */
  peakUmol: number;
  bandShare: number;
  /** all of the change as a step from what its tenant is used to, and the largest step on the way */
  ratio: number;
  largest: number;
}

const rounded = (chance: number): number => Math.round(100 * chance) / 100;

/** How well light is known that has no band of its own here, as a share. Mark: rule of thumb. */
const USUAL_BAND = 0.25;

/**
 * How likely it is that each coral bears a change and has what it wants afterwards: as sure as its light is known, times how many corals
 * of its kind bear the largest step on the way. Corals whose light hardly changes are left out.
 */
export function foretell(zone: Zone, expected: readonly (Expected | null)[]): Foretold['corals'] {
  return zone.spots.flatMap((s, i) => {
    const e = expected[i];
    if (!e || !s.need || !livesByLight(s) || (e.ratio < LEAST && e.ratio > 1 / LEAST)) return [];
    const wants = wantsOf(s, zone);
    const right = wants ? placed(e.peakUmol, e.bandShare, wants).within : 1;
    const borne = borneChance(Math.max(1, e.largest), ceilingOf(s, CEILINGS.usual));
    return [{ spotId: s.id, chance: rounded(right * borne) }];
  });
}

/** The same of a state as it is judged, made in one step. */
export const expectedOf = (zone: Zone, { corals }: Pick<Judgement, 'corals'>): Foretold['corals'] =>
  foretell(
    zone,
    corals.map(
      (c) =>
        c.step && {
          ...{ peakUmol: c.peak.umol, bandShare: c.peak.bandShare },
          ...{ ratio: c.step.ratio, largest: c.step.ratio },
        },
    ),
  );

/** The same of a plan. */
export const expectedOfPlan = (zone: Zone, { steps, limits, course }: EaseAnswer): Foretold['corals'] =>
  foretell(
    zone,
    zone.spots.map((_, spot) => {
      const last = steps.at(-1)?.light[spot];
      const all = limits.find((l) => l.spot === spot);
      return last && all && course
        ? {
            ...{ peakUmol: last.peak, bandShare: USUAL_BAND, ratio: all.ratio },
            largest: Math.max(...course.ratios.map((day) => day[spot]!)),
          }
        : null;
    }),
  );

/** The same of a coral that is given its place. */
export const expectedAtPlace = (
  spot: Pick<Spot, 'id' | 'need' | 'bears'>,
  { placed: { within }, step }: { placed: Pick<Placed, 'within'>; step: { ratio: number } },
): Foretold['corals'] => [
  {
    spotId: spot.id,
    chance: rounded(within * borneChance(Math.max(1, step.ratio), ceilingOf(spot, CEILINGS.usual))),
  },
];

/** The entry that keeps it; null where nobody's light changes. */
export const foretoldEntry = (
  of: Pick<Foretold, 'id' | 'zoneId' | 'atUtc' | 'of'> & { lastDate: string },
  corals: Foretold['corals'],
): Foretold | null => {
  const { lastDate, ...base } = of;
  return corals.length === 0
    ? null
    : { ...base, note: '', kind: 'foretold', askDate: dateOf(dayNumber(lastDate) + SHOWN_DAYS), corals };
};

/** What can be asked now: what came of changes that can have shown by a local date. */
export const toBeAsked = (log: LogDoc, zone: Zone, today: string): Foretold[] =>
  log.events.filter(
    (e): e is Foretold =>
      e.kind === 'foretold' &&
      e.zoneId === zone.id &&
      e.askDate <= today &&
      dayNumber(today) - dayNumber(e.askDate) <= ASKED_DAYS &&
      unanswered(e).some((c) => zone.spots.some((s) => s.id === c.spotId)),
  );

/** How often what was expected came. */
export interface Track {
  answered: number;
  well: number;
  /** mean of the chances that were said of those */
  said: number;
}
export function trackOf(log: LogDoc): Track {
  const all = log.events.flatMap((e) =>
    e.kind === 'foretold' ? e.corals.filter((c) => c.came !== undefined && c.came !== 'unsure') : [],
  );
  return {
    answered: all.length,
    well: all.filter((c) => c.came === 'well').length,
    said: all.length === 0 ? 0 : all.reduce((s, c) => s + c.chance, 0) / all.length,
  };
}
