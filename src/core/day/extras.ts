import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import * as v from 'valibot';
import { getMoonIllumination, getMoonTimes, getTimes } from 'suncalc';

import { between, date, id, list, minute, name, share, shares, truth, whole, window } from '../shape/shape';
import type { LampKind } from '../spectrum/lampKind';
import { normal, seeded, seedOf } from '../spectrum/random';
import { type Day, type Knot, overall, topOf, typedAt } from './day';
import { type Movable, unrolled } from './moves';
import { lampDay, lampLevels, type ResolvedThread } from './thread';
import { type CivilDay, dayNumber, dayStartMs, minuteOnDay, neighbour } from './wallClock';

/** A moon brighter than this at the brightest coral is no moon but a night without dark, µmol m⁻² s⁻¹. Mark: rule of thumb. */
export const MOON_MOST_UMOL = 1;
/** Deepest cloud that is offered. Mark: rule of thumb. */
export const CLOUD_DEPTH_MOST = 0.5;
/** Most flashes in any second: general flash threshold of WCAG 2.x, success criterion 2.3.1. Mark: standard. */
export const FLASHES_MOST = 3;

const moon = v.object({
  mix: shares,
  strengthShare: share,
  /** wall-clock window; it may run over midnight */
  ...window,
  /** follows the real moon of a place: up when it is up, as bright as it is lit; null = the same every night */
  real: v.nullable(v.object({ latitudeDeg: between(-90, 90, '°'), longitudeDeg: between(-180, 180, '°') })),
});
/** A faint light in the dark part of the day. */
export type Moon = v.InferOutput<typeof moon>;

const weather = v.object({
  seed: whole(0, 4_294_967_295),
  /** how much of the light the deepest cloud takes */
  depthShare: between(0, CLOUD_DEPTH_MOST),
  /** share of days with clouds */
  cloudyShare: share,
  storms: truth,
  flashesPerSecond: between(0.1, FLASHES_MOST),
});
/** Passing clouds and distant storms, for fun. */
export type Weather = v.InferOutput<typeof weather>;

const interlude = v.object({
  id,
  kind: v.picklist(['photograph', 'feeding', 'viewing', 'maintenance'], 'is no kind known here'),
  /** local date on which it begins */
  date,
  fromMinute: minute,
  minutes: whole(1, 720, ' min', 'give whole minutes'),
  strengthShare: share,
  mix: shares,
  mixName: name,
});
/** A timed replacement of the threads on one day, with a certain end. */
export type Interlude = v.InferOutput<typeof interlude>;
export type InterludeKind = Interlude['kind'];

const drift = v.object({
  latitudeDeg: between(-66, 66, '°'),
  /** how far first and last light may move */
  mostMinutes: between(1, 180, ' min'),
});
/** First and last light move through the year as the sun's do at a latitude. */
export type Drift = v.InferOutput<typeof drift>;

export const extrasSchema = v.object({
  moon: v.optional(moon),
  weather: v.optional(weather),
  interludes: v.optional(list(interlude)),
  drift: v.optional(drift),
});
/** What acts on a group's days besides threads, cap and easing. */
export type Extras = v.InferOutput<typeof extrasSchema>;

/** A moment before a minute, for the level that a jump leaves. */
const BEFORE_MIN = 1e-6;

/** Replaces what a day does between two minutes (0 ≤ from < to ≤ 1440) by fixed levels; it jumps in and out. */
export function insertWindow(day: Day, from: number, to: number, levels: readonly number[]): Day {
  const before = typedAt(day, wrapMinute(from - BEFORE_MIN));
  const after = typedAt(day, wrapMinute(to));
  const knots: Knot[] = day.knots.filter((k) => k.minute < from || k.minute > to);
  const start: Knot[] = [
    { minute: from, levels: before },
    { minute: from, levels },
  ];
  const end: Knot[] = [
    { minute: wrapMinute(to), levels },
    { minute: wrapMinute(to), levels: after },
  ];
  // a window that ends at midnight closes at the first moment of the ring
  const placed = to >= DAY_MINUTES ? [...end, ...knots.filter((k) => k.minute > 0)] : [...knots, ...end];
  return { ...day, knots: [...placed, ...start].sort((a, b) => a.minute - b.minute) };
}

