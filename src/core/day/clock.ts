import { wrapMinute } from '../shape/ring';

/** "HH:MM" (00:00-23:59) to minutes, or null. */
export function parseTime(text: string): number | null {
  const match = /^([01]\d|2[0-3]):([0-5]\d)$/.exec(text);
  return match ? Number(match[1]) * 60 + Number(match[2]) : null;
}

/** What a keeper types: 8, 8:5, 0805, 8.05, 08:05. Null when it is no time of day. */
export function parseTypedTime(text: string): number | null {
  const match = /^\s*(\d{1,2})(?:\s*[:.h]\s*(\d{1,2})|(\d{2}))?\s*$/.exec(text);
  if (!match) return null;
  const hour = Number(match[1]);
  const minute = Number(match[2] ?? match[3] ?? 0);
  return hour < 24 && minute < 60 ? hour * 60 + minute : null;
}

/** Minutes to "HH:MM", wrapped into the day and rounded to the minute. */
export function formatTime(minute: number): string {
  const m = wrapMinute(Math.round(minute));
  return `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
}

/** "11 h 20 min", "40 min" */
export function formatHours(hours: number): string {
  const minutes = Math.round(hours * 60);
  const h = Math.floor(minutes / 60);
  const m = minutes % 60;
  if (h === 0 && m > 0) return `${m} min`;
  return m === 0 ? `${h} h` : `${h} h ${m} min`;
}
