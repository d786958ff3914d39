import { type Chore, choreDays, CHORES, ZONE_KINDS } from '../record/chores';
import type { CaseBundle } from '../record/documents';
import type { LogEvent } from '../record/log';
import type { ChoreId, Zone } from '../record/zone';
import { entriesOf, lampKindOf } from './lit';

export interface Due {
  chore: Chore;
  everyDays: number;
  /** when it was done last; null = never logged */
  doneUtc: string | null;
  /** from when it counts: last done, or when the first lamp ran; put off until a day that was said */
  dueMs: number;
}

const DAY_MS = 86_400_000;

/** Chores that are overdue, the most pressing first, counted from the first lamp where it was never done. */
export const overdueChores = (bundle: CaseBundle, zone: Zone, nowMs: number): Due[] =>
  dueChores(bundle, zone).filter((d) => d.dueMs <= nowMs);

/** Whether a chore comes round in a water: tests are of the water that all share, and stand with the first. */
function comesRound(id: ChoreId, { case: doc }: CaseBundle, zone: Zone): boolean {
  if (id === 'test') return doc.zones[0]?.id === zone.id;
  if (id === 'tubes') return zone.groups.some((g) => lampKindOf(doc, g).source !== 'led');
  if (id === 'pictures') return ZONE_KINDS[zone.kind].lookedAt && zone.spots.some((s) => s.need !== null);
  return true;
}

/** When a chore was done, newest last. */
function doneAt(id: ChoreId, { log, readings }: CaseBundle, zone: Zone): string[] {
  const entry = (e: LogEvent) =>
    id === 'test'
      ? e.kind === 'test'
      : e.zoneId === zone.id && (id === 'lens' ? e.kind === 'lens' : e.kind === 'chore' && e.chore === id);
  return (
    id === 'meter'
      ? readings.sessions.filter((s) => s.zoneId === zone.id && s.readings.length > 0)
      : log.events.filter(entry)
  )
    .map((e) => e.atUtc)
    .sort();
}

/** Chores of a water with when each is due, the most pressing first. Nothing is due where nothing has run yet. */
export function dueChores(bundle: CaseBundle, zone: Zone): Due[] {
  const first = entriesOf(bundle.history, zone.id)[0];
  if (!first) return [];
  return CHORES.filter((c) => comesRound(c.id, bundle, zone))
    .map((c): Due => {
      const done = doneAt(c.id, bundle, zone).at(-1);
      const everyDays = choreDays(zone, c.id);
      const later = Date.parse(`${zone.choreLater?.[c.id]}T00:00:00Z`);
      const dueMs = Date.parse(done ?? first.atUtc) + everyDays * DAY_MS;
      return {
        ...{ chore: c, everyDays, doneUtc: done ?? null },
        dueMs: Number.isFinite(later) ? Math.max(dueMs, later) : dueMs,
      };
    })
    .sort((a, b) => a.dueMs - b.dueMs);
}
