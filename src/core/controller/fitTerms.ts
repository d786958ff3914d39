import { COUNTS, type Counts } from './counts';

/** What a keeper minds of a day that a controller makes of a wanted one. */
export interface FitTerms {
  /** first and last light, min from the wanted ones; negative = earlier */
  firstMin: number;
  lastMin: number;
  /** light a day over the wanted, − 1 */
  doseShare: number;
  /** photons in another band in the hours at home, over the wanted ones there */
  lookShare: number;
  /** brightest light over the wanted, − 1 */
  peakShare: number;
  /** farthest at any moment, over the wanted peak */
  errorShare: number;
  /** points, or how often a circuit is switched */
  turns: number;
}

/** What a unit of each term counts for: an hour of first or last light, all of the dose, the look and the peak, the largest error, a point. */
export interface FitWeights {
  hours: number;
  dose: number;
  look: number;
  peak: number;
  error: number;
  turn: number;
}

/** What an answer is made for; "own" is weighed by hand. */
export type FitAim = 'own' | 'truest' | 'sameDose' | 'sameEvening' | 'fewest';

/** Mark of every figure: rule of thumb. */
export const FIT_WEIGHTS: Readonly<Record<Exclude<FitAim, 'own'>, FitWeights>> = {
  truest: { hours: 0.1, dose: 1, look: 1, peak: 1, error: 3, turn: 0.001 },
  sameDose: { hours: 0.3, dose: 12, look: 0.5, peak: 2, error: 0.5, turn: 0.001 },
  sameEvening: { hours: 0.6, dose: 4, look: 10, peak: 2, error: 0.3, turn: 0.001 },
  fewest: { hours: 0.1, dose: 2, look: 0.5, peak: 1, error: 0.5, turn: 0.1 },
};

/** Nothing before the others: where weighing by hand begins. Mark: rule of thumb. */
const EVEN: FitWeights = { hours: 0.3, dose: 4, look: 2, peak: 2, error: 1, turn: 0.005 };

/** What is weighed by hand; terms not named count as usual. */
export type ByHand = Readonly<Partial<Record<keyof FitWeights, Counts>>>;

/** Weights of what was weighed by hand; none where all counts as usual, or nothing counts at all. */
export function ownWeights(byHand: ByHand): FitWeights | undefined {
  const terms = Object.keys(EVEN) as (keyof FitWeights)[];
  const counts = terms.map((t) => byHand[t] ?? 'usual');
  if (counts.every((c) => c === 'usual') || counts.every((c) => c === 'nothing')) return undefined;
  return Object.fromEntries(terms.map((t, i) => [t, COUNTS[counts[i]!] * EVEN[t]])) as unknown as FitWeights;
}

export const fitCost = (t: FitTerms, w: FitWeights): number =>
  (w.hours * (Math.abs(t.firstMin) + Math.abs(t.lastMin))) / 60 +
  w.dose * Math.abs(t.doseShare) +
  w.look * t.lookShare +
  w.peak * Math.abs(t.peakShare) +
  w.error * t.errorShare +
  w.turn * t.turns;
