import { civilDay, type CivilDay, dayNumber, minuteOnDay } from '../day/wallClock';
import { interludesOn } from '../day/extras';
import { entriesOf, riseShare } from './lit';
import type { HistoryDoc, RunningEntry } from '../record/history';
import { actsOf, actsOnLight, type LogDoc, type LogEvent } from '../record/log';
import type { Act } from '../record/log/logKind';
import { type Place, placeOf, samePlace, type Spot, type Zone } from '../record/zone';

/** What determines the light of a zone at an instant. */
export interface Standing {
  /** what runs, groups without power left out */
  entries: RunningEntry[];
  yellow440PerM: number;
  /** what a dusty lens leaves of each entry's light */
  lensShares: number[];
  /** per spot, which of the course's places it is at */
  places: number[];
  key: string;
}

/** A place, and the alga that has been there. */
export type CoursePlace = Place & Pick<Spot, 'algaId'>;

/** Where an instant lies on the zone's calendar. */
export interface Cut {
  ms: number;
  day: number;
  minute: number;
}

/** A zone's time line: everything that ever changed its light, from running and from the log. */
export interface Course {
  /** every place a spot has ever been at */
  places: CoursePlace[];
  /** instants (ms) at which the light may change, rising; the first is the first entry's */
  instants: number[];
  at: (ms: number) => Standing;
}

/** Where an instant lies on a calendar: slow enough to be asked for only where days are lived through. */
export function cutAt(ms: number, timeZone: string): Cut {
  const on = civilDay(ms, timeZone);
  return { ms, day: dayNumber(on.date), minute: minuteOnDay(ms, on) };
}

const doing = <D extends Act['does']>(acts: readonly Act[], does: D) =>
  acts.filter((a): a is Extract<Act, { does: D }> => a.does === does);

/** Dust is followed in steps of a week. */
const DUST_STEP_MS = 7 * 86_400_000;

/**
 * Dust on the lenses of a group: from one wipe to the next the light falls evenly by what that wipe gave back, followed in steps. One
 * clock says when a step begins and what is left during it.
 */
function dustOf(wipes: readonly Extract<Act, { does: 'wipe' }>[], hungMs: number) {
  const spans = wipes.map((w, i) => ({
    since: i > 0 ? wipes[i - 1]!.atMs : hungMs,
    until: w.atMs,
    lostShare: w.lostShare,
  }));
  return {
    /** instants at which a step begins */
    cuts: spans.flatMap(({ since, until }) => {
      const steps = Math.max(0, Math.ceil((until - since) / DUST_STEP_MS) - 1);
      return Array.from({ length: steps }, (_, k) => since + (k + 1) * DUST_STEP_MS);
    }),
    shareAt: (ms: number): number => {
      const span = spans.find((x) => x.until > ms);
      if (!span || span.until <= span.since) return 1;
      const { since, until, lostShare } = span;
      const middle = Math.min(until, since + (Math.floor((ms - since) / DUST_STEP_MS) + 0.5) * DUST_STEP_MS);
      return 1 - (lostShare * (middle - since)) / (until - since);
    },
  };
}

const acting = new WeakMap<LogDoc, Map<string, readonly LogEvent[]>>();

/** Events that act on a zone's light, in order of time: few of ten years of entries. The same list for the same log. */
export function actingEvents(log: LogDoc, zoneId: string): readonly LogEvent[] {
  const ofLog = acting.get(log) ?? new Map<string, readonly LogEvent[]>();
  acting.set(log, ofLog);
  const known = ofLog.get(zoneId);
  if (known) return known;
  const events = log.events
    .filter((e) => e.zoneId === zoneId && actsOnLight(e))
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : a.atUtc > b.atUtc ? 1 : 0));
  ofLog.set(zoneId, events);
  return events;
}

/**
 * The zone's time line. Before the first fresh carbon that is known the water is as yellow as that says; dust dims a lamp evenly
 * from one wipe to the next, by as much as the wipe gave back; a spot is at the place its last move before an instant led to.
 */
