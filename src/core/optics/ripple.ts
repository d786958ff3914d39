import { NINETY } from '../shape/normal';
import { par as parOf } from '../spectrum/bands';
import type { RigRow } from './light';
import { SEA_WATER_INDEX, sinAirForDistance } from './refraction';
import type { Tank } from './tank';
import { gather } from './transport';

/** Distance from crest to crest of waves made by gentle pumps and by strong ones, and the slope that parts them, cm. Mark: rule of thumb. */
const WAVES = { gentleCm: 8, strongCm: 12, partedAt: 0.085 } as const;
const waveCm = (slope: number): number => (slope < WAVES.partedAt ? WAVES.gentleCm : WAVES.strongCm);

/** Light of one channel from one place on a lamp, by where its ray crosses the surface. */
export interface Crossing {
  channel: number;
  xCm: number;
  yCm: number;
  /** height of its lamp over the water, cm */
  aboveCm: number;
  /** PAR at the spot, µmol m⁻² s⁻¹ */
  par: number;
}

/**
 * RMS change that ripples make to a ray's irradiance at a depth z: a surface of slope s and wavelength λ bends like a lens of curvature
 * 2πs/λ, and what arrives is stretched by 1 ± z′ (1 − 1/n) 2πs/λ, where z′ = z·a/(a + z/n) under a lamp a above the water, whose light
 * already spreads. Source: geometrical optics, small slopes. Held at 1.
 */
export const focusing = (slope: number, depthCm: number, aboveCm = Infinity): number => {
  const near = Number.isFinite(aboveCm) ? aboveCm / (aboveCm + depthCm / SEA_WATER_INDEX) : 1;
  return Math.min(1, depthCm * near * (1 - 1 / SEA_WATER_INDEX) * ((2 * Math.PI * slope) / waveCm(slope)));
};

/** How alike two rays are focused whose crossings lie this far apart, 0..1. */
const likeness = (cm: number, slope: number): number => Math.exp(-((cm / (waveCm(slope) / 4)) ** 2));

/** Every two rays that cross the surface, with how much they waver together: Σ of what is made of each pair. */
function overPairs(
  crossings: readonly Crossing[],
  slope: number,
  depthCm: number,
  of: (a: Crossing, b: Crossing) => number,
): number {
  const focus = crossings.map((c) => focusing(slope, depthCm, c.aboveCm));
  let sum = 0;
  crossings.forEach((a, i) =>
    crossings.forEach((b, j) => {
      const alike = likeness(Math.hypot(a.xCm - b.xCm, a.yCm - b.yCm), slope);
      sum += focus[i]! * focus[j]! * alike * a.par * b.par * of(a, b);
    }),
  );
  return Math.max(0, sum);
}

/** What ripples do to the light of a place. */
export interface Flicker {
  /** coefficient of variation */
  cv: number;
  /** 95 of 100 moments are no brighter, µmol */
  flashUmol: number;
}

/**
 * How the light of a place flickers, its straight rays by the surface and the rest not at all. Moments lie as a logarithm's normal
 * spread does, which facets traced agree with (tests).
 * @param meanUmol all PAR there
 */
export function flicker(
  crossings: readonly Crossing[],
  slope: number,
  depthCm: number,
  meanUmol: number,
): Flicker {
  const cv = meanUmol > 0 ? Math.sqrt(overPairs(crossings, slope, depthCm, () => 1)) / meanUmol : 0;
  const spread = Math.sqrt(Math.log(1 + cv ** 2));
  return { cv, flashUmol: meanUmol * Math.exp(NINETY * spread - spread ** 2 / 2) };
}

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
  const sum = overPairs(
    crossings,
    slope,
    depthCm,
    (a, b) => (a.channel === b.channel ? 1 : 0) - unit[a.channel]! * unit[b.channel]!,
  );
  return (Math.atan(Math.sqrt(sum) / norm) * 180) / Math.PI;
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
        aboveCm: e.heightCm,
        par: shares[r]! * weight * parOf(row.spectra[e.spectrum]!),
      });
    }
  });
  return out;
}
