import { BANDS, type BandId, par, PAR_FROM_NM, PAR_TO_NM, type PerBand } from '../spectrum/bands';
import { type Spectrum, indexOfNm, integrate } from '../spectrum/grid';

/** A spectrum scaled to a PAR; unchanged when it has none. */
export function atPar(spectrum: Spectrum, wanted: number): Spectrum {
  const p = par(spectrum);
  return p > 0 ? spectrum.map((v) => (v * wanted) / p) : spectrum;
}

/** Share of PAR photons that two lights have in common once both are scaled to equal PAR, 0..1. Null when either has none. */
export function sharedPhotons(a: Spectrum, b: Spectrum): number | null {
  const [pa, pb] = [par(a), par(b)];
  if (!(pa > 0 && pb > 0)) return null;
  let sum = 0;
  for (let nm = PAR_FROM_NM; nm <= PAR_TO_NM; nm += 1) {
    const i = indexOfNm(nm);
    const least = Math.min(a[i]! / pa, b[i]! / pb);
    sum += nm === PAR_FROM_NM || nm === PAR_TO_NM ? least / 2 : least;
  }
  return sum;
}

/** The blue region whose breadth is judged, nm. Mark: rule of thumb. */
export const BLUE_FROM_NM = 400;
export const BLUE_TO_NM = 500;

/**
 * Breadth of the blue region: the width in nm over which its photons would lie if they were spread evenly,
 * (∫S dλ)² / ∫S² dλ over 400-500 nm. A single royal blue LED has about 38, daylight nearly 100. Null without blue.
 */
export function blueBreadthNm(spectrum: Spectrum): number | null {
  const top = spectrum
    .subarray(indexOfNm(BLUE_FROM_NM), indexOfNm(BLUE_TO_NM) + 1)
    .reduce((a, b) => Math.max(a, b), 0);
  if (!(top > 0)) return null;
  // scaled to its top first: squares of next to nothing would vanish
  const scaled = spectrum.map((v) => v / top);
  const squares = integrate(
    scaled.map((v) => v * v),
    BLUE_FROM_NM,
    BLUE_TO_NM,
  );
  return integrate(scaled, BLUE_FROM_NM, BLUE_TO_NM) ** 2 / squares;
}

/** Photons per band as shares of PAR (near UV and far red then stand beside it). Zero without PAR. */
export function sharesOfPar(spectrum: ArrayLike<number>): PerBand {
  const p = par(spectrum);
  return Object.fromEntries(
    BANDS.map((b) => [b.id, p > 0 ? integrate(spectrum, b.fromNm, b.toNm) / p : 0]),
  ) as PerBand;
}

export const bandName = (id: BandId): string => BANDS.find((b) => b.id === id)!.name;
export const bandRange = (id: BandId): string => {
  const b = BANDS.find((x) => x.id === id)!;
  return `${b.fromNm}–${b.toNm}`;
};