export function courseOf(zone: Zone, history: HistoryDoc, log: LogDoc, yellowNow: number): Course {
  const entries = entriesOf(history, zone.id);
  const entryMs = entries.map((e) => Date.parse(e.atUtc));
  const events = actingEvents(log, zone.id);
  const firstMs = entryMs[0] ?? Infinity;

  const places: CoursePlace[] = [];
  const indexOf = (p: Place, algaId: Spot['algaId']): number => {
    const found = places.findIndex(
      (x) => samePlace(x, p) && x.openShare === p.openShare && (x.algaId ?? null) === (algaId ?? null),
    );
    return found >= 0 ? found : places.push({ ...placeOf(p), ...(algaId ? { algaId } : {}) }) - 1;
  };
  const acts = events.flatMap(actsOf);
  const stays = zone.spots.map((spot) => {
    const moves = doing(acts, 'move').filter((m) => m.spotId === spot.id);
    return {
      // the last move led to where the spot is now, wherever it was corrected to since
      at: moves.map((m) => m.atMs),
      index: [...moves.map((m) => m.from), spot].map((p) => indexOf(p, spot.algaId)),
    };
  });
  const waters = doing(acts, 'water');
  const outages = doing(acts, 'dark');
  const wipes = doing(acts, 'wipe');
  const dust = new Map(
    [...new Set(entries.map((e) => e.groupId))].map((groupId) => [
      groupId,
      dustOf(
        wipes.filter((w) => w.groupId === null || w.groupId === groupId),
        entryMs[entries.findIndex((e) => e.groupId === groupId)]!,
      ),
    ]),
  );

  const arrivals = zone.spots.flatMap((s) =>
    s.arrived === null ? [] : [startOf({ date: s.arrived, timeZone: zone.timeZone })],
  );
  const all = [
    ...entryMs,
    ...stays.flatMap((s) => s.at),
    ...waters.map((w) => w.atMs),
    ...outages.flatMap((o) => [o.fromMs, o.toMs]),
    ...wipes.map((w) => w.atMs),
    ...[...dust.values()].flatMap((d) => d.cuts),
    ...arrivals,
  ];
  const instants = [...new Set(all)]
    .filter((ms) => ms >= firstMs && Number.isFinite(ms))
    .sort((x, y) => x - y);

  const at = (ms: number): Standing => {
    const latest = new Map<string, number>();
    for (let i = 0; i < entries.length && entryMs[i]! <= ms; i += 1) latest.set(entries[i]!.groupId, i);
    const off = outages.filter((o) => o.fromMs <= ms && ms < o.toMs);
    const lit = [...latest].filter(
      ([id]) => !off.some((o) => o.groupIds === null || o.groupIds.includes(id)),
    );
    const running = lit.map(([, i]) => entries[i]!);
    const lensShares = running.map((e) => dust.get(e.groupId)!.shareAt(ms));
    const yellow440PerM = waters.find((w) => w.atMs > ms)?.yellowBefore ?? yellowNow;
    const now = stays.map((s) => s.index[s.at.filter((t) => t <= ms).length]!);
    return {
      entries: running,
      yellow440PerM,
      lensShares,
      places: now,
      key: JSON.stringify([lit.map(([, i]) => i), yellow440PerM, lensShares, now]),
    };
  };
  return { places, instants, at };
}

const startOf = (on: CivilDay): number => {
  // noon of the date by UTC is within half a day of it everywhere: from there back to local midnight
  const noon = Date.parse(`${on.date}T12:00:00Z`);
  const minute = minuteOnDay(noon, on);
  const day = dayNumber(civilDay(noon, on.timeZone).date);
  return noon - minute * 60_000 - (day - dayNumber(on.date)) * 86_400_000;
};

/** True when an entry's light on a date is not that of its plain day: interludes, weather, drift, a rise of its own. */
export function ownDay(entry: RunningEntry, on: CivilDay): boolean {
  const { interludes, weather, drift } = entry.extras ?? {};
  return (
    Boolean(weather || drift) ||
    (interludes !== undefined && interludesOn(interludes, on).length > 0) ||
    (entry.rise !== undefined && riseShare(entry.rise, on.date) !== entry.rise.toShare)
  );
}

/** Entries that have days of their own at all. */
export const hasOwnDays = (entry: RunningEntry): boolean =>
  Boolean(entry.extras?.weather || entry.extras?.drift || entry.extras?.interludes || entry.rise);

/** Instants within which the light of today changed: what light so far is cut at. */
export const cutsOf = (zone: Zone, history: HistoryDoc, log: LogDoc): number[] =>
  courseOf(zone, history, log, 0).instants;
