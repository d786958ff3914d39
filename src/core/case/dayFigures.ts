import { aboutHours, formatHours } from '../day/clock';
import { minutesApart, wrapMinute } from '../shape/ring';
import { at } from '../spectrum/grid';
import { fullSeconds, kneeMinutes } from '../day/day';
import { BANDS, type BandId, type PerBand } from '../spectrum/bands';
import { channelWallWatts } from '../spectrum/watts';
import { dayResponse, type DayResponse, ekUsedTo, type Straight } from '../feeding/response';
import { dayAt, doseAt, levelsOfGroups, parUnder, takenUnder, type ZoneLight, zoneLitHours } from './light';
import type { LitGroup } from './lit';
import { alga } from '../feeding/algae';
import type { NeedId } from '../record/needs';
import type { Spot } from '../record/zone';

/**
 * Light at which photosynthesis of a kind's symbionts saturates, Ek of P = Pmax·tanh(E/Ek), µmol m⁻² s⁻¹, mid-range. It moves with
 * acclimation. Mark: literature, rounded (soft 60-120, large-polyp 80-160, small-polyp 180-400); the rest rule of thumb.
 */
export const EK_UMOL: Readonly<Record<NeedId, number | null>> = {
  soft: 90,
  largePolyp: 120,
  smallPolyp: 290,
  nonPhotosynthetic: null,
  clam: 290,
  anemone: 250,
  macroalgae: 150,
};

/** Where that lies at the kind's lowest and highest. Mark: literature, rounded; the rest rule of thumb. */
const EK_RANGE: Readonly<Record<NeedId, readonly [number, number]>> = {
  soft: [60, 120],
  largePolyp: [80, 160],
  smallPolyp: [180, 400],
  nonPhotosynthetic: [60, 120],
  clam: [180, 400],
  anemone: [150, 350],
  macroalgae: [60, 250],
};

/** The same for a spot's tenant: an alga that is known has its own. */
export const ekOf = (spot: Pick<Spot, 'need' | 'algaId'>): number | null =>
  spot.need === null ? null : spot.algaId ? alga(spot.algaId).ekUmol : EK_UMOL[spot.need];

/** How a tenant answers a day, at the lowest and the highest Ek of its kind, or narrower about the light it is used to. */
export interface TenantResponse {
  low: DayResponse;
  high: DayResponse;
}
/** How far Ek of one tenant may lie from what it follows, as a factor. Mark: rule of thumb. */
const EK_DOUBT = 1.25;

/**
 * What a day does at a spot's tenant: light as it takes it, over its response. Only for comparing days of one tenant.
 * @param usedPeak peak it is used to, µmol as taken; null = not known: then over all that its kind has
 * @returns null for who has no algae
 */
export function responseOf(
  light: ZoneLight,
  groups: readonly LitGroup[],
  spot: number,
  need: NeedId | null,
  rangeMiddleUmol: number | null,
  usedPeak: number | null = null,
): TenantResponse | null {
  const knees = kneeMinutes(groups.map((g) => g.day));
  const at = (m: number) => takenUnder(light, levelsOfGroups(groups, wrapMinute(m)), spot);
  const stretches = knees.flatMap((a, i) => {
    const b = knees[i + 1] ?? knees[0]! + 1440;
    return b - a < 1e-9 ? [] : [{ minutes: b - a, from: at(a), to: at(b - 1e-6) }];
  });
  return overEk(need, stretches, rangeMiddleUmol, usedPeak);
}

/** The same of a light that stays as it is for some hours. @param takenUmol as it is taken, µmol of a typical light */
export const steadyResponse = (
  need: NeedId | null,
  takenUmol: number,
  hours: number,
): TenantResponse | null =>
  overEk(need, [{ minutes: hours * 60, from: takenUmol, to: takenUmol }], null, null);

function overEk(
  need: NeedId | null,
  stretches: readonly Straight[],
  rangeMiddleUmol: number | null,
  usedPeak: number | null,
): TenantResponse | null {
  const kind = need ?? 'soft';
  const middle = EK_UMOL[kind];
  if (middle === null) return null;
  const limits = EK_RANGE[kind];
  const own =
    usedPeak !== null && rangeMiddleUmol !== null && usedPeak > 0 && Number.isFinite(usedPeak)
      ? ekUsedTo(middle, limits, usedPeak, rangeMiddleUmol)
      : null;
  const [low, high] = own === null ? limits : [own / EK_DOUBT, own * EK_DOUBT];
  return { low: dayResponse(stretches, low), high: dayResponse(stretches, high) };
}

