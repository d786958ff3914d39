import { accustom, type DayLight, stepRatio, TAU_DAYS } from './accustomed';

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

export interface CapStep {
  /** days after the start, 0 = today */
  day: number;
  capShare: number;
}

/**
 * Dated caps that bring a day in under a ceiling at every coral: each day the largest typed cap, up to the target, whose
 * step ratio stays within the ceiling at the coral that limits it. Only days on which the typed cap changes are listed.
 * @param accustomed per coral, what it is used to on day 0
 * @param lightAtCap a day's light per coral under a cap; must rise with the cap
 * @param stepShare the controller's step for the cap, as a share
 * @throws PlanRefused when no typed cap is gentle enough or the plan stalls between two typed caps
 */
export function capSteps(input: {
  accustomed: readonly DayLight[];
  lightAtCap: (capShare: number) => DayLight[];
  targetCap: number;
  stepShare: number;
  ceiling: number;
  tauDays?: number;
}): CapStep[] {
  const { lightAtCap, targetCap, ceiling, tauDays = TAU_DAYS } = input;
  const stepShare = input.stepShare > 0 ? input.stepShare : 0.001;
  if (!(ceiling > 1))
    throw new PlanRefused('a ceiling of 1 or less never lets light rise: give more than 1', 'ceiling');
  const tops = Math.floor(targetCap / stepShare + 1e-9);
  // typed caps from 0 to the target; the target itself is the last even when it is no whole step
  const caps = Array.from({ length: tops + 1 }, (_, i) => i * stepShare);
  if (targetCap - tops * stepShare > 1e-9) caps.push(targetCap);
  else caps[tops] = targetCap;
  const lights = caps.map((c) => lightAtCap(c));
  const fits = (k: number, used: readonly DayLight[]) =>
    lights[k]!.every((l, i) => stepRatio(l, used[i]!).ratio <= ceiling + 1e-9);

  let used = [...input.accustomed];
  const steps: CapStep[] = [];
  let k = -1;
  for (let day = 0, unchanged = 0; day < LONGEST_PLAN_DAYS; day += 1) {
    let next = Math.max(k, 0);
    while (next + 1 < caps.length && fits(next + 1, used)) next += 1;
    if (next === 0) {
      throw new PlanRefused(
        'not even the smallest cap this lamp can be set to stays within the ceiling',
        'stepShare',
      );
    }
    if (next !== k) {
      steps.push({ day, capShare: caps[next]! });
      unchanged = 0;
    } else {
      unchanged += 1;
    }
    k = next;
    if (k === caps.length - 1) return steps;
    // A has settled on this cap and still allows no larger one
    if (unchanged > 12 * tauDays) {
      throw new PlanRefused(
        'the next whole step of the cap is larger than the ceiling allows: use a higher ceiling or fewer lamps',
        'stepShare',
      );
    }
    used = used.map((a, i) => accustom(a, lights[k]![i]!, 1, tauDays));
  }
  throw new PlanRefused(`this plan would take more than ${LONGEST_PLAN_DAYS} days`, 'ceiling');
}
