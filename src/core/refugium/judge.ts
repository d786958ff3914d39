import { aboutHours, formatHours } from '../day/clock';
import { type Alga } from '../feeding/algae';
import { normal, seeded } from '../spectrum/random';
import { countingHours, expectedWetGPerDay } from './growth';
import type { Harvest } from '../record/log/harvest';
import { type Interval, lateIntervals, latestTest, TEST_DAYS, type WaterTest } from './harvests';
import { AS_NOW, type PastLight } from './past';
import { logSd } from '../feeding/range';

export type Cause = 'light' | 'hours' | 'nitrate' | 'phosphate' | 'shaded' | 'fine' | 'other';

/** What is known of a mat and its water. */
export interface MatKnown {
  alga: Alga;
  areaM2: number;
  /** light over the mat at its brightest in plain daylight's worth, µmol, and the standard deviation of its logarithm; null = not known */
  light: { worthUmol: number; sd: number } | null;
  litHours: number;
  /** the light in which an interval grew, against the present one; absent = as now */
  past?: (interval: Interval) => PastLight;
  harvests: readonly Harvest[];
  tests: readonly WaterTest[];
  nowMs: number;
}

export interface Judgement {
  verdict: Cause | 'cannotTell';
  /** how likely each cause limits it, most likely first */
  odds: { cause: Cause; share: number }[];
  /** growth of the last intervals; null with fewer than two harvests */
  growth: {
    gainGPerDay: number;
    perDay: number | null;
    expected: { low: number; mid: number; high: number };
  } | null;
  /** why, most telling first */
  reasons: string[];
  /** what would decide, when it cannot be told */
  missing: string[];
  /** what to do */
  advice: string;
}

/** Nutrients at which growth is halved, ppm. Mark: literature, rounded (half-saturation of nitrate 2-15 µM, of phosphate 0.1-0.3 µM). */
const HALF_PPM = { nitrate: 0.5, phosphate: 0.012 } as const;
/** A mat of more than this many wet kg per m² shades itself. Mark: rule of thumb. */
const DENSE_KG_M2 = 5;
/** Standard deviations of logarithms: how wrong hours, a test kit, a density may be. Mark: rule of thumb. */
const SD = { hours: 0.08, nitrate: 0.35, phosphate: 0.5, density: 0.3, growth: 0.3 } as const;
/** Untested water may be anything between these, ppm. */
const UNTESTED = { nitrate: [0.1, 40], phosphate: [0.005, 0.3] } as const;
/** What holds growth below this share of what it could be is its limit. */
const LIMITS_BELOW = 0.65;
/** A verdict needs so much of the odds. */
const SURE = 0.6;
/** What is not known here (grazers, flow, shedding, iron) explains any growth as well as a draw that is this far off. */
const OTHER = 0.04;
const DRAWS = 3000;
/** A past light is spoken of when its logarithm differs from the present one's by more than this. */
const OTHERWISE = 0.1;

/** Hours a day at which an alga grows its best. */
const bestHours = (a: Alga) => (a.fromHours + a.toHours) / 2;

/**
 * What holds a mat back in the light it has now; what was weighed is explained by the light it grew in. Every cause is a factor on the growth there could be: light tanh(E/Ek), hours, the scarcer nutrient
 * N/(N+half), and shade within a dense mat. All that is not known exactly is drawn many times within its doubt; draws count by how well
 * they explain the growth that was weighed; a draw's limit is its smallest factor. The verdict is the limit of most of them, or
 * that it cannot be told.
 */
