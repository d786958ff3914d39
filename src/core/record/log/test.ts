import * as v from 'valibot';

import { between } from '../../shape/shape';
import { logBase, logKind } from './logKind';

const MOST_PPM = { nitrate: 1000, phosphate: 100 } as const;
const schema = v.object({
  ...logBase,
  kind: v.literal('test'),
  /** null = not tested */
  nitratePpm: v.nullable(between(0, MOST_PPM.nitrate, ' ppm')),
  phosphatePpm: v.nullable(between(0, MOST_PPM.phosphate, ' ppm')),
});
export type WaterTest = v.InferOutput<typeof schema>;

/** A test of the water all zones share: nitrate, phosphate, or one of them. */
export const test = logKind<WaterTest>({
  kind: 'test',
  schema,
  lane: { id: 'test', label: 'Tests', always: false },
  shared: true,
  words: (e) =>
    `Water test: ${[
      e.nitratePpm === null ? null : `nitrate ${e.nitratePpm} ppm`,
      e.phosphatePpm === null ? null : `phosphate ${e.phosphatePpm} ppm`,
    ]
      .filter(Boolean)
      .join(', ')}`,
  form: {
    key: 'Water test',
    title: 'Water test',
    when: 'When',
    whenLast: true,
    fields: [
      {
        is: 'number',
        key: 'nitrate',
        label: 'Nitrate (NO₃)',
        unit: 'ppm',
        low: 0,
        high: MOST_PPM.nitrate,
        say: `Give 0 to ${MOST_PPM.nitrate} ppm, or nothing.`,
        mayBeEmpty: true,
        from: (e) => e?.nitratePpm ?? null,
      },
      {
        is: 'number',
        key: 'phosphate',
        label: 'Phosphate (PO₄)',
        unit: 'ppm',
        beside: true,
        low: 0,
        high: MOST_PPM.phosphate,
        say: `Give 0 to ${MOST_PPM.phosphate} ppm, or nothing.`,
        mayBeEmpty: true,
        from: (e) => e?.phosphatePpm ?? null,
      },
    ],
    note: { label: 'In your words', hint: 'may stay empty' },
    about: () =>
      'The same water runs through every zone, so the test stands in the log of each. A meter that shows phosphorus in ppb: times 0.00307 gives phosphate in ppm.',
    make: ({ nitrate, phosphate }) =>
      nitrate === null && phosphate === null
        ? { field: 'nitrate', say: 'Give at least one of the two.' }
        : { nitratePpm: nitrate as number | null, phosphatePpm: phosphate as number | null },
  },
});
