import { draftGroups, type LitGroup, litRunning, runningAt } from '@/core/case/lit';
import type { CaseDoc } from '@/core/record/caseDoc';
import type { CaseBundle } from '@/core/record/documents';
import type { HistoryDoc, RunningEntry } from '@/core/record/history';
import type { Zone } from '@/core/record/zone';
import { type CivilDay, civilDay } from '@/core/day/wallClock';

import type { Command } from './commands/edit';
import { remembered } from './remembered';
import { utcIso } from './time';

/**
 * What follows from the documents, made once for all screens: the case with what a finger holds, what is drafted, what runs. Keyed by
 * the documents themselves; what is given back is the same object until one of them is another.
 */

/** A case with a command that is not kept yet. */
export const withCommand = remembered(
  (bundle: CaseBundle, command: Command): CaseBundle => command.apply(bundle),
  4,
);

const draftOn = remembered(
  (doc: CaseDoc, zone: Zone, date: string | null, timeZone: string | null): LitGroup[] =>
    draftGroups(doc, zone, date === null || timeZone === null ? null : { date, timeZone }),
);
/** The draft of a water: the plain day, or a date's with all that acts on it. */
export const draftLit = (doc: CaseDoc, zone: Zone, on: CivilDay | null = null): LitGroup[] =>
  draftOn(doc, zone, on?.date ?? null, on?.timeZone ?? null);

// entries never change once typed in: their ids stand for them
const kept = new Map<string, { history: HistoryDoc; zone: Zone; ids: string; entries: RunningEntry[] }>();
/** What runs in a water at an instant. */
export function entriesNow(history: HistoryDoc, zone: Zone, nowMs: number): RunningEntry[] {
  const found = runningAt(history, zone, utcIso(nowMs));
  const ids = found.map((e) => e.id).join();
  const old = kept.get(zone.id);
  if (old && old.history === history && old.zone === zone && old.ids === ids) return old.entries;
  kept.set(zone.id, { history, zone, ids, entries: found });
  return found;
}

const litOn = remembered((entries: RunningEntry[], date: string, timeZone: string): LitGroup[] =>
  entries.map((e) => litRunning(e, { date, timeZone })),
);
/** What runs in a water, lit as on the date of an instant. */
export const runningLit = (history: HistoryDoc, zone: Zone, nowMs: number): LitGroup[] =>
  litOn(entriesNow(history, zone, nowMs), civilDay(nowMs, zone.timeZone).date, zone.timeZone);
