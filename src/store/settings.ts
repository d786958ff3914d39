import * as v from 'valibot';

import { METER_KIND_IDS } from '@/core/meter/kinds';
import { between, share } from '@/core/shape/shape';
import { METRIC } from '@/core/shape/units';

export const SETTINGS_VERSION = 1;
/** Rises when the same records come to give other figures, which is then said once. */
export const RECKONED_BY = 1;

const TANK_VIEW = {
  view: 'top' as const,
  whose: 'running' as const,
  what: 'plateau' as const,
  minute: -1,
  against: 'none' as const,
  againstMinute: -1,
  depth: 0.4,
  fromFront: 0.5,
  fromLeft: 0.5,
  suits: 'chosen',
  bound: 0.25,
};
const READING_HABITS = {
  immersionFactor: 1,
  sensorAboveCm: 1,
  simulated: false,
  pumpsOn: false,
  places: 'spots' as const,
  gridColumns: 5,
  gridRows: 3,
  gridDepthCm: 30,
  lit: 'plateau:-1',
  litShare: 1,
};

const EASE_HABITS = {
  school: 'usual' as const,
  ownCeiling: 1.2,
  stage: 'growing' as const,
  eye: 'daily' as const,
};

/** Settings of the device; they never travel with a case. */
export const settingsSchema = v.object({
  format: v.literal('chromatheca-settings'),
  version: v.literal(SETTINGS_VERSION),
  paper: v.fallback(v.picklist(['system', 'day', 'night']), 'system'),
  caseId: v.fallback(v.nullable(v.string()), null),
  /** the way of reckoning whose changes this keeper has been told of */
  reckonedBy: v.fallback(v.number(), 0),
  zoneId: v.fallback(v.nullable(v.string()), null),
  spotId: v.fallback(v.nullable(v.string()), null),
  groupId: v.fallback(v.nullable(v.string()), null),
  plateId: v.fallback(v.nullable(v.string()), null),
  /** in which units lengths, volumes, temperatures and times of day are said */
  units: v.fallback(
    v.object({
      length: v.picklist(['cm', 'in']),
      volume: v.picklist(['l', 'gal']),
      clock: v.picklist(['24 h', '12 h']),
      temperature: v.optional(v.picklist(['°C', '°F']), '°C'),
    }),
    METRIC,
  ),
  /** fish in pictures and advice */
  fish: v.fallback(v.boolean(), true),
  /** the kind of meter the keeper has */
  meter: v.fallback(v.picklist(METER_KIND_IDS), 'lux'),
  /** what the tank's chart shows */
  tank: v.fallback(
    v.object({
      view: v.picklist(['top', 'front', 'side']),
      whose: v.picklist(['running', 'draft']),
      what: v.picklist(['now', 'plateau', 'dli']),
      /** minute of the chosen plateau; −1 = the brightest */
      minute: v.number(),
      against: v.picklist(['none', 'other', 'plateau']),
      againstMinute: v.number(),
      /** share of the depth, from the front, from the left */
      depth: share,
      fromFront: share,
      fromLeft: share,
      /** whose wants are drawn: a need, or "chosen" = the chosen coral's, or "none" */
      suits: v.string(),
      /** how far from the mean is hot or cold */
      bound: share,
    }),
    () => ({ ...TANK_VIEW }),
  ),
  /** how readings are taken */
  readings: v.fallback(
    v.object({
      immersionFactor: between(0.5, 3),
      sensorAboveCm: between(0, 50, ' cm'),
      simulated: v.boolean(),
      pumpsOn: v.boolean(),
      /** where readings are taken: at the spots, on a grid, or both */
      places: v.picklist(['spots', 'grid', 'both']),
      gridColumns: between(1, 12),
      gridRows: between(1, 8),
      gridDepthCm: between(0, 300, ' cm'),
      /** what is lit: "plateau:MINUTE", "now", "full", "alone:GROUP/CHANNEL" or "plate:ID" */
      lit: v.string(),
      litShare: share,
    }),
    () => ({ ...READING_HABITS }),
  ),
  /** steps in which a thread slides, minutes */
  daySnap: v.fallback(v.picklist([1, 5, 15, 60]), 5),
  /** days are compared at equal light */
  /** the caution about flashing light has been read */
  flashesRead: v.fallback(v.boolean(), false),
  /** how changes are eased in, as chosen last */
  ease: v.fallback(
    v.object({
      school: v.picklist(['gentle', 'usual', 'brisk', 'own']),
      ownCeiling: between(1.01, 3),
      stage: v.picklist(['young', 'growing', 'mature']),
      eye: v.picklist(['daily', 'weekly', 'seldom']),
    }),
    () => ({ ...EASE_HABITS }),
  ),
  /** simulated heads: whose lamps each is, and what it held before it was loaded last */
  heads: v.fallback(
    v.record(
      v.string(),
      v.object({
        groupId: v.string(),
        before: v.nullable(
          v.object({
            capShare: share,
            points: v.array(v.object({ minute: v.number(), values: v.array(share) })),
          }),
        ),
      }),
    ),
    {},
  ),
  /** what is laid behind the comb: "light:ID", "plate:ID" or "own:ID" */
  behind: v.fallback(v.nullable(v.string()), null),
  /** how far the eye has adapted to the tank; null = from the light's own brightness */
  eyeDegree: v.fallback(v.nullable(share), null),
  /** whose eye looks at the tank, whether a dim mix looks dim, and whether a white card lies in it */
  look: v.fallback(
    v.object({
      eye: v.picklist(['adapted', 'fresh', 'camera']),
      brightness: v.picklist(['real', 'evened']),
      card: v.boolean(),
    }),
    () => ({ ...USUAL_LOOK }),
  ),
  /** when everything was last backed up; null = never */
  backedUpUtc: v.fallback(v.nullable(v.string()), null),
  /** how the last answers came out, by what was practised */
  practised: v.fallback(v.record(v.string(), v.array(v.boolean())), {}),
  /** what was gone to by its name, the latest first */
  recent: v.fallback(v.array(v.string()), () => []),
});
export type Settings = v.InferOutput<typeof settingsSchema>;

/** How the tank is looked at unless it is said. */
export const USUAL_LOOK = { eye: 'adapted', brightness: 'real', card: false } as const;

export const DEFAULT_SETTINGS: Settings = {
  format: 'chromatheca-settings',
  version: SETTINGS_VERSION,
  paper: 'system',
  units: METRIC,
  caseId: null,
  reckonedBy: RECKONED_BY,
  zoneId: null,
  spotId: null,
  groupId: null,
  plateId: null,
  fish: true,
  meter: 'lux',
  tank: TANK_VIEW,
  readings: READING_HABITS,
  daySnap: 5,
  flashesRead: false,
  ease: EASE_HABITS,
  heads: {},
  behind: null,
  eyeDegree: null,
  look: { ...USUAL_LOOK },
  backedUpUtc: null,
  practised: {},
  recent: [],
};
