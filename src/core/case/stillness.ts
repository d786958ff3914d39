import type { HistoryDoc } from '../record/history';
import { changesLight, kindOf, type LogDoc } from '../record/log';
import { begunCare } from '../record/log/care';
import type { Zone } from '../record/zone';
import { entriesOf } from './lit';
import { lightChangesUtc } from './timeline';

/** How still a water is kept: when its light last changed, how often lately, and whether that can have shown yet. */
export interface Stillness {
  /** whole days since the light last changed by anything; null = nothing is known to have changed */
  days: number | null;
  /** changes of light on different days of the last 90 */
  changes90: number;
  /** what changed within a few days of one another at the last change, in words, light first; one = only that */
  together: string[];
}

/** A change of light shows in colour after so many days at the earliest it can be told from chance. Mark: rule of thumb, field practice. */
export const SHOWS_AFTER_DAYS = 28;
const WINDOW_DAYS = 90;
/** What happens within so many days of a change of light cannot be told from it. Mark: rule of thumb. */
const TOGETHER_DAYS = 3;
const DAY_MS = 86_400_000;

export function stillness(zone: Zone, history: HistoryDoc, log: LogDoc, nowUtc: string): Stillness {
  const all = lightChangesUtc(zone, history, log, nowUtc);
  const last = all.at(-1);
  if (last === undefined) return { days: null, changes90: 0, together: [] };
  const [now, then] = [Date.parse(nowUtc), Date.parse(last)];
  const lately = all.filter((at) => now - Date.parse(at) < WINDOW_DAYS * DAY_MS);
  const [from, to] = [-1, 1].map((side) => new Date(then + side * TOGETHER_DAYS * DAY_MS).toISOString());
  const near = (at: string) => at >= from! && at <= to! && at <= nowUtc;
  const begun = new Set(begunCare(log.events).map((e) => e.id));
  const besides = log.events.filter(
    (e) =>
      near(e.atUtc) &&
      (changesLight(e) || e.kind === 'befell' || begun.has(e.id)) &&
      (e.zoneId === zone.id || kindOf(e).shared),
  );
  const ran = entriesOf(history, zone.id).some((e) => near(e.atUtc));
  return {
    days: Math.floor((now - then) / DAY_MS),
    changes90: new Set(lately.map((at) => at.slice(0, 10))).size,
    together: [...(ran ? ['the lamps'] : []), ...besides.map((e) => kindOf(e).words(e, zone))],
  };
}
