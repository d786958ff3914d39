import { DAY_MINUTES, wrapMinute } from '../shape/ring';
import { unitsSaid } from '../shape/units';

/** "HH:MM" (00:00-23:59) to minutes, or null. */
export function parseTime(text: string): number | null {
  const match = /^([01]\d|2[0-3]):([0-5]\d)$/.exec(text);
  return match ? Number(match[1]) * 60 + Number(match[2]) : null;
}

/** What a keeper types: 8, 8:5, 0805, 8.05, 08:05, 8:05 pm. Null when it is no time of day. */
export function parseTypedTime(text: string): number | null {
  const match = /^\s*(\d{1,2})(?:\s*[:.h]\s*(\d{1,2})|(\d{2}))?\s*(?:([ap])\.?(?:m\.?)?)?\s*$/i.exec(text);
  if (!match) return null;
  const half = match[4]?.toLowerCase();
  const typed = Number(match[1]);
  if (half && (typed < 1 || typed > 12)) return null;
  const hour = half ? (typed % 12) + (half === 'p' ? 12 : 0) : typed;
  const minute = Number(match[2] ?? match[3] ?? 0);
  return hour < 24 && minute < 60 ? hour * 60 + minute : null;
}

/** Minutes to "HH:MM" as machines read it, wrapped into the day and rounded to the minute. */
export function isoTime(minute: number): string {
  const m = wrapMinute(Math.round(minute));
  return `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
}

/** A time of day as it is said: "14:05", "2:05 pm". */
export function formatTime(minute: number): string {
  const iso = isoTime(minute);
  if (unitsSaid().clock === '24 h') return iso;
  const hour = Number(iso.slice(0, 2));
  return `${hour % 12 || 12}${iso.slice(2)} ${hour < 12 ? 'am' : 'pm'}`;
}

/** The same where there is little room: "14:05", "2:05p". */
export const shortTime = (minute: number): string => formatTime(minute).replace(/ ([ap])m/, '$1');

/** The same for an end: midnight closes its day. */
export const formatEnd = (minute: number): string =>
  minute >= DAY_MINUTES && unitsSaid().clock === '24 h' ? '24:00' : formatTime(minute);

/** Hours that are only about so many: to the half hour. */
export const aboutHours = (hours: number): string => formatHours(Math.round(hours * 2) / 2);

/** "11 h 20 min", "40 min" */
export function formatHours(hours: number): string {
  const minutes = Math.round(hours * 60);
  const h = Math.floor(minutes / 60);
  const m = minutes % 60;
  if (h === 0 && m > 0) return `${m} min`;
  return m === 0 ? `${h} h` : `${h} h ${m} min`;
}
