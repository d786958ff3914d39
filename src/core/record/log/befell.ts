import * as v from 'valibot';

import { id } from '../../shape/shape';
import type { Zone } from '../zone';
import { logBase, logKind, spotName } from './logKind';

const WHAT = {
  arrived: 'arrived',
  cut: 'cut',
  knocked: 'knocked over',
  stung: 'stung by a neighbour',
  lost: 'lost',
} as const;
type What = keyof typeof WHAT;

const schema = v.object({
  ...logBase,
  kind: v.literal('befell'),
  spotId: id,
  what: v.picklist(Object.keys(WHAT) as What[], 'is nothing known here'),
});
export type Befell = v.InferOutput<typeof schema>;

const living = (zone: Pick<Zone, 'spots'>) => zone.spots.filter((s) => s.need !== null);

/** What befell a coral besides light: it explains what light would be blamed for. */
export const befell = logKind<Befell>({
  kind: 'befell',
  schema,
  lane: { id: 'befell', label: 'Corals', always: false },
  words: (e, zone) => `${spotName(zone, e.spotId)}: ${WHAT[e.what]}`,
  form: {
    key: 'A coral was …',
    title: 'What happened to a coral',
    when: 'When',
    whenLast: true,
    offered: (zone) => living(zone).some((s) => s.need !== 'macroalgae'),
    closed: (zone) =>
      living(zone).length > 0 ? null : 'Nobody is known to live here yet. Add one on Tank first.',
    fields: [
      {
        is: 'choice',
        key: 'spotId',
        label: 'Which',
        options: (zone) => living(zone).map((s) => ({ value: s.id, label: s.name })),
        from: (e, zone) => e?.spotId ?? living(zone)[0]?.id ?? '',
      },
      {
        is: 'choice',
        key: 'what',
        label: 'What',
        options: () => Object.entries(WHAT).map(([value, label]) => ({ value, label })),
        from: (e) => e?.what ?? 'cut',
      },
    ],
    note: { label: 'In your words', hint: 'may stay empty' },
    about: () =>
      'A place whose coral is lost stays on the chart; empty it on Tank. Some corals hold strong toxins: gloves and eye protection when they are cut.',
    make: ({ spotId, what }) => ({ spotId: String(spotId), what: what as What }),
  },
});
