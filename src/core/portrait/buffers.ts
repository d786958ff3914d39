/** What a worker makes of a layout and a page relights: the buffers of a picture. */

/** Steps of depth in which colours are told apart. */
export const DEPTHS = 12;
/** Depths at which light is asked for, as shares of the tank's; colours between them are between theirs. */
export const AT_DEPTHS = [0.02, 0.25, 0.5, 0.75, 1] as const;
/** Arriving light is kept in so many steps of one. */
export const ARRIVE = 6000;
export const HAZE = 255;

/** Where every pixel's light comes from: made once per layout, relit as often as wanted. */
export interface PortraitScene {
  width: number;
  height: number;
  /** surface × DEPTHS + step of depth */
  cell: Uint16Array;
  /** pixel by pixel, then lamp: light that arrives, over that at the same depth under the lamp, × ARRIVE */
  arrive: Uint16Array;
  /** the same of the light of the water before it, × HAZE */
  haze: Uint8Array;
  lamps: readonly { groupId: string; lampId: string; channels: readonly string[] }[];
  surfaces: readonly { name: string; of: number }[];
  /** XYZ at full, per surface and lamp at AT_DEPTHS: depth-major, then channel, then X, Y, Z; empty where no lamps hang */
  table: Float32Array[][];
  /** ids of corals and mats, in the order `of` counts them */
  things: readonly string[];
  /** where each of them is seen, px: middle and half sizes */
  boxes: readonly { x: number; y: number; halfX: number; halfY: number }[];
}

/** A step of depth as a place between two of AT_DEPTHS. */
export function depthStep(step: number): { at: number; share: number } {
  const share = step / (DEPTHS - 1);
  let at = 0;
  while (at < AT_DEPTHS.length - 2 && AT_DEPTHS[at + 1]! < share) at += 1;
  return {
    at,
    share: Math.min(1, Math.max(0, (share - AT_DEPTHS[at]!) / (AT_DEPTHS[at + 1]! - AT_DEPTHS[at]!))),
  };
}
