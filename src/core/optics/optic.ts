import type { Photometry } from '../spectrum/lampKind';

/** Where an optic points: axis and the two directions across it, unit vectors with z down. */
export interface Frame {
  along: readonly [x: number, y: number, z: number];
  across: readonly [x: number, y: number, z: number];
  axis: readonly [x: number, y: number, z: number];
}

/**
 * The frame of a lamp turned around the vertical and then leaning: tilted by `tiltDeg`, its light going towards the
 * direction `towardDeg` on the plan (0 = right, 90 = back).
 */
export function lampFrame(turnDeg: number, tiltDeg = 0, towardDeg = 0): Frame {
  const turn = (turnDeg * Math.PI) / 180;
  const tilt = (tiltDeg * Math.PI) / 180;
  const to = (towardDeg * Math.PI) / 180;
  // Rotation about the horizontal line square to `to` that takes "down" towards `to` (Rodrigues).
  const k = [-Math.sin(to), Math.cos(to), 0] as const;
  const rotate = (v: readonly [number, number, number]): [number, number, number] => {
    const c = Math.cos(tilt);
    const s = Math.sin(tilt);
    const dot = (k[0] * v[0] + k[1] * v[1]) * (1 - c);
    const cross = [k[1] * v[2], -k[0] * v[2], k[0] * v[1] - k[1] * v[0]] as const;
    return [
      v[0] * c + cross[0] * s + k[0] * dot,
      v[1] * c + cross[1] * s + k[1] * dot,
      v[2] * c + cross[2] * s,
    ];
  };
  return {
    along: rotate([Math.cos(turn), Math.sin(turn), 0]),
    across: rotate([-Math.sin(turn), Math.cos(turn), 0]),
    axis: rotate([0, 0, 1]),
  };
}

/** An optic ready to be asked: intensity per unit of flux, sr⁻¹, over the half space before the lamp. */
export interface Optic {
  /** beam exponent m of cosᵐθ, where no file says otherwise */
  exponent: number;
  /** share of the light that a diffuser sends out like matt glass (Lambertian) */
  diffuseShare: number;
  photometry: Photometry | null;
  /** true when intensity depends on the angle from the axis alone */
  radial: boolean;
  /** intensity by photometry is divided by this: its flux over the half space */
  flux: number;
}

const RAD = 180 / Math.PI;

/** Folds a horizontal angle into what the file lists: its symmetry follows from its last angle (0, 90, 180 or 360). */
function folded(p: Photometry, deg: number): number {
  const last = p.horizontalDeg[p.horizontalDeg.length - 1]!;
  const at = ((deg % 360) + 360) % 360;
  if (last === 0) return 0;
  if (last === 90) return at > 270 ? 360 - at : at > 180 ? at - 180 : at > 90 ? 180 - at : at;
  if (last === 180) return at > 180 ? 360 - at : at;
  return at;
}

function place(list: readonly number[], value: number): [index: number, fraction: number] {
  if (value <= list[0]! || list.length === 1) return [0, 0];
  let i = 1;
  while (i < list.length - 1 && list[i]! < value) i += 1;
  const [a, b] = [list[i - 1]!, list[i]!];
  return [i - 1, Math.min(1, (value - a) / (b - a))];
}

/** Intensity of a photometry in its own unit, bilinear; nothing beyond the angles it lists. */
export function photometryAt(p: Photometry, cosAxis: number, horizontalDeg: number): number {
  const vertical = Math.acos(Math.min(1, Math.max(-1, cosAxis))) * RAD;
  if (vertical > p.verticalDeg[p.verticalDeg.length - 1]! + 1e-9 || vertical < p.verticalDeg[0]! - 1e-9)
    return 0;
  const [v, vf] = place(p.verticalDeg, vertical);
  const [h, hf] = place(p.horizontalDeg, folded(p, horizontalDeg));
  const at = (row: number) => {
    const list = p.intensity[row]!;
    return list[v]! * (1 - vf) + (list[v + 1] ?? 0) * vf;
  };
  return hf > 0 ? at(h) * (1 - hf) + at(h + 1) * hf : at(h);
}

const STEPS = 180;

/** Flux of a photometry over the half space before the lamp, intensity unit × sr. */
export function photometryFlux(p: Photometry): number {
  const around = p.horizontalDeg.length === 1 ? 1 : 72;
  let sum = 0;
  for (let i = 0; i < STEPS; i += 1) {
    const theta = ((i + 0.5) / STEPS) * (Math.PI / 2);
    let ring = 0;
    for (let k = 0; k < around; k += 1) ring += photometryAt(p, Math.cos(theta), ((k + 0.5) * 360) / around);
    sum += (ring / around) * Math.sin(theta);
  }
  return sum * (Math.PI / 2 / STEPS) * 2 * Math.PI;
}

export const beamOptic = (exponent: number, diffuseShare = 0): Optic => ({
  exponent,
  diffuseShare,
  photometry: null,
  radial: true,
  flux: 1,
});

/** The same optic, its beam exponent times a factor; what a file lists stays. */
export const withExponent = (o: Optic, factor: number): Optic =>
  o.photometry ? o : { ...o, exponent: o.exponent * factor };

export const fileOptic = (photometry: Photometry, diffuseShare = 0): Optic => ({
  exponent: 1,
  diffuseShare,
  photometry,
  radial: photometry.horizontalDeg.length === 1,
  flux: photometryFlux(photometry),
});

/**
 * Intensity per unit of flux in a direction, sr⁻¹. A beam is (m+1)/(2π) cosᵐθ over the half space; a diffuser sends its
 * share out as cosθ/π.
 * @param cosAxis cosine of the angle from the axis; @param horizontalDeg around it, from the lamp's length
 */
export function intensity(o: Optic, cosAxis: number, horizontalDeg: number): number {
  if (cosAxis <= 0) return 0;
  const direct = o.photometry
    ? photometryAt(o.photometry, cosAxis, horizontalDeg) / o.flux
    : ((o.exponent + 1) / (2 * Math.PI)) * cosAxis ** o.exponent;
  return o.diffuseShare > 0 ? (1 - o.diffuseShare) * direct + (o.diffuseShare * cosAxis) / Math.PI : direct;
}

/** Intensity along a direction (unit vector, z down) in a lamp's frame. */
export function intensityAlong(o: Optic, f: Frame, x: number, y: number, z: number): number {
  const cosAxis = f.axis[0] * x + f.axis[1] * y + f.axis[2] * z;
  if (cosAxis <= 0) return 0;
  if (o.radial) return intensity(o, cosAxis, 0);
  const a = f.along[0] * x + f.along[1] * y + f.along[2] * z;
  const b = f.across[0] * x + f.across[1] * y + f.across[2] * z;
  return intensity(o, cosAxis, Math.atan2(b, a) * RAD);
}
