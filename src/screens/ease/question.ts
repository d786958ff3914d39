import { useLocalSearchParams, router } from 'expo-router';

import { differences } from '@/core/case/difference';
import type { EaseQuestion } from '@/core/case/easePlan';
import { runningAt } from '@/core/case/lit';
import { runnable, runnableOf } from '@/core/case/runnable';
import { methodsOf } from '@/core/case/settings';
import type { EasingMethod, EasingPlan } from '@/core/record/history';
import type { Spot } from '@/core/record/zone';
import type { Desk } from '@/state/desk';
import { useClimb, type Situation } from '@/state/ease';
import { useCeiling } from '@/state/judgement';
import { isDate, localDate, utcIso } from '@/state/time';

/** What a plan is about: the draft against what runs, or what runs against what the corals are used to. */
export type Of = 'draft' | 'running';
export type ScheduleKind = 'fastest' | 'few' | 'line' | 'months' | 'itself';

const METHODS: readonly EasingMethod[] = ['cap', 'hours', 'circuits', 'height', 'blend', 'places'];
const KINDS: readonly ScheduleKind[] = ['fastest', 'few', 'line', 'months', 'itself'];
const number = (text: string | undefined, fallback: number, low: number, high: number): number => {
  const n = Number(text);
  return text !== undefined && text !== '' && Number.isFinite(n) && n >= low && n <= high ? n : fallback;
};

/** Everything chosen on the page, kept in its address so that a reload or a link brings it back. */
export function useEaseChoices(desk: Desk, nowMs: number) {
  const p = useLocalSearchParams<Record<string, string>>();
  const today = localDate(nowMs, desk.zone.timeZone);
  const pick = <T extends string>(known: readonly T[], text: string | undefined): T | null =>
    known.find((k) => k === text) ?? null;
  return {
    of: pick(['draft', 'running'] as const, p.of),
    coral: desk.zone.spots.find((s) => s.id === p.coral) ?? null,
    method: pick(METHODS, p.method),
    schedule: pick(KINDS, p.schedule),
    changes: number(p.changes, 4, 1, 60),
    everyDays: number(p.every, 7, 1, 60),
    weekday: number(p.weekday, 0, 0, 7),
    months: number(p.months, 6, 1, 24),
    lineFrom: number(p.from, 50, 1, 99),
    lineDays: number(p.days, 21, 1, 730),
    raiseCm: number(p.raise, 30, 2, 120),
    start: p.start !== undefined && isDate(p.start) && p.start >= today ? p.start : today,
    set: (change: Record<string, string>) => router.setParams(change),
  };
}
export type EaseChoices = ReturnType<typeof useEaseChoices>;

/** Methods whose steps are not typed but done: always few. */
export const BY_HAND: readonly EasingMethod[] = ['height', 'places'];

/** How many days a fortnightly step has. */
const FORTNIGHT = 14;

/** The plan asked for, as far as there is something to ease; with what differs, in words. */
export function useEaseQuestion(desk: Desk, s: Situation, c: EaseChoices) {
  const { doc, zone, bundle } = desk;
  const nowUtc = utcIso(s.nowMs);
  const today = localDate(s.nowMs, zone.timeZone);
  const entries = runningAt(bundle.history, zone, nowUtc);
  const changed = zone.groups
    .map((group) => {
      const running = entries.find((e) => e.groupId === group.id);
      return {
        group,
        changes: running ? differences(doc, group, running) : [`${group.name} lit for the first time`],
      };
    })
    .filter((x) => x.changes.length > 0 && x.group.threads.length > 0);
  const of: Of = c.of ?? (changed.length > 0 && !c.coral ? 'draft' : 'running');
  const climb = useClimb(s, c.coral && entries.length > 0 ? c.coral.id : null);
  const from = entries.map(runnable);
  const targets = of === 'draft' ? changed.map((x) => runnableOf(doc, x.group)) : entries.map(runnable);
  const places = climb && climb.places.length > 1 && c.coral ? climb.places : null;
  const base = {
    targets,
    // what runs stays what it was, also where it is the target
    from: from.filter((f) => targets.some((t) => t.groupId === f.groupId)),
    raiseCm: c.raiseCm,
    ...(places && c.coral
      ? {
          climb: {
            spotId: c.coral.id,
            places: places.map(({ xCm, yCm, depthCm, openShare }) => ({ xCm, yCm, depthCm, openShare })),
          },
        }
      : {}),
  };
  const methods = methodsOf({ ...base, method: 'cap' }).filter(
    (m) => (of === 'draft' || m !== 'blend') && (m !== 'places' || of === 'running'),
  );
  const method = c.method && methods.includes(c.method) ? c.method : (methods[0] ?? 'cap');
  const canItself = method === 'cap' && targets.length === 1 && targets[0]!.lampKind.controller.easesItself;
  const byHand = BY_HAND.includes(method);
  const kind: ScheduleKind =
    c.schedule && (c.schedule !== 'itself' || canItself) && !(byHand && c.schedule !== 'few')
      ? c.schedule
      : canItself
        ? 'itself'
        : byHand
          ? 'few'
          : 'fastest';
  const schedule: EasingPlan['schedule'] =
    kind === 'few'
      ? {
          kind,
          changes: c.changes,
          everyDays: c.everyDays,
          weekday: c.weekday === 0 ? null : c.weekday,
        }
      : kind === 'months'
        ? {
            kind: 'few',
            changes: Math.max(2, Math.round((c.months * 30.4) / FORTNIGHT)),
            everyDays: FORTNIGHT,
            weekday: null,
          }
        : kind === 'line'
          ? { kind, fromShare: c.lineFrom / 100, days: c.lineDays }
          : { kind };
  const ceiling = useCeiling();
  const anything = of === 'draft' ? changed.length > 0 : entries.length > 0;
  const question: EaseQuestion | null =
    anything && zone.spots.length > 0
      ? { ...base, planId: null, method, schedule, ceiling, today, start: c.start }
      : null;
  return { question, of, changed, entries, methods, method, kind, canItself, ceiling, places, today };
}

/** What a plan is called in the log. */
export function planName(of: Of, changes: readonly string[], coral: Spot | null): string {
  if (coral) return `${coral.name} to its light`;
  if (of === 'running') return 'Back up to what runs';
  const first = changes[0] ?? 'the draft';
  const words = changes.length > 1 ? `${first} and ${changes.length - 1} more` : first;
  return words.charAt(0).toUpperCase() + words.slice(1, 100);
}
