import { JOULE_NM_PER_UMOL, integrateWeighted, nmAt } from '../spectrum/grid';
import { LUMENS_PER_WATT } from '../spectrum/lux';
import { cmf } from '../spectrum/observer';

export type Xyz = readonly [x: number, y: number, z: number];
export type Xy = readonly [x: number, y: number];

let weights: readonly [Float64Array, Float64Array, Float64Array] | undefined;

/** Observer weights per photon (x̄, ȳ, z̄ × joules per µmol × 683.002), so that Y of a light is its lux. */
export function photonObserver(): readonly [Float64Array, Float64Array, Float64Array] {
  if (!weights) {
    const { x, y, z } = cmf();
    const perPhoton = (c: Float64Array) =>
      c.map((v, i) => (LUMENS_PER_WATT * v * JOULE_NM_PER_UMOL) / nmAt(i));
    weights = [perPhoton(x), perPhoton(y), perPhoton(z)];
  }
  return weights;
}

/** CIE 1931 XYZ of a photon spectrum; for a light in µmol m⁻² s⁻¹ nm⁻¹, Y is in lux. */
export function xyzOf(spectrum: ArrayLike<number>): Xyz {
  const [x, y, z] = photonObserver();
  return [integrateWeighted(spectrum, x), integrateWeighted(spectrum, y), integrateWeighted(spectrum, z)];
}

/** Chromaticity; null for no light. */
export function xyOf([x, y, z]: Xyz): Xy | null {
  const sum = x + y + z;
  return sum > 0 ? [x / sum, y / sum] : null;
}

/** CIE 1960 (u, v). */
export function uv1960([x, y]: Xy): Xy {
  const d = -2 * x + 12 * y + 3;
  return [(4 * x) / d, (6 * y) / d];
}
