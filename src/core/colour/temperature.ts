import { GRID_SIZE, nmAt } from '../spectrum/grid';
import { cmf } from '../spectrum/observer';
import { uv1960, type Xy } from './xyz';

/** Second radiation constant, m K. Mark: standard. */
const C2 = 0.01438777;
/** A kelvin figure is given only between these and with |Duv| below the limit. Mark: rule of thumb (CIE 15 uses 0.05). */
const LOWEST_K = 1000;
const HIGHEST_K = 25_000;
const DUV_LIMIT = 0.02;
/** The locus is searched in reciprocal megakelvin (mired), from an infinitely hot body to 400 K. */
const MIRED_END = 2500;
const MIRED_STEP = 5;
/** The search ends this close, in mired: well under a kelvin at 25 000 K. */
const MIRED_SLACK = 1e-4;

export interface Temperature {
  /** correlated colour temperature, or null where a kelvin figure would mislead */
  cctK: number | null;
  /** signed distance to the Planckian locus in CIE 1960 (u, v), + above */
  duv: number;
}

/** CIE 1960 (u, v) of a Planckian radiator given its mired; 0 mired is the infinitely hot limit λ⁻⁴. */
export function planckUv(mired: number): Xy {
  const { x, y, z } = cmf();
  let [X, Y, Z] = [0, 0, 0];
  // relative energy, scaled by the value at 560 nm so that cold bodies do not underflow
  const reference = (C2 * mired * 1e3) / 560;
  for (let i = 0; i < GRID_SIZE; i += 1) {
    const ratio = 560 / nmAt(i);
    const exponent = reference * ratio;
    const energy =
      mired === 0
        ? ratio ** 4
        : (ratio ** 5 * Math.exp(reference - exponent) * -Math.expm1(-reference)) / -Math.expm1(-exponent);
    const weight = i === 0 || i === GRID_SIZE - 1 ? energy / 2 : energy;
    X += weight * x[i]!;
    Y += weight * y[i]!;
    Z += weight * z[i]!;
  }
  const sum = X + Y + Z;
  return uv1960([X / sum, Y / sum]);
}

const ROWS = MIRED_END / MIRED_STEP;

/** The rows of the locus, each `planckUv` of its mired: at one wavelength the exponential grows by one factor from row to row. */
function locusRows(): Xy[] {
  const { x, y, z } = cmf();
  const [X, Y, Z] = [0, 0, 0].map(() => new Float64Array(ROWS + 1)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  /** what one wavelength adds to all rows */
  const add = (factor: number, toX: number, toY: number, toZ: number) => {
    for (let k = 1, grown = factor; k <= ROWS; k += 1, grown *= factor) {
      const energy = 1 / (grown - 1);
      X[k]! += energy * toX;
      Y[k]! += energy * toY;
      Z[k]! += energy * toZ;
    }
  };
  for (let i = 0; i < GRID_SIZE; i += 1) {
    const weight = (560 / nmAt(i)) ** 5 * (i === 0 || i === GRID_SIZE - 1 ? 0.5 : 1);
    add(Math.exp((C2 * MIRED_STEP * 1e3) / nmAt(i)), weight * x[i]!, weight * y[i]!, weight * z[i]!);
  }
  return Array.from(X, (_, k) => {
    const sum = X[k]! + Y[k]! + Z[k]!;
    return k === 0 ? planckUv(0) : uv1960([X[k]! / sum, Y[k]! / sum]);
  });
}

let table: Xy[] | undefined;
const locus = (): Xy[] => (table ??= locusRows());

/**
 * The locus between the rows of its table, through the four nearest (Lagrange): within 2e-8 of the integral, and a thousand times
 * as fast.
 */
export function locusAt(mired: number): Xy {
  const points = locus();
  const i = Math.min(points.length - 4, Math.max(0, Math.floor(mired / MIRED_STEP) - 1));
  const t = mired / MIRED_STEP - i;
  const w = [
    (-(t - 1) * (t - 2) * (t - 3)) / 6,
    (t * (t - 2) * (t - 3)) / 2,
    (-t * (t - 1) * (t - 3)) / 2,
    (t * (t - 1) * (t - 2)) / 6,
  ];
  let [u, v] = [0, 0];
  for (let k = 0; k < 4; k += 1) {
    u += w[k]! * points[i + k]![0];
    v += w[k]! * points[i + k]![1];
  }
  return [u, v];
}

const distance = (a: Xy, b: Xy) => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2);

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
  const off = (m: number) => distance(locusAt(m), uv);
  let a = high - ratio * (high - low);
  let b = low + ratio * (high - low);
  let [offA, offB] = [off(a), off(b)];
  while (high - low > MIRED_SLACK) {
    if (offA < offB) {
      [high, b, offB] = [b, a, offA];
      a = high - ratio * (high - low);
      offA = off(a);
    } else {
      [low, a, offA] = [a, b, offB];
      b = low + ratio * (high - low);
      offB = off(b);
    }
  }
  const mired = (low + high) / 2;
  const foot = locusAt(mired);
  const duv = distance(foot, uv) * (uv[1] >= foot[1] ? 1 : -1);
  const cctK = mired > 0 ? 1e6 / mired : Infinity;
  const honest = cctK >= LOWEST_K && cctK <= HIGHEST_K && Math.abs(duv) < DUV_LIMIT;
  return { cctK: honest ? cctK : null, duv };
}
