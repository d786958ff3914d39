import type { Gain } from '@/core/meter/gain';
import type { Tint } from '@/core/colour/tint';

/** µmol as it is read: whole from 10 up, one place below. */
export const umol = (value: number): string =>
  value >= 9.95 ? String(Math.round(value)) : value === 0 ? '0' : value.toFixed(1);
/** mol a day, two figures that mean something. */
export const mol = (value: number): string => (value >= 9.95 ? value.toFixed(1) : value.toFixed(2));
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
/** A step ratio: two places, "×" after it; beyond 10 it says so. */
export const times = (ratio: number): string => (ratio >= 10 ? 'over 10 ×' : `${ratio.toFixed(2)} ×`);
export const watts = (value: number): string => `${Math.round(value)} W`;
export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

const SMALL = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];
export const inWords = (n: number): string => SMALL[n] ?? String(n);

/** What a PAR figure is: estimate or scaled to a reading, and how sure. */
export const parBasis = (gain: Gain): string =>
  gain.readings === 0
    ? 'estimate ± 25 %, walls and floor not yet counted'
    : `scaled to ${plural(gain.readings, 'reading')}, ± ${Math.round(gain.bandShare * 100)} %`;

/** Tint in words: kelvin only where it is honest. */
export function tintWords(tint: Tint | null): string {
  if (!tint) return 'no light';
  if (tint.cctK !== null) return `${Math.round(tint.cctK / 100) * 100} K`;
  return tint.duv < 0 && /blue|violet/.test(tint.hue)
    ? `bluer than any kelvin figure: ${tint.hue}, ${Math.round(tint.purity * 100)} % pure`
    : `no kelvin figure fits: ${tint.hue}, ${Math.round(tint.purity * 100)} % pure`;
}