/** Stretches of the ring in which every channel is dark, as minutes; `to` may lie after midnight. */
export function darkStretches(day: Day): { from: number; to: number }[] {
  const { knots } = day;
  const dark = (levels: readonly number[]) => levels.every((v) => v <= 0);
  if (knots.length === 0) return [];
  if (knots.every((k) => dark(k.levels))) return [{ from: 0, to: DAY_MINUTES }];
  const out: { from: number; to: number }[] = [];
  knots.forEach((k, i) => {
    const next = knots[(i + 1) % knots.length]!;
    const to = next.minute + (i + 1 === knots.length ? DAY_MINUTES : 0);
    if (to <= k.minute || !dark(k.levels) || (day.interpolation === 'ramp' && !dark(next.levels))) return;
    const last = out[out.length - 1];
    if (last && last.to === k.minute) last.to = to;
    else out.push({ from: k.minute, to });
  });
  // the stretch over midnight may have been met in two parts
  const first = out[0];
  const last = out[out.length - 1];
  if (first && last && first !== last && last.to === first.from + DAY_MINUTES) {
    last.to = first.to + DAY_MINUTES;
    out.shift();
  }
  return out;
}

/** Where a window and a stretch of the ring meet, cut at midnight. */
function meeting(a: { from: number; to: number }, b: { from: number; to: number }): [number, number][] {
  const out: [number, number][] = [];
  for (const shift of [-DAY_MINUTES, 0, DAY_MINUTES]) {
    const from = Math.max(a.from, b.from + shift);
    const to = Math.min(a.to, b.to + shift);
    if (to <= from) continue;
    const start = wrapMinute(from);
    const end = start + to - from;
    if (end <= DAY_MINUTES) out.push([start, end]);
    else out.push([start, DAY_MINUTES], [0, end - DAY_MINUTES]);
  }
  return out;
}

const windowOf = ({ fromMinute, toMinute }: Pick<Moon, 'fromMinute' | 'toMinute'>) => ({
  from: fromMinute,
  to: toMinute > fromMinute ? toMinute : toMinute + DAY_MINUTES,
});

/** How the real moon stands on a day: illuminated share 0..1, and the minutes it is up. */
export function moonOn(
  place: { latitudeDeg: number; longitudeDeg: number },
  on: CivilDay,
): { litShare: number; up: [from: number, to: number][] } {
  const startMs = dayStartMs(on);
  const { latitudeDeg, longitudeDeg } = place;
  const noon = new Date(startMs + 12 * 3_600_000);
  // the package looks from midnight UTC: two days of it hold every local day
  const events = [-1, 0, 1].flatMap((d) => {
    const t = getMoonTimes(new Date(startMs + d * 86_400_000), latitudeDeg, longitudeDeg, true);
    return [
      t.rise ? { at: t.rise.getTime(), up: true } : null,
      t.set ? { at: t.set.getTime(), up: false } : null,
    ].filter((e) => e !== null);
  });
  events.sort((a, b) => a.at - b.at);
  const { fraction } = getMoonIllumination(noon);
  const always = getMoonTimes(noon, latitudeDeg, longitudeDeg, true);
  if (events.length === 0) return { litShare: fraction, up: always.alwaysUp ? [[0, DAY_MINUTES]] : [] };
  const up: [number, number][] = [];
  let since: number | null = events[0]!.up ? null : -Infinity;
  for (const e of events) {
    if (e.up) since ??= e.at;
    else if (since !== null) {
      push(since, e.at);
      since = null;
    }
  }
  if (since !== null) push(since, Infinity);
  return { litShare: fraction, up };
  function push(fromMs: number, toMs: number) {
    const endMs = dayStartMs(neighbour(on, 1));
    const [a, b] = [Math.max(fromMs, startMs), Math.min(toMs, endMs)];
    if (b > a) up.push([minuteOnDay(a, on), b >= endMs ? DAY_MINUTES : minuteOnDay(b, on)]);
  }
}

/** Puts the moon into the dark of a day. Without a date the real moon counts as full and up: the most it can give. */
export function withMoon(day: Day, kind: LampKind, moon: Moon, on: CivilDay | null): Day {
  const sky = moon.real && on ? moonOn(moon.real, on) : null;
  const full = lampLevels(kind, moon.mix, moon.strengthShare);
  const levels = full.map((v) => v * (sky?.litShare ?? 1));
  if (levels.every((v) => v <= 0)) return day;
  let out = day;
  for (const [from, to] of moonWindows(day, moon)) {
    const parts = sky
      ? sky.up.map(([a, b]): [number, number] => [Math.max(a, from), Math.min(b, to)])
      : [[from, to] as [number, number]];
    for (const [a, b] of parts) if (b > a) out = insertWindow(out, a, b, levels);
  }
  return out;
}

/** When a moon may shine: its window where the day is dark, cut at midnight. */
const moonWindows = (day: Day, moon: Moon): [from: number, to: number][] =>
  darkStretches(day).flatMap((dark) => meeting(windowOf(moon), dark));

