import { lampKindOf, litDraft } from './lit';
import type { CaseDoc } from '../record/caseDoc';
import type { Group } from '../record/zone';
import type { Runnable, RunningEntry } from '../record/history';

/** A group's draft by value. */
export const runnableOf = (doc: CaseDoc, group: Group): Runnable => ({
  groupId: group.id,
  groupName: group.name,
  lampKind: lampKindOf(doc, group),
  lamps: group.lamps,
  threads: litDraft(doc, group).threads.map(({ minute, strengthShare, mix, mixName }) => ({
    minute,
    strengthShare,
    mix,
    mixName,
  })),
  capShare: group.capShare,
  ...(group.extras ? { extras: group.extras } : {}),
});

/** What an entry runs, by value; a rise of its own counts as done. */
export const runnable = (e: RunningEntry): Runnable => ({
  groupId: e.groupId,
  groupName: e.groupName,
  lampKind: e.lampKind,
  lamps: e.lamps,
  threads: e.threads,
  capShare: e.capShare * (e.rise?.toShare ?? 1),
  ...(e.extras ? { extras: e.extras } : {}),
});
