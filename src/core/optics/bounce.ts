import { GRID_SIZE, type Spectrum } from '../spectrum/grid';
import { waterToAir } from './transport';
import type { Tank } from './tank';

const THETAS = 90;
const PHIS = 20;

/** One pair of walls met by a ray that runs sideways X box lengths: what is left after j and j+1 reflections, blended. */
function pairLoss(sideways: number, length: number, factor: number, cosIncidence: number): number {
  const crossings = sideways / length;
  const j = Math.floor(crossings);
  const f = crossings - j;
  const q = factor * waterToAir(cosIncidence);
  return (1 - f + f * q) * q ** j;
}

interface FloorWay {
  weight: number;
  pathM: number;
}
/** What one tank's floor sends back along which ways is the same in any water: kept for the last few depths asked for. */
const waysKept = new Map<string, FloorWay[]>();
const WAYS_KEPT = 64;

/** Ways from a matt floor to the surface and down again, by their slope. */
function floorWays({ lengthCm, widthCm, walls }: Tank, pathCm: number): FloorWay[] {
  const qx = (walls.left + walls.right) / 2;
  const qy = (walls.front + walls.back) / 2;
  const key = `${lengthCm} ${widthCm} ${qx} ${qy} ${pathCm}`;
  const kept = waysKept.get(key);
  if (kept) return kept;
  const ways: FloorWay[] = [];
  const step = Math.PI / 2;
  for (let i = 0; i < THETAS; i += 1) {
    const theta = ((i + 0.5) / THETAS) * step;
    const sin = Math.sin(theta);
    const cos = Math.cos(theta);
    const reflected = waterToAir(cos);
    if (reflected < 1e-9) continue;
    const sideways = (pathCm * sin) / cos;
    let around = 0;
    for (let k = 0; k < PHIS; k += 1) {
      const phi = ((k + 0.5) / PHIS) * step;
      const [c, s] = [Math.cos(phi), Math.sin(phi)];
      around += pairLoss(sideways * c, lengthCm, qx, sin * c) * pairLoss(sideways * s, widthCm, qy, sin * s);
    }
    const weight = (4 / Math.PI) * cos * sin * reflected * around * (step / THETAS) * (step / PHIS);
    if (weight < 1e-12) continue;
    ways.push({ weight, pathM: pathCm / 100 / cos });
  }
  if (waysKept.size >= WAYS_KEPT) waysKept.delete(waysKept.keys().next().value!);
  waysKept.set(key, ways);
  return ways;
}

/**
 * Share of what a matt floor sends up that comes back down after a vertical path s from floor to surface to the place, per
 * wavelength: k(s) = (4/π) ∬ cosθ sinθ R(θ) A_x A_y e^(−c s / cosθ) dθ dφ. Most of what the surface sends back runs flat and
 * leaves through the glass. Source: geometrical optics over a matt floor. Mark: standard.
 * @param loss attenuation, m⁻¹ on the grid; @param pathCm vertical path
 */
export const floorReturn = (tank: Tank, loss: Spectrum, pathCm: number): Spectrum =>
  leftOver(floorWays(tank, pathCm), loss);

/** Losses at which the sum over ways is taken; between them it is smooth. */
const NODES = 64;
/** Nodes lie evenly in the logarithm of the loss and this, m⁻¹: where water is clear, long ways make the sum steep. */
const CLEAR = 0.01;

/**
 * Σ weight · e^(−loss · path) per wavelength, by cubic pieces between nodes with their slopes: to 2·10⁻⁵ of what it is without loss.
 * @param loss m⁻¹ on the grid
 */
export function leftOver(ways: readonly FloorWay[], loss: Spectrum): Float64Array {
  const out = new Float64Array(GRID_SIZE);
  const at = Float64Array.from(loss, (v) => Math.log(v + CLEAR));
  let [low, high] = [Infinity, -Infinity];
  for (const v of at) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const step = (high - low) / (NODES - 1) || 1;
  const values = new Float64Array(NODES);
  const slopes = new Float64Array(NODES);
  for (let k = 0; k < NODES; k += 1) {
    const plus = Math.exp(low + k * step);
    for (const { weight, pathM } of ways) {
      const part = weight * Math.exp(-(plus - CLEAR) * pathM);
      values[k]! += part;
      slopes[k]! -= part * pathM;
    }
    slopes[k]! *= plus * step;
  }
  for (let n = 0; n < GRID_SIZE; n += 1) {
    const x = (at[n]! - low) / step;
    const k = Math.min(NODES - 2, Math.floor(x));
    const t = x - k;
    const u = 1 - t;
    out[n] =
      u * u * ((1 + 2 * t) * values[k]! + t * slopes[k]!) +
      t * t * ((1 + 2 * u) * values[k + 1]! - u * slopes[k + 1]!);
  }
  return out;
}

/** A part of the floor at one depth: the sand, or a step's top. */
export interface FloorPart {
  depthCm: number;
  /** share of the box's plan */
  share: number;
  x: Float64Array;
  y: Float64Array;
}

/** What of the light at corals this leaves open is 3·10⁻³ at most, over the library's lamps, low and high, with rock and without. */
const FLOOR_X = 16;
const FLOOR_Y = 8;

/** Floor and steps as planes of midpoints; what lies under blocks and mounds sends nothing back. */
export function floorParts(tank: Tank): FloorPart[] {
  const parts = new Map<number, [number, number][]>();
  for (let j = 0; j < FLOOR_Y; j += 1) {
    for (let i = 0; i < FLOOR_X; i += 1) {
      const x = ((i + 0.5) / FLOOR_X) * tank.lengthCm;
      const y = ((j + 0.5) / FLOOR_Y) * tank.widthCm;
      let depth = tank.depthCm;
      let covered = false;
      for (const s of tank.solids) {
        const u = (2 * (x - s.xCm)) / s.lengthCm;
        const v = (2 * (y - s.yCm)) / s.widthCm;
        const over = s.shape === 'mound' ? u * u + v * v < 1 : Math.abs(u) < 1 && Math.abs(v) < 1;
        if (!over) continue;
        if (s.shape === 'step') depth = Math.min(depth, s.topCm);
        else if (s.bottomCm >= tank.depthCm - 1e-6) covered = true;
      }
      if (!covered) parts.set(depth, [...(parts.get(depth) ?? []), [x, y]]);
    }
  }
  return [...parts].map(([depthCm, places]) => ({
    depthCm,
    share: places.length / (FLOOR_X * FLOOR_Y),
    x: Float64Array.from(places, (p) => p[0]),
    y: Float64Array.from(places, (p) => p[1]),
  }));
}
