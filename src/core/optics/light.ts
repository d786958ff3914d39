import { GRID_SIZE, type Spectrum, zeroSpectrum } from '../spectrum/grid';
import { type FloorPart, floorParts, floorReturn } from './bounce';
import type { Tank } from './tank';
import { gather, nodeSecant, planeCache, type RigEmitter } from './transport';
import { attenuationPerM, type Water } from './water';

/** Which hung lamp's channel a row of light is: rows are asked for by name, never by counting. */
export interface RowName {
  groupId: string;
  lampId: string;
  channelId: string;
}

/** One hung lamp's channel: everything that one level drives. */
export interface RigRow {
  /** absent in scenes that name nothing, such as a trial of lamps that hang nowhere */
  of?: RowName;
  spectra: Spectrum[];
  emitters: RigEmitter[];
  /** the same emitters with the lamp leaning a degree more to the right, and to the back; only where that is not sure */
  leaning?: Lean<RigEmitter[]>;
}
/** What is told apart by the way a lamp leans. */
export interface Lean<T> {
  right: T;
  back: T;
}

/** Transmission of every node's path to a depth: [node × wavelength]. */
export function nodeTransmission(loss: Spectrum, depthCm: number, nodes: number): Float64Array {
  const grid = GRID_SIZE;
  const out = new Float64Array(nodes * grid);
  // paths grow by equal steps: each node's share is the one before it times what one step leaves
  const shortest = (depthCm / 100) * nodeSecant(0, nodes);
  const longer = (depthCm / 100) * (nodeSecant(1, nodes) - nodeSecant(0, nodes));
  for (let i = 0; i < grid; i += 1) {
    const step = Math.exp(-loss[i]! * longer);
    let left = Math.exp(-loss[i]! * shortest);
    for (let at = i; at < out.length; at += grid) {
      out[at] = left;
      left *= step;
    }
  }
  return out;
}

/** into += spectrum × what the gathered paths leave of it. `weights` holds one target's nodes from `at` on. */
export function addThrough(
  into: Float64Array,
  spectrum: Spectrum,
  weights: Float64Array,
  at: number,
  transmission: Float64Array,
  nodes: number,
): void {
  const grid = GRID_SIZE;
  for (let k = 0; k < nodes; k += 1) {
    const w = weights[at + k]!;
    if (w === 0) continue;
    const row = k * grid;
    for (let i = 0; i < grid; i += 1) into[i]! += w * spectrum[i]! * transmission[row + i]!;
  }
}

const NODES = 12;

/** What the floor throws back, per row: to be asked for any depth. */
export interface Bounce {
  /** spectrum that comes down at a depth by way of the floor, added to `into` */
  add: (row: number, depthCm: number, into: Float64Array) => void;
}

/**
 * The floor's second light: E_b(z) = E_floor,mean · ρ · k(D+z) / (1 − ρ · k(2D)), per wavelength, D the depth of each part of a
 * stepped floor.
 */
export function floorBounce(tank: Tank, water: Water, rows: readonly RigRow[]): Bounce {
  const rho = tank.floorReflectance;
  if (rho === 0) return { add: () => undefined };
  const loss = attenuationPerM(water);
  const parts = floorParts(tank);
  const fed = parts.map((part) => meanOn(tank, loss, part, rows));
  const again = zeroSpectrum();
  for (const part of parts) {
    const k = floorReturn(tank, loss, 2 * part.depthCm);
    for (let i = 0; i < GRID_SIZE; i += 1) again[i]! += part.share * k[i]!;
  }
  const returns = new Map<string, Spectrum>();
  const returnOf = (part: FloorPart, depthCm: number) => {
    const key = `${part.depthCm} ${depthCm}`;
    let k = returns.get(key);
    if (!k) {
      k = floorReturn(tank, loss, part.depthCm + depthCm);
      for (let i = 0; i < GRID_SIZE; i += 1) k[i]! *= (rho * part.share) / (1 - rho * again[i]!);
      returns.set(key, k);
    }
    return k;
  };
  return {
    add: (row, depthCm, into) =>
      parts.forEach((part, p) => {
        const k = returnOf(part, depthCm);
        const mean = fed[p]![row]!;
        for (let i = 0; i < k.length; i += 1) into[i]! += mean[i]! * k[i]!;
      }),
  };
}

/** Mean spectrum on a part of the floor from each row at full. */
function meanOn(tank: Tank, loss: Spectrum, part: FloorPart, rows: readonly RigRow[]): Spectrum[] {
  const through = nodeTransmission(loss, part.depthCm, NODES);
  const count = part.x.length;
  const cache = planeCache();
  return rows.map((row) => {
    const weights = row.spectra.map(() => new Float64Array(count * NODES));
    gather(tank, part, row.emitters, weights, { nodes: NODES, cache });
    const out = zeroSpectrum();
    row.spectra.forEach((spectrum, s) => {
      const mean = new Float64Array(NODES);
      const all = weights[s]!;
      for (let at = 0; at < all.length; at += NODES)
        for (let k = 0; k < NODES; k += 1) mean[k]! += all[at + k]! / count;
      addThrough(out, spectrum, mean, 0, through, NODES);
    });
    return out;
  });
}
