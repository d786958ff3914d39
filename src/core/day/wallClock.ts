import { firstWhole } from '../shape/bisect';
import { wrapMinute, DAY_MINUTES } from '../shape/ring';
import { DateTime } from 'luxon';

import { type Day, secondsBetween } from './day';

/** A day of the calendar somewhere. */
export interface CivilDay {
  /** local date, "2026-03-29" */
  date: string;
  /** IANA zone */
  timeZone: string;
}

/** The day of the calendar that an instant falls on. */
export const civilDay = (ms: number, timeZone: string): CivilDay => ({
  date: DateTime.fromMillis(ms, { zone: timeZone }).toISODate()!,
  timeZone,
});

const start = ({ date, timeZone }: CivilDay) => DateTime.fromISO(date, { zone: timeZone }).startOf('day');

/** The instant a day begins. */
export const dayStartMs = (on: CivilDay): number => start(on).toMillis();
/** The day before (−1) or after (+1). */
export const neighbour = (on: CivilDay, days: number): CivilDay => ({
  ...on,
  date: start(on).plus({ days }).toISODate()!,
});
/** Wall-clock minute of an instant, with fractions. */
export function minuteOnDay(ms: number, { timeZone }: Pick<CivilDay, 'timeZone'>): number {
  const t = DateTime.fromMillis(ms, { zone: timeZone });
  return t.hour * 60 + t.minute + t.second / 60;
}

const DAY_MS = 86_400_000;
/** A local date as a number that counts days, and back. */
export const dayNumber = (date: string): number => Math.round(Date.parse(`${date}T00:00:00Z`) / DAY_MS);
export const dateOf = (day: number): string => new Date(day * DAY_MS).toISOString().slice(0, 10);
/** Day of the week of a local date, 1 = Monday … 7 = Sunday. */
export const weekdayOf = (date: string): number => ((dayNumber(date) + 3) % 7) + 1;

/** A run of minutes of a lamp's clock. */
export interface ClockRun {
  fromMinute: number;
  toMinute: number;
}

/** Instant at which the clocks change between two instants; null when they do not. */
function changeBetween(fromMs: number, toMs: number, timeZone: string): number | null {
  const offset = (ms: number) => DateTime.fromMillis(ms, { zone: timeZone }).offset;
  if (offset(fromMs) === offset(toMs - 1)) return null;
  return firstWhole((ms) => offset(ms) === offset(fromMs), fromMs, toMs - 1);
}

/** Minutes that a clock of its own, set at an instant, stands behind the wall as a day begins: 60 in summer when it was set in winter. */
export function behindWall(on: CivilDay, setUtc: string): number {
  const offset = (ms: number) => DateTime.fromMillis(ms, { zone: on.timeZone }).offset;
  return offset(dayStartMs(on)) - offset(Date.parse(setUtc));
}

/** Runs of the wall clock from the start of an instant's day up to it, cut at given instants: each with an instant inside it. */
export function runsUpTo(
  nowMs: number,
  timeZone: string,
  cutsMs: readonly number[],
): (ClockRun & { fromMs: number })[] {
  const on = civilDay(nowMs, timeZone);
  const startMs = dayStartMs(on);
  const change = changeBetween(startMs, dayStartMs(neighbour(on, 1)), timeZone);
  const marks = [startMs, ...cutsMs, ...(change === null ? [] : [change])]
    .filter((ms) => ms >= startMs && ms <= nowMs)
    .sort((a, b) => a - b);
  return marks.map((fromMs, i) => {
    const fromMinute = minuteOnDay(fromMs, on);
    return { fromMs, fromMinute, toMinute: fromMinute + ((marks[i + 1] ?? nowMs) - fromMs) / 60_000 };
  });
}

/** Minutes between two runs of one day's clock, cut at midnight. */
function cutAtMidnight(from: number, length: number): ClockRun[] {
  const a = wrapMinute(from);
  const b = a + length;
  return b <= DAY_MINUTES
    ? [{ fromMinute: a, toMinute: b }]
    : [
        { fromMinute: a, toMinute: DAY_MINUTES },
        { fromMinute: 0, toMinute: b - DAY_MINUTES },
      ];
}

/**
 * What a lamp's clock runs through on a day: one run of 24 hours, or the two that a clock change makes of it. When clocks go
 * forward the skipped hour is not lit; when they go back the repeated hour is lit twice. A clock of its own runs on evenly from
 * the time it was set in (`setUtc`).
 */
export function clockRuns(
  on: CivilDay,
  clock: { follows: true } | { follows: false; setUtc: string } = { follows: true },
): ClockRun[] {
  const fromMs = dayStartMs(on);
  const toMs = dayStartMs(neighbour(on, 1));
  if (!clock.follows)
    return cutAtMidnight(minuteOnDay(fromMs, on) - behindWall(on, clock.setUtc), (toMs - fromMs) / 60_000);
  const change = changeBetween(fromMs, toMs, on.timeZone);
  if (change === null) return [{ fromMinute: 0, toMinute: DAY_MINUTES }];
  const after = minuteOnDay(change, on);
  return [
    { fromMinute: 0, toMinute: (change - fromMs) / 60_000 },
    { fromMinute: after, toMinute: after + (toMs - change) / 60_000 },
  ];
}

/** What the wall clock runs through between two instants of one day: one run, or the two that a clock change makes of it. */
export function wallRuns(fromMs: number, toMs: number, timeZone: string): ClockRun[] {
  const change = changeBetween(fromMs, toMs, timeZone);
  const parts =
    change === null
      ? [[fromMs, toMs]]
      : [
          [fromMs, change],
          [change, toMs],
        ];
  return (parts as [number, number][])
    .filter(([from, to]) => to > from)
    .map(([from, to]) => {
      const fromMinute = minuteOnDay(from, { timeZone });
      return { fromMinute, toMinute: fromMinute + (to - from) / 60_000 };
    });
}

/** No zone changes its clocks twice within so many days but for a few weeks of a fast. */
const CHANGE_STEP_DAYS = 14;
/** Days, as numbers, of 23 or 25 hours from one day up to another. */
export function clockChangeDays(fromDay: number, toDay: number, timeZone: string): Set<number> {
  const offset = (day: number) => DateTime.fromISO(dateOf(day), { zone: timeZone }).startOf('day').offset;
  const out = new Set<number>();
  for (let day = fromDay; day <= toDay; day += CHANGE_STEP_DAYS) {
    const next = Math.min(toDay + 1, day + CHANGE_STEP_DAYS);
    const before = offset(day);
    if (offset(next) !== before) out.add(firstWhole((d) => offset(d + 1) === before, day, next - 1));
  }
  return out;
}

/** Seconds at full per channel over runs of the clock. */
export function secondsOver(day: Day, runs: readonly ClockRun[]): number[] {
  const sums = (day.knots[0]?.levels ?? []).map(() => 0);
  for (const r of runs) secondsBetween(day, r.fromMinute, r.toMinute).forEach((v, c) => (sums[c]! += v));
  return sums;
}

/** The next date after one on which the clocks change, within 400 days, and by how much; null where they do not. */
export function nextClockChange(on: CivilDay): { date: string; hours: number } | null {
  let at = start(on);
  for (let i = 0; i < 400; i += 1) {
    const next = at.plus({ days: 1 });
    const hours = next.diff(at, 'hours').hours;
    if (hours !== 24) return { date: at.toISODate()!, hours };
    at = next;
  }
  return null;
}
