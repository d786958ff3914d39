import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';

import { type Calibration, calibrationKey } from '@/core/case/calibration';
import type { ClimbPlaces } from '@/core/case/climb';
import type { EaseAnswer, EaseCourse, EaseQuestion } from '@/core/case/easePlan';
import { aheadOf, doneSteps, goesOn } from '@/core/case/planAhead';
import type { Rescue } from '@/core/case/rescue';
import { atSetting, placeAt } from '@/core/case/settings';
import { stepWords } from '@/core/case/stepWords';
import type { EasingPlan, EasingStep, PlanDeed, RunningEntry } from '@/core/record/history';
import type { Zone } from '@/core/record/zone';
import { reckoner } from '@/workers/client';

import { changePlan, entryOf } from './commands/running';
import { type Command, together } from './commands/edit';
import { moveSpot } from './commands/spots';
import { newId } from './id';
import { actingLog, type Past, pastAt, pastKey } from './light';
import { addDays, localDate, nowUtcIso, shortDate } from './time';

const always = { staleTime: Infinity, gcTime: 5 * 60_000, networkMode: 'always', retry: 0 } as const;

/** What the light is planned in: water, lamps, past. */
export interface Situation {
  zone: Zone;
  past: Past;
  cal: Calibration;
  nowMs: number;
}

const situationKey = ({ zone, past, cal, nowMs }: Situation) => [
  ...pastKey(past, zone),
  past.history.plans.map((p) => [p.id, p.state, p.steps]),
  calibrationKey(cal),
  localDate(nowMs, zone.timeZone),
];

/** What the worker is told of a situation. */
const told = ({ zone, past, cal, nowMs }: Situation) =>
  [zone, past.history, actingLog(past.log, zone), cal, pastAt(past, zone, nowMs)] as const;

/** A change planned in the worker, with progress; what was there stands until the new one is. */
export function useEase(
  s: Situation,
  question: EaseQuestion | null,
): {
  /** what was answered, and the question it answers: a former one's while a new one is worked on */
  answer: EaseAnswer | null;
  answered: EaseQuestion | null;
  progress: number | null;
  error: string | null;
  /** a newer question is being worked on */
  stale: boolean;
} {
  const [progress, setProgress] = useState(0);
  const query = useQuery({
    queryKey: ['ease', question, ...situationKey(s)],
    queryFn: async ({ signal }) => {
      setProgress(0);
      const answer = await reckoner().ease(...told(s), question!, (share) => {
        setProgress(share);
        return !signal.aborted;
      });
      return { question: question!, answer };
    },
    enabled: question !== null,
    placeholderData: keepPreviousData,
    ...always,
  });
  const data = question === null ? undefined : query.data;
  const fits = data && data.answer.atOnce.ratios[0]?.length === s.zone.spots.length;
  return {
    answer: fits ? data.answer : null,
    answered: fits ? data.question : null,
    progress: query.isFetching && question !== null ? progress : null,
    error: query.error?.message ?? null,
    stale: query.isPlaceholderData,
  };
}

/** How a plan goes on from what is so today, one answer for all that name its steps; nulls where nothing is still to come. */
export function usePlanAhead(s: Situation, plan: EasingPlan | null) {
  const today = localDate(s.nowMs, s.zone.timeZone);
  const question = plan && goesOn(plan, today);
  const { answer, answered, progress, error, stale } = useEase(s, question);
  // what is shown meanwhile is of this plan or nothing
  const own = plan && answer && answered?.planId === plan.id && !stale ? answer : null;
  return {
    ahead: own && !own.refused ? aheadOf(plan!, own, today) : null,
    refused: own?.refused ?? null,
    answer: own,
    progress,
    error,
  };
}

/** The coming weeks with what runs and the plans under way. */
export function useForecast(s: Situation): EaseCourse | null {
  const today = localDate(s.nowMs, s.zone.timeZone);
  const query = useQuery({
    queryKey: ['forecast', ...situationKey(s)],
    queryFn: () => reckoner().forecast(...told(s), today),
    placeholderData: keepPreviousData,
    ...always,
  });
  return query.data && query.data.ratios[0]?.length === s.zone.spots.length ? query.data : null;
}

/** Tonight's cut. */
export function useRescue(s: Situation, aim: number): { rescue: Rescue | null; error: string | null } {
  const query = useQuery({
    queryKey: ['rescue', aim, ...situationKey(s)],
    queryFn: () => reckoner().rescue(...told(s), aim),
    ...always,
  });
  return { rescue: query.data ?? null, error: query.error?.message ?? null };
}

/** Places a coral can climb through. */
export function useClimb(s: Situation, spotId: string | null): ClimbPlaces | null {
  const query = useQuery({
    queryKey: ['climb', spotId, ...situationKey(s)],
    queryFn: ({ signal }) =>
      reckoner().climb(
        s.zone,
        s.past.history,
        s.cal,
        pastAt(s.past, s.zone, s.nowMs),
        spotId!,
        () => !signal.aborted,
      ),
    enabled: spotId !== null,
    ...always,
  });
  return spotId === null ? null : (query.data ?? null);
}

