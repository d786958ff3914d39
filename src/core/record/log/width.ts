import * as v from 'valibot';

import { id } from '../../shape/shape';
import { lengthWords } from '../../shape/units';
import { widthCm } from '../zone';
import { EVENTS, logBase, logKind, spotName } from './logKind';

const schema = v.object({ ...logBase, kind: v.literal('width'), spotId: id, widthCm });
export type Width = v.InferOutput<typeof schema>;

/** A coral measured across: written where its width is typed. */
export const width = logKind<Width>({
  kind: 'width',
  schema,
  lane: EVENTS,
  words: (e, zone) => `${spotName(zone, e.spotId)}: ${lengthWords(e.widthCm, true)} across`,
  form: null,
  removing: 'Removed, it no longer counts as a measurement; the coral is drawn as wide as now.',
});
