import { runnableOf } from '@/core/case/runnable';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { EasingPlan, HistoryDoc, PlanDeed, Runnable, RunningEntry } from '@/core/record/history';
import type { Group, Zone } from '@/core/record/zone';
import { type Command, keep, onBundle, within } from './edit';

/** What runs from an instant on. */
export const entryOf = (
  target: Runnable,
  typed: Pick<RunningEntry, 'id' | 'zoneId' | 'atUtc'> &
    Partial<Pick<RunningEntry, 'usedTo' | 'planId' | 'rise' | 'sure'>>,
): RunningEntry => ({ ...target, sure: 'typedIn', easingShare: 1, usedTo: false, ...typed });

/** A group's draft as it would be frozen on being typed in. */
export const freeze = (
  doc: CaseDoc,
  zone: Zone,
  group: Group,
  typed: { id: string; atUtc: string; usedTo: boolean; sure?: RunningEntry['sure'] },
): RunningEntry => entryOf(runnableOf(doc, group), { ...typed, zoneId: zone.id });

const onHistory = (name: string, change: (history: HistoryDoc) => void): Command =>
  onBundle(name, (b) => change(b.history));

/** Stops the plans that a newly typed-in day takes the place of. */
function stopOthers(
  plans: readonly EasingPlan[],
  groupIds: readonly string[],
  by: string,
  atUtc: string,
): void {
  for (const p of plans) {
    const goesOn = p.state === 'active' || p.state === 'paused';
    if (!goesOn || p.id === by || !p.targets.some((t) => groupIds.includes(t.groupId))) continue;
    p.state = 'stopped';
    p.deeds.push({
      id: `${by}-${p.id}`.slice(0, 80),
      atUtc,
      what: 'stopped',
      words: 'Another day was typed in.',
    });
  }
}

/** From draft to running. A plan of the same lamps ends with it. */
export const typeIn = (entry: RunningEntry): Command =>
  onHistory(`typed in: ${entry.groupName}`, (h) => {
    h.entries.push(entry);
    stopOthers(h.plans, [entry.groupId], entry.planId ?? entry.id, entry.atUtc);
  });

/**
 * Takes a group down. Where it ran it is dark from that instant on: what corals are used to would go on counting it. Its lamp kind and
 * plates stay in the case: they can be carried to what hangs there next.
 */
export const takeDown = (groupId: string, at: Pick<RunningEntry, 'id' | 'atUtc'>): Command =>
  onBundle('take lamps down', (b) => {
    b.case.zones.forEach((z) => keep(z.groups, (g) => g.id !== groupId));
    const last = b.history.entries
      .filter((e) => e.groupId === groupId && e.atUtc <= at.atUtc)
      .reduce<RunningEntry | null>((a, e) => (a && a.atUtc > e.atUtc ? a : e), null);
    if (!last || last.threads.length === 0) return;
    const { extras: _, rise: __, planId: ___, ...rest } = last;
    b.history.entries.push({ ...rest, ...at, sure: 'typedIn', usedTo: false, threads: [] });
    stopOthers(b.history.plans, [groupId], at.id, at.atUtc);
  });

/** Says how sure it is that an entry runs, after readings. */
export const setSure = (entryId: string, sure: RunningEntry['sure'], words: string): Command =>
  onHistory(words, (h) =>
    within(h.entries, entryId, (e) => {
      e.sure = sure;
    }),
  );

/** Begins a plan; what its first step types in, when that is today's, comes with it. */
export const startPlan = (plan: EasingPlan, entries: readonly RunningEntry[]): Command =>
  onHistory(`ease in: ${plan.name}`, (h) => {
    h.entries.push(...entries);
    const groupIds = plan.targets.map((t) => t.groupId);
    stopOthers(h.plans, groupIds, plan.id, plan.createdUtc);
    h.plans.push(plan);
  });

/** Changes a plan and says in its own log what was done; what is typed in on that occasion comes with it. */
export const changePlan = (
  planId: string,
  deed: PlanDeed,
  change: Partial<Pick<EasingPlan, 'steps' | 'state' | 'ceiling' | 'schedule'>>,
  entries: readonly RunningEntry[] = [],
): Command =>
  onHistory(deed.words.replace(/\.$/, ''), (h) => {
    h.entries.push(...entries);
    within(h.plans, planId, (p) => {
      Object.assign(p, change);
      p.deeds.push(deed);
    });
  });
