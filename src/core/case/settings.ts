import { DAY_MINUTES, wrapMinute } from '../shape/ring';
import { litSpan } from '../day/day';
import { dims, toStep, typedControls } from '../spectrum/controls';
import { threadFromValues } from '../controller/typed';
import { threadBetween } from '../day/thread';
import { circuitsOf, type OnWindow, switchedLamp, threadsOfWindows, windowsOf } from './dawn';
import { litRunnable } from './lit';
import type { EasingMethod, EasingPlan, Runnable, RunningThread } from '../record/history';

/** A plan as far as it says what can be set. */
export type Eased = Pick<EasingPlan, 'targets' | 'from' | 'method' | 'raiseCm' | 'climb'>;

/** Caps below a whole percent cannot be typed into most lamps. Mark: rule of thumb. */
const COARSEST_CAP_STEP = 0.01;
/** Parts in which one day becomes another: more would be typed in for nothing. Mark: rule of thumb. */
const BLEND_PARTS = 20;
/** Lamps are lowered by at least so much at a time, cm. Mark: rule of thumb. */
const HEIGHT_STEP_CM = 1;
/** Shortest day of a lamp that comes on at all, min. Mark: rule of thumb. */
const SHORTEST_DAY_MIN = 15;

const capStep = (t: Runnable): number => Math.max(t.lampKind.controller.pointStepShare, COARSEST_CAP_STEP);
/** Minutes in which a clock is set. */
const clockStep = (t: Runnable): number => Math.max(t.lampKind.controller.everyMin, 5);

const switched = (t: Runnable): boolean => !dims(t.lampKind) || t.lampKind.controller.sets === 'switch';

/** True when a target's group ran something before. */
const ranBefore = (plan: Eased, t: Runnable): boolean => plan.from.some((f) => f.groupId === t.groupId);

/** What a plan cannot do with its lamps, as the reason; null when it can. */
export function methodProblem(plan: Eased): string | null {
  const { method, targets, from } = plan;
  const dimless = targets.find((t) => !dims(t.lampKind));
  switch (method) {
    case 'cap':
      return dimless ? `${dimless.groupName} cannot be dimmed: ease it by hours, or by height` : null;
    case 'circuits':
      return targets.some((t) => circuitsOf([litRunnable(t)]).length > 1)
        ? null
        : 'only lamps with several circuits can come on one circuit after the other';
    case 'blend': {
      const goesOver = targets.every((t) => {
        const old = from.find((f) => f.groupId === t.groupId);
        const plain = (k: Runnable) => !switched(k) && k.lampKind.controller.capMeans === 'multiplies';
        return (
          old &&
          old.lampKind.id === t.lampKind.id &&
          plain(old) &&
          plain(t) &&
          // a lamp more would be there whole from the first day
          JSON.stringify(old.lamps) === JSON.stringify(t.lamps)
        );
      });
      return goesOver
        ? null
        : 'only the same lamps, dimming and with a cap that multiplies, can go over from the day they ran to another';
    }
    case 'places':
      return plan.climb && plan.climb.places.length > 1 ? null : 'no darker place is known for this coral';
    default:
      return null;
  }
}

/** Methods that these lamps can do, in the order in which they are offered. */
export const methodsOf = (plan: Eased): EasingMethod[] =>
  (['cap', 'blend', 'circuits', 'hours', 'height', 'places'] as const).filter(
    (method) => methodProblem({ ...plan, method }) === null,
  );

/** Hours leave the peak as it is: plans by hours are judged by DLI. */
export const judgeOf = (method: EasingMethod): 'both' | 'dli' =>
  method === 'hours' || method === 'circuits' ? 'dli' : 'both';

/** Wall-clock span of a target's light, minutes. */
function spanOf(t: Runnable): number {
  const span = litSpan([litRunnable(t).day]);
  return span ? span.end - span.start : 0;
}

/**
 * The rungs a plan has, as rising shares of the way, the last 1. Where nothing ran before, or where a mixture starts from what
 * runs, the first is 0: everything else as it is.
 */
export function settingsOf(plan: Eased): number[] {
  const { method, targets } = plan;
  const isNew = targets.every((t) => !ranBefore(plan, t));
  const steps = (): number => {
    switch (method) {
      case 'cap':
        return Math.max(1, Math.round(Math.max(...targets.map((t) => t.capShare / capStep(t)))));
      case 'hours':
      case 'circuits': {
        const parts = targets.map((t) =>
          method === 'circuits' ? spanOf(t) * circuitsOf([litRunnable(t)]).length : spanOf(t),
        );
        return Math.max(1, Math.round(Math.max(...parts.map((p, i) => p / clockStep(targets[i]!)))));
      }
      case 'height':
        return Math.max(1, Math.min(40, Math.round((plan.raiseCm ?? 0) / HEIGHT_STEP_CM)));
      case 'blend':
        return BLEND_PARTS;
      case 'places':
        return Math.max(1, (plan.climb?.places.length ?? 1) - 1);
    }
  };
  const count = steps();
  const zero = isNew || method === 'blend' || method === 'height' || method === 'places';
  return Array.from({ length: count + (zero ? 1 : 0) }, (_, i) => (zero ? i : i + 1) / count);
}

/** True when the lowest rung leaves everything as it is, so that a plan may wait on it. */
export const mayWait = (plan: Eased): boolean =>
  plan.method !== 'height' && plan.method !== 'places' && settingsOf(plan)[0] === 0;

const clampShare = (v: number) => Math.min(1, Math.max(0, v));

