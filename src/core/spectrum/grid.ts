/**
 * The spectral grid: 360-780 nm in 1 nm steps. A `Spectrum` holds photon flux densities (µmol m⁻² s⁻¹ nm⁻¹ at a place)
 * or emitted photon flux (µmol s⁻¹ nm⁻¹ at a lamp); energy appears only at the edges.
 */
export const FIRST_NM = 360;
export const LAST_NM = 780;
export const GRID_SIZE = LAST_NM - FIRST_NM + 1;

export type Spectrum = Float64Array;

/** 1 µmol of photons at λ nm carries 119.627/λ J (N_A·h·c). Mark: standard (SI 2019). */
export const JOULE_NM_PER_UMOL = 119.627;

/** Value of a spectrum at a whole wavelength on the grid. */
export const at = (spectrum: ArrayLike<number>, nm: number): number => spectrum[nm - FIRST_NM]!;
/** Where a wavelength stands in a spectrum, and which stands at a place. */
export const indexOfNm = (nm: number): number => nm - FIRST_NM;
export const nmAt = (index: number): number => FIRST_NM + index;
/** Every wavelength of the grid, or of a part of it, both ends with it. */
export const everyNm = (fromNm: number = FIRST_NM, toNm: number = LAST_NM, stepNm = 1): number[] =>
  Array.from({ length: Math.floor((toNm - fromNm) / stepNm) + 1 }, (_, i) => fromNm + i * stepNm);

export const zeroSpectrum = (): Spectrum => new Float64Array(GRID_SIZE);

/** Trapezoid on the 1 nm grid with half weight at both ends; neighbouring ranges share their edge and add up. */
export function integrate(
  spectrum: ArrayLike<number>,
  fromNm: number = FIRST_NM,
  toNm: number = LAST_NM,
): number {
  const from = fromNm - FIRST_NM;
  const to = toNm - FIRST_NM;
  let sum = (spectrum[from]! + spectrum[to]!) / 2;
  for (let i = from + 1; i < to; i += 1) sum += spectrum[i]!;
  return sum;
}

/** Trapezoid of spectrum × weight, both on the grid. */
export function integrateWeighted(
  spectrum: ArrayLike<number>,
  weight: ArrayLike<number>,
  fromNm: number = FIRST_NM,
  toNm: number = LAST_NM,
): number {
  const from = fromNm - FIRST_NM;
  const to = toNm - FIRST_NM;
  let sum = (spectrum[from]! * weight[from]! + spectrum[to]! * weight[to]!) / 2;
  for (let i = from + 1; i < to; i += 1) sum += spectrum[i]! * weight[i]!;
  return sum;
}

/** into += factor × spectrum. */
export function addScaled(into: Float64Array, spectrum: ArrayLike<number>, factor: number): void {
  for (let i = 0; i < into.length; i += 1) into[i]! += factor * spectrum[i]!;
}

/** A spectrum's far tails, this share of its top and less, are nothing. */
const NOTHING = 1e-15;

/**
 * Sets far tails to 0. They mean nothing, but products of two of them fall into the range of numbers that processors handle
 * a hundred times slower, and a frame is full of such products.
 */
export function withoutTails<T extends Float64Array>(spectrum: T): T {
  let top = 0;
  for (let i = 0; i < spectrum.length; i += 1) top = Math.max(top, Math.abs(spectrum[i]!));
  for (let i = 0; i < spectrum.length; i += 1) if (Math.abs(spectrum[i]!) < NOTHING * top) spectrum[i] = 0;
  return spectrum;
}

/** Samples a function of wavelength (nm) on the grid. */
export function sample(f: (nm: number) => number): Spectrum {
  const out = zeroSpectrum();
  for (let i = 0; i < GRID_SIZE; i += 1) out[i] = f(FIRST_NM + i);
  return out;
}
