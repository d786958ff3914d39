import { TAU_DAYS } from './accustomed';

/** Longest plan that is computed. */
export const LONGEST_PLAN_DAYS = 20_000;

/** A plan that cannot be made, with the reason and the input it comes from. */
export class PlanRefused extends Error {
  constructor(
    message: string,
    readonly field: 'from' | 'ceiling' | 'to' | 'stepShare',
  ) {
    super(message);
  }
}

/**
 * The fastest easing-in under a ceiling: each day L = min(to, ceiling · A), then A ← L + (A − L) e^(−1/τ); ends at the
 * first L = `to`. Downward steps go at once. Light in any unit.
 * @throws PlanRefused
 */
export function fastestPlan(from: number, to: number, ceiling: number, tauDays: number = TAU_DAYS): number[] {
  if (!(ceiling > 1))
    throw new PlanRefused('a ceiling of 1 or less never lets light rise: give more than 1', 'ceiling');
  if (!(from > 0)) throw new PlanRefused('a plan cannot start at no light: give a start above 0', 'from');
  const days: number[] = [];
  const keep = Math.exp(-1 / tauDays);
  let a = from;
  while (days.length < LONGEST_PLAN_DAYS) {
    const l = Math.min(to, ceiling * a);
    days.push(l);
    if (l === to) return days;
    a = l + (a - l) * keep;
  }
  throw new PlanRefused(
    `this plan would take more than ${LONGEST_PLAN_DAYS} days: raise the ceiling or start higher`,
    'ceiling',
  );
}
