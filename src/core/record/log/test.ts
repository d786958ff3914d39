import * as v from 'valibot';

import { between } from '../../shape/shape';
import { logBase, type LogField, logKind } from './logKind';
import { asSaid, doubtOf, measured, type MeasureId, MEASURES } from './measures';

const value = (id: MeasureId) => {
  const { low, high, unit } = MEASURES.find((m) => m.id === id)!;
  return v.nullable(between(low, high, unit === '' ? '' : ` ${unit}`));
};
const schema = v.object({
  ...logBase,
  kind: v.literal('test'),
  /** null = not tested; of those that came later absent means the same */
  nitratePpm: value('nitratePpm'),
  phosphatePpm: value('phosphatePpm'),
  alkalinityDkh: v.optional(value('alkalinityDkh')),
  calciumPpm: v.optional(value('calciumPpm')),
  magnesiumPpm: v.optional(value('magnesiumPpm')),
  salinityPpt: v.optional(value('salinityPpt')),
  temperatureC: v.optional(value('temperatureC')),
  ph: v.optional(value('ph')),
});
export type WaterTest = v.InferOutput<typeof schema>;

const given = (e: WaterTest) =>
  MEASURES.flatMap((m) => {
    const x = e[m.id];
    return x === null || x === undefined ? [] : [{ m, x }];
  });

/** A test of the water all zones share: any of what is measured. */
export const test = logKind<WaterTest>({
  kind: 'test',
  schema,
  lane: { id: 'test', label: 'Tests', always: false },
  shared: true,
  words: (e) =>
    `Water test: ${given(e)
      .map(({ m, x }) => `${m.name} ${measured(m, x)}`)
      .join(', ')}`,
  form: {
    key: 'Water test',
    title: 'Water test',
    when: 'When',
    whenLast: true,
    fields: MEASURES.map((m, i): LogField<WaterTest> => ({
      ...{ is: 'number', key: m.id, label: m.label, unit: m.unit, low: m.low, high: m.high },
      ...(i % 2 === 1 ? { beside: true } : {}),
      also: m.also,
      get say() {
        const { unit, value } = asSaid(m, m.low);
        return `Give ${value} to ${asSaid(m, m.high).value}${unit === '' ? '' : ` ${unit}`}, or nothing.`;
      },
      mayBeEmpty: true,
      from: (e?: WaterTest) => e?.[m.id] ?? null,
    })),
    note: { label: 'In your words', hint: 'may stay empty' },
    about: () =>
      'The same water runs through every zone, so the test stands in the log of each. Units may be typed: 20 ppb of phosphorus, 3 meq, 1.026 SG, 78 °F.',
    live: (values, _, earlier) => {
      const doubts = MEASURES.flatMap((m) => {
        const x = values[m.id];
        if (typeof x !== 'number') return [];
        const last = earlier.findLast((e) => typeof e[m.id] === 'number')?.[m.id] ?? null;
        return doubtOf(m, x, last) ?? [];
      });
      return doubts.length === 0 ? null : `▲ ${doubts.join(' ').replace(/^./, (c) => c.toUpperCase())}`;
    },
    make: (values) =>
      MEASURES.every((m) => values[m.id] === null)
        ? { field: 'nitratePpm', say: 'Give at least one of them.' }
        : {
            nitratePpm: values.nitratePpm as number | null,
            phosphatePpm: values.phosphatePpm as number | null,
            ...Object.fromEntries(
              MEASURES.slice(2).flatMap((m) => (values[m.id] === null ? [] : [[m.id, values[m.id]]])),
            ),
          },
  },
});
