import { extremes, type Range, range, scaled } from './range';

/** How a harvest was drained before it was weighed. */
export const DRAINED_IDS = ['dripping', 'drained', 'squeezed', 'dried'] as const;
export type Drained = (typeof DRAINED_IDS)[number];

/**
 * Dry mass as a share of what is weighed, by how it was drained. Drained until it no longer drips: literature (8-15 %); the others:
 * rule of thumb.
 */
export const DRY_SHARE: Readonly<Record<Drained, Range>> = {
  dripping: range(0.05, 0.11),
  drained: range(0.08, 0.15),
  squeezed: range(0.11, 0.2),
  dried: range(0.85, 1),
};
export const DRAINED_WORDS: Readonly<Record<Drained, string>> = {
  dripping: 'lifted out, still dripping',
  drained: 'hung until it no longer dripped',
  squeezed: 'squeezed or spun',
  dried: 'dried',
};

/** Nitrogen and phosphorus as shares of dry algae. Mark: literature. */
export const N_OF_DRY = range(0.02, 0.04);
export const P_OF_DRY = range(0.001, 0.003);
/** Nitrate per nitrogen and phosphate per phosphorus, by mass. Mark: standard (atomic masses). */
export const NITRATE_PER_N = 62.0049 / 14.0067;
export const PHOSPHATE_PER_P = 94.9714 / 30.9738;

/** What algae took out of the water, g. */
export interface Removed {
  dryG: Range;
  nitrogenG: Range;
  phosphorusG: Range;
}

/** What a harvest took with it. Bounds: every factor at its lowest, and every one at its highest. */
export function removed(wetG: number, drained: Drained): Removed {
  const dryG = scaled(DRY_SHARE[drained], wetG);
  return { dryG, nitrogenG: extremes(dryG, N_OF_DRY), phosphorusG: extremes(dryG, P_OF_DRY) };
}

export interface Ppm {
  nitrate: Range;
  phosphate: Range;
}

/** The same as nitrate and phosphate of the system, ppm (mg per litre). */
export const asPpm = (r: Pick<Removed, 'nitrogenG' | 'phosphorusG'>, litres: number): Ppm => ({
  nitrate: scaled(r.nitrogenG, (1000 * NITRATE_PER_N) / litres),
  phosphate: scaled(r.phosphorusG, (1000 * PHOSPHATE_PER_P) / litres),
});

/** Grams as they would weigh drained the usual way: so that harvests drained differently compare. */
export const asDrained = (wetG: number, drained: Drained): number =>
  (wetG * DRY_SHARE[drained].mid) / DRY_SHARE.drained.mid;
