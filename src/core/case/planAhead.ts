import type { EasingPlan, EasingStep, HistoryDoc, RunningEntry } from '../record/history';
import type { EaseAnswer, EaseQuestion } from './easePlan';

/** How a plan under way goes on: the question it asks, and what its answer means for the next step. */

export const doneSteps = (plan: EasingPlan): EasingStep[] => plan.steps.filter((x) => x.doneUtc !== null);
export const openSteps = (plan: EasingPlan): EasingStep[] => plan.steps.filter((x) => x.doneUtc === null);
/** The step a plan waits for, when that is due by a date. */
export const dueStep = (plan: EasingPlan, today: string): EasingStep | null => {
  const next = openSteps(plan)[0];
  return plan.state === 'active' && next && next.date <= today ? next : null;
};

/** A plan asked for anew, from what is so today; until `start` what runs now stays, or the rung `meanwhile`. */
export function anew(
  plan: EasingPlan,
  today: string,
  start: string,
  { ceiling = plan.ceiling, meanwhile }: { ceiling?: number; meanwhile?: number } = {},
): EaseQuestion {
  const open = openSteps(plan);
  const now = doneSteps(plan).at(-1)?.setting;
  const { schedule } = plan;
  const again = (): EasingPlan['schedule'] => {
    switch (schedule.kind) {
      case 'few':
        return { ...schedule, changes: Math.max(1, open.length) };
      case 'line': {
        const from = now ?? schedule.fromShare;
        const left = schedule.fromShare < 1 ? (1 - from) / (1 - schedule.fromShare) : 0;
        return { kind: 'line', fromShare: from, days: Math.max(1, Math.round(schedule.days * left)) };
      }
      default:
        return schedule;
    }
  };
  return {
    planId: plan.id,
    targets: plan.targets,
    from: plan.from,
    method: plan.method,
    raiseCm: plan.raiseCm,
    climb: plan.climb,
    schedule: again(),
    ceiling,
    today,
    start,
    ...(meanwhile === undefined ? {} : { meanwhile }),
  };
}

/** Steps still to come out of an answer; a rung that is lit already is no step. */
export const comingSteps = (answer: EaseAnswer, now: number | undefined): EasingStep[] =>
  answer.steps
    .filter((x, i) => !(i === 0 && now !== undefined && Math.abs(x.setting - now) < 1e-9))
    .map(({ date, setting }) => ({ date, setting, doneUtc: null }));

/**
 * How a plan goes on if nothing is said about it: from its next step, or from today where that is late. What still stays under the
 * ceiling is kept as it was planned; a late step never is.
 */
export function goesOn(plan: EasingPlan, today: string): EaseQuestion | null {
  const open = openSteps(plan);
  const next = open[0];
  if (!next || plan.state !== 'active') return null;
  const late = next.date < today;
  return { ...anew(plan, today, late ? today : next.date), ...(late ? { late } : { open }) };
}

export interface PlanAhead {
  /** steps still to come, the first of them the next */
  coming: EasingStep[];
  /** they are those that were planned */
  asPlanned: boolean;
  /** the next is to be typed in today */
  due: boolean;
  /** light and largest ratio of the next step */
  next: EaseAnswer['steps'][number];
  /** light of the last */
  last: EaseAnswer['steps'][number];
}

/**
 * What an answer means for a plan; null when nothing is to be done any more.
 * @param now the setting that runs, where it is not that of the last step done
 */
export function aheadOf(
  plan: EasingPlan,
  answer: EaseAnswer,
  today: string,
  now: number | null | undefined = doneSteps(plan).at(-1)?.setting,
): PlanAhead | null {
  const coming = comingSteps(answer, now ?? undefined);
  const first = coming[0];
  const lit = (x: EasingStep) => answer.steps.find((s) => s.date === x.date && s.setting === x.setting)!;
  return first
    ? {
        coming,
        asPlanned: answer.asPlanned,
        due: first.date <= today,
        next: lit(first),
        last: lit(coming.at(-1)!),
      }
    : null;
}

/** So long after its last step a coral's climb still counts. Mark: rule of thumb, three time constants. */
const CLIMB_DAYS = 30;

/** The ceiling by which what runs is judged: the keeper's, or a higher one of the plan that brought it. */
export const ceilingRunning = (
  chosen: number,
  plans: HistoryDoc['plans'],
  running: readonly RunningEntry[],
  nowUtc: string,
): number => {
  const since = new Date(Date.parse(nowUtc) - CLIMB_DAYS * 86_400_000).toISOString();
  const brought = (p: EasingPlan) =>
    running.some((e) => e.planId === p.id) ||
    (p.climb !== undefined &&
      p.zoneId === running[0]?.zoneId &&
      doneSteps(p).some((x) => x.doneUtc! > since));
  return Math.max(chosen, ...plans.filter(brought).map((p) => p.ceiling));
};