/** A moon that is the same every night as threads of the day, for lamps that have no moon of their own: in and out within a minute. */
export function moonAsThreads(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  moon: Moon,
): ResolvedThread[] {
  const day = lampDay(kind, threads, { capShare: 1, easingShare: 1 });
  const holds = kind.controller.interpolation === 'hold';
  const taken = new Set(threads.map((t) => t.minute));
  const out: ResolvedThread[] = [];
  const put = (minute: number, strengthShare: number) => {
    const at = wrapMinute(minute);
    if (taken.has(at)) return;
    taken.add(at);
    out.push({ minute: at, strengthShare, mix: moon.mix });
  };
  const windows = moonWindows(day, moon);
  for (const [from, to] of windows) {
    // midnight cuts a window in two, but not its light
    if (from > 0 || !windows.some(([, b]) => b === DAY_MINUTES)) {
      if (!holds) put(from + 1, 0);
      put(holds ? from : from + 2, moon.strengthShare);
    }
    if (to < DAY_MINUTES || !windows.some(([a]) => a === 0)) {
      if (!holds) put(to - 2, moon.strengthShare);
      put(holds ? to : to - 1, 0);
    }
  }
  return [...threads, ...out].sort((a, b) => a.minute - b.minute);
}

/** Interludes as they fall on a day. */
export function interludesOn(
  interludes: readonly Interlude[],
  on: CivilDay,
): { interlude: Interlude; from: number; to: number }[] {
  const yesterday = neighbour(on, -1).date;
  return interludes.flatMap((i) => {
    const end = i.fromMinute + i.minutes;
    if (i.date === on.date) return [{ interlude: i, from: i.fromMinute, to: Math.min(end, DAY_MINUTES) }];
    if (i.date === yesterday && end > DAY_MINUTES) return [{ interlude: i, from: 0, to: end - DAY_MINUTES }];
    return [];
  });
}

/** The interlude that takes the place of another where both run: the one added later; null = none does. */
export function overrules(interludes: readonly Interlude[], id: string): Interlude | null {
  const from = (i: Interlude) => dayNumber(i.date) * DAY_MINUTES + i.fromMinute;
  const at = interludes.findIndex((i) => i.id === id);
  const own = interludes[at];
  if (!own) return null;
  return (
    interludes
      .slice(at + 1)
      .findLast((i) => from(i) < from(own) + own.minutes && from(own) < from(i) + i.minutes) ?? null
  );
}

/** Puts a day's interludes in place of its threads; cap and easing hold, unless the controller says otherwise. */
function withInterludes(day: Day, kind: LampKind, interludes: readonly Interlude[], on: CivilDay): Day {
  const factor = kind.controller.interludeUnderCap ? 1 : overall(day);
  return interludesOn(interludes, on).reduce((out, { interlude, from, to }) => {
    const levels = lampLevels(kind, interlude.mix, interlude.strengthShare);
    return insertWindow(out, from, to, factor > 0 ? levels.map((v) => v / factor) : levels);
  }, day);
}

/** Clouds keep at least this far apart, and last so long, minutes. Mark: rule of thumb. */
const CLOUD = { everyMin: 55, leastMin: 8, mostMin: 35, edgeMin: 3 } as const;

/** Share of the light that the clouds of a day leave, as corners [minute, share]; empty on a clear day. */
export function cloudsOn(weather: Weather, on: CivilDay): [minute: number, leftShare: number][] {
  const random = seeded(seedOf(`${weather.seed}/${on.date}`));
  if (random() >= weather.cloudyShare || weather.depthShare <= 0) return [];
  const corners: [number, number][] = [];
  let minute = random() * CLOUD.everyMin;
  for (;;) {
    const length = CLOUD.leastMin + random() * (CLOUD.mostMin - CLOUD.leastMin);
    const left = 1 - Math.min(1, Math.max(0.25, 0.65 + 0.2 * normal(random))) * weather.depthShare;
    if (minute + length + 2 * CLOUD.edgeMin >= DAY_MINUTES) return corners;
    corners.push([minute, 1], [minute + CLOUD.edgeMin, left]);
    corners.push([minute + CLOUD.edgeMin + length, left], [minute + 2 * CLOUD.edgeMin + length, 1]);
    minute += length + 2 * CLOUD.edgeMin + 5 + random() * CLOUD.everyMin;
  }
}

function leftAt(corners: readonly [number, number][], minute: number): number {
  const next = corners.findIndex(([m]) => m > minute);
  if (next <= 0) return 1;
  const [[m0, f0], [m1, f1]] = [corners[next - 1]!, corners[next]!];
  return f0 + ((f1 - f0) * (minute - m0)) / (m1 - m0);
}