export function judgeMat(known: MatKnown): Judgement {
  const { alga, areaM2, light, litHours, past = () => AS_NOW, harvests, tests, nowMs } = known;
  const seen = lateIntervals(harvests, nowMs);
  const grewIn = seen.map((i) => ({ ...past(i), days: i.days }));
  const nitrate = latestTest(tests, 'nitratePpm', nowMs);
  const phosphate = latestTest(tests, 'phosphatePpm', nowMs);
  const days = seen.reduce((sum, i) => sum + i.days, 0);
  const gain = days > 0 ? seen.reduce((sum, i) => sum + i.gainGPerDay * i.days, 0) / days : null;
  const rates = seen.filter((i) => i.perDay !== null);
  const weighed = seen.filter((i) => i.meanG !== null);
  const meanKgM2 =
    weighed.length > 0 ? weighed.reduce((s, i) => s + i.meanG! / 1000 / areaM2, 0) / weighed.length : null;
  const expected = expectedWetGPerDay(alga, areaM2, countingHours(bestHours(alga), bestHours(alga), alga));
  // drained differently, or with nothing said of what was left, a gain is known less well
  const growthSd =
    SD.growth * (seen.some((i) => i.mixed) ? 1.8 : 1) * (weighed.length < seen.length ? 1.6 : 1);

  const random = seeded(7);
  const counts = new Map<Cause, number>();
  let all = 0;
  for (let i = 0; i < DRAWS; i += 1) {
    const draw = (sd: number) => Math.exp(sd * normal(random));
    const between = ([low, high]: readonly [number, number]) => low * (high / low) ** random();
    const e = light ? light.worthUmol * draw(light.sd) : between([10, 500]);
    const n = nitrate === null ? between(UNTESTED.nitrate) : Math.max(nitrate, 0.05) * draw(SD.nitrate);
    const p =
      phosphate === null ? between(UNTESTED.phosphate) : Math.max(phosphate, 0.003) * draw(SD.phosphate);
    const dense = (meanKgM2 ?? DENSE_KG_M2 / 2) * draw(meanKgM2 === null ? 0.6 : SD.density);
    const h = litHours * draw(SD.hours);
    const lightShare = (of: number) => Math.tanh((e * of) / alga.ekUmol);
    const hoursShare = (of: number) => Math.min(1, (h * of) / bestHours(alga));
    const factors: Record<Exclude<Cause, 'fine' | 'other'>, number> = {
      light: lightShare(1),
      hours: hoursShare(1),
      nitrate: n / (n + HALF_PPM.nitrate),
      phosphate: p / (p + HALF_PPM.phosphate),
      shaded: Math.min(1, DENSE_KG_M2 / dense),
    };
    const [cause, least] = (Object.entries(factors) as [Cause, number][]).reduce((a, b) =>
      b[1] < a[1] ? b : a,
    );
    const growth =
      expected.mid *
      draw(logSd(expected)) *
      (days > 0
        ? grewIn.reduce(
            (sum, i) => sum + lightShare(i.strengthShare) * hoursShare(i.hoursShare) * i.days,
            0,
          ) / days
        : 1) *
      Math.min(factors.nitrate, factors.phosphate) *
      factors.shaded;
    const off = gain === null ? 0 : Math.log(Math.max(gain, expected.low * 1e-3) / growth) / growthSd;
    const weight = Math.exp(-0.5 * off * off);
    const what = least < LIMITS_BELOW ? cause : 'fine';
    counts.set(what, (counts.get(what) ?? 0) + weight);
    all += weight;
  }
  counts.set('other', OTHER * DRAWS);
  all += OTHER * DRAWS;
  const odds = [...counts]
    .map(([cause, weight]) => ({ cause, share: weight / all }))
    .sort((a, b) => b.share - a.share);

  const missing = [
    seen.length === 0 ? 'a second weighed harvest, with what was left of the mat' : null,
    seen.length > 0 && rates.length === 0 ? 'what was left of the mat at each harvest' : null,
    nitrate === null ? `a nitrate test of the last ${TEST_DAYS} days` : null,
    phosphate === null ? `a phosphate test of the last ${TEST_DAYS} days` : null,
    light === null ? 'the light over the mat' : null,
    seen.some((i) => i.mixed) ? 'harvests drained the same way' : null,
  ].filter((x): x is string => x !== null);

  const top = odds[0];
  const nothingFits = top?.cause === 'other';
  const told = seen.length > 0 && !nothingFits && top !== undefined && top.share >= SURE;
  const verdict = told ? top.cause : 'cannotTell';

  const mean = (of: (i: PastLight) => number) =>
    days > 0 ? Math.max(1e-3, grewIn.reduce((s, i) => s + of(i) * i.days, 0) / days) : 1;
  const then = { strengthShare: mean((i) => i.strengthShare), hoursShare: mean((i) => i.hoursShare) };
  const figure = (v: number) => (v >= 10 ? v.toFixed(0) : v >= 1 ? v.toFixed(1) : v.toFixed(2));
  const reasons = [
    gain === null
      ? 'No growth is known yet: one harvest weighs what was there, two tell what grew.'
      : `It put on ${figure(gain)} g wet a day${rates.length > 0 ? `, ${figure((100 * rates.reduce((s, r) => s + r.perDay! * r.days, 0)) / rates.reduce((s, r) => s + r.days, 0))} % of itself a day` : ''}; with nothing wanting, such a mat puts on ${figure(expected.low)}–${figure(expected.high)} g.`,
    light === null
      ? null
      : `Light over the mat is now worth ${Math.round(light.worthUmol)} µmol of daylight; it saturates near ${alga.ekUmol}: ${Math.round(100 * Math.tanh(light.worthUmol / alga.ekUmol))} % of what light can do.`,
    `Lit ${formatHours(litHours)} a day; it grows best with about ${aboutHours(bestHours(alga))}.`,
    Math.max(Math.abs(Math.log(then.strengthShare)), Math.abs(Math.log(then.hoursShare))) > OTHERWISE
      ? `What you weighed grew in another light than today’s, about ${Math.round(100 * then.strengthShare)} % as strong for ${aboutHours(litHours * then.hoursShare)} a day: that is counted in.`
      : null,
    nitrate === null
      ? 'Nitrate has not been tested lately.'
      : `Nitrate ${figure(nitrate)} ppm: ${nutrientWords(nitrate / (nitrate + HALF_PPM.nitrate))}.`,
    phosphate === null
      ? 'Phosphate has not been tested lately.'
      : `Phosphate ${phosphate.toFixed(3)} ppm: ${nutrientWords(phosphate / (phosphate + HALF_PPM.phosphate))}.`,
    meanKgM2 === null
      ? null
      : `Between harvests the mat holds ${figure(meanKgM2)} kg per m²; from about ${DENSE_KG_M2} on it shades itself.`,
    nothingFits
      ? `None of these explains so ${gain !== null && gain > expected.mid ? 'much growth: look for an error in the weighing, or a mat that is larger than said' : 'little growth: look for grazing, shedding, too little flow, or an error in the weighing'}.`
      : null,
  ].filter((x): x is string => x !== null);

  return {
    verdict,
    odds,
    growth:
      gain === null
        ? null
        : {
            gainGPerDay: gain,
            perDay:
              rates.length > 0
                ? rates.reduce((s, r) => s + r.perDay! * r.days, 0) / rates.reduce((s, r) => s + r.days, 0)
                : null,
            expected,
          },
    reasons,
    missing: verdict === 'cannotTell' ? missing : [],
    advice: ADVICE[verdict],
  };
}

