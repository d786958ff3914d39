import { minutesApart } from '../shape/ring';
import { minuteOnDay } from '../day/wallClock';
import type { HistoryDoc } from '../record/history';
import { kindOf, type LogDoc } from '../record/log';
import type { Photo } from '../record/log/photo';
import type { Zone } from '../record/zone';
import { runningAt } from './lit';

/** Pictures of a coral, oldest first. */
export const picturesOf = (log: LogDoc, spotId: string): Photo[] =>
  log.events
    .filter((e): e is Photo => e.kind === 'photo' && e.spotId === spotId)
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1));

/** Lamps change within an hour more than a camera should see. Mark: rule of thumb. */
const SAME_HOUR_MIN = 60;

/** What was lit as a picture was taken, in a few words. */
export const litWords = (zone: Zone, history: HistoryDoc, atUtc: string): string =>
  runningAt(history, zone, atUtc)
    .filter((e) => e.threads.length > 0)
    .map((e) => {
      const minute = minuteOnDay(Date.parse(atUtc), zone);
      const mix = e.threads.reduce((a, b) =>
        Math.abs(minutesApart(b.minute, minute)) < Math.abs(minutesApart(a.minute, minute)) ? b : a,
      ).mixName;
      return `${mix}, ${e.groupName} at ${Math.round(100 * e.capShare * e.easingShare)} %`;
    })
    .join(', ');

/** Why two pictures of a coral may not be held against one another. */
export function unlike(a: Photo, b: Photo, zone: Zone, history: HistoryDoc, log: LogDoc): string[] {
  const [from, to] = a.atUtc < b.atUtc ? [a, b] : [b, a];
  const ran = (at: string) =>
    runningAt(history, zone, at)
      .map((e) => e.id)
      .join();
  const minute = (p: Photo) => minuteOnDay(Date.parse(p.atUtc), zone);
  const off = Math.abs(minutesApart(minute(a), minute(b)));
  const between = log.events.filter(
    (e) =>
      'spotId' in e &&
      e.spotId === a.spotId &&
      (e.kind === 'befell' || e.kind === 'moved') &&
      e.atUtc > from.atUtc &&
      e.atUtc <= to.atUtc,
  );
  return [
    ...(ran(a.atUtc) === ran(b.atUtc) ? [] : ['the lamps were set otherwise']),
    ...(off > SAME_HOUR_MIN ? [`${Math.round(off / 60)} h apart in the day`] : []),
    ...(a.widthPx * b.heightPx === b.widthPx * a.heightPx ? [] : ['taken in another format']),
    ...between.map((e) => kindOf(e).words(e, zone)),
  ];
}
