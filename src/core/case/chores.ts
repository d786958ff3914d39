import { type Chore, choreDays, CHORES, ZONE_KINDS } from '../record/chores';
import type { CaseBundle } from '../record/documents';
import type { LogEvent } from '../record/log';
import type { ChoreId, Zone } from '../record/zone';
import { litPieces } from '../day/day';
import type { HistoryDoc } from '../record/history';
import { DAY_MINUTES } from '../shape/ring';
import { entriesOf, lampKindOf, litRunning } from './lit';

export interface Due {
  chore: Chore;
  everyDays: number;
  /** when it was done last; null = never logged */
  doneUtc: string | null;
  /** from when it counts: last done, or when the first lamp ran; put off until a day that was said */
  dueMs: number;
  putOff: boolean;
}

const DAY_MS = 86_400_000;
const HOURS_A_DAY = 24;

/** Hours that lamps of a group have been lit since it was first typed in, by its days as they ran. */
export function hoursLit(history: HistoryDoc, zoneId: string, groupId: string, nowMs: number): number {
  const own = entriesOf(history, zoneId).filter((e) => e.groupId === groupId);
  return own.reduce((sum, e, i) => {
    const until = Math.min(nowMs, Date.parse(own[i + 1]?.atUtc ?? '') || nowMs);
    const lit = litPieces([litRunning(e).day]).reduce((m, p) => m + p.to - p.from, 0) / DAY_MINUTES;
    return sum + Math.max(0, (until - Date.parse(e.atUtc)) / DAY_MS) * HOURS_A_DAY * lit;
  }, 0);
}

/** Chores that are overdue, the most pressing first, counted from the first lamp where it was never done. */
export const overdueChores = (due: readonly Due[], nowMs: number): Due[] =>
  due.filter((d) => d.dueMs <= nowMs);

/** Whether a chore comes round in a water: tests are of the water that all share, and stand with the first. */
function comesRound(
  id: ChoreId,
  { case: doc, log }: CaseBundle,
  zone: Zone,
  done: string | undefined,
): boolean {
  if (id === 'test') return doc.zones[0]?.id === zone.id;
  // who never used any is not asked for it
  if (id === 'carbon')
    return zone.carbonDate !== null || log.events.some((e) => e.kind === 'carbon' && e.zoneId === zone.id);
  // nor is who never read a coral asked to read them again
  if (id === 'meter') return done !== undefined;
  if (id === 'age') return zone.groups.some((g) => lampKindOf(doc, g).source === 'led');
  if (id === 'tubes') return zone.groups.some((g) => lampKindOf(doc, g).source !== 'led');
  if (id === 'pictures') return ZONE_KINDS[zone.kind].lookedAt && zone.spots.some((s) => s.need !== null);
  return true;
}

/** Chores that an entry of another kind does. */
const DOES: Partial<Record<LogEvent['kind'], ChoreId>> = {
  lens: 'lens',
  carbon: 'carbon',
  photo: 'pictures',
  test: 'test',
};

/** When each chore was last done in a water; tests are of the water that all share. */
function lastDone({ log, readings }: CaseBundle, zone: Zone): Map<ChoreId, string> {
  const done = new Map<ChoreId, string>();
  const note = (id: ChoreId, atUtc: string) => {
    if (atUtc > (done.get(id) ?? '')) done.set(id, atUtc);
  };
  for (const e of log.events) {
    if (e.zoneId !== zone.id && e.kind !== 'test') continue;
    const id = e.kind === 'chore' ? e.chore : DOES[e.kind];
    if (id !== undefined) note(id, e.atUtc);
  }
  for (const s of readings.sessions)
    if (s.zoneId === zone.id && s.readings.length > 0) note('meter', s.atUtc);
  return done;
}

/** Chores of a water with when each is due, the most pressing first. Nothing is due where nothing has run yet. */
export function dueChores(bundle: CaseBundle, zone: Zone): Due[] {
  const first = entriesOf(bundle.history, zone.id)[0];
  if (!first) return [];
  const last = lastDone(bundle, zone);
  return CHORES.filter((c) => comesRound(c.id, bundle, zone, last.get(c.id)))
    .map((c): Due => {
      const done = last.get(c.id);
      const everyDays = choreDays(zone, c.id);
      const later = Date.parse(`${zone.choreLater?.[c.id]}T00:00:00Z`);
      const dueMs = Date.parse(done ?? first.atUtc) + everyDays * DAY_MS;
      return {
        ...{ chore: c, everyDays, doneUtc: done ?? null },
        ...(later > dueMs ? { dueMs: later, putOff: true } : { dueMs, putOff: false }),
      };
    })
    .sort((a, b) => a.dueMs - b.dueMs);
}
