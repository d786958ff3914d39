import { percent } from '@/core/shape/percent';
import { plural } from '@/core/shape/counts';
import { lengthWords } from '@/core/shape/units';
import type { Calibration } from '@/core/case/calibration';
import { bandUnder, brightestLevels, type ZoneLight } from '@/core/case/light';
import type { LitGroup } from '@/core/case/lit';
import { NEEDS } from '@/core/record/needs';
import type { Spot } from '@/core/record/zone';
import { alga } from '@/core/feeding/algae';
import type { Tint } from '@/core/colour/tint';

export { giveOrTake, times, timesOf, timesUsed, usedOf } from '@/core/case/verdict';

/** A figure that was read or typed, as it is known: whole from 10 up, one place below. */
export const umolExact = (value: number): string =>
  value >= 9.95 ? String(Math.round(value)) : value === 0 ? '0' : value.toFixed(1);
export const molExact = (value: number): string => (value >= 9.95 ? value.toFixed(1) : value.toFixed(2));

/**
 * Light as it is reckoned is known to a twelfth at best: two figures of it are said, the second in halves where the first is small,
 * so that no more than a fortieth is lost.
 */
function told(value: number): number {
  if (!(value > 0)) return 0;
  const unit = 10 ** Math.floor(Math.log10(value));
  const step = value < 5 * unit ? unit / 20 : unit / 10;
  return Math.round(value / step) * step;
}
/** µmol as reckoned. */
export const umol = (value: number): string => umolExact(value < 99.5 ? value : told(value));
/** mol a day as reckoned. */
export const mol = (value: number): string => {
  const near = told(value);
  return near === 0 ? '0' : near.toFixed(near < 4.975 ? 2 : near < 49.75 ? 1 : 0);
};
/** Two figures of one reckoning, whose difference is better known than either: with the digits that tell them apart. */
export const apart = (
  [say, exact]: readonly [(value: number) => string, (value: number) => string],
  from: number,
  to: number,
): readonly [string, string] => (say(from) === say(to) ? [exact(from), exact(to)] : [say(from), say(to)]);
export const UMOL = [umol, umolExact] as const;
export const MOL = [mol, molExact] as const;
/** kWh, two figures that mean something. */
export const kWh = (value: number): string => molExact(value);
export const watts = (value: number): string => `${Math.round(value)} W`;
/** Half width of a 90 % band, as it is said. */
export const bandWords = (share: number): string => `± ${Math.max(1, Math.round(share * 100))} %`;

/** What a PAR figure is: estimate or fitted to readings, and its 90 % band; null = of no one place, so that no width is named. */
export const parBasis = (
  cal: Pick<Calibration, 'readings' | 'simulated'>,
  band: number | null = null,
): string =>
  cal.readings === 0
    ? band === null
      ? 'estimate, no reading yet'
      : `estimate ${bandWords(band)}`
    : [
        `fitted to ${plural(cal.readings, 'reading')}`,
        cal.simulated ? 'simulated ones among them' : null,
        band === null ? null : bandWords(band),
      ]
        .filter(Boolean)
        .join(', ');

/** The same for the brightest moment at a spot. */
export const basisAt = (
  cal: Calibration,
  light: ZoneLight | null,
  groups: readonly LitGroup[],
  spot: number,
): string =>
  parBasis(
    cal,
    light && spot >= 0
      ? bandUnder(cal, light, groups, brightestLevels(light, groups, spot), spot) || null
      : null,
  );

/** Tint in words: kelvin only where it is honest. */
export function tintWords(tint: Tint | null): string {
  if (!tint) return 'no light';
  if (tint.cctK !== null) return `${Math.round(tint.cctK / 100) * 100} K`;
  return tint.duv < 0 && /blue|violet/.test(tint.hue)
    ? `bluer than any kelvin figure: ${tint.hue}, ${Math.round(tint.purity * 100)} % pure`
    : `no kelvin figure fits: ${tint.hue}, ${Math.round(tint.purity * 100)} % pure`;
}

/** How it is known that something runs. */
export const SURE = {
  typedIn: 'typed in',
  loaded: 'loaded',
  proven: 'proven',
  doubted: 'typed in',
} as const;

/** What those who live at some spots are called together. */
export function tenantsOf(spots: readonly Pick<Spot, 'need'>[]): { one: string; a: string; many: string } {
  const known = spots.filter((s) => s.need !== null);
  const algae = known.filter((s) => s.need === 'macroalgae').length;
  if (algae === 0) return { one: 'coral', a: 'a coral', many: 'corals' };
  return algae === known.length
    ? { one: 'alga', a: 'an alga', many: 'algae' }
    : { one: 'coral or alga', a: 'a coral or alga', many: 'corals and algae' };
}

/** A spot's tenant with its article: "a soft coral", "an anemone", "a green tangle". */
export function tenantName(spot: Pick<Spot, 'need' | 'algaId'>): string {
  const name = spot.algaId
    ? alga(spot.algaId).name.toLowerCase()
    : spot.need
      ? NEEDS[spot.need].name
      : 'coral';
  return `${/^[aeiou]/.test(name) ? 'an' : 'a'} ${name}`;
}

/** A figure with as many places as mean something. */
export const grams = (v: number): string =>
  v >= 9.95 ? v.toFixed(0) : v >= 0.995 ? v.toFixed(1) : v.toFixed(2);
export const ppm = (v: number): string =>
  v >= 9.95 ? v.toFixed(0) : v >= 0.995 ? v.toFixed(1) : v >= 0.0995 ? v.toFixed(2) : v.toFixed(3);

/** A lamp longer than the tank it hangs over. */
export const longWords = (faceCm: number, tankCm: number): string =>
  `Its face is ${lengthWords(faceCm)} long, the tank ${lengthWords(tankCm)}: part of its light falls beside the water, where it counts as lost.`;

/** How far apart colours look, in words, by their spread (CAM16-UCS). Mark: rule of thumb. */
export const varietyWords = (spread: number): string =>
  spread < 6 ? 'nearly one colour' : spread < 14 ? 'close together' : spread < 22 ? 'apart' : 'far apart';

/** What of a light feeds, over its PAR; near UV feeds beside it. Null without PAR. */
export const usableWords = (share: number | null): string | null =>
  share === null ? null : share > 1 ? 'more than its PAR: near UV feeds too' : `${percent(share)} of PAR`;

const FROM = ', from ';
const LONGEST_NAME = 120;
/** Name of what was made from something named: where that came from in its turn is left out, or names would pile up. */
export const madeFrom = (what: string, of: string): string =>
  `${what}${FROM}${of.split(FROM)[0]}`.slice(0, LONGEST_NAME);
