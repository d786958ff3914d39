import * as v from 'valibot';

import { id } from '../../shape/shape';
import type { Spot } from '../zone';
import { logBase, logKind, spotName } from './logKind';

const SIGN_IDS = [
  'paling',
  'browning',
  'polypsIn',
  'polypsOut',
  'tissue',
  'newColour',
  'asBefore',
  'deeper',
  'hueMoved',
  'larger',
] as const;
/** What a keeper saw on a coral. */
export type Sign = (typeof SIGN_IDS)[number];

export const SIGNS: Record<Sign, string> = {
  paling: 'paling',
  browning: 'browning',
  polypsIn: 'polyps drawn in',
  polypsOut: 'polyps well out',
  tissue: 'losing tissue',
  newColour: 'new, welcome colour',
  asBefore: 'as before',
  deeper: 'deeper in colour',
  hueMoved: 'of another hue',
  larger: 'larger',
};
/** Parts of a coral that show something by themselves. */
export const REGIONS = ['tips', 'body', 'polyps'] as const;
export type Region = (typeof REGIONS)[number];
/** Hues that a colour can move to. */
export const HUES = ['red', 'orange', 'yellow', 'green', 'blue', 'violet', 'pink'] as const;
export type Hue = (typeof HUES)[number];
/** What algae show, in words of their own; polyps and glow they have none. */
const ALGAE_SIGNS: Partial<Record<Sign, string>> = {
  paling: 'paling or bleaching',
  browning: 'dark, with a film on it',
  tissue: 'falling apart or spilling',
  asBefore: 'as before',
  larger: 'larger',
};
const isAlga = (spot: Pick<Spot, 'need'>) => spot.need === 'macroalgae';

/** Signs that a spot's tenant can show. */
export const signsOf = (spot: Pick<Spot, 'need'>): [Sign, string][] =>
  Object.entries(isAlga(spot) ? ALGAE_SIGNS : SIGNS) as [Sign, string][];

/** A sign as it is said of a spot's tenant. */
export const signWords = (sign: Sign, spot: Pick<Spot, 'need'>): string =>
  (isAlga(spot) ? ALGAE_SIGNS[sign] : undefined) ?? SIGNS[sign];

const schema = v.object({
  ...logBase,
  kind: v.literal('sign'),
  spotId: id,
  sign: v.picklist(SIGN_IDS, 'is no sign known here'),
  /** where it shows; absent = all of it */
  region: v.optional(v.picklist(REGIONS, 'is no part known here')),
  /** absent = seen by the eye */
  by: v.optional(v.literal('camera', 'is "camera", or absent for the eye')),
  /** where its hue moved to */
  hue: v.optional(v.picklist(HUES, 'is no hue known here')),
});
type SignEvent = v.InferOutput<typeof schema>;

/** What was seen, with where and by what. */
const seenWords = (e: SignEvent, spot: Pick<Spot, 'need'>): string =>
  [
    e.region,
    e.sign === 'hueMoved' && e.hue ? `turned ${e.hue}` : signWords(e.sign, spot),
    e.by ? '(camera)' : undefined,
  ]
    .filter(Boolean)
    .join(' ');

/** What was seen on a coral: entered with advice on the steps under way. */
export const sign = logKind<SignEvent>({
  kind: 'sign',
  schema,
  lane: { id: 'sign', label: 'Signs', always: true },
  words: (e, zone) =>
    `${spotName(zone, e.spotId)}: ${seenWords(e, zone.spots.find((s) => s.id === e.spotId) ?? { need: null })}`,
  form: null,
});
