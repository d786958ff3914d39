import { levelsOfGroups, parUnder, spectrumUnder, type ZoneLight, zoneLitHours } from '../case/light';
import type { LitGroup } from '../case/lit';
import { kneeMinutes } from '../day/day';
import { type Alga, feedingShare } from '../feeding/algae';
import { phosphorWhite } from '../mix/phosphor';
import { groupEmission } from '../spectrum/lamp';
import { emissionSpectrum } from '../spectrum/emission';
import type { Spectrum } from '../spectrum/grid';
import { NINETY_SD, logSd, ofLog, type Range, range, scaled } from '../feeding/range';

let daylight: Spectrum | undefined;
/** The light in which saturation of algae is spoken of: a white of 6500 K. */
export const plainDaylight = (): Spectrum =>
  (daylight ??= emissionSpectrum(groupEmission({ light: phosphorWhite(6500), count: 1, wattsEach: 1 })));

/** How many µmol of plain daylight one µmol of a light is worth to an alga. 0 without light. */
export function worthOf(spectrum: ArrayLike<number>, a: Alga): number {
  const share = feedingShare(spectrum, a);
  return share === null ? 0 : share / feedingShare(plainDaylight(), a)!;
}

/** What a day of light is to a mat. */
export interface MatLight {
  /** µmol over the places of the mat at its brightest moment */
  mean: number;
  min: number;
  max: number;
  /** least over mean */
  uniformity: number;
  /** share of its PAR that feeds the alga at that moment, 0..1 */
  feedingShare: number;
  /** the mean as it would be in plain daylight, µmol */
  worthUmol: number;
  litHours: number;
  /** ∫ tanh(E/Ek) dt over the day, mean of the mat: hours of saturating light */
  saturatedHours: number;
}

/** Between bends a day is read this often: growth bends gently. */
const STEP_MIN = 30;

/**
 * Light over a mat through a day. P = tanh(E/Ek) at every place, E in plain daylight's worth.
 * @param spots which spots of the light are places of the mat
 */
export function matLight(
  light: ZoneLight,
  groups: readonly LitGroup[],
  spots: readonly number[],
  a: Alga,
): MatLight | null {
  if (spots.length === 0) return null;
  const knees = kneeMinutes(groups.map((g) => g.day));
  const means = (minute: number) => {
    const levels = levelsOfGroups(groups, minute);
    const values = spots.map((s) => parUnder(light, levels, s));
    return { levels, values, mean: values.reduce((x, y) => x + y, 0) / values.length };
  };
  // just after and just before every bend
  const moments = [0, ...knees.flatMap((m) => [m, (m + 1440 - 1e-3) % 1440])];
  const brightest = moments.map(means).reduce((x, y) => (y.mean > x.mean ? y : x));
  const middle = spots[Math.floor(spots.length / 2)]!;
  const spectrum = spectrumUnder(light, brightest.levels, middle);
  const share = feedingShare(spectrum, a) ?? 0;
  const worth = worthOf(spectrum, a);
  let hours = 0;
  const edges = [
    ...new Set([...knees, ...Array.from({ length: 1440 / STEP_MIN }, (_, i) => i * STEP_MIN)]),
  ].sort((x, y) => x - y);
  edges.forEach((from, i) => {
    const to = edges[i + 1] ?? edges[0]! + 1440;
    if (to - from < 1e-6) return;
    const { values } = means(((from + to) / 2) % 1440);
    const p = values.reduce((sum, v) => sum + Math.tanh((v * worth) / a.ekUmol), 0) / values.length;
    hours += (p * (to - from)) / 60;
  });
  return {
    mean: brightest.mean,
    min: Math.min(...brightest.values),
    max: Math.max(...brightest.values),
    uniformity: brightest.mean > 0 ? Math.min(...brightest.values) / brightest.mean : 0,
    feedingShare: share,
    worthUmol: brightest.mean * worth,
    litHours: zoneLitHours(groups),
    saturatedHours: hours,
  };
}

/** Hours beyond what an alga wants count this much where it can be lit round the clock, and nothing else. Mark: rule of thumb. */
const BEYOND_SHARE = 0.5;

/** Hours of saturating light that count towards growth. */
export function countingHours(saturatedHours: number, litHours: number, a: Alga): number {
  if (litHours <= a.toHours || litHours <= 0) return saturatedHours;
  const within = saturatedHours * (a.toHours / litHours);
  return within + (a.roundClock ? BEYOND_SHARE * (saturatedHours - within) : 0);
}

/** Dry share of a usual harvest, for turning dry into wet. */
const DRY = 0.11;

/**
 * Growth to expect of a mat with nothing but light to limit it, wet g a day (drained the usual way), as a 90 % band: the spread of
 * published cultures. Mark: literature, rounded, and rule of thumb.
 */
export const expectedWetGPerDay = (a: Alga, areaM2: number, hours: number): Range =>
  scaled(range(...a.dryGPerM2H), (areaM2 * hours) / DRY);

/** A weighed interval and the growth that was expected of it, both wet g a day. */
export interface Weighed {
  expected: Range;
  gotGPerDay: number;
}

/** How far a weighed gain is off, as a standard deviation of its logarithm: draining, what was left, what was shed. Rule of thumb. */
const WEIGHING_SD = 0.35;
/** What is wrong with every weighing of a keeper alike. Rule of thumb. */
const COMMON_SD = 0.15;

/**
 * What weighed harvests make of an expectation: a factor on it with its 90 % band. The spread of cultures is the prior, each
 * interval one observation; without any it is that spread.
 */
export function correction(prior: Range, weighed: readonly Weighed[]): Range {
  const sd0 = logSd(prior);
  let weight = 1 / sd0 ** 2;
  let sum = 0;
  let seen = 0;
  for (const { expected, gotGPerDay } of weighed) {
    if (!(gotGPerDay > 0) || !(expected.mid > 0)) continue;
    const w = 1 / WEIGHING_SD ** 2;
    sum += w * Math.log(gotGPerDay / expected.mid);
    weight += w;
    seen += 1;
  }
  return ofLog(Math.exp(sum / weight), Math.hypot(1 / Math.sqrt(weight), seen > 0 ? COMMON_SD : 0));
}

/** An expectation as harvests have corrected it. */
export function corrected(expected: Range, weighed: readonly Weighed[]): Range {
  const factor = correction(expected, weighed);
  return ofLog(expected.mid * factor.mid, Math.log(factor.high / factor.mid) / NINETY_SD);
}