const nutrientWords = (factor: number) =>
  factor > 0.85
    ? 'plenty'
    : factor > LIMITS_BELOW
      ? 'enough, if not plenty'
      : factor > 0.45
        ? 'scarce'
        : 'nearly none';

export const CAUSES: Readonly<Record<Cause | 'cannotTell', string>> = {
  light: 'More light',
  hours: 'More hours',
  nitrate: 'More nitrate',
  phosphate: 'More phosphate',
  shaded: 'Harvest more',
  fine: 'Nothing wanting',
  other: 'Something else',
  cannotTell: 'Cannot tell',
};

const ADVICE: Readonly<Record<Cause | 'cannotTell', string>> = {
  other: 'Change nothing on the strength of this.',
  light: 'Raise the light over the mat: lower the lamp, wipe its lens, or a stronger one, and ease it in.',
  hours: 'Light it longer before it is lit more strongly, and ease the hours in.',
  nitrate:
    'More light would do nothing: nitrate runs short. Feed more, lower other nitrate removal, or light it less and keep it small.',
  phosphate:
    'More light would do nothing: phosphate runs short. Feed more, take binders out, or keep the mat small.',
  shaded: 'Take more out at once and more often, and turn the mat over: its underside is in the dark.',
  fine: 'It grows as such a mat does. Leave light and hours as they are and keep weighing.',
  cannotTell: 'Change nothing on the strength of this. What is listed would decide.',
};
