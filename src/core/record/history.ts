import * as v from 'valibot';

import { extrasSchema } from '../day/extras';
import {
  between,
  date,
  id,
  instant,
  list,
  minute,
  name,
  share,
  shares,
  text,
  truth,
  whole,
  wholeDays,
} from '../shape/shape';
import { lampKindSchema } from '../spectrum/lampKind';
import type { DocumentKind } from './documentKind';
import { HISTORY_MIGRATIONS } from './migrations';
import { hungLampSchema, oncePerMinute, placeSchema } from './zone';

const runningThread = v.object({ minute, strengthShare: share, mix: shares, mixName: name });
/** A thread as it was typed in: its mix by value. */
export type RunningThread = v.InferOutput<typeof runningThread>;
/** Threads by value. */
export const runningThreads = v.pipe(
  list(runningThread),
  v.check(oncePerMinute, 'two threads stand at one minute'),
);

const runnable = v.object({
  groupId: id,
  groupName: name,
  lampKind: lampKindSchema,
  lamps: list(hungLampSchema, 1),
  threads: runningThreads,
  capShare: share,
  /** what acts on its days besides threads and cap; absent = nothing */
  extras: v.optional(extrasSchema),
});
/** What a group is to run, by value. */
export type Runnable = v.InferOutput<typeof runnable>;

const selfRise = v.object({
  date,
  days: wholeDays(0, 2000),
  fromShare: share,
  toShare: share,
});
/** A straight line that a controller runs by itself from a local date on. */
export type SelfRise = v.InferOutput<typeof selfRise>;

const runningEntry = v.object({
  id,
  zoneId: id,
  ...runnable.entries,
  atUtc: instant,
  /** typed in by hand; loaded and read back; proven or doubted by readings since */
  sure: v.picklist(['typedIn', 'loaded', 'proven', 'doubted'], 'is no kind of sureness known here'),
  easingShare: share,
  /** for the first entry of a zone: whether its corals are used to this light or it is new to them */
  usedTo: truth,
  /** the easing in it is a step of */
  planId: v.optional(id),
  /** a controller that eases by itself: its straight line, as shares of this entry's light */
  rise: v.optional(selfRise),
});
/** A frozen copy by value of what a group runs, from the instant it was typed in. */
export type RunningEntry = v.InferOutput<typeof runningEntry>;

/** In which steps: as fast as the ceiling lets, a straight line, few changes, or a line the controller runs by itself. */
const schedule = v.variant(
  'kind',
  [
    v.object({ kind: v.picklist(['fastest', 'itself']) }),
    v.object({ kind: v.literal('line'), fromShare: share, days: wholeDays(0, 2000) }),
    v.object({
      kind: v.literal('few'),
      /** at most so many changes, one every so many days; on a day of the week (1 = Monday) when that is given */
      changes: whole(1, 400),
      everyDays: wholeDays(1, 90),
      weekday: v.nullable(whole(1, 7)),
    }),
  ],
  'kind is "fastest", "line", "few" or "itself"',
);

const step = v.object({
  /** local date it is due */
  date,
  /** 0..1 of the way: of the target's cap, hours, mixture, or from the highest lamps down to where they belong */
  setting: share,
  /** when it was typed in; null = still to come */
  doneUtc: v.nullable(instant),
});
export type EasingStep = v.InferOutput<typeof step>;

const deed = v.object({
  id,
  atUtc: instant,
  what: v.picklist(
    ['started', 'step', 'replanned', 'held', 'back', 'slower', 'paused', 'resumed', 'finished', 'stopped'],
    'is no deed known here',
  ),
  words: text,
});
/** What was done to a plan, for the log. */
export type PlanDeed = v.InferOutput<typeof deed>;

const plan = v.object({
  id,
  zoneId: id,
  name,
  createdUtc: instant,
  /** what is to run in the end */
  targets: list(runnable),
  /** what ran before: what a mixture of days starts from */
  from: list(runnable),
  method: v.picklist(
    ['cap', 'hours', 'circuits', 'height', 'blend', 'places'],
    'is no way of easing known here',
  ),
  schedule,
  /** step ratio of a coral that the plan keeps to */
  ceiling: between(1.001, 10),
  /** how much higher the lamps hang at first, cm */
  raiseCm: v.optional(between(0, 200, ' cm')),
  /** the way of a coral through the tank, darkest place first */
  climb: v.optional(v.object({ spotId: id, places: list(placeSchema, 2) })),
  steps: list(step),
  state: v.picklist(['active', 'paused', 'finished', 'stopped'], 'is no state known here'),
  deeds: list(deed),
});
/** A change being eased in. */
export type EasingPlan = v.InferOutput<typeof plan>;
/**
 * How light is kept low at first: cap, hours about the middle of the day, circuits one after the other by hours, lamps hung
 * higher, what ran before mixed in, or the coral itself lower in the tank.
 */
export type EasingMethod = EasingPlan['method'];

const MOST_ENTRIES = 20_000;
const MOST_PLANS = 1000;
const history = v.object({
  format: v.literal('chromatheca-history', 'is no Chromatheca history'),
  version: v.literal(5),
  caseId: id,
  entries: list(runningEntry, 0, MOST_ENTRIES),
  plans: list(plan, 0, MOST_PLANS),
});
/** What ran, and what is being eased in. */
export type HistoryDoc = v.InferOutput<typeof history>;

export const historyKind: DocumentKind<HistoryDoc> = {
  format: 'chromatheca-history',
  version: 5,
  schema: history,
  migrations: HISTORY_MIGRATIONS,
  empty: (caseId) => ({ format: 'chromatheca-history', version: 5, caseId, entries: [], plans: [] }),
  idKey: 'caseId',
  lists: { entries: MOST_ENTRIES, plans: MOST_PLANS },
  spare: ['entries.*', 'plans.*'],
};

/** Plans of a zone that go on. */
export const activePlans = (history: HistoryDoc, zoneId: string): EasingPlan[] =>
  history.plans.filter((p) => p.zoneId === zoneId && p.state === 'active');
