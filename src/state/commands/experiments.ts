import type { Experiment, FragmentValue } from '@/core/record/experiment';

import { newId } from '../id';
import { type Command, keep, onZone, put } from './edit';

/** Fragments, days and rest that are usual; all of it can be set afterwards. */
export const usualExperiment = (
  of: Pick<Experiment, 'name' | 'change' | 'measure' | 'start'>,
  spotId: string | null,
): Experiment => ({
  ...{ id: newId(), phases: 'AB', values: [], phaseDays: 42, restDays: 14, ...of },
  fragments: Array.from({ length: 5 }, (_, i) => ({ id: newId(), name: `Fragment ${i + 1}`, spotId })),
});

export const setExperiment = (zoneId: string, experiment: Experiment, merge?: string): Command =>
  onZone(`experiment ${experiment.name}`, zoneId, (z) => put((z.experiments ??= []), experiment), merge);

export const removeExperiment = (zoneId: string, id: string): Command =>
  onZone('remove an experiment', zoneId, (z) => {
    if (!z.experiments) return;
    keep(z.experiments, (e) => e.id !== id);
    if (z.experiments.length === 0) delete z.experiments;
  });

/** Keeps what was measured, in place of what stood there; a value of null = it was not measured after all. */
export const setValues = (
  zoneId: string,
  experimentId: string,
  measured: readonly (Omit<FragmentValue, 'value'> & { value: number | null })[],
): Command =>
  onZone(measured.length === 1 ? 'a measure' : 'measures', zoneId, (z) => {
    const e = z.experiments?.find((x) => x.id === experimentId);
    if (!e) return;
    for (const { value, ...of } of measured) {
      keep(e.values, (x) => x.phase !== of.phase || x.fragmentId !== of.fragmentId || x.at !== of.at);
      if (value !== null) e.values.push({ ...of, value });
    }
  });
