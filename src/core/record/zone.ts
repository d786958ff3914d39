import * as v from 'valibot';

import { extrasSchema } from '../day/extras';
import { ALGA_IDS } from '../feeding/algae';
import { hangingEntries } from '../optics/rig';
import { tankSchema } from '../optics/tank';
import { waterSchema } from '../optics/water';
import {
  between,
  date,
  id,
  instant,
  list,
  minute,
  name,
  share,
  shares,
  text,
  timeZone,
  truth,
  wholeDays,
  window,
} from '../shape/shape';
import { BAND_IDS } from '../spectrum/bands';
import { experimentSchema } from './experiment';
import { BEARS_LEAST, BEARS_MOST, needSchema, wantsSchema } from './needs';

export const hungLampSchema = v.object({ id, name, ...hangingEntries });
/** A lamp kind hung at a place. */
export type HungLamp = v.InferOutput<typeof hungLampSchema>;

const threadSchema = v.object({
  id,
  minute,
  strengthShare: share,
  /** its own mix may remember the plate it was edited from */
  mix: v.union(
    [v.object({ plateId: id }), v.object({ own: shares, fromPlateId: v.optional(id) })],
    'is { plateId } or { own }',
  ),
});
/** A point of a group's day. */
export type Thread = v.InferOutput<typeof threadSchema>;

export const oncePerMinute = <T extends { minute: number }>(threads: T[]) =>
  new Set(threads.map((t) => t.minute)).size === threads.length;

const group = v.object({
  id,
  name,
  lampKindId: id,
  lamps: list(hungLampSchema, 1),
  threads: v.pipe(list(threadSchema), v.check(oncePerMinute, 'two threads stand at one minute')),
  capShare: share,
  /** those who live under it live under this day already: asked before it has ever run; absent = no */
  usedTo: v.optional(truth),
  /** what acts on its days besides threads and cap; absent = nothing */
  extras: v.optional(extrasSchema),
});
/** Hung lamps of one kind programmed as one: a draft day and a cap. */
export type Group = v.InferOutput<typeof group>;

const windowSchema = v.object(window);
/** A stretch of the wall-clock day; it may run over midnight. */
export type Window = v.InferOutput<typeof windowSchema>;

const doseLimit = v.pipe(
  v.object({ floor: v.nullable(between(0, 100, ' mol')), ceiling: v.nullable(between(0, 100, ' mol')) }),
  v.check(
    (l) => l.floor === null || l.ceiling === null || l.floor <= l.ceiling,
    'its ceiling lies below its floor',
  ),
);
export type DoseLimit = v.InferOutput<typeof doseLimit>;

const matFlow = v.object({
  /** where it goes: over the mat, through it, beneath it, or it hardly moves */
  way: v.picklist(['over', 'through', 'beneath', 'still'], 'is no way of water known here'),
  /** how it leaves: over a weir, or under a baffle */
  leaves: v.picklist(['weir', 'baffle'], 'is "weir" or "baffle"'),
  /** times an hour that the box's water is changed; null = not known */
  turnsPerHour: v.nullable(between(0, 1000, ' times an hour')),
  /** a screen keeps threads from pump and weir */
  screened: truth,
  /** free height above the water, cm, and what runs back when the pump stops, l; null = not known */
  headroomCm: v.nullable(between(0, 300, ' cm')),
  drainsL: v.nullable(between(0, 5000, ' l')),
});
/** How water passes a mat of algae. */
export type MatFlow = v.InferOutput<typeof matFlow>;

export const CHORE_IDS = [
  'lens',
  'fan',
  'salt',
  'drip',
  'residual',
  'clock',
  'tubes',
  'test',
  'meter',
  'pictures',
  'carbon',
  'age',
] as const;
/** What comes round: upkeep of lamps, and what is looked at. */
export type ChoreId = (typeof CHORE_IDS)[number];

export const placeEntries = {
  xCm: between(0, 1000, ' cm'),
  yCm: between(0, 1000, ' cm'),
  depthCm: between(0, 300, ' cm'),
};
export const placeSchema = v.object({
  ...placeEntries,
  /** share of the light that overhangs leave */
  openShare: share,
});
/** A place in the water as light finds it. */
export type Place = v.InferOutput<typeof placeSchema>;

/** Whether two places are one, wherever they are shaded. */
export const samePlace = (
  a: Pick<Place, 'xCm' | 'yCm' | 'depthCm'>,
  b: Pick<Place, 'xCm' | 'yCm' | 'depthCm'>,
  withinCm = 0,
): boolean => Math.hypot(a.xCm - b.xCm, a.yCm - b.yCm, a.depthCm - b.depthCm) <= withinCm;
/** A place without what else stands beside it. */
export const placeOf = ({ xCm, yCm, depthCm, openShare }: Place): Place => ({ xCm, yCm, depthCm, openShare });

const soloNote = v.object({
  id,
  /** name of the colour, as the lamp's control is called */
  colour: name,
  region: name,
  saw: v.picklist(['good', 'lost', 'hueMoved'], 'is "good", "lost" or "hueMoved"'),
  atUtc: instant,
});
/** What the keeper saw under one colour alone. */
export type SoloNote = v.InferOutput<typeof soloNote>;