/** A window kept about its middle, its length in whole steps of the clock. */
function shortened(w: OnWindow, share: number, step: number): OnWindow | null {
  const length = Math.round(((w.to - w.from) * share) / step) * step;
  if (length < Math.min(SHORTEST_DAY_MIN, step)) return null;
  const from = w.from + Math.floor((w.to - w.from - length) / 2 / step) * step;
  return { from, to: from + length };
}

const named = (
  t: Runnable,
  threads: readonly { minute: number; strengthShare: number; mix: RunningThread['mix'] }[],
): RunningThread[] =>
  threads.map((x) => ({
    ...x,
    mixName: t.threads.find((o) => o.strengthShare > 0)?.mixName ?? t.threads[0]?.mixName ?? 'its own mix',
  }));

/** A lamp's day with only a share of its hours. Switched lamps and circuits keep their strength, ramps are drawn together. */
function byHours(t: Runnable, share: (circuit: number, of: number) => number): RunningThread[] {
  const lit = litRunnable(t);
  const step = clockStep(t);
  if (switched(t) && dims(t.lampKind)) {
    const w = windowsOf(lit, null)[0];
    const short = w && shortened(w, share(0, 1), step);
    const strongest = [...t.threads].sort((a, b) => b.strengthShare - a.strengthShare)[0];
    if (!strongest) return t.threads;
    return short
      ? named(t, switchedLamp(t.lampKind, strongest.mix, strongest.strengthShare, short))
      : [{ ...strongest, strengthShare: 0 }];
  }
  if (switched(t)) {
    const circuits = circuitsOf([lit]);
    const windows = new Map(
      circuits.map((c, i) => [
        c.controlId!,
        windowsOf(lit, c.controlId).flatMap((w) => shortened(w, share(i, circuits.length), step) ?? []),
      ]),
    );
    if ([...windows.values()].every((w) => w.length === 0))
      return t.threads.map((x) => ({ ...x, strengthShare: 0 }));
    return named(t, threadsOfWindows(lit, windows));
  }
  const span = litSpan([lit.day]);
  if (!span) return t.threads;
  const [middle, s] = [(span.start + span.end) / 2, share(0, 1)];
  if (s <= 0) return t.threads.map((x) => ({ ...x, strengthShare: 0 }));
  const taken = new Set<number>();
  return t.threads.map((x) => {
    const unrolled = x.minute < span.start ? x.minute + DAY_MINUTES : x.minute;
    let minute = wrapMinute(Math.round(middle + (unrolled - middle) * s));
    while (taken.has(minute)) minute = (minute + 1) % DAY_MINUTES;
    taken.add(minute);
    return { ...x, minute };
  });
}

/** One day on its way to another: at the minutes of both, each control between what both have typed there. */
function blended(from: Runnable, to: Runnable, share: number): Pick<Runnable, 'threads' | 'capShare'> {
  if (share >= 1) return to;
  const kind = to.lampKind;
  const [a, b] = [litRunnable(from), litRunnable(to)];
  const [fa, fb] = [from.capShare, to.capShare];
  const capShare = Math.max(fa, fb);
  const minutes = [...new Set([...from.threads, ...to.threads].map((t) => t.minute))].sort((x, y) => x - y);
  const typed = (g: typeof a, minute: number, factor: number) => {
    const t = threadBetween(g.threads, minute, kind);
    const values = typedControls(kind, t.mix, t.strengthShare);
    return (id: string, follows: boolean) =>
      (values[id] ?? 0) * (follows && capShare > 0 ? factor / capShare : 1);
  };
  const threads = minutes.map((minute): RunningThread => {
    const [x, y] = [typed(a, minute, fa), typed(b, minute, fb)];
    const values = Object.fromEntries(
      kind.controls.map((c) => {
        const follows = c.kind !== 'tint' && c.kind !== 'trim';
        const v = x(c.id, follows) * (1 - share) + y(c.id, follows) * share;
        return [c.id, clampShare(toStep(v, kind.controller.pointStepShare))];
      }),
    );
    const { strengthShare, mix } = threadFromValues(kind, minute, values);
    return { minute, strengthShare, mix, mixName: 'between both' };
  });
  return { threads, capShare };
}

/** What is to be typed in on a rung: every target as it then runs. */
export function atSetting(plan: Eased, setting: number): Runnable[] {
  return plan.targets.map((t): Runnable => {
    switch (plan.method) {
      case 'cap':
        return {
          ...t,
          capShare: setting >= 1 ? t.capShare : clampShare(toStep(t.capShare * setting, capStep(t))),
        };
      case 'hours':
        return setting >= 1 ? t : { ...t, threads: byHours(t, () => setting) };
      case 'circuits':
        return setting >= 1 ? t : { ...t, threads: byHours(t, (i, n) => clampShare(setting * n - i)) };
      case 'height': {
        const raise = Math.round((plan.raiseCm ?? 0) * (1 - setting));
        return { ...t, lamps: t.lamps.map((l) => ({ ...l, heightCm: l.heightCm + raise })) };
      }
      case 'blend': {
        const old = plan.from.find((f) => f.groupId === t.groupId);
        return old ? { ...t, ...blended(old, t, setting) } : t;
      }
      case 'places':
        return t;
    }
  });
}

/** Where a climbing coral is on a rung. */
export const placeAt = (plan: Eased, setting: number) =>
  plan.climb?.places[Math.round(setting * (plan.climb.places.length - 1))] ?? null;
