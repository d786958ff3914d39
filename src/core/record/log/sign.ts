import * as v from 'valibot';

import { id } from '../../shape/shape';
import type { Spot } from '../zone';
import { logBase, logKind, spotName } from './logKind';

const SIGN_IDS = ['paling', 'browning', 'polypsIn', 'polypsOut', 'tissue', 'newColour'] as const;
/** What a keeper saw on a coral. */
export type Sign = (typeof SIGN_IDS)[number];

export const SIGNS: Record<Sign, string> = {
  paling: 'paling',
  browning: 'browning',
  polypsIn: 'polyps drawn in',
  polypsOut: 'polyps well out',
  tissue: 'losing tissue',
  newColour: 'new, welcome colour',
};
/** What algae show, in words of their own; polyps and glow they have none. */
const ALGAE_SIGNS: Partial<Record<Sign, string>> = {
  paling: 'paling or bleaching',
  browning: 'dark, with a film on it',
  tissue: 'falling apart or spilling',
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
});

/** What was seen on a coral: entered with advice on the steps under way. */
export const sign = logKind<v.InferOutput<typeof schema>>({
  kind: 'sign',
  schema,
  lane: { id: 'sign', label: 'Signs', always: true },
  words: (e, zone) =>
    `${spotName(zone, e.spotId)}: ${signWords(e.sign, zone.spots.find((s) => s.id === e.spotId) ?? { need: null })}`,
  form: null,
});