const span = (a: number, b: number, unit: string): string =>
  a === b ? `${a} ${unit}` : `${a} to ${b} ${unit}`;
/** Hours above saturation as a range, full ones alone, so that they are never more than what is lit: "5 to 8 h". */
export const saturatedWords = ({ low, high }: TenantResponse): string => {
  const full = (hours: number) => Math.floor(hours + 1e-6);
  return span(full(high.hoursAbove), full(low.hoursAbove), 'h');
};
/** How much of its light feeds, as a range in fives: "60 to 75 %". */
export const feedsWords = ({ low, high }: TenantResponse): string => {
  const fives = (v: number) => Math.round(v * 20) * 5;
  return span(fives(low.feedShare), fives(high.feedShare), '%');
};
/** Light beyond its use, mol a day, as a range. */
export const excessWords = ({ low, high }: TenantResponse): string => {
  const [a, b] = [high.excessMol, low.excessMol].map((v) => (v < 0.05 ? 0 : Math.round(v * 10) / 10));
  return span(a!, b!, 'mol');
};

/** What a day gives at a coral, and what it takes from the wall. */
export interface DayFigures {
  /** mol m⁻² d⁻¹ */
  dli: number;
  dose: PerBand;
  peak: number;
  peakMinute: number;
  litHours: number;
  /** how its tenant answers it; null for who has no algae */
  response: TenantResponse | null;
  kWhPerDay: number;
  /** clock time about which its white, green and red light lies; null without any */
  whiteMinute: number | null;
}

/** Energy of groups in a day, kWh: exact. Watts follow the light of each channel (rule of thumb for the driver). */
export const kWhPerDay = (groups: readonly LitGroup[]): number =>
  groups.reduce((sum, g) => {
    const w = channelWallWatts(g.lampKind);
    return sum + g.lamps.length * fullSeconds(g.day).reduce((s, sec, c) => s + sec * w[c]!, 0);
  }, 0) / 3.6e6;

export const DAYS_PER_YEAR = 365.25;

/** Hours with more PAR than a bound at a spot: between bends the light runs straight (through a power budget nearly so). */
export function hoursAbove(
  light: ZoneLight,
  groups: readonly LitGroup[],
  spot: number,
  boundUmol: number,
): number {
  const knees = kneeMinutes(groups.map((g) => g.day));
  if (knees.length === 0) return 0;
  const at = (m: number) => parUnder(light, levelsOfGroups(groups, wrapMinute(m)), spot);
  let minutes = 0;
  knees.forEach((a, i) => {
    const b = knees[i + 1] ?? knees[0]! + 1440;
    if (b - a < 1e-9) return;
    const [y0, y1] = [at(a), at(b - 1e-6)];
    if (y0 > boundUmol && y1 > boundUmol) minutes += b - a;
    else if (y0 > boundUmol || y1 > boundUmol) {
      const cross = Math.abs((boundUmol - y0) / (y1 - y0));
      minutes += (b - a) * (y0 > boundUmol ? cross : 1 - cross);
    }
  });
  return minutes / 60;
}

const WHITE_BANDS: readonly BandId[] = ['green', 'amber', 'red'];

/** Mean clock time of the light that is not blue, over the lit day; quarter hours are fine enough to name an hour. */
function whiteMinute(light: ZoneLight, groups: readonly LitGroup[], spot: number): number | null {
  const white = groups.map((_, g) =>
    light.spectra[g]![spot]!.map((s) =>
      BANDS.reduce((sum, b) => {
        if (!WHITE_BANDS.includes(b.id)) return sum;
        let part = 0;
        for (let nm = b.fromNm; nm < b.toNm; nm += 1) part += at(s, nm);
        return sum + part;
      }, 0),
    ),
  );
  // the mean on the ring
  let [x, y, all] = [0, 0, 0];
  for (let m = 0; m < 1440; m += 15) {
    const v = levelsOfGroups(groups, m).reduce(
      (sum, levels, g) => sum + levels.reduce((s, l, c) => s + l * white[g]![c]!, 0),
      0,
    );
    x += v * Math.cos((2 * Math.PI * m) / 1440);
    y += v * Math.sin((2 * Math.PI * m) / 1440);
    all += v;
  }
  return all > 1e-6 ? ((Math.atan2(y, x) / (2 * Math.PI)) * 1440 + 1440) % 1440 : null;
}

