import { planckUv } from '../colour/temperature';
import { xyzOf } from '../colour/xyz';
import { emissionSpectrum } from '../spectrum/emission';
import { LAST_NM, type Spectrum, addScaled, at, everyNm, integrate, zeroSpectrum } from '../spectrum/grid';
import type { GroupShape } from '../spectrum/lampKind';

/** A generic phosphor white: blue pump and two broad phosphors, energy shapes. Mark: rule of thumb (typical of the kind). */
const PARTS = [
  { peakNm: 452, fwhmNm: 20 },
  { peakNm: 540, fwhmNm: 105 },
  { peakNm: 615, fwhmNm: 95 },
] as const;

/** their spectra of one photon with their colours, made when first asked for */
let parts: { spectrum: Spectrum; xyz: ReturnType<typeof xyzOf> }[] | undefined;

/** Kelvin figures for which the three parts have a solution. */
export const WHITE_FROM_K = 1800;
export const WHITE_TO_K = 25_000;

/**
 * Photon spectrum of a phosphor white whose chromaticity lies on the Planckian locus at the given CCT, as a table of
 * 5 nm steps with a total of 1 photon: proportions solved from the two chromaticity equations.
 * @throws RangeError outside 1800-25 000 K
 */
export function phosphorWhiteTable(cctK: number): [nm: number, value: number][] {
  if (!(cctK >= WHITE_FROM_K && cctK <= WHITE_TO_K)) {
    throw new RangeError(`a phosphor white is modelled from ${WHITE_FROM_K} to ${WHITE_TO_K} K`);
  }
  const [u, v] = planckUv(1e6 / cctK);
  const d = 2 * u - 8 * v + 4;
  const x = (3 * u) / d;
  const y = (2 * v) / d;
  // Σ aᵢ (Xᵢ − x Sᵢ) = 0 and Σ aᵢ (Yᵢ − y Sᵢ) = 0 with the pump's a₀ = 1
  parts ??= PARTS.map((of) => {
    const spectrum = emissionSpectrum({ shape: 'gaussian', ...of, flux: 1 });
    return { spectrum, xyz: xyzOf(spectrum) };
  });
  const rows = parts.map(({ xyz: [X, Y, Z] }) => [X - x * (X + Y + Z), Y - y * (X + Y + Z)] as const);
  const [p, a, b] = rows as [readonly [number, number], readonly [number, number], readonly [number, number]];
  const det = a[0] * b[1] - a[1] * b[0];
  const green = (-p[0] * b[1] + p[1] * b[0]) / det;
  const red = (-a[0] * p[1] + a[1] * p[0]) / det;
  if (!(green >= 0 && red >= 0)) throw new RangeError(`no phosphor proportions reach ${cctK} K`);
  const sum = zeroSpectrum();
  [1, green, red].forEach((share, k) => addScaled(sum, parts![k]!.spectrum, share));
  const total = integrate(sum);
  const table: [number, number][] = [];
  for (const nm of everyNm(400, LAST_NM, 5)) table.push([nm, Number((at(sum, nm) / total).toPrecision(4))]);
  return table;
}

/** Photon efficacy of phosphor whites at the emitter, µmol J⁻¹. Mark: rule of thumb (2.0-2.5). */
export const WHITE_EFFICACY_UMOL_PER_J = 2.25;

/** The light of a phosphor white emitter of this colour temperature. @throws RangeError outside 1800-25 000 K */
export const phosphorWhite = (cctK: number): Extract<GroupShape, { shape: 'table' }> => ({
  shape: 'table',
  points: phosphorWhiteTable(cctK),
  quantity: 'photon',
  efficacyUmolPerJ: WHITE_EFFICACY_UMOL_PER_J,
  whiteCctK: cctK,
});

/** A part of a broad or lined spectrum: Gaussian of energy with its share of the photons. */
export interface LightPart {
  peakNm: number;
  fwhmNm: number;
  photons: number;
}

/** Photon table of a sum of Gaussian parts, with steps fine enough for the narrowest. */
export function partsTable(
  parts: readonly LightPart[],
  fromNm = 380,
  toNm = 780,
  stepNm = 5,
): [nm: number, value: number][] {
  const sum = zeroSpectrum();
  for (const p of parts)
    addScaled(
      sum,
      emissionSpectrum({ shape: 'gaussian', peakNm: p.peakNm, fwhmNm: p.fwhmNm, flux: p.photons }),
      1,
    );
  const total = integrate(sum);
  const table: [number, number][] = [];
  for (let nm = fromNm; nm <= toNm; nm += stepNm) {
    table.push([nm, Number((at(sum, nm) / total).toPrecision(4))]);
  }
  return table;
}
