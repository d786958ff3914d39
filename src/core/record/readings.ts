import { median } from 'd3-array';
import * as v from 'valibot';

import { METER_KIND_IDS } from '../meter/kinds';
import { between, id, instant, list, minute, name, share, shares, text, truth } from '../shape/shape';
import { BAND_IDS, BANDS, type BandId, type PerBand } from '../spectrum/bands';
import { lampKindSchema } from '../spectrum/lampKind';
import type { DocumentKind } from './documentKind';
import { READINGS_MIGRATIONS } from './migrations';
import { hungLampSchema, placeEntries } from './zone';

const rigGroup = v.object({
  groupId: id,
  name,
  lampKind: lampKindSchema,
  lamps: list(hungLampSchema, 1),
});
/** Lamps as they hung when something was read, by value. */
export type RigGroup = v.InferOutput<typeof rigGroup>;

const meterUse = v.object({
  kind: v.picklist(METER_KIND_IDS, `is one of ${METER_KIND_IDS.join(', ')}`),
  /** what a sensor calibrated in air reads low under water, from its maker; 1 = calibrated in water or none */
  immersionFactor: between(0.5, 3),
  /** how far the sensor's face stands above the place that is meant, cm */
  sensorAboveCm: between(0, 50, ' cm'),
  /** a meter of the app's own that reads a made-up truth, never water */
  simulated: truth,
  /** taken at its word: no scale of its own is fitted */
  trusted: v.optional(truth),
});
/** The meter of a session, and how it is held. */
export type MeterUse = v.InferOutput<typeof meterUse>;

const reading = v.object({
  id,
  /** the spot it was taken at, when that is one */
  spotId: v.nullable(id),
  name,
  ...placeEntries,
  atUtc: instant,
  /** as shown, in the meter's unit */
  tries: v.pipe(
    v.array(between(0, 1e6), 'give a list'),
    v.minLength(1, 'at least 1 needed'),
    v.maxLength(50, 'at most 50 allowed'),
  ),
  /** share of the light in each of the nine bands, from a spectrometer */
  bands: v.nullable(
    v.object(Object.fromEntries(BAND_IDS.map((b) => [b, share])) as Record<BandId, typeof share>),
  ),
  /** emitted shares by group and channel */
  levels: v.record(id, shares),
  /** it counts however far it lies off */
  trusted: v.optional(truth),
});
/** What the meter said at a place, try by try, with the levels lit then. */
export type Reading = v.InferOutput<typeof reading>;

const session = v.object({
  id,
  zoneId: id,
  name,
  atUtc: instant,
  meter: meterUse,
  /** pumps on: the surface ripples and readings flicker */
  pumpsOn: truth,
  /** what was lit, in words */
  lit: text,
  /** whether the calibration listens to it */
  counts: truth,
  /** null = as the lamps hang in the case now (readings older than this record) */
  rig: v.nullable(list(rigGroup)),
  readings: list(reading),
});
/** One evening with a meter: readings taken under one rig with one meter. */
export type Session = v.InferOutput<typeof session>;

const proof = v.object({
  id,
  /** what ran when it was taken */
  entryId: id,
  atUtc: instant,
  /** clock time it was taken at, minute of the day by the wall */
  minute,
  /** spot it was taken at; null for a percent that the lamp displays and for what the eye sees of it */
  spotId: v.nullable(id),
  kind: v.picklist(['par', 'lux', 'percent', 'lit'], 'is "par", "lux", "percent" or "lit"'),
  /** µmol, lux, percent of full, or 1 lit and 0 dark */
  value: between(0, 500_000),
});
/** A reading that is to say what a lamp really runs. */
export type Proof = v.InferOutput<typeof proof>;

const MOST_SESSIONS = 1000;
const MOST_PROOFS = 5000;
const readings = v.object({
  format: v.literal('chromatheca-readings', 'is no Chromatheca list of readings'),
  version: v.literal(5),
  caseId: id,
  sessions: list(session, 0, MOST_SESSIONS),
  proofs: list(proof, 0, MOST_PROOFS),
});
export type ReadingsDoc = v.InferOutput<typeof readings>;

export const readingsKind: DocumentKind<ReadingsDoc> = {
  format: 'chromatheca-readings',
  version: 5,
  schema: readings,
  migrations: READINGS_MIGRATIONS,
  empty: (caseId) => ({ format: 'chromatheca-readings', version: 5, caseId, sessions: [], proofs: [] }),
  idKey: 'caseId',
  lists: { sessions: MOST_SESSIONS, proofs: MOST_PROOFS },
  spare: ['sessions.*', 'sessions.*.readings.*', 'proofs.*'],
};

/** Shares of bands from a list in the order of the bands, as files and meters give them. */
export const bandsOf = (inOrder: readonly number[]): PerBand =>
  Object.fromEntries(BANDS.map((b, i) => [b.id, inOrder[i] ?? 0])) as PerBand;

/** Sessions of a zone whose readings count. */
export const sessionsThatCount = (sessions: readonly Session[], zoneId: string): Session[] =>
  sessions.filter((s) => s.zoneId === zoneId && s.counts);

/** What the meter said, in its own unit, its best guess of several tries. */
export const shownOf = (reading: Reading): number => median(reading.tries) ?? NaN;
