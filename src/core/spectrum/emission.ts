import { GRID_SIZE, JOULE_NM_PER_UMOL, type Spectrum, integrate, nmAt, zeroSpectrum } from './grid';

/** An LED line of a peak and a full width at half maximum; `line` is Ohno 2005, `gaussian` a Gaussian, both of energy. */
export interface PeakedEmission {
  shape: 'gaussian' | 'line';
  peakNm: number;
  fwhmNm: number;
  /** photons 360-780 nm, µmol s⁻¹ or µmol m⁻² s⁻¹ */
  flux: number;
}
/** A measured or printed spectrum; points in any order, linear between them, zero outside. */
export interface TableEmission {
  shape: 'table';
  points: [nm: number, value: number][];
  quantity: 'energy' | 'photon';
  /** when given, the table is scaled to this photon flux; otherwise energy values are W m⁻² nm⁻¹ */
  flux?: number;
}
export type Emission = PeakedEmission | TableEmission;

/**
 * Ohno 2005, "Spectral design considerations for white LED color rendering", Opt. Eng. 44(11):
 * S = (g + 2 g⁵)/3, g = exp(−((λ−λ₀)/Δλ)²). Δλ = 1.08481 FWHM puts g = 0.80861 at half height. Mark: literature.
 */
const OHNO_WIDTH = 1.08481;

/** Natural logarithm of the energy shape, so that narrow or distant peaks do not vanish between grid points. */
function logShape(shape: 'gaussian' | 'line', offsetNm: number, fwhmNm: number): number {
  if (shape === 'gaussian') return -4 * Math.LN2 * (offsetNm / fwhmNm) ** 2;
  const logG = -((offsetNm / (OHNO_WIDTH * fwhmNm)) ** 2);
  return logG + Math.log((1 + 2 * Math.exp(4 * logG)) / 3);
}

function peakedSpectrum(e: PeakedEmission): Spectrum {
  const logs = new Float64Array(GRID_SIZE);
  let top = -Infinity;
  for (let i = 0; i < GRID_SIZE; i += 1) {
    const nm = nmAt(i);
    // energy × λ ∝ photons
    logs[i] = logShape(e.shape, nm - e.peakNm, e.fwhmNm) + Math.log(nm);
    if (logs[i]! > top) top = logs[i]!;
  }
  return scaledToFlux(
    logs.map((v) => Math.exp(v - top)),
    e.flux,
  );
}

function scaledToFlux(spectrum: Spectrum, flux: number): Spectrum {
  const sum = integrate(spectrum);
  const factor = sum > 0 ? flux / sum : 0;
  return spectrum.map((v) => v * factor);
}

function tableSpectrum(e: TableEmission): Spectrum {
  const points = [...e.points].sort((a, b) => a[0] - b[0]);
  const out = zeroSpectrum();
  let next = 0;
  for (let i = 0; i < GRID_SIZE; i += 1) {
    const nm = nmAt(i);
    while (next < points.length && points[next]![0] < nm) next += 1;
    const right = points[next];
    const left = points[next - 1];
    let value = 0;
    if (right && right[0] === nm) value = right[1];
    else if (left && right) value = left[1] + ((right[1] - left[1]) * (nm - left[0])) / (right[0] - left[0]);
    out[i] = e.quantity === 'energy' ? (value * nm) / JOULE_NM_PER_UMOL : value;
  }
  return e.flux === undefined ? out : scaledToFlux(out, e.flux);
}

/** Photon spectrum of one emission on the grid. */
export const emissionSpectrum = (e: Emission): Spectrum =>
  e.shape === 'table' ? tableSpectrum(e) : peakedSpectrum(e);

/** Sum of several emissions. */
export function sumEmissions(emissions: readonly Emission[]): Spectrum {
  const out = zeroSpectrum();
  for (const e of emissions) {
    const s = emissionSpectrum(e);
    for (let i = 0; i < GRID_SIZE; i += 1) out[i]! += s[i]!;
  }
  return out;
}
