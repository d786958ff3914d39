import * as v from 'valibot';

import { allOf, inWords } from '../../shape/counts';
import { date, id, list, name, share } from '../../shape/shape';
import { logBase, logKind, spotName } from './logKind';

/** What came of a change at a coral, as the keeper saw it. */
export const CAME = { well: 'well', paled: 'paled', browned: 'browned', unsure: 'can’t say' } as const;
export type Came = keyof typeof CAME;

const coral = v.object({
  spotId: id,
  /** how likely it was said to be that it bears the change and has what it wants afterwards */
  chance: share,
  /** absent = not asked yet */
  came: v.optional(v.picklist(Object.keys(CAME) as Came[], 'is nothing that can have come of it')),
});
const schema = v.object({
  ...logBase,
  kind: v.literal('foretold'),
  /** the change it is about */
  of: name,
  /** local date from which on it can have shown */
  askDate: date,
  corals: list(coral, 1),
});
/** What was expected of a change as it was made, and later what came of it. */
export type Foretold = v.InferOutput<typeof schema>;

/** Corals of which nobody has said yet what came. */
export const unanswered = (e: Foretold): Foretold['corals'] => e.corals.filter((c) => c.came === undefined);

export const foretold = logKind<Foretold>({
  kind: 'foretold',
  schema,
  lane: { id: 'foretold', label: 'Expected', always: false },
  words: (e, zone) => {
    const least = e.corals.reduce((a, b) => (b.chance < a.chance ? b : a));
    const each =
      e.corals.length === 1
        ? spotName(zone, least.spotId)
        : `${allOf(e.corals.length)}, least ${spotName(zone, least.spotId)}`;
    return `${e.of}: expected to go well for ${each} in ${Math.round(10 * least.chance)} of 10`;
  },
  details: (e) => {
    const said = e.corals.filter((c) => c.came !== undefined).length;
    return said === 0 ? [] : [`answered for ${inWords(said)} of ${inWords(e.corals.length)}`];
  },
  form: null,
});
