import { type Chore, choreDays, CHORES } from '../record/chores';
import { entriesOf } from './lit';
import type { Zone } from '../record/zone';
import type { HistoryDoc } from '../record/history';
import type { LogDoc } from '../record/log';

export interface Due {
  chore: Chore;
  everyDays: number;
  /** when it was done last; null = never logged */
  doneUtc: string | null;
  /** from when it counts: last done, or when the first lamp ran */
  dueMs: number;
}

const DAY_MS = 86_400_000;

/** The most pressing chore that is overdue, counted from the first lamp where it was never done. */
export const overdueChore = (zone: Zone, history: HistoryDoc, log: LogDoc, nowMs: number): Due | undefined =>
  dueChores(zone, history, log).find((d) => d.dueMs <= nowMs);

/** Chores of a water with when each is due, the most pressing first. Nothing is due where nothing has run yet. */
export function dueChores(zone: Zone, history: HistoryDoc, log: LogDoc): Due[] {
  const first = entriesOf(history, zone.id)[0];
  if (!first) return [];
  return CHORES.map((c): Due => {
    const done = log.events
      .filter(
        (e) =>
          e.zoneId === zone.id &&
          (c.id === 'lens' ? e.kind === 'lens' : e.kind === 'chore' && e.chore === c.id),
      )
      .map((e) => e.atUtc)
      .sort()
      .at(-1);
    const everyDays = choreDays(zone, c.id);
    return {
      chore: c,
      everyDays,
      doneUtc: done ?? null,
      dueMs: Date.parse(done ?? first.atUtc) + everyDays * DAY_MS,
    };
  }).sort((a, b) => a.dueMs - b.dueMs);
}
