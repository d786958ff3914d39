import { METER_NOISE_SHARE, METER_NOISE_UMOL } from './noise';
import { dot, inverse, solve, times } from './linear';

/** What a model says for every observation, and how that moves with every parameter. */
export interface Prediction {
  value: number[];
  /** [observation][parameter] */
  slope: number[][];
}

export interface FitInput {
  observed: readonly number[];
  predict: (parameters: readonly number[]) => Prediction;
  /** what is known before any observation */
  prior: { mean: readonly number[]; covariance: readonly (readonly number[])[] };
  bounds: readonly (readonly [low: number, high: number])[];
  /** one standard deviation of an observation at its predicted value; default 5 % + 1 */
  sigma?: (predicted: number, index: number) => number;
  /** whether an observation counts however far it lies off */
  trusted?: (index: number) => boolean;
  /** degrees of freedom of Student's t for the noise: nothing is then left out. Absent: Huber's loss, and what lies far off is dropped */
  noiseTails?: number;
  /**
   * The same for parameters that may lie far from their prior, by their place; they are independent of all others before any reading.
   * Around its middle a heavy tail looks narrow: its doubt is at least that of a normal one with this share of the precision.
   */
  priorTails?: ReadonlyMap<number, { nu: number; heldAtMost: number }>;
}

export interface Fit {
  parameters: number[];
  covariance: number[][];
  predicted: number[];
  /** (observed − predicted) / σ */
  sigmas: number[];
  /** observations beyond 6 σ: they count for nothing, or next to nothing under heavy tails */
  dropped: number[];
  /** observations beyond 4 σ, the dropped ones among them: likely bad readings */
  suspects: number[];
  /** how much wider than expected the kept residuals scatter, standard deviations; 1 = as expected */
  scatter: number;
}

/** Beyond this many σ a residual's pull grows no further (Huber 1964: 95 % efficiency). Mark: literature. */
const HUBER = 1.345;
/** Observations beyond this are left out. Mark: rule of thumb. */
const DROP_SIGMAS = 6;
/** Observations beyond this are pointed out. Mark: rule of thumb. */
const SUSPECT_SIGMAS = 4;
/** With fewer than this many kept nothing is left out: no majority could say who is wrong. */
const LEAST_KEPT = 3;
/** Readings that scatter as expected are believed as if so many of them had been seen before: few cannot cry wolf. Mark: rule of thumb. */
const AS_EXPECTED = 3;
/** Mean of weight × z² under Student's t with 4 degrees of freedom, of a normal z. Mark: standard. */
const T_MEAN = 0.83;
const ROUNDS = 30;
const DROP_ROUNDS = 6;
const SETTLED = 1e-7;

const plainSigma = (predicted: number) => METER_NOISE_SHARE * Math.abs(predicted) + METER_NOISE_UMOL;

/** How a distance of z standard deviations counts: its cost, and its weight in least squares. */
interface Loss {
  cost: (z: number) => number;
  weight: (z: number) => number;
}
const HUBERS: Loss = {
  cost: (z) => (Math.abs(z) <= HUBER ? (z * z) / 2 : HUBER * (Math.abs(z) - HUBER / 2)),
  weight: (z) => (Math.abs(z) <= HUBER ? 1 : HUBER / Math.abs(z)),
};
/** Student's t (Lange, Little & Taylor 1989). Mark: standard. */
const students = (nu: number): Loss => ({
  cost: (z) => ((nu + 1) / 2) * Math.log1p((z * z) / nu),
  weight: (z) => (nu + 1) / (nu + z * z),
});

/**
 * Robust damped least squares with a prior: the most likely parameters (Levenberg-Marquardt), under Student's t, or under Huber's
 * loss with what lies far off dropped afterwards and the rest fitted again. Yields how far it is, 0..1.
 */
