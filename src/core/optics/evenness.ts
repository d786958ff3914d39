import { deviation, extent, mean as meanOf, median } from 'd3-array';

import { type Field, fieldAt, layerAt } from './field';

/** How light is spread over places. Light in µmol m⁻² s⁻¹; places of rock (NaN) do not count. */
export interface Evenness {
  count: number;
  mean: number;
  median: number;
  sd: number;
  /** coefficient of variation: SD over mean */
  cv: number;
  min: number;
  max: number;
  /** least over mean */
  uniformity: number;
  /** share of places this far above and below the mean */
  hot: number;
  cold: number;
}

/** Places this far from the mean are called hot or cold, to begin with. Mark: rule of thumb. */
export const HOT_COLD_SHARE = 0.25;

/** @param boundShare how far from the mean a place is hot or cold */
export function evenness(values: ArrayLike<number>, boundShare = HOT_COLD_SHARE): Evenness | null {
  const kept = Array.from(values).filter((v) => Number.isFinite(v));
  if (kept.length === 0) return null;
  const n = kept.length;
  const mean = meanOf(kept)!;
  const sd = deviation(kept) ?? 0;
  const [min, max] = extent(kept) as [number, number];
  const over = (share: (v: number) => boolean) => kept.filter(share).length / n;
  return {
    count: n,
    mean,
    median: median(kept)!,
    sd,
    cv: mean > 0 ? sd / mean : 0,
    min,
    max,
    uniformity: mean > 0 ? min / mean : 0,
    hot: over((v) => v > mean * (1 + boundShare)),
    cold: over((v) => v < mean * (1 - boundShare)),
  };
}

/** Angle between two mixes of light, as vectors of PAR per channel, degrees; 0 = the same colour, whatever the strength. */
export function mixAngleDeg(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i += 1) {
    ab += a[i]! * b[i]!;
    aa += a[i]! ** 2;
    bb += b[i]! ** 2;
  }
  if (aa === 0 || bb === 0) return 0;
  return (Math.acos(Math.min(1, ab / Math.sqrt(aa * bb))) * 180) / Math.PI;
}

/** Mean light per channel of the layer nearest to a depth: what a place's mix is held against. */
export function layerMix(
  field: Field,
  depthCm: number,
  shares: ArrayLike<number>,
  channelOf: readonly number[],
): Float64Array {
  const cells = field.grid.nx * field.grid.ny;
  const [below, f] = layerAt(field.grid.depthsCm, depthCm);
  const layer = Math.round(below + f);
  const out = new Float64Array(Math.max(0, ...channelOf.map((c) => c + 1)));
  for (let r = 0; r < field.rows; r += 1) {
    const at = (layer * field.rows + r) * cells;
    for (let c = 0; c < cells; c += 1)
      if (field.rock[layer * cells + c] === 0)
        out[channelOf[r]!]! += (shares[r]! * field.par[at + c]!) / cells;
  }
  return out;
}

/** Light per channel at a place. */
export function mixAt(
  field: Field,
  at: { xCm: number; yCm: number; depthCm: number },
  shares: ArrayLike<number>,
  channelOf: readonly number[],
): Float64Array {
  const out = new Float64Array(Math.max(0, ...channelOf.map((c) => c + 1)));
  fieldAt(field, at.xCm, at.yCm, at.depthCm).forEach((p, r) => {
    out[channelOf[r]!]! += p * shares[r]!;
  });
  return out;
}

/**
 * How well a layer's colours are blended: the angle between each cell's light per channel and the layer's mean.
 * @param channelOf the channel of every row, 0..channels−1; rows of one channel add up
 * @returns the mean and the largest angle, degrees
 */
export function blending(
  field: Field,
  layer: number,
  shares: ArrayLike<number>,
  channelOf: readonly number[],
): { meanDeg: number; maxDeg: number } {
  const cells = field.grid.nx * field.grid.ny;
  const channels = Math.max(0, ...channelOf.map((c) => c + 1));
  const light = new Float64Array(cells * channels);
  const mean = new Float64Array(channels);
  for (let r = 0; r < field.rows; r += 1) {
    if (shares[r] === 0) continue;
    const at = (layer * field.rows + r) * cells;
    const channel = channelOf[r]!;
    for (let c = 0; c < cells; c += 1) {
      const value = shares[r]! * field.par[at + c]!;
      light[c * channels + channel]! += value;
      mean[channel]! += value;
    }
  }
  let sum = 0;
  let max = 0;
  let count = 0;
  for (let c = 0; c < cells; c += 1) {
    if (field.rock[layer * cells + c] === 1) continue;
    const angle = mixAngleDeg(light.subarray(c * channels, (c + 1) * channels), mean);
    sum += angle;
    max = Math.max(max, angle);
    count += 1;
  }
  return { meanDeg: count > 0 ? sum / count : 0, maxDeg: max };
}

/** Share of the lamps' photons that never enters the water: it misses the rim or is thrown back by the surface or a lid. */
export function lostShare(field: Field, shares: ArrayLike<number>): number {
  let sent = 0;
  let entered = 0;
  for (let r = 0; r < field.rows; r += 1) {
    sent += shares[r]! * field.flux[r]!;
    entered += shares[r]! * field.flux[r]! * field.entered[r]!;
  }
  return sent > 0 ? 1 - entered / sent : 0;
}

/** Mean direct PAR on each pane's inside, in the order of PANES, µmol m⁻² s⁻¹. */
export function onGlass(field: Field, shares: ArrayLike<number>): number[] {
  const panes = field.glass.length / Math.max(1, field.rows);
  return Array.from({ length: panes }, (_, p) =>
    Array.from({ length: field.rows }, (__, r) => shares[r]! * field.glass[r * panes + p]!).reduce(
      (a, b) => a + b,
      0,
    ),
  );
}
