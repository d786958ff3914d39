import { integrate, sample } from '../spectrum/grid';
import { cmf } from '../spectrum/observer';
import { uv1960, type Xy, xyOf } from './xyz';

/** Second radiation constant, m K. Mark: standard. */
const C2 = 0.01438777;
/** A kelvin figure is given only between these and with |Duv| below the limit. Mark: rule of thumb (CIE 15 uses 0.05). */
const LOWEST_K = 1000;
const HIGHEST_K = 25_000;
const DUV_LIMIT = 0.02;
/** The locus is searched in reciprocal megakelvin (mired), from an infinitely hot body to 400 K. */
const MIRED_END = 2500;
const MIRED_STEP = 5;

export interface Temperature {
  /** correlated colour temperature, or null where a kelvin figure would mislead */
  cctK: number | null;
  /** signed distance to the Planckian locus in CIE 1960 (u, v), + above */
  duv: number;
}

/** CIE 1960 (u, v) of a Planckian radiator given its mired; 0 mired is the infinitely hot limit λ⁻⁴. */
export function planckUv(mired: number): Xy {
  const { x, y, z } = cmf();
  // relative energy; scaled by the value at 560 nm so that cold bodies do not underflow
  const at = (nm: number) => (mired === 0 ? 0 : (C2 * mired * 1e3) / nm);
  const ref = at(560);
  const energy = sample((nm) => {
    if (mired === 0) return (560 / nm) ** 4;
    const e = at(nm);
    return ((560 / nm) ** 5 * Math.exp(ref - e) * -Math.expm1(-ref)) / -Math.expm1(-e);
  });
  const part = (c: Float64Array) => integrate(energy.map((v, i) => v * c[i]!));
  return uv1960(xyOf([part(x), part(y), part(z)])!);
}

let table: Xy[] | undefined;
const locus = (): Xy[] =>
  (table ??= Array.from({ length: MIRED_END / MIRED_STEP + 1 }, (_, i) => planckUv(i * MIRED_STEP)));

const distance = (a: Xy, b: Xy) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** CCT and Duv of a chromaticity by direct search for the nearest point of the locus (definition of Ohno 2013). */
export function temperatureOf(xy: Xy): Temperature {
  const uv = uv1960(xy);
  const points = locus();
  let nearest = 0;
  for (let i = 1; i < points.length; i += 1) {
    if (distance(points[i]!, uv) < distance(points[nearest]!, uv)) nearest = i;
  }
  // golden section between the neighbours of the nearest table row
  let low = Math.max(0, (nearest - 1) * MIRED_STEP);
  let high = Math.min(MIRED_END, (nearest + 1) * MIRED_STEP);
  const ratio = (Math.sqrt(5) - 1) / 2;
  while (high - low > 1e-6) {
    const a = high - ratio * (high - low);
    const b = low + ratio * (high - low);
    if (distance(planckUv(a), uv) < distance(planckUv(b), uv)) high = b;
    else low = a;
  }
  const mired = (low + high) / 2;
  const foot = planckUv(mired);
  const duv = distance(foot, uv) * (uv[1] >= foot[1] ? 1 : -1);
  const cctK = mired > 0 ? 1e6 / mired : Infinity;
  const honest = cctK >= LOWEST_K && cctK <= HIGHEST_K && Math.abs(duv) < DUV_LIMIT;
  return { cctK: honest ? cctK : null, duv };
}
