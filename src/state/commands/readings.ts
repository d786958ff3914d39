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

/** Lets a reading count however far it lies off, or be left out again where it does not fit. */
export const trustReading = (sessionId: string, id: string, trusted: boolean): Command =>
  onSessions(trusted ? 'bring a reading back' : 'let the fit leave a reading out', (all) =>
    within(all, sessionId, (s) => within(s.readings, id, (r) => Object.assign(r, { trusted }))),
  );

/** Takes a meter at its word, in every session it was used in, or lets its scale be fitted again. */
export const trustMeter = ({ kind, simulated }: Session['meter'], trusted: boolean): Command =>
  onSessions(trusted ? 'take the meter at its word' : 'fit the meter’s scale', (all) =>
    all.forEach((s) => {
      if (s.meter.kind === kind && s.meter.simulated === simulated) s.meter.trusted = trusted;
    }),
  );

/** A reading of what a lamp really runs. */
export const addProof = (proof: Proof): Command =>
  onBundle('a reading of a proof', (b) => put(b.readings.proofs, proof));

export const removeProof = (id: string): Command =>
  onBundle('remove a reading of a proof', (b) => keep(b.readings.proofs, (p) => p.id !== id));
