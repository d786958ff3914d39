import { DAY_MINUTES } from '../shape/ring';
import {
  civilDay,
  clockChangeDays,
  clockRuns,
  dateOf,
  dayNumber,
  dayStartMs,
  neighbour,
  wallRuns,
} from '../day/wallClock';
import {
  accustom,
  type DayLight,
  heldPeak,
  kept,
  NEVER_USED,
  type Pace,
  steadyDay,
  stepRatio,
  unknownStart,
} from '../easing/accustomed';
import type { Straight } from '../feeding/response';
import type { RigSpot } from '../optics/response';
import { actsOf, type LogDoc } from '../record/log';
import {
  actingEvents,
  type Course,
  courseOf,
  type Cut,
  cutAt,
  hasOwnDays,
  ownDay,
  type Standing,
} from './course';
import { type ByChannel, lightBetween, type LightTable } from './light';
import { channelIds, type LitGroup, litRunning } from './lit';
import { type Calibration, channelKey } from './calibration';
import { stepBandShare } from './stepBand';
import type { HistoryDoc, RunningEntry } from '../record/history';
import { floorUmolOf, livesByLight, lowerEdgeUmol, paceOf } from '../record/needs';
import type { Spot, Zone } from '../record/zone';

/**
 * Days that differ by date (clouds, seasons) are lived through one by one only so far back; before that each counts as the plain day.
 * A coral keeps less than a millionth of what it was used to then. Mark: rule of thumb.
 */
export const OWN_DAYS = 400;

/** Light at full of hung groups at places in water of some yellowness; computed elsewhere and kept there. */
export type ParOf = (
  groups: readonly LitGroup[],
  yellow440PerM: number,
  places: readonly RigSpot[],
) => LightTable;

/** A change of the light as the corals met it. */
export interface MetChange {
  atUtc: string;
  /** ids of what happened then: entries of running, events of the log */
  ids: string[];
  /** a whole day's light per spot before and after; before is null for the first */
  before: DayLight[] | null;
  after: DayLight[];
  /** what each spot was used to as that day began */
  used: DayLight[];
  /** half width of the 90 % band of that step, as a share of it, per spot; 0 without a calibration */
  bandShares: number[];
}

/** Light a tenant is used to, and which channel gave how much of it, by `channelKey`; the rest is what it was said to come from. */
export interface UsedLight extends DayLight {
  /** as corals take it */
  made?: { dli: Record<string, number>; peak: Record<string, number> };
}

export interface Replayed {
  /** what each spot's tenant is used to as the day begins */
  perSpot: UsedLight[];
  /** false = nothing is known to have run: corals stand at their unknown start */
  known: boolean;
  changes: MetChange[];
}

/** What a coral of which nothing has run yet is used to: the light it came from, or the lower edge of its band for 8 hours. */
export const startLight = (spot: Spot, zone: Zone): DayLight =>
  !livesByLight(spot)
    ? NEVER_USED
    : spot.cameFrom
      ? steadyDay(spot.cameFrom.peakUmol, spot.cameFrom.hours)
      : unknownStart(lowerEdgeUmol(spot, zone));

/** Light, and what each channel that ever ran gave of it, in the order of their keys. */
interface MadeLight extends DayLight {
  made: { dli: Float64Array; peak: Float64Array };
  /** how it ran as corals take it; only of a stretch of a day */
  runs?: Straight[];
}

