import { inverse, times } from './linear';

/** A box of water in which places are told apart. */
export interface FieldBox {
  lengthCm: number;
  widthCm: number;
  depthCm: number;
}
interface Place {
  xCm: number;
  yCm: number;
  depthCm: number;
}

/** What no parameter of a model explains at a place, one standard deviation of the logarithm of light. Mark: rule of thumb. */
export const FIELD_SHARE = 0.05;
/** It is alike over this share of the tank's length, width and depth. Mark: rule of thumb. */
const ALIKE = 1 / 3;
/** Nodes that stand for it, as shares of the box. */
const NODES = [1 / 6, 1 / 2, 5 / 6].flatMap((x) =>
  [1 / 4, 3 / 4].flatMap((y) => [1 / 4, 3 / 4].map((z) => [x, y, z] as const)),
);

/** How alike two places are, 0 to 1, as shares of the box: a Gaussian process (Rasmussen & Williams 2006). Mark: standard. */
const alike = (a: readonly number[], b: readonly number[]): number =>
  Math.exp(-a.reduce((s, v, i) => s + (v - b[i]!) ** 2, 0) / (2 * ALIKE ** 2));

const ALIKE_NODES = NODES.map((a) => NODES.map((b) => alike(a, b)));
const NODES_INVERSE = inverse(ALIKE_NODES.map((row, i) => row.map((v, j) => (i === j ? v + 1e-6 : v))));
export const FIELD_PRIOR: readonly (readonly number[])[] = ALIKE_NODES.map((row) =>
  row.map((v) => v * FIELD_SHARE ** 2),
);

/** Covariance of what is unexplained at the nodes of a box before any reading, of logarithms of light: [node][node]. */

const kept = new WeakMap<Place, { box: FieldBox; made: { weights: number[]; left: number } }>();

/** What a place has of each node, and the share of its variance that the nodes cannot tell. @returns weights in the order of the nodes */
export function fieldWeights(box: FieldBox, place: Place): { weights: number[]; left: number } {
  const known = kept.get(place);
  if (known?.box === box) return known.made;
  const here = [place.xCm / box.lengthCm, place.yCm / box.widthCm, place.depthCm / box.depthCm];
  const near = NODES.map((n) => alike(n, here));
  const weights = times(NODES_INVERSE, near);
  const told = near.reduce((s, v, i) => s + v * weights[i]!, 0);
  const made = { weights, left: Math.max(0, 1 - told) };
  kept.set(place, { box, made });
  return made;
}