const matSchema = v.object({ lengthCm: between(1, 1000, ' cm'), widthCm: between(1, 1000, ' cm') });
/** A mat of algae, level, seen from above. */
export type Mat = v.InferOutput<typeof matSchema>;

/** The light somebody came from: its peak and for how long a day. */
const cameFrom = v.object({ peakUmol: between(1, 3000, ' µmol'), hours: between(0.5, 24, ' h') });
/** How wide a coral is across. */
/** How wide a coral is across, cm. */
export const widthCm = between(1, 200, ' cm');

/** Kinds of light a coral may come from. */
export const LIGHT_KINDS = ['deepBlue', 'blue', 'white', 'sun'] as const;
export type LightKind = (typeof LIGHT_KINDS)[number];

const inHandSchema = v.object({
  id,
  name,
  need: needSchema,
  /** what it is made of; null = not said */
  formId: v.nullable(id),
  /** absent = as is usual for its shape */
  sizeCm: v.optional(widthCm),
  /** absent = not known */
  cameFrom: v.optional(cameFrom),
  /** what light that was; absent = not known */
  light: v.optional(v.picklist(LIGHT_KINDS, 'is no kind of light known here')),
  origin: v.optional(v.picklist(['farmed', 'wild'], 'is "farmed" or "wild"')),
});
/** A coral that is here, or wished for, and has no place yet. */
export type InHand = v.InferOutput<typeof inHandSchema>;

const spotSchema = v.object({
  id,
  name,
  ...placeSchema.entries,
  need: v.nullable(needSchema),
  /** what this one wants, where the keeper knows better than the rule of thumb for its kind */
  wants: v.nullable(wantsSchema),
  /** the step this one bears at once where the usual ceiling stands; absent = as its kind */
  bears: v.optional(between(BEARS_LEAST, BEARS_MOST, ' ×')),
  /** local date on which it came */
  arrived: v.nullable(date),
  /** the light it came from, in the keeper's words */
  sourceLight: text,
  /** the same in figures: its peak and for how long a day; absent = not known */
  cameFrom: v.optional(v.nullable(cameFrom)),
  /** which alga grows there; absent = none, or not said */
  algaId: v.optional(v.nullable(v.picklist(ALGA_IDS, 'is no alga known here'))),
  /** how far its mat reaches, centred on the spot; absent = a mere point */
  mat: v.optional(v.nullable(matSchema)),
  /** what its coral is made of: a form of the library or of the case; null = not said */
  formId: v.nullable(id),
  /** how wide it is across; absent = as is usual for its shape */
  sizeCm: v.optional(widthCm),
  /** what a lone colour did to a region of its coral */
  soloNotes: list(soloNote),
});
/** A place in the water; holds a coral when it has a need. */
export type Spot = v.InferOutput<typeof spotSchema>;

/** A spot about which only its place and tenant are known. */
export const plainSpot = (
  known: Pick<Spot, 'id' | 'name' | 'xCm' | 'yCm' | 'depthCm' | 'need'> & Partial<Spot>,
): Spot => {
  const { cameFrom, algaId, mat, ...rest } = known;
  return {
    openShare: 1,
    wants: null,
    arrived: null,
    sourceLight: '',
    formId: null,
    soloNotes: [],
    ...rest,
    ...(cameFrom ? { cameFrom } : {}),
    ...(algaId ? { algaId } : {}),
    ...(mat ? { mat } : {}),
  };
};

export const zoneSchema = v.object({
  id,
  name,
  kind: v.picklist(['display', 'refugium', 'planted'], 'is "display", "refugium" or "planted"'),
  /** IANA time zone of the days */
  timeZone,
  tank: tankSchema,
  water: waterSchema,
  /** local date of the last fresh carbon; null = not known or none used */
  carbonDate: v.nullable(date),
  /** RMS slope of the surface from flow: still 0, usual 0.05, strong 0.12 (rule of thumb) */
  rippleSlope: between(0, 0.3),
  /** what kinds want here, where the keeper knows better than the rule of thumb */
  needs: v.record(needSchema, wantsSchema),
  /** when somebody is there to look, in wall-clock minutes; absent = not said */
  home: v.optional(v.nullable(windowSchema)),
  /** least and most of each band that a coral is to get, mol m⁻² d⁻¹ */
  doseLimits: v.optional(v.record(v.picklist(BAND_IDS), doseLimit)),
  /** how water passes the algae; absent = not said */
  flow: v.optional(matFlow),
  /** days between two turns of a chore, where the keeper has them otherwise than usual */
  choreDays: v.optional(v.record(v.picklist(CHORE_IDS, 'is no chore known here'), wholeDays(1, 3650))),
  /** local dates before which a chore is not asked for again */
  choreLater: v.optional(v.record(v.picklist(CHORE_IDS, 'is no chore known here'), date)),
  groups: list(group),
  spots: list(spotSchema),
  /** corals without a place; absent = none */
  inHand: v.optional(list(inHandSchema)),
  /** questions put to it; absent = none */
  experiments: v.optional(list(experimentSchema)),
});
/** One body of lit water with its lamps and spots. Lengths in cm. */
export type Zone = v.InferOutput<typeof zoneSchema>;

/** When somebody is home, until it is said. Mark: rule of thumb. */
export const USUAL_HOME: Window = { fromMinute: 18 * 60, toMinute: 22 * 60 };
