import * as v from 'valibot';

import { dateOf, dayNumber } from '../day/wallClock';
import { between, date, id, list, name, text, whole, wholeDays } from '../shape/shape';

/** What is measured of a fragment: of mass, length and area the growth counts, a score or colour as it is. */
export const MEASURED = {
  mass: { name: 'weighed mass', unit: 'mg', grows: true, pictures: false },
  length: { name: 'length', unit: 'mm', grows: true, pictures: false },
  area: { name: 'outlined area', unit: 'cm²', grows: true, pictures: true },
  lightness: { name: 'how light the patch is', unit: 'L*', grows: false, pictures: true },
  chroma: { name: 'how strong the patch’s colour is', unit: 'C*', grows: false, pictures: true },
  blind: { name: 'a score given blind', unit: 'of 10', grows: false, pictures: true },
  score: { name: 'a score of your own', unit: '', grows: false, pictures: false },
} as const;
export type Measured = keyof typeof MEASURED;

const valueSchema = v.object({
  /** the phase, counted from 0 */
  phase: whole(0, 2),
  fragmentId: id,
  /** as the measured stretch of the phase begins, or ends */
  at: v.picklist(['start', 'end'], 'is "start" or "end"'),
  value: between(0.001, 1e7),
  date,
});
export type FragmentValue = v.InferOutput<typeof valueSchema>;

export const experimentSchema = v.object({
  id,
  /** the question */
  name,
  /** the one change from A to B, in the keeper's words */
  change: text,
  measure: v.picklist(Object.keys(MEASURED) as Measured[], 'is nothing that is measured here'),
  /** local date on which the first rest begins */
  start: date,
  /** A then B, or A, B and A again, to see an effect go */
  phases: v.picklist(['AB', 'ABA'], 'is "AB" or "ABA"'),
  /** days that are measured in each phase, after so many of rest */
  phaseDays: wholeDays(3, 365),
  restDays: wholeDays(0, 120),
  fragments: list(v.object({ id, name, spotId: v.nullable(id) }), 1, 40),
  values: list(valueSchema),
});
/** A question to the tank: one change, phases with a rest before each, fragments that are measured. */
export type Experiment = v.InferOutput<typeof experimentSchema>;

/** A phase in time: rest first, then what is measured. Local dates. */
export interface Phase {
  light: 'A' | 'B';
  restFrom: string;
  from: string;
  to: string;
}

/** The phases of an experiment, one after the other. */
export function phasesOf({ start, phases, phaseDays, restDays }: Experiment): Phase[] {
  const first = dayNumber(start);
  return [...phases].map((light, i) => {
    const rest = first + i * (restDays + phaseDays);
    return {
      light: light as 'A' | 'B',
      ...{ restFrom: dateOf(rest), from: dateOf(rest + restDays), to: dateOf(rest + restDays + phaseDays) },
    };
  });
}

/** When something is measured, and how much of it is there. */
export interface Measuring {
  phase: number;
  at: FragmentValue['at'];
  date: string;
  done: number;
}

/** Days on which fragments are measured; a score only as a phase ends. */
export const measurings = (e: Experiment): Measuring[] =>
  phasesOf(e).flatMap((p, phase) =>
    (MEASURED[e.measure].grows ? (['start', 'end'] as const) : (['end'] as const)).map((at) => ({
      ...{ phase, at, date: at === 'start' ? p.from : p.to },
      done: e.fragments.filter((f) => valueOf(e, phase, f.id, at) !== null).length,
    })),
  );

export const valueOf = (
  e: Experiment,
  phase: number,
  fragmentId: string,
  at: FragmentValue['at'],
): FragmentValue | null =>
  e.values.find((x) => x.phase === phase && x.fragmentId === fragmentId && x.at === at) ?? null;

/** Experiments in whose measured days a date falls, with when those end. */
export const measuredOn = (all: readonly Experiment[], date: string): { e: Experiment; to: string }[] =>
  all.flatMap((e) => {
    const phase = phasesOf(e).find((p) => date >= p.from && date < p.to);
    return phase ? [{ e, to: phase.to }] : [];
  });