/** Light of standings over stretches of a day, whole plain days kept. */
function lighter(zone: Zone, course: Course, parOf: ParOf, keys: ChannelsRun, oddDays: ReadonlySet<number>) {
  const whole = new Map<string, MadeLight[]>();
  const plain = new Map<RunningEntry, LitGroup>();
  const pars = new Map<string, LightTable>();
  const spots = zone.spots.length;
  const plainOf = (e: RunningEntry): LitGroup => {
    let made = plain.get(e);
    if (!made) plain.set(e, (made = litRunning(e)));
    return made;
  };
  /** [group][spot][channel] at full: where everybody is, through what is left of the lenses */
  const parsOf = (s: Standing): LightTable => {
    let made = pars.get(s.key);
    if (!made) {
      const whole = parOf(s.entries.map(plainOf), s.yellow440PerM, course.places);
      const through = (table: LightTable['par']) =>
        table.map((atPlace, i) =>
          s.places.map((p) => {
            const share = s.lensShares[i]!;
            return share === 1 ? atPlace[p]! : atPlace[p]!.map((v) => v * share);
          }),
        );
      made = { par: through(whole.par), taken: through(whole.taken) };
      pars.set(s.key, made);
    }
    return made;
  };
  const byKey = (of: readonly (readonly number[])[], groups: readonly LitGroup[]) => {
    const out = new Float64Array(keys.size);
    groups.forEach((g, i) =>
      channelIds(g.lampKind).forEach((id, c) => {
        const at = keys.get(channelKey(g.groupId, id))?.at;
        if (at !== undefined) out[at]! += of[i]![c]!;
      }),
    );
    return out;
  };
  const over = (s: Standing, date: string | null, from: number, to: number): MadeLight[] => {
    const on = date === null ? null : { date, timeZone: zone.timeZone };
    const groups = s.entries.map((e) =>
      on && hasOwnDays(e) && ownDay(e, on) ? litRunning(e, on) : plainOf(e),
    );
    const made: ByChannel[] = [];
    return lightBetween(parsOf(s), groups, spots, from, to, made).map((l, i) => ({
      ...l,
      made: { dli: byKey(made[i]!.dli, groups), peak: byKey(made[i]!.peak, groups) },
      runs: made[i]!.runs,
    }));
  };
  return {
    /** a whole day, of 23 or 25 hours where it is one; without a date the plain one */
    day: (s: Standing, date: string | null = null): MadeLight[] => {
      const on = date === null ? null : { date, timeZone: zone.timeZone };
      if (on && oddDays.has(dayNumber(on.date)))
        return clockRuns(on)
          .map((r) => over(s, date, r.fromMinute, r.toMinute))
          .reduce((a, b) => a.map((l, i) => joined(l, b[i]!)));
      if (on && s.entries.some((e) => hasOwnDays(e) && ownDay(e, on))) return over(s, date, 0, DAY_MINUTES);
      let made = whole.get(s.key);
      if (!made) whole.set(s.key, (made = over(s, null, 0, DAY_MINUTES)));
      return made;
    },
    part: (s: Standing, date: string, from: number, to: number): MadeLight[] => over(s, date, from, to),
    /** a stretch of a day between two cuts, null = as it begins and ends */
    between: (s: Standing, date: string, from: Cut | null, to: Cut | null): MadeLight[][] => {
      if (!oddDays.has(dayNumber(date))) return [over(s, date, from?.minute ?? 0, to?.minute ?? DAY_MINUTES)];
      const on = { date, timeZone: zone.timeZone };
      const runs = wallRuns(
        from?.ms ?? dayStartMs(on),
        to?.ms ?? dayStartMs(neighbour(on, 1)),
        zone.timeZone,
      );
      return runs.map((r) => over(s, date, r.fromMinute, r.toMinute));
    },
  };
}

/** Every channel that ever ran over a zone, numbered. */
type ChannelsRun = ReadonlyMap<string, { groupId: string; channelId: string; at: number }>;
function channelsRun(zone: Zone, { entries }: HistoryDoc): ChannelsRun {
  const keys = new Map<string, { groupId: string; channelId: string; at: number }>();
  for (const e of entries)
    if (e.zoneId === zone.id)
      for (const id of channelIds(e.lampKind)) {
        const key = channelKey(e.groupId, id);
        if (!keys.has(key)) keys.set(key, { groupId: e.groupId, channelId: id, at: keys.size });
      }
  return keys;
}

const blend = (a: Float64Array, l: Float64Array, keep: number) => a.map((v, k) => l[k]! + (v - l[k]!) * keep);
/** A light to which one grows used for some days. */
const grown = (a: MadeLight, l: MadeLight, days: number, pace: Pace): MadeLight => ({
  ...accustom(a, l, days, pace),
  made: {
    dli: blend(a.made.dli, l.made.dli, kept((a.taken ?? a).dli, l.taken!.dli, days, pace)),
    peak: blend(a.made.peak, l.made.peak, kept((a.taken ?? a).peak, l.taken!.peak, days, pace)),
  },
});
/** Light of one stretch of a day after another: its peak is that of all of them. */
function joined(a: MadeLight, b: MadeLight): MadeLight {
  const runs = [...(a.runs ?? []), ...(b.runs ?? [])];
  const brighter = a.taken!.peak >= b.taken!.peak ? a : b;
  const peak = heldPeak(runs);
  const held = brighter.taken!.peak > 0 ? peak / brighter.taken!.peak : 1;
  return {
    dli: a.dli + b.dli,
    peak: Math.max(a.peak, b.peak),
    taken: { dli: a.taken!.dli + b.taken!.dli, peak },
    made: {
      dli: a.made.dli.map((v, k) => v + b.made.dli[k]!),
      peak: held === 1 ? brighter.made.peak : brighter.made.peak.map((v) => v * held),
    },
    runs,
  };
}
const bare = ({ dli, peak, taken }: DayLight): DayLight => ({ dli, peak, ...(taken ? { taken } : {}) });

