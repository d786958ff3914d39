import { par } from '../spectrum/bands';
import { GRID_SIZE, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { directTransfer } from './refraction';
import { attenuationPerM, type Water } from './water';

/** Inner size of the water. Frame: x left→right, y front→back, z down from the surface, cm. */
export interface Tank {
  lengthCm: number;
  widthCm: number;
  depthCm: number;
}
export interface RigEmitter {
  xCm: number;
  yCm: number;
  heightCm: number;
  /** beam exponent m of cosᵐθ */
  exponent: number;
  /** share of the row's flux that this emitter sends out; the shares of a row add to 1 per spectrum */
  share: number;
  /** which spectrum of the row it emits */
  spectrum: number;
}
/** One hung lamp's channel: everything that one level drives. */
export interface RigRow {
  spectra: Spectrum[];
  emitters: RigEmitter[];
}
export interface RigSpot {
  xCm: number;
  yCm: number;
  depthCm: number;
  /** share of light that overhangs leave, 0..1 */
  openShare: number;
}
export interface Rig {
  tank: Tank;
  water: Water;
  rows: RigRow[];
  spots: RigSpot[];
}

/**
 * Light at each spot from each row at full emission: spots × rows spectra, µmol m⁻² s⁻¹ nm⁻¹, and their PAR.
 * `spectra` is one array: spot-major, then row, then wavelength.
 */
export interface ResponseMatrix {
  spots: number;
  rows: number;
  spectra: Float64Array;
  par: Float64Array;
}

/** Thrown by computeResponse when `onProgress` asks to stop. */
export class Cancelled extends Error {}

/**
 * The response matrix, first form: refraction, Fresnel, water, the rim of the tank; no walls and no floor yet.
 * @param onProgress called with 0..1; return false to stop
 * @throws Cancelled
 */
export function computeResponse(
  rig: Rig,
  onProgress: (share: number) => boolean = () => true,
): ResponseMatrix {
  const loss = attenuationPerM(rig.water);
  const rows = rig.rows.length;
  const out: ResponseMatrix = {
    spots: rig.spots.length,
    rows,
    spectra: new Float64Array(rig.spots.length * rows * GRID_SIZE),
    par: new Float64Array(rig.spots.length * rows),
  };
  const carried = zeroSpectrum();
  // a local: imported constants are looked up anew in every turn of a loop
  const grid = GRID_SIZE;
  rig.spots.forEach((spot, s) => {
    if (!onProgress(s / rig.spots.length)) throw new Cancelled();
    rig.rows.forEach((row, r) => {
      const at = (s * rows + r) * GRID_SIZE;
      const into = out.spectra.subarray(at, at + GRID_SIZE);
      for (const e of row.emitters) {
        const dx = spot.xCm - e.xCm;
        const dy = spot.yCm - e.yCm;
        const t = directTransfer(Math.hypot(dx, dy), e.heightCm, spot.depthCm, e.exponent);
        if (!insideRim(rig.tank, e.xCm + dx * t.crossing, e.yCm + dy * t.crossing)) continue;
        const factor = t.perM2 * e.share * spot.openShare;
        const spectrum = row.spectra[e.spectrum]!;
        for (let i = 0; i < grid; i += 1) carried[i] = factor * spectrum[i]! * Math.exp(-loss[i]! * t.pathM);
        for (let i = 0; i < grid; i += 1) into[i]! += carried[i]!;
      }
      out.par[s * rows + r] = par(into);
    });
  });
  onProgress(1);
  return out;
}

const insideRim = (tank: Tank, x: number, y: number) =>
  x >= 0 && x <= tank.lengthCm && y >= 0 && y <= tank.widthCm;

/** Spectrum at a spot for the given emitted shares per row (matrix × shares). */
export function spectrumAt(matrix: ResponseMatrix, spot: number, shares: ArrayLike<number>): Spectrum {
  const out = zeroSpectrum();
  for (let r = 0; r < matrix.rows; r += 1) {
    const share = shares[r]!;
    if (share === 0) continue;
    const at = (spot * matrix.rows + r) * GRID_SIZE;
    for (let i = 0; i < GRID_SIZE; i += 1) out[i]! += share * matrix.spectra[at + i]!;
  }
  return out;
}

/** PAR at a spot for the given emitted shares per row, µmol m⁻² s⁻¹. */
export function parAt(matrix: ResponseMatrix, spot: number, shares: ArrayLike<number>): number {
  let sum = 0;
  for (let r = 0; r < matrix.rows; r += 1) sum += shares[r]! * matrix.par[spot * matrix.rows + r]!;
  return sum;
}
