import * as v from 'valibot';

import { LEAST_POINTS, MOST_POINTS } from '../../shape/similarity';
import { between, id, list, share, text, whole } from '../../shape/shape';
import { logBase, logKind, spotName } from './logKind';

/** A point of a picture, as shares of its width and height. */
const point = v.object({ x: share, y: share });

const schema = v.object({
  ...logBase,
  kind: v.literal('photo'),
  spotId: id,
  widthPx: whole(1, 20_000),
  heightPx: whole(1, 20_000),
  bytes: whole(1, 1e9),
  /** what ran then, in words; '' = nothing was known to */
  lit: text,
  /** the grey card, the patch that is followed, and two points to lay pictures on one another by; absent = not picked */
  grey: v.optional(point),
  patch: v.optional(point),
  first: v.optional(point),
  second: v.optional(point),
  /** how far apart the two points are in the tank, cm; absent = not measured */
  apartCm: v.optional(between(0.1, 300, ' cm')),
  /** a line around the coral; absent = not drawn */
  outline: v.optional(list(point, LEAST_POINTS, MOST_POINTS)),
});
/** A picture of a coral; its pixels are kept beside the case, by the id of this entry. */
export type Photo = v.InferOutput<typeof schema>;
export const PHOTO_POINTS = ['grey', 'patch', 'first', 'second'] as const;
export type PhotoPoint = (typeof PHOTO_POINTS)[number];

export const photo = logKind<Photo>({
  kind: 'photo',
  schema,
  lane: { id: 'photo', label: 'Pictures', always: false },
  words: (e, zone) => `${spotName(zone, e.spotId)}: photographed${e.lit === '' ? '' : `, ${e.lit}`}`,
  form: null,
  removing: 'The picture goes with it.',
});