/**
 * What the corals of a zone are used to as the local day of an instant begins, replayed day by day from what really ran and what
 * the log knows: typed-in days, caps and lamps, steps of easing in, interludes, outages, fresh carbon, wiped lenses, moves,
 * arrivals. A day's light is exact, also where something changed within it; A ← L + (A − L)·e^(−1/τ), τ by whether it is more light or less.
 * Before the first entry a coral is used to that entry's light when the keeper said so, else it stands at its start. What is met
 * within the instant's own day is listed but not yet grown used to.
 */
export function replay(
  zone: Zone,
  history: HistoryDoc,
  log: LogDoc,
  cal: Calibration | null,
  atUtc: string,
  parOf: ParOf,
): Replayed {
  const yellowNow = cal?.yellow440PerM ?? zone.water.yellow440PerM;
  const course = courseOf(zone, history, log, yellowNow);
  const nowMs = Date.parse(atUtc);
  const cuts = course.instants.filter((ms) => ms <= nowMs).map((ms) => cutAt(ms, zone.timeZone));
  if (cuts.length === 0)
    return { perSpot: zone.spots.map((s) => startLight(s, zone)), known: false, changes: [] };
  const keys = channelsRun(zone, history);
  const nothing = { dli: new Float64Array(keys.size), peak: new Float64Array(keys.size) };
  const start = zone.spots.map((s): MadeLight => ({ ...startLight(s, zone), made: nothing }));
  const never = zone.spots.map((s) => !livesByLight(s));

  const odd = clockChangeDays(cuts[0]!.day, dayNumber(civilDay(nowMs, zone.timeZone).date), zone.timeZone);
  const light = lighter(zone, course, parOf, keys, odd);
  const byName = (of: Float64Array) =>
    Object.fromEntries([...keys].flatMap(([key, { at }]) => (of[at]! > 0 ? [[key, of[at]!]] : [])));
  const withNames = (a: MadeLight): UsedLight => ({
    ...bare(a),
    made: { dli: byName(a.made.dli), peak: byName(a.made.peak) },
  });
  const happened = happenings(zone, history, log);
  const paces = zone.spots.map(paceOf);
  const arrivals = zone.spots.map((s) => (s.arrived === null ? -Infinity : dayNumber(s.arrived)));
  const today = dayNumber(civilDay(nowMs, zone.timeZone).date);
  const first = cuts[0]!;
  const changes: MetChange[] = [];
  const floors = zone.spots.map((s) => floorUmolOf(s, zone));
  /** how sure the step to a light is */
  const bandOf = (l: MadeLight, s: number): number => {
    if (!cal || never[s]) return 0;
    const was = withNames(used[s]!);
    const measure = stepRatio(l, was, floors[s]).by === 'peak' ? 'peak' : 'dli';
    const parts = () =>
      [...keys.values()].map(({ groupId, channelId, at }) => ({
        ...{ groupId, channelId },
        light: l.made[measure][at]!,
      }));
    return stepBandShare(cal, parts, l, was, floors[s]!, measure);
  };
  let used = start;
  /** light of the day under way, and which day that is */
  let sum: MadeLight[] = [];
  const clear = () =>
    (sum = zone.spots.map(() => ({ dli: 0, peak: 0, taken: { dli: 0, peak: 0 }, made: nothing })));
  const live = (by: readonly MadeLight[], days: number) =>
    (used = used.map((a, s) => (never[s] ? a : grown(a, by[s]!, days, paces[s]!))));
  const add = (parts: readonly (readonly MadeLight[])[]) =>
    parts.forEach((part) => (sum = sum.map((a, s) => joined(a, part[s]!))));
  const arrive = (day: number) => (used = used.map((a, s) => (arrivals[s] === day ? start[s]! : a)));
  /** the first day counts from its first entry, by what stood at its end */
  const endDay = (day: number, standing: Standing) => {
    if (day === first.day) live(light.day(standing, dateOf(day)), (DAY_MINUTES - first.minute) / DAY_MINUTES);
    else live(sum, 1);
    clear();
    arrive(day + 1);
  };

  clear();
  let before: Standing | null = null;
  cuts.forEach((cut, i) => {
    const standing = course.at(cut.ms);
    const here = happened.get(cut.ms);
    if (here?.usedTo) {
      const l = light.day(standing);
      used = used.map((a, s) => (never[s] || arrivals[s]! > cut.day ? a : l[s]!));
    }
    if (here && here.ids.length > 0)
      changes.push({
        atUtc: new Date(cut.ms).toISOString(),
        ids: here.ids,
        before: before ? light.day(before).map(bare) : null,
        after: light.day(standing).map(bare),
        used: used.map(bare),
        bandShares: light.day(standing).map(bandOf),
      });
    before = standing;
    const next = cuts[i + 1];
    const until = next ? next.day : today;
    if (cut.day >= until) {
      if (next) add(light.between(standing, dateOf(cut.day), cut, next));
      return;
    }
    add(light.between(standing, dateOf(cut.day), cut, null));
    endDay(cut.day, standing);
    const ownFrom = standing.entries.some(hasOwnDays) ? today - OWN_DAYS : Infinity;
    for (let day = cut.day + 1; day < until;) {
      if (day >= ownFrom || odd.has(day)) {
        live(light.day(standing, dateOf(day)), 1);
        day += 1;
      } else {
        // equal days are lived through at once
        const turns = [ownFrom, ...arrivals, ...odd].filter((d) => d > day);
        const stop = Math.min(until, ...turns);
        live(light.day(standing), stop - day);
        day = stop;
      }
      arrive(day);
    }
    if (next) add(light.between(standing, dateOf(until), null, next));
  });
  const perSpot = used.map((a, s): UsedLight => (never[s] ? NEVER_USED : withNames(a)));
  return { perSpot, known: true, changes };
}

