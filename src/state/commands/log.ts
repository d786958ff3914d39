import type { LogEvent } from '@/core/record/log';
import { type Command, replace } from './edit';

const onLog = (name: string, change: (events: LogEvent[]) => LogEvent[]): Command => ({
  name,
  apply: (b) => ({ ...b, log: { ...b.log, events: change(b.log.events) } }),
});

/** Puts an event into the log, in place of the one with its id. */
export const setEvent = (event: LogEvent, name: string): Command =>
  onLog(name, (all) =>
    all.some((e) => e.id === event.id) ? replace(all, event.id, () => event) : [...all, event],
  );

export const removeEvent = (id: string): Command =>
  onLog('remove from the log', (all) => all.filter((e) => e.id !== id));
