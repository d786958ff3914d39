import { dequal } from 'dequal';
import { DateTime } from 'luxon';
import { useEffect, useRef, useState } from 'react';

import { formatTime } from '@/core/day/clock';

const TICK_MS = 15_000;

export const deviceTimeZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';

/** The present instant (ms), renewed every quarter minute. */
export function useNowMs(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/**
 * A value once it has stood still for so long, and whether it does: what follows a finger asks for nothing heavy meanwhile, and
 * what was asked before is not taken for what is there now.
 */
export function useSettled<T>(value: T, ms = 180): { settled: T; still: boolean } {
  const same = useRef(value);
  if (!dequal(same.current, value)) same.current = value;
  const now = same.current;
  const [settled, setSettled] = useState(now);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(now), ms);
    return () => clearTimeout(timer);
  }, [now, ms]);
  return { settled, still: settled === now };
}

const at = (ms: number, zone: string) => DateTime.fromMillis(ms, { zone });

/** Minute of the wall-clock day in a time zone, with fractions. */
export function wallMinute(ms: number, timeZone: string): number {
  const t = at(ms, timeZone);
  return t.hour * 60 + t.minute + t.second / 60;
}

/** "2026-11-24" in a time zone. */
export const localDate = (ms: number, timeZone: string): string => at(ms, timeZone).toISODate()!;
export const addDays = (isoDate: string, days: number): string =>
  DateTime.fromISO(isoDate).plus({ days }).toISODate()!;
export const daysBetween = (fromIso: string, toIso: string): number =>
  Math.round(DateTime.fromISO(toIso).diff(DateTime.fromISO(fromIso), 'days').days);
/** A date that is so far from now is said with its year, days. Mark: rule of thumb. */
const YEAR_SAID_DAYS = 270;
const said = (t: DateTime, format: string): string => {
  const days = Math.abs(t.toMillis() - Date.now()) / 86_400_000;
  return t.setLocale('en-GB').toFormat(days > YEAR_SAID_DAYS ? `${format} yyyy` : format);
};
/** "Tuesday 24 November, 16:40"; with its year where that is not plain. */
export const longDate = (ms: number, timeZone: string): string =>
  `${said(at(ms, timeZone), 'cccc d LLLL')}, ${timeOfDay(ms, timeZone)}`;
/** "16:40" */
export const timeOfDay = (ms: number, timeZone: string): string =>
  formatTime(Math.floor(wallMinute(ms, timeZone)));
/** "24 November 2026": on paper, which is kept. */
export const paperDate = (ms: number, timeZone: string): string =>
  at(ms, timeZone).setLocale('en-GB').toFormat('d LLLL yyyy');
/** "Tue 24 Nov"; with its year where that is not plain. */
export const shortDate = (isoDate: string): string => said(DateTime.fromISO(isoDate), 'ccc d LLL');
/** The present instant, for what is done now; drawing uses useNowMs. */
export const nowUtcIso = (): string => new Date().toISOString();
export const utcIso = (ms: number): string => new Date(ms).toISOString();
/** Instant of a wall-clock date and minute in a time zone. */
export const instantOf = (isoDate: string, minute: number, timeZone: string): string =>
  DateTime.fromISO(isoDate, { zone: timeZone })
    .set({ hour: Math.floor(minute / 60), minute: minute % 60 })
    .toUTC()
    .toISO()!;

/** "today", "yesterday", "12 days ago" */
export function daysAgo(atUtc: string, nowMs: number, timeZone: string): string {
  const days = daysBetween(localDate(Date.parse(atUtc), timeZone), localDate(nowMs, timeZone));
  return days <= 0 ? 'today' : days === 1 ? 'yesterday' : `${days} days ago`;
}

/** A date as it is typed: 2026-01-31. */
export const isDate = (text: string): boolean =>
  /^\d{4}-\d\d-\d\d$/.test(text) && DateTime.fromISO(text).isValid;
