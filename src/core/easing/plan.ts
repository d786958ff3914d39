import { bad, good, type Result } from '../shape/result';
import { TAU_DAYS } from './accustomed';

/** Longest plan that is computed. */
export const LONGEST_PLAN_DAYS = 20_000;

/** Why a plan cannot be made, and the input it comes from. */
export interface NoPlan {
  say: string;
  field: 'from' | 'ceiling' | 'stepShare';
}

export const noPlan = (say: string, field: NoPlan['field']) => bad<NoPlan>({ say, field });

/**
 * The fastest easing-in under a ceiling: each day L = min(to, ceiling · A), then A ← L + (A − L) e^(−1/τ); ends at the
 * first L = `to`. Downward steps go at once. Light in any unit.
 * @param floor near darkness ratios mean little: both sides of the ratio are counted from so much up
 * @param doubt the light may be this share more than is set: the ceiling is kept if it is
 */
export function fastestPlan(
  from: number,
  to: number,
  ceiling: number,
  tauDays: number = TAU_DAYS,
  { floor = 0, doubt = 0 }: { floor?: number; doubt?: number } = {},
): Result<number[], NoPlan> {
  if (!(ceiling > 1))
    return noPlan('a ceiling of 1 or less never lets light rise: give more than 1', 'ceiling');
  if (!(from > 0) && !(floor > 0))
    return noPlan('a plan cannot start at no light: give a start above 0', 'from');
  const days: number[] = [];
  const keep = Math.exp(-1 / tauDays);
  let a = from;
  while (days.length < LONGEST_PLAN_DAYS) {
    const l = Math.min(to, (ceiling * (a + floor) - floor) / (1 + doubt));
    days.push(l);
    if (l === to) return good(days);
    const met = l * (1 + doubt);
    a = met + (a - met) * keep;
  }
  return noPlan(
    `this plan would take more than ${LONGEST_PLAN_DAYS} days: raise the ceiling or start higher`,
    'ceiling',
  );
}
