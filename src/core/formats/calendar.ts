import ical, {
  ICalAlarmRelatesTo,
  ICalAlarmType,
  ICalCalendarMethod,
  ICalEventRepeatingFreq,
} from 'ical-generator';
import { DateTime } from 'luxon';
import { tzlib_get_ical_block } from 'timezones-ical-library';

import { DAY_MINUTES } from '../shape/ring';

/** A circuit and when it is on; minutes run on over midnight. */
export interface OnTimes {
  name: string;
  windows: readonly { from: number; to: number }[];
}

export interface CalendarInput {
  title: string;
  timeZone: string;
  /** local date on which it begins */
  fromDate: string;
  /** a stable id, so that a newer file takes the place of an older one */
  id: string;
  nowMs: number;
  circuits: readonly OnTimes[];
}

/** Daily events, one for each time a circuit is on, as iCalendar text (RFC 5545) in the water's own time zone. */
export function onOffCalendar(input: CalendarInput): string {
  const calendar = ical({
    name: input.title,
    prodId: { company: 'Chromatheca', product: 'days', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    // the calendar itself names no zone, so that stamps stay in UTC; the zone of its events is written out
    timezone: { name: null, generator: (zone) => tzlib_get_ical_block(zone)[0] ?? null },
  });
  const midnight = DateTime.fromISO(input.fromDate, { zone: input.timeZone });
  const at = (minute: number) =>
    midnight
      .plus({ days: Math.floor(minute / DAY_MINUTES) })
      .set({ hour: Math.floor((minute % DAY_MINUTES) / 60), minute: minute % 60 });
  for (const circuit of input.circuits) {
    circuit.windows.forEach((w, i) => {
      calendar.createEvent({
        id: `${input.id}-${circuit.name.toLowerCase().replace(/\W+/g, '-')}-${i + 1}@chromatheca`,
        start: at(w.from),
        end: at(w.to),
        timezone: input.timeZone,
        stamp: new Date(input.nowMs),
        summary: `${circuit.name} on`,
        description: 'The light is on while this lasts.',
        repeating: { freq: ICalEventRepeatingFreq.DAILY },
      });
    });
  }
  return calendar.toString();
}

/** An alarm of a whole day sounds at nine. */
const ALARM_S = 9 * 3600;

/** What is to be done on a date. */
export interface DatedDeed {
  /** tells it from the others where they are no numbered steps */
  key?: string;
  date: string;
  title: string;
  text: string;
  /** days after which it is due again; absent = once */
  everyDays?: number;
}

export interface DatedCalendarInput {
  title: string;
  /** a stable id, so that a newer file takes the place of an older one */
  id: string;
  nowMs: number;
  steps: readonly DatedDeed[];
}

/** What is to be done, as events of a whole day each with what it is about: iCalendar text (RFC 5545). */
export function datedCalendar(input: DatedCalendarInput): string {
  const calendar = ical({
    name: input.title,
    prodId: { company: 'Chromatheca', product: 'dates', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  });
  input.steps.forEach((step, i) => {
    const event = calendar.createEvent({
      id: `${input.id}-${step.key ?? `step-${i + 1}`}@chromatheca`,
      start: DateTime.fromISO(step.date, { zone: 'utc' }),
      allDay: true,
      stamp: new Date(input.nowMs),
      summary: step.title,
      description: step.text,
      repeating: step.everyDays ? { freq: ICalEventRepeatingFreq.DAILY, interval: step.everyDays } : null,
    });
    // a whole day begins at midnight: the alarm is in the morning
    event
      .createAlarm({ type: ICalAlarmType.display, triggerAfter: ALARM_S, description: step.title })
      .relatesTo(ICalAlarmRelatesTo.start);
  });
  return calendar.toString();
}
