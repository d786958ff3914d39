import type { CaseBundle } from '../record/documents';

/** What stands in the time to come can only have been written by a clock that ran ahead; so much of one is none, ms. Mark: rule of thumb. */
const CLOCKS_DIFFER_MS = 10 * 60_000;
const SECOND_MS = 1000;

/** Ids of what ran and what was logged "later than now", oldest first. */
export function writtenAhead({ history, log }: Pick<CaseBundle, 'history' | 'log'>, nowMs: number): string[] {
  const latest = new Date(nowMs + CLOCKS_DIFFER_MS).toISOString();
  return [...history.entries, ...log.events]
    .filter((e) => e.atUtc > latest)
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1))
    .map((e) => e.id);
}

/** The same, brought back to now: in the order in which they were written, a second apart. */
export function broughtBack(bundle: CaseBundle, nowMs: number): CaseBundle {
  const ids = writtenAhead(bundle, nowMs);
  const at = new Map(
    ids.map((id, i) => [id, new Date(nowMs - (ids.length - 1 - i) * SECOND_MS).toISOString()]),
  );
  const moved = <T extends { id: string; atUtc: string }>(list: readonly T[]): T[] =>
    list.map((e) => (at.has(e.id) ? { ...e, atUtc: at.get(e.id)! } : e));
  return {
    ...bundle,
    history: { ...bundle.history, entries: moved(bundle.history.entries) },
    log: { ...bundle.log, events: moved(bundle.log.events) },
  };
}