/** What happened at which instant, of everything that can change the light. */
function happenings(zone: Zone, history: HistoryDoc, log: LogDoc) {
  const out = new Map<number, { ids: string[]; usedTo: boolean }>();
  const note = (utc: string, id: string, usedTo = false) => {
    const ms = Date.parse(utc);
    const here = out.get(ms) ?? { ids: [], usedTo: false };
    out.set(ms, { ids: [...here.ids, id], usedTo: here.usedTo || usedTo });
  };
  for (const e of history.entries) if (e.zoneId === zone.id) note(e.atUtc, e.id, e.usedTo);
  for (const e of actingEvents(log, zone.id)) {
    note(e.atUtc, e.id);
    for (const a of actsOf(e))
      if (a.does === 'dark' && Number.isFinite(a.toMs)) note(new Date(a.toMs).toISOString(), `${e.id}/end`);
  }
  return out;
}

/** A part of today's wall clock, with an instant inside it that says what ran then. */
export interface Stretch {
  fromMinute: number;
  toMinute: number;
  atUtc: string;
}

/** Light so far per spot, mol m⁻², over stretches of today: each by what ran in it. */
export function soFarAt(
  zone: Zone,
  history: HistoryDoc,
  log: LogDoc,
  cal: Calibration | null,
  stretches: readonly Stretch[],
  parOf: ParOf,
): number[] {
  const course = courseOf(zone, history, log, cal?.yellow440PerM ?? zone.water.yellow440PerM);
  const light = lighter(zone, course, parOf, new Map(), new Set());
  return stretches.reduce<number[]>(
    (sums, part) => {
      const ms = Date.parse(part.atUtc);
      const standing = course.at(ms);
      if (standing.entries.length === 0) return sums;
      const date = civilDay(ms, zone.timeZone).date;
      const lit = light.part(standing, date, part.fromMinute, part.toMinute);
      return sums.map((v, s) => v + lit[s]!.dli);
    },
    zone.spots.map(() => 0),
  );
}
