import * as v from 'valibot';

import { between } from '../../shape/shape';
import { EVENTS, logBase, logKind } from './logKind';

/** Yellow substances right after fresh carbon, m⁻¹ at 440 nm. Mark: rule of thumb. */
export const FRESH_YELLOW = 0.03;

const schema = v.object({
  ...logBase,
  kind: v.literal('carbon'),
  /** yellow substances before and after, m⁻¹ at 440 nm */
  yellowBefore: between(0, 5),
  yellowAfter: between(0, 5),
});

/** Fresh carbon: clearer water from then on. */
export const carbon = logKind<v.InferOutput<typeof schema>>({
  kind: 'carbon',
  schema,
  lane: EVENTS,
  words: (e) =>
    `Fresh carbon: yellow in the water ${e.yellowBefore.toFixed(2)} → ${e.yellowAfter.toFixed(2)} per m`,
  acts: (e) => [{ does: 'water', atMs: Date.parse(e.atUtc), yellowBefore: e.yellowBefore }],
  form: {
    key: 'Carbon',
    title: 'Fresh carbon',
    when: 'When',
    fields: [
      {
        is: 'number',
        key: 'yellow',
        label: 'Yellow left in the water',
        unit: 'per m',
        hint: 'fresh carbon leaves 0.02-0.05 (literature)',
        low: 0,
        high: 5,
        say: 'Give 0 to 5 per metre; fresh carbon leaves 0.02 to 0.05.',
        from: (e) => e?.yellowAfter ?? FRESH_YELLOW,
      },
    ],
    note: { label: 'In your words', hint: 'may stay empty' },
    about: (zone, e) =>
      e
        ? 'What the water was before is kept as it was logged.'
        : `The model took ${zone.water.yellow440PerM.toFixed(2)} until now. Blue and violet come back most.`,
    caution: {
      kind: 'note',
      words: 'Rinse carbon first. Count it as a change of its own: raise no cap in the same week.',
      onlyNew: true,
    },
    make: ({ yellow }, zone, e) => ({
      yellowBefore: e?.yellowBefore ?? zone.water.yellow440PerM,
      yellowAfter: Number(yellow),
    }),
    water: (made) => made.yellowAfter,
    then: 'risen',
  },
});
