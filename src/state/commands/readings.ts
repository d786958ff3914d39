import type { Reading, Session } from '@/core/record/readings';
import { type Command, replace } from './edit';

const onSessions = (name: string, change: (sessions: Session[]) => Session[], merge?: string): Command => ({
  name,
  merge,
  apply: (b) => ({ ...b, readings: { ...b.readings, sessions: change(b.readings.sessions) } }),
});

export const addSession = (session: Session): Command =>
  onSessions(`readings: ${session.name}`, (all) => [...all, session]);

export const setSession = (
  id: string,
  change: Partial<Pick<Session, 'name' | 'meter' | 'pumpsOn' | 'counts'>>,
): Command => onSessions('a session of readings', (all) => replace(all, id, (s) => ({ ...s, ...change })));

export const removeSession = (id: string): Command =>
  onSessions('remove a session', (all) => all.filter((s) => s.id !== id));

/** Puts a reading into a session, in place of the one with its id. */
export const setReading = (sessionId: string, reading: Reading): Command =>
  onSessions(`reading at ${reading.name}`, (all) =>
    replace(all, sessionId, (s) => ({
      ...s,
      readings: s.readings.some((r) => r.id === reading.id)
        ? replace(s.readings, reading.id, () => reading)
        : [...s.readings, reading],
    })),
  );

/** Removes a reading; a session that it leaves empty goes with it. */
export const removeReading = (sessionId: string, id: string): Command =>
  onSessions('remove a reading', (all) =>
    all.flatMap((s) => {
      if (s.id !== sessionId) return [s];
      const readings = s.readings.filter((r) => r.id !== id);
      return readings.length > 0 ? [{ ...s, readings }] : [];
    }),
  );