/** A plan as it is begun; what its steps do not need is left out. */
export function newPlan(
  zoneId: string,
  name: string,
  asked: Pick<EaseQuestion, 'targets' | 'from' | 'method' | 'schedule' | 'ceiling' | 'raiseCm' | 'climb'>,
  steps: EasingStep[],
  words: string,
): EasingPlan {
  const climbs = asked.method === 'places';
  const atUtc = nowUtcIso();
  return {
    id: newId(),
    zoneId,
    // what is called after a coral of a long name still has room
    name: name.slice(0, 120),
    createdUtc: atUtc,
    targets: climbs ? [] : asked.targets,
    from: climbs ? [] : asked.from,
    method: asked.method,
    schedule: asked.schedule,
    ceiling: asked.ceiling,
    ...(asked.method === 'height' ? { raiseCm: asked.raiseCm } : {}),
    ...(climbs && asked.climb ? { climb: asked.climb } : {}),
    steps,
    state: 'active',
    deeds: [{ id: newId(), atUtc, what: 'started', words }],
  };
}

/** What a rung of a plan types in. */
export const entriesAt = (
  plan: Pick<EasingPlan, 'id' | 'zoneId' | 'targets' | 'from' | 'method' | 'raiseCm' | 'climb'>,
  setting: number,
  atUtc: string,
  rise?: RunningEntry['rise'],
): RunningEntry[] =>
  plan.method === 'places'
    ? []
    : atSetting(plan, setting).map((t) =>
        entryOf(t, {
          id: newId(),
          zoneId: plan.zoneId,
          atUtc,
          planId: plan.id,
          ...(rise ? { rise } : {}),
        }),
      );

/** The move that a rung of a climb is; nothing for other plans. */
function moveAt(zone: Zone, plan: EasingPlan, setting: number, atUtc: string): Command[] {
  const place = placeAt(plan, setting);
  const spot = zone.spots.find((s) => s.id === plan.climb?.spotId);
  if (plan.method !== 'places' || !place || !spot) return [];
  const { xCm, yCm, depthCm, openShare } = place;
  return [moveSpot(zone.id, { ...spot, xCm, yCm, depthCm, openShare }, { id: newId(), atUtc })];
}

const deed = (what: PlanDeed['what'], words: string): PlanDeed => ({
  id: newId(),
  atUtc: nowUtcIso(),
  what,
  words,
});

/** A step done: typed in, and the plan goes on with what is still to come. */
export function stepDone(
  zone: Zone,
  plan: EasingPlan,
  coming: readonly EasingStep[],
  atUtc: string,
): Command {
  const [step, ...rest] = coming;
  if (!step) throw new Error('no step is planned');
  const done = doneSteps(plan);
  const words = `Step ${done.length + 1} of ${done.length + coming.length} of ${plan.name}: ${stepWords(plan, step.setting)}`;
  const late = step.date < localDate(Date.parse(atUtc), zone.timeZone);
  return together(
    words,
    ...moveAt(zone, plan, step.setting, atUtc),
    changePlan(
      plan.id,
      deed(
        rest.length === 0 ? 'finished' : 'step',
        `${words}${late ? `, due ${shortDate(step.date)}` : ''}.`,
      ),
      {
        steps: [...done, { ...step, doneUtc: atUtc }, ...rest],
        state: rest.length === 0 ? 'finished' : 'active',
      },
      entriesAt(plan, step.setting, atUtc),
    ),
  );
}

/** Goes on later, more slowly, or from a step back, with steps planned anew. */
export function goOn(
  zone: Zone,
  plan: EasingPlan,
  what: 'held' | 'back' | 'slower' | 'resumed' | 'replanned',
  words: string,
  coming: readonly EasingStep[],
  change: { ceiling?: number; backTo?: number } = {},
): Command {
  const atUtc = nowUtcIso();
  const { backTo } = change;
  const done: EasingStep[] =
    backTo === undefined
      ? doneSteps(plan)
      : [
          ...doneSteps(plan),
          { date: localDate(Date.parse(atUtc), zone.timeZone), setting: backTo, doneUtc: atUtc },
        ];
  return together(
    words,
    ...(backTo === undefined ? [] : moveAt(zone, plan, backTo, atUtc)),
    changePlan(
      plan.id,
      deed(what, `${plan.name}: ${words}.`),
      {
        steps: [...done, ...coming],
        state: 'active',
        ...(change.ceiling === undefined ? {} : { ceiling: change.ceiling }),
      },
      backTo === undefined ? [] : entriesAt(plan, backTo, atUtc),
    ),
  );
}

export const pausePlan = (plan: EasingPlan): Command =>
  changePlan(plan.id, deed('paused', `${plan.name}: paused.`), { state: 'paused' });
export const stopPlan = (plan: EasingPlan): Command =>
  changePlan(plan.id, deed('stopped', `${plan.name}: stopped; what runs now stays.`), { state: 'stopped' });

/** The setting one step below the present one. */
export function stepBelow(plan: EasingPlan): number | null {
  const settings = doneSteps(plan).map((x) => x.setting);
  const now = settings.at(-1);
  if (now === undefined) return null;
  const lower = settings.filter((x) => x < now - 1e-9);
  return lower.length > 0 ? Math.max(...lower) : null;
}

/** A day of rest after a step back. Mark: rule of thumb. */
export const REST_DAYS = 7;
export const dayAfter = (date: string, days: number): string => addDays(date, days);