/** @param used as of `responseOf`: what its tenant is used to narrows how it answers */
export function dayFigures(
  light: ZoneLight,
  groups: readonly LitGroup[],
  spot: number,
  need: NeedId | null,
  used: { rangeMiddleUmol: number | null; peak: number | null } = { rangeMiddleUmol: null, peak: null },
): DayFigures {
  const { dli, peak, peakMinute } = dayAt(light, groups, spot);
  return {
    dli,
    dose: doseAt(light, groups, spot),
    peak,
    peakMinute,
    litHours: zoneLitHours(groups),
    response: responseOf(light, groups, spot, need, used.rangeMiddleUmol, used.peak),
    kWhPerDay: kWhPerDay(groups),
    whiteMinute: whiteMinute(light, groups, spot),
  };
}

/** Changes below these are not worth a word. Mark: rule of thumb. */
const SAID = { dli: 0.02, peak: 0.05, band: 0.1, bandOfDay: 0.03, hours: 0.25, minutes: 30 } as const;

const more = (ratio: number) =>
  ratio >= 1.995
    ? `${(Math.round(ratio * 10) / 10).toString()} times as much`
    : `${Math.round(Math.abs(ratio - 1) * 100)} % ${ratio > 1 ? 'more' : 'less'}`;

/** Whether what is not blue looks white: red alone does not. Mark: rule of thumb. */
const isWhite = ({ dose }: DayFigures): boolean => dose.green + dose.amber > 0.25 * dose.red;

/** What really changed from one day to another, in a sentence a person would say. */
export function whatChanged(before: DayFigures, after: DayFigures): string {
  const parts: string[] = [];
  const dliRatio = before.dli > 0 ? after.dli / before.dli : after.dli > 0 ? Infinity : 1;
  const same = Math.abs(dliRatio - 1) <= SAID.dli;
  if (same) parts.push('The same light a day');
  else if (!Number.isFinite(dliRatio)) parts.push('Light where there was none');
  else parts.push(`${more(dliRatio)} light a day`);
  const peak = before.peak > 0 ? after.peak / before.peak : 1;
  if (Math.abs(peak - 1) > SAID.peak)
    parts.push(`its peak ${Math.round(Math.abs(peak - 1) * 100)} % ${peak > 1 ? 'higher' : 'lower'}`);
  const total = Math.max(before.dli, after.dli, 1e-9);
  const bands = BANDS.map((b) => {
    const [x, y] = [before.dose[b.id], after.dose[b.id]];
    const scale = same || !Number.isFinite(dliRatio) ? 1 : dliRatio;
    const ratio = x > 1e-9 ? y / (x * scale) : y > 1e-9 ? Infinity : 1;
    return { name: b.name, ratio, weight: Math.max(x, y) / total };
  })
    .filter((b) => Math.abs(b.ratio - 1) > SAID.band && b.weight > SAID.bandOfDay)
    .sort(
      (a, b) =>
        Math.abs(Math.log(b.ratio || 1e-6)) * b.weight - Math.abs(Math.log(a.ratio || 1e-6)) * a.weight,
    )
    .slice(0, 3);
  if (bands.length > 0)
    parts.push(
      `${same ? '' : 'beside that '}${bands.map((b) => `${b.name} ${Number.isFinite(b.ratio) ? `${Math.round(Math.abs(b.ratio - 1) * 100)} % ${b.ratio > 1 ? 'up' : 'down'}` : 'new'}`).join(', ')}`,
    );
  const hours = after.litHours - before.litHours;
  if (Math.abs(hours) > SAID.hours)
    parts.push(`lit ${formatHours(Math.abs(hours))} ${hours > 0 ? 'longer' : 'shorter'}`);
  if (before.whiteMinute !== null && after.whiteMinute !== null) {
    const later = minutesApart(before.whiteMinute, after.whiteMinute);
    if (Math.abs(later) > SAID.minutes)
      parts.push(
        `${isWhite(before) || isWhite(after) ? 'white' : 'red'} light about ${aboutHours(Math.abs(later) / 60)} ${later > 0 ? 'later' : 'earlier'}`,
      );
  }
  return parts.length === 1 && same ? 'Nothing that a coral would notice.' : `${parts.join(', ')}.`;
}