export function* fitSteps(input: FitInput): Generator<number, Fit> {
  const { observed, prior, bounds } = input;
  const sigmaOf = input.sigma ?? plainSigma;
  const losses: Losses = {
    noise: (i) =>
      input.noiseTails === undefined ? HUBERS : input.trusted?.(i) ? HUBERS : students(input.noiseTails),
    prior: new Map([...(input.priorTails ?? [])].map(([i, { nu }]) => [i, students(nu)])),
    heldAtMost: (i) => input.priorTails?.get(i)?.heldAtMost ?? 1,
    mean: prior.mean,
    precision: inverse(prior.covariance),
  };
  const all = observed.map((_, i) => i);
  let dropped: number[] = [];
  let p = clamp(prior.mean, bounds);
  let now = input.predict(p);

  for (let round = 0; round <= DROP_ROUNDS; round += 1) {
    const kept = all.filter((i) => !dropped.includes(i));
    let damping = 1e-3;
    for (let step = 0; step < ROUNDS; step += 1) {
      yield Math.min(0.95, (round * ROUNDS + step) / (3 * ROUNDS));
      const sigma = now.value.map(sigmaOf);
      const { normal, gradient } = normalEquations(kept, observed, now, sigma, p, losses);
      const cost = costOf(kept, observed, now.value, sigma, p, losses);
      let moved = 0;
      for (let tries = 0; tries < 8; tries += 1) {
        const delta = solve(normal, gradient, damping);
        const next = clamp(
          p.map((v, i) => v + delta[i]!),
          bounds,
        );
        const there = input.predict(next);
        if (costOf(kept, observed, there.value, sigma, next, losses) <= cost + 1e-12) {
          moved = Math.max(...next.map((v, i) => Math.abs(v - p[i]!)));
          [p, now] = [next, there];
          damping = Math.max(1e-9, damping / 10);
          break;
        }
        damping *= 10;
      }
      if (moved < SETTLED) break;
    }
    const sigma = now.value.map(sigmaOf);
    const far = all.filter(
      (i) => !input.trusted?.(i) && Math.abs(observed[i]! - now.value[i]!) > DROP_SIGMAS * sigma[i]!,
    );
    if (input.noiseTails !== undefined) break;
    const next = all.length - far.length >= LEAST_KEPT ? far : dropped;
    if (next.join() === dropped.join()) break;
    dropped = next;
  }

  const kept = all.filter((i) => !dropped.includes(i));
  const sigma = now.value.map(sigmaOf);
  const { normal, told } = normalEquations(kept, observed, now, sigma, p, losses, true);
  const covariance = inverse(normal);
  const sigmas = all.map((i) => (observed[i]! - now.value[i]!) / sigma[i]!);
  // observations that the parameters did not use up
  const used = p.reduce((sum, _, i) => sum + dot(told[i]!, covariance[i]!), 0);
  const free = kept.length - used;
  // under heavy tails by the weights that were given, so that one gross error does not speak for all
  const chi2 = kept.reduce(
    (sum, i) =>
      sum +
      (input.noiseTails === undefined
        ? 2 * HUBERS.cost(sigmas[i]!)
        : (losses.noise(i).weight(sigmas[i]!) * sigmas[i]! ** 2) / T_MEAN),
    0,
  );
  return {
    parameters: p,
    covariance,
    predicted: now.value,
    sigmas,
    dropped:
      input.noiseTails === undefined
        ? dropped
        : all.filter((i) => !input.trusted?.(i) && Math.abs(sigmas[i]!) > DROP_SIGMAS),
    suspects: all.filter((i) => Math.abs(sigmas[i]!) > SUSPECT_SIGMAS),
    scatter:
      free <= 1
        ? 1
        : input.noiseTails === undefined
          ? Math.sqrt(chi2 / free)
          : Math.sqrt((chi2 + AS_EXPECTED) / (free + AS_EXPECTED)),
  };
}

/** The fit in one go. */
export function fit(input: FitInput): Fit {
  const steps = fitSteps(input);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}

const clamp = (p: readonly number[], bounds: FitInput['bounds']): number[] =>
  p.map((v, i) => Math.min(bounds[i]![1], Math.max(bounds[i]![0], v)));

interface Losses {
  noise: (observation: number) => Loss;
  prior: ReadonlyMap<number, Loss>;
  heldAtMost: (parameter: number) => number;
  mean: readonly number[];
  precision: readonly (readonly number[])[];
}

function costOf(
  kept: readonly number[],
  observed: readonly number[],
  predicted: readonly number[],
  sigma: readonly number[],
  p: readonly number[],
  { noise, prior, mean, precision }: Losses,
): number {
  const off = p.map((v, i) => (prior.has(i) ? 0 : v - mean[i]!));
  let heavy = 0;
  for (const [i, loss] of prior) heavy += loss.cost((p[i]! - mean[i]!) * Math.sqrt(precision[i]![i]!));
  return (
    kept.reduce((sum, i) => sum + noise(i).cost((observed[i]! - predicted[i]!) / sigma[i]!), 0) +
    dot(off, times(precision, off)) / 2 +
    heavy
  );
}

function normalEquations(
  kept: readonly number[],
  observed: readonly number[],
  now: Prediction,
  sigma: readonly number[],
  p: readonly number[],
  { noise, prior, heldAtMost, mean, precision }: Losses,
  forDoubt = false,
) {
  const off = p.map((v, i) => v - mean[i]!);
  // parameters with heavy tails are held the less the farther they lie
  const held = (i: number): number => {
    const loss = prior.get(i);
    return loss
      ? Math.min(forDoubt ? heldAtMost(i) : Infinity, loss.weight(off[i]! * Math.sqrt(precision[i]![i]!)))
      : 1;
  };
  const gradient = times(precision, off).map((v, i) => -v * held(i));
  const told = p.map(() => p.map(() => 0));
  for (const i of kept) {
    const z = (observed[i]! - now.value[i]!) / sigma[i]!;
    const s = now.slope[i]!;
    const per = noise(i).weight(z) / sigma[i]! ** 2;
    for (let a = 0; a < p.length; a += 1) {
      if (s[a] === 0) continue;
      gradient[a]! += per * s[a]! * (observed[i]! - now.value[i]!);
      const row = told[a]!;
      const weighted = per * s[a]!;
      for (let b = 0; b <= a; b += 1) row[b]! += weighted * s[b]!;
    }
  }
  for (let a = 0; a < p.length; a += 1) for (let b = 0; b < a; b += 1) told[b]![a] = told[a]![b]!;
  return {
    gradient,
    told,
    normal: told.map((row, a) => row.map((v, b) => v + precision[a]![b]! * (a === b ? held(a) : 1))),
  };
}
