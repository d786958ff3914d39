import * as v from 'valibot';

import { formSchema } from '../coral/form';
import { between, id, instant, list, name, share, shares, text, truth } from '../shape/shape';
import { lampKindSchema, spectrumPoints, spectrumQuantity } from '../spectrum/lampKind';
import type { DocumentKind } from './documentKind';
import { CASE_MIGRATIONS } from './migrations';
import { runningThreads } from './history';
import { zoneSchema } from './zone';

const plateVersion = v.object({ id, atUtc: instant, note: text, mix: shares });

export const plateSchema = v.object({
  id,
  name,
  lampKindId: id,
  notes: text,
  mix: shares,
  /** controls that pulls, scaling and solvers leave alone */
  locked: list(id),
  /** mixes it had before, oldest first */
  versions: list(plateVersion),
});
/** A saved mix: the share of full drive of each control of one lamp kind. */
export type Plate = v.InferOutput<typeof plateSchema>;

const keptDay = v.object({ id, name, lampKindId: id, capShare: share, threads: runningThreads });
/** A day kept by name: threads and cap of one lamp kind, by value. */
export type KeptDay = v.InferOutput<typeof keptDay>;

const savedSpectrum = v.object({ id, name, points: spectrumPoints, quantity: spectrumQuantity });
/** A spectrum that came from a file. */
export type SavedSpectrum = v.InferOutput<typeof savedSpectrum>;

const systemWater = v.object({
  /** all of it, l; null = reckoned from the boxes */
  litres: v.nullable(between(1, 1e6, ' l')),
  /** what is fed a day, g as it leaves the packet; null = not said */
  fedGPerDay: v.nullable(between(0, 1e5, ' g')),
  food: v.picklist(['dry', 'frozen'], 'is "dry" or "frozen"'),
  /** what the keeper doses, ppm of the system a week */
  dosedNitratePpm: between(0, 1000, ' ppm'),
  dosedPhosphatePpm: between(0, 100, ' ppm'),
});
/** The water all zones share, and what goes into it. */
export type SystemWater = v.InferOutput<typeof systemWater>;

const caseShape = v.object({
  format: v.literal('chromatheca-case', 'is no Chromatheca case'),
  version: v.literal(5),
  id,
  name,
  /** the demo is marked as such wherever it is shown */
  demo: truth,
  zones: list(zoneSchema, 1),
  lampKinds: list(lampKindSchema),
  /** in the keeper's own order */
  plates: list(plateSchema),
  /** imported spectra, to be laid behind a comb */
  references: list(savedSpectrum),
  /** colour forms of this case, beside those of the library */
  forms: list(formSchema),
  /** days kept by name, newest last; absent = none */
  days: v.optional(list(keptDay)),
  /** what a kilowatt-hour costs, in the keeper's own money; absent = not given */
  kwhPrice: v.optional(v.nullable(between(0, 1e6))),
  /** the water that circulates through all zones; absent = nothing said */
  system: v.optional(systemWater),
});
/** Everything about one keeper's system, as stored and exported. Lengths in cm, instants as UTC ISO 8601. */
export type CaseDoc = v.InferOutput<typeof caseShape>;

/** References inside a case: every id that is named must exist; spots lie in the water. */
const referencesHold = v.rawCheck<CaseDoc>(({ dataset, addIssue }) => {
  if (!dataset.typed) return;
  const doc = dataset.value;
  const complain = (message: string, ...keys: (string | number)[]) =>
    addIssue({
      message,
      path: keys.map((key) => ({
        type: 'unknown',
        origin: 'value',
        input: doc,
        key,
        value: null,
      })) as unknown as [v.IssuePathItem],
    });
  const kinds = new Set(doc.lampKinds.map((k) => k.id));
  const plates = new Map(doc.plates.map((p) => [p.id, p]));
  doc.plates.forEach((p, i) => {
    if (!kinds.has(p.lampKindId))
      complain('names a lamp kind that is not in this case', 'plates', i, 'lampKindId');
  });
  doc.days?.forEach((d, i) => {
    if (!kinds.has(d.lampKindId))
      complain('names a lamp kind that is not in this case', 'days', i, 'lampKindId');
  });
  doc.zones.forEach((z, zi) => {
    z.groups.forEach((g, gi) => {
      const here = ['zones', zi, 'groups', gi] as const;
      if (!kinds.has(g.lampKindId))
        complain('names a lamp kind that is not in this case', ...here, 'lampKindId');
      g.threads.forEach((t, ti) => {
        if ('plateId' in t.mix && plates.get(t.mix.plateId)?.lampKindId !== g.lampKindId)
          complain('names no plate for this lamp kind', ...here, 'threads', ti, 'mix', 'plateId');
      });
    });
    z.spots.forEach((s, si) => {
      const limits = { xCm: z.tank.lengthCm, yCm: z.tank.widthCm, depthCm: z.tank.depthCm };
      for (const [key, limit] of Object.entries(limits) as [keyof typeof limits, number][])
        if (s[key] > limit)
          complain(`lies outside the water (at most ${limit} cm)`, 'zones', zi, 'spots', si, key);
    });
  });
});

export const caseKind: DocumentKind<CaseDoc> = {
  format: 'chromatheca-case',
  version: 5,
  schema: v.pipe(caseShape, referencesHold),
  migrations: CASE_MIGRATIONS,
  empty: null,
  idKey: 'id',
  // a case is small, and its parts name each other: it is looked at whole
  lists: {},
  spare: [
    'plates.*',
    'plates.*.versions.*',
    'days.*',
    'references.*',
    'forms.*',
    'zones.*.spots.*',
    'zones.*.spots.*.soloNotes.*',
    'zones.*.groups.*.threads.*',
    'zones.*.groups.*.extras.interludes.*',
    'zones.*.tank.solids.*',
  ],
};