/** A day under its clouds: the lamp runs evenly from corner to corner. Days that hold their levels have no clouds. */
function withWeather(day: Day, weather: Weather, on: CivilDay): Day {
  const corners = cloudsOn(weather, on);
  if (corners.length === 0 || day.interpolation === 'hold' || day.knots.length === 0) return day;
  const stands = new Set(day.knots.map((k) => k.minute));
  const added = corners
    .filter(([m]) => !stands.has(m))
    .map(([minute]): Knot => ({ minute, levels: typedAt(day, minute) }));
  const knots = [...day.knots, ...added]
    .sort((a, b) => a.minute - b.minute)
    .map((k): Knot => {
      const left = leftAt(corners, k.minute);
      return { minute: k.minute, levels: k.levels.map((v) => v * left) };
    });
  return { ...day, knots };
}

/** A flash: when, in seconds after midnight, and its share of the mix. */
export interface Flash {
  atS: number;
  share: number;
}
/** A storm lasts so long, minutes. Mark: rule of thumb. */
const STORM_MIN = 12;
/** One day in so many has a storm. Mark: rule of thumb. */
const STORM_ONE_IN = 6;

/** When a storm would begin: a little before last light, so that most of it falls into the dark. */
export const stormMinute = (threads: readonly Movable[]): number =>
  Math.max(0, Math.min(DAY_MINUTES - STORM_MIN - 1, (unrolled(threads).at(-1)?.minute ?? 0) - STORM_MIN));

/** Flashes of a distant storm in the evening of a day; never more in a second than `flashesPerSecond`, at most three. */
export function flashesOn(weather: Weather, on: CivilDay, eveningMinute: number): Flash[] {
  const random = seeded(seedOf(`storm/${weather.seed}/${on.date}`));
  if (!weather.storms || random() >= 1 / STORM_ONE_IN) return [];
  const gap = 1 / Math.min(FLASHES_MOST, Math.max(0.1, weather.flashesPerSecond));
  const out: Flash[] = [];
  const end = (eveningMinute + STORM_MIN) * 60;
  for (let at = eveningMinute * 60 + random() * 20; at < end;) {
    // a few together, then a long pause
    for (let n = 1 + Math.floor(random() * 3); n > 0 && at < end; n -= 1) {
      out.push({ atS: at, share: 0.1 + 0.2 * random() });
      at += gap * (1.001 + random());
    }
    at += 4 + random() * 30;
  }
  return out;
}

/** Hours from sunrise to sunset at a latitude on a date; 0 or 24 where the sun does not rise or set. */
export function daylightHours(latitudeDeg: number, date: string): number {
  const noon = new Date(`${date}T12:00:00Z`);
  const { sunrise, sunset } = getTimes(noon, latitudeDeg, 0);
  const hours = (sunset.getTime() - sunrise.getTime()) / 3_600_000;
  if (Number.isFinite(hours)) return hours;
  const summer = (noon.getUTCMonth() >= 3 && noon.getUTCMonth() <= 8) === latitudeDeg > 0;
  return summer ? 24 : 0;
}

/** How far first light comes earlier and last light later than at the equinox, minutes; negative in winter. */
export const driftMinutes = (drift: Drift, date: string): number =>
  Math.max(
    -drift.mostMinutes,
    Math.min(drift.mostMinutes, ((daylightHours(drift.latitudeDeg, date) - 12) / 2) * 60),
  );

/** Threads with first and last light moved through the year; what lies between is stretched about their middle. */
export function drifted<T extends ResolvedThread>(threads: readonly T[], drift: Drift, date: string): T[] {
  const sorted = [...threads].sort((a, b) => a.minute - b.minute);
  if (sorted.length < 2) return sorted;
  const first = sorted[0]!.minute;
  const last = sorted[sorted.length - 1]!.minute;
  const [middle, half] = [(first + last) / 2, (last - first) / 2];
  const move = Math.max(-half * 0.8, Math.min(driftMinutes(drift, date), first, DAY_MINUTES - 1 - last));
  const factor = half > 0 ? (half + move) / half : 1;
  const taken = new Set<number>();
  return sorted.map((t) => {
    let minute = Math.round(middle + (t.minute - middle) * factor);
    while (taken.has(minute)) minute += 1;
    taken.add(minute);
    return { ...t, minute };
  });
}

/**
 * A day of a lamp with all that acts on it. Without a date it is the plain day with a moon; with one also drift, weather and
 * the interludes of that date, and the moon as it then is.
 */
export function extraDay(
  kind: LampKind,
  threads: readonly ResolvedThread[],
  shares: { capShare: number; easingShare: number },
  extras: Extras | undefined,
  on: CivilDay | null,
): Day {
  const { drift, weather, moon, interludes } = extras ?? {};
  const plain = lampDay(kind, drift && on ? drifted(threads, drift, on.date) : threads, shares);
  if (!extras) return plain;
  let day: Day = { ...plain, top: topOf(plain.knots) };
  if (weather && on) day = withWeather(day, weather, on);
  if (moon) day = withMoon(day, kind, moon, on);
  if (interludes && on) day = withInterludes(day, kind, interludes, on);
  return day;
}
