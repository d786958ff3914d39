import { par as parOf } from '../spectrum/bands';
import type { RigRow } from './light';
import { SEA_WATER_INDEX, sinAirForDistance } from './refraction';
import type { Tank } from './tank';
import { gather } from './transport';

/** Distance from crest to crest of small waves made by pumps, cm. Mark: rule of thumb. */
const WAVE_CM = 8;

/** Light of one channel from one place on a lamp, by where its ray crosses the surface. */
export interface Crossing {
  channel: number;
  xCm: number;
  yCm: number;
  /** PAR at the spot, µmol m⁻² s⁻¹ */
  par: number;
}

/**
 * RMS change that ripples make to a ray's irradiance at a depth: a surface of slope s and wavelength λ bends like a lens of
 * curvature 2πs/λ, and what arrives is stretched by 1 ± z (1 − 1/n) 2πs/λ. Source: geometrical optics, small slopes. Held at 1.
 */
export const focusing = (slope: number, depthCm: number): number =>
  Math.min(1, depthCm * (1 - 1 / SEA_WATER_INDEX) * ((2 * Math.PI * slope) / WAVE_CM));

/** How alike two rays are focused whose crossings lie this far apart, 0..1. */
const likeness = (cm: number): number => Math.exp(-((cm / (WAVE_CM / 4)) ** 2));

/**
 * Ripple-blend: how much the colour at a spot flickers, as the RMS angle between its light per channel and its mean, degrees.
 * Rays that cross the surface close together flicker together and keep the colour; colours that come from different places
 * on the lamps do not.
 * @param slope RMS slope of the surface: still 0, usual 0.05, strong 0.12
 */
export function rippleBlendDeg(crossings: readonly Crossing[], slope: number, depthCm: number): number {
  const channels = Math.max(0, ...crossings.map((c) => c.channel + 1));
  const mean = new Array<number>(channels).fill(0);
  for (const c of crossings) mean[c.channel]! += c.par;
  const norm = Math.hypot(...mean);
  if (norm === 0 || slope === 0) return 0;
  const unit = mean.map((v) => v / norm);
  // E|δ⊥|² = σ² Σ_ij k_ij p_i p_j (e_i·e_j − (u·e_i)(u·e_j)), e the unit vectors of the channels
  let sum = 0;
  for (const a of crossings) {
    for (const b of crossings) {
      const across = (a.channel === b.channel ? 1 : 0) - unit[a.channel]! * unit[b.channel]!;
      sum += likeness(Math.hypot(a.xCm - b.xCm, a.yCm - b.yCm)) * a.par * b.par * across;
    }
  }
  return (Math.atan((focusing(slope, depthCm) * Math.sqrt(Math.max(0, sum))) / norm) * 180) / Math.PI;
}

/**
 * Where the light of every emitter that reaches a spot straight crosses the surface, with its PAR there. Colours are told apart by
 * channel; what water takes on the way is left aside, for it is alike for rays that cross the same depth.
 */
export function crossingsAt(
  rows: readonly RigRow[],
  tank: Tank,
  spot: { xCm: number; yCm: number; depthCm: number },
  shares: ArrayLike<number>,
  channelOf: readonly number[],
): Crossing[] {
  const out: Crossing[] = [];
  const plane = { depthCm: spot.depthCm, x: Float64Array.of(spot.xCm), y: Float64Array.of(spot.yCm) };
  const open = { ...tank, walls: { left: 0, right: 0, front: 0, back: 0 }, solids: [] };
  rows.forEach((row, r) => {
    if (!(shares[r]! > 0)) return;
    for (const e of row.emitters) {
      const into = new Float64Array(2);
      gather(open, plane, [{ ...e, spectrum: 0 }], [into], { nodes: 2 });
      const weight = into[0]! + into[1]!;
      if (!(weight > 0)) continue;
      const [dx, dy] = [spot.xCm - e.xCm, spot.yCm - e.yCm];
      const distance = Math.hypot(dx, dy);
      const sin = sinAirForDistance(distance, e.heightCm, spot.depthCm);
      const reach = (e.heightCm * sin) / Math.sqrt(1 - sin * sin);
      const part = distance > 0 ? reach / distance : 0;
      out.push({
        channel: channelOf[r]!,
        xCm: e.xCm + dx * part,
        yCm: e.yCm + dy * part,
        par: shares[r]! * weight * parOf(row.spectra[e.spectrum]!),
      });
    }
  });
  return out;
}
