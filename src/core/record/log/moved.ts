import { lengthFigure, lengthWords } from '../../shape/units';
import * as v from 'valibot';

import { id } from '../../shape/shape';
import { placeSchema } from '../zone';
import { EVENTS, logBase, logKind, spotName } from './logKind';

const schema = v.object({
  ...logBase,
  kind: v.literal('moved'),
  spotId: id,
  from: placeSchema,
  to: placeSchema,
});
export type Moved = v.InferOutput<typeof schema>;

/** A coral put elsewhere: written where it is moved. */
export const moved = logKind<Moved>({
  kind: 'moved',
  schema,
  lane: EVENTS,
  words: (e, zone) =>
    `${spotName(zone, e.spotId)} moved: ${lengthFigure(e.from.depthCm)} → ${lengthWords(e.to.depthCm)} deep, ${lengthWords(Math.hypot(e.from.xCm - e.to.xCm, e.from.yCm - e.to.yCm))} aside`,
  acts: (e) => [{ does: 'move', atMs: Date.parse(e.atUtc), spotId: e.spotId, from: e.from }],
  form: null,
  removing: 'If the coral always stood there and only the chart was wrong, remove this.',
});
