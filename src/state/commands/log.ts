import type { CaseBundle } from '@/core/record/documents';
import type { LogEvent } from '@/core/record/log';
import { type Command, together } from './edit';

/** A log grows to tens of thousands of entries, of which an edit touches one: it is copied as a list, never drafted. */
export const withEvents = (b: CaseBundle, events: LogEvent[]): CaseBundle => ({
  ...b,
  log: { ...b.log, events },
});

/** Puts an event into the log, in place of the one with its id. */
export const setEvent = (event: LogEvent, name: string): Command => ({
  name,
  apply: (b) => {
    const { events } = b.log;
    const known = events.some((e) => e.id === event.id);
    return withEvents(b, known ? events.map((e) => (e.id === event.id ? event : e)) : [...events, event]);
  },
});

/** A change together with what was expected of it, as one step; null = nothing was. */
export const withTold = (change: Command, told: LogEvent | null): Command =>
  told ? together(change.name, change, setEvent(told, change.name)) : change;

export const removeEvent = (id: string): Command => ({
  name: 'remove from the log',
  apply: (b) =>
    withEvents(
      b,
      b.log.events.filter((e) => e.id !== id),
    ),
});

/** Puts many entries into the log, those of its own first come first. */
export const addEvents = (events: readonly LogEvent[], name: string): Command => ({
  name,
  apply: (b) => withEvents(b, [...b.log.events, ...events]),
});
