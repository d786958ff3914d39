import { FIRST_NM, integrate, LAST_NM } from './grid';

/** The nine bands used throughout. Edges in nm; neighbours share an edge. Mark: rule of thumb (field usage). */
export const BANDS = [
  { id: 'nearUv', name: 'near UV', fromNm: 360, toNm: 400 },
  { id: 'violet', name: 'violet', fromNm: 400, toNm: 430 },
  { id: 'royalBlue', name: 'royal blue', fromNm: 430, toNm: 460 },
  { id: 'blue', name: 'blue', fromNm: 460, toNm: 480 },
  { id: 'cyan', name: 'cyan', fromNm: 480, toNm: 510 },
  { id: 'green', name: 'green', fromNm: 510, toNm: 565 },
  { id: 'amber', name: 'amber', fromNm: 565, toNm: 620 },
  { id: 'red', name: 'red', fromNm: 620, toNm: 680 },
  { id: 'farRed', name: 'far red', fromNm: 680, toNm: 780 },
] as const;

export type BandId = (typeof BANDS)[number]['id'];
export type PerBand = Record<BandId, number>;
export const BAND_IDS = BANDS.map((b) => b.id);

/** Photosynthetically active radiation: photons 400-700 nm. Mark: standard. */
export const PAR_FROM_NM = 400;
export const PAR_TO_NM = 700;

/** Photons 400-700 nm, in the spectrum's unit × nm. */
export const par = (spectrum: ArrayLike<number>): number => integrate(spectrum, PAR_FROM_NM, PAR_TO_NM);

/** Photons per band, in the spectrum's unit × nm. */
export function bandPhotons(spectrum: ArrayLike<number>): PerBand {
  return Object.fromEntries(BANDS.map((b) => [b.id, integrate(spectrum, b.fromNm, b.toNm)])) as PerBand;
}

/** Share of all photons 360-780 in each band; all zero when there are none. The shares add to 1. */
export function bandShares(spectrum: ArrayLike<number>): PerBand {
  const all = integrate(spectrum, FIRST_NM, LAST_NM);
  const photons = bandPhotons(spectrum);
  return Object.fromEntries(BANDS.map((b) => [b.id, all > 0 ? photons[b.id] / all : 0])) as PerBand;
}
