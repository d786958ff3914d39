import type { Proof, Reading, Session } from '@/core/record/readings';
import { type Command, keep, onBundle, put, within } from './edit';

const onSessions = (name: string, change: (sessions: Session[]) => void): Command =>
  onBundle(name, (b) => change(b.readings.sessions));

export const addSession = (session: Session): Command =>
  onSessions(`readings: ${session.name}`, (all) => put(all, session));

export const setSession = (
  id: string,
  change: Partial<Pick<Session, 'name' | 'meter' | 'pumpsOn' | 'counts'>>,
): Command => onSessions('a session of readings', (all) => within(all, id, (s) => Object.assign(s, change)));

export const removeSession = (id: string): Command =>
  onSessions('remove a session', (all) => keep(all, (s) => s.id !== id));

/** Puts a reading into a session, in place of the one with its id. */
export const setReading = (sessionId: string, reading: Reading): Command =>
  onSessions(`reading at ${reading.name}`, (all) => within(all, sessionId, (s) => put(s.readings, reading)));

/** Removes a reading; a session that it leaves empty goes with it. */
export const removeReading = (sessionId: string, id: string): Command =>
  onSessions('remove a reading', (all) => {
    within(all, sessionId, (s) => keep(s.readings, (r) => r.id !== id));
    keep(all, (s) => s.id !== sessionId || s.readings.length > 0);
  });

/** A reading of what a lamp really runs. */
export const addProof = (proof: Proof): Command =>
  onBundle('a reading of a proof', (b) => put(b.readings.proofs, proof));

export const removeProof = (id: string): Command =>
  onBundle('remove a reading of a proof', (b) => keep(b.readings.proofs, (p) => p.id !== id));
