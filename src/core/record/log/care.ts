import * as v from 'valibot';

import { text } from '../../shape/shape';
import { type LogBase, logBase, logKind } from './logKind';

const WHAT = {
  food: 'fed',
  additive: 'dosed',
  flow: 'flow changed',
  water: 'water changed',
  other: 'done',
} as const;
type What = keyof typeof WHAT;

const schema = v.object({
  ...logBase,
  kind: v.literal('care'),
  what: v.picklist(Object.keys(WHAT) as What[], 'is no care known here'),
  /** what of, and how much, in the keeper's words */
  of: text,
});
export type Care = v.InferOutput<typeof schema>;

/** Additives begun closer together than this cannot be told apart. Mark: rule of thumb. */
export const APART_DAYS = 14;
const DAY_MS = 86_400_000;
const key = (of: string) =>
  of
    .toLowerCase()
    .replace(/[\d.,]+\s*(ml|g|mg|l|drops?)?\b/g, '')
    .trim();

/** What was begun or changed, not what goes on: food, additives and the like for the first time, and every change of flow. */
export function begunCare(events: readonly LogBase[]): Care[] {
  const known = new Set<string>();
  return events
    .filter((e): e is Care => e.kind === 'care')
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : 1))
    .filter((e) => {
      const name = `${e.zoneId} ${e.what} ${key(e.of)}`;
      const first = !known.has(name);
      known.add(name);
      return first || e.what === 'flow';
    });
}

/** Feeding, dosing, flow, water: what may explain a colour later. */
export const care = logKind<Care>({
  kind: 'care',
  schema,
  lane: { id: 'care', label: 'Care', always: false },
  words: (e) => `${WHAT[e.what].replace(/^./, (c) => c.toUpperCase())}${e.of === '' ? '' : `: ${e.of}`}`,
  form: {
    key: 'Care',
    title: 'Care of the water',
    when: 'When',
    whenLast: true,
    fields: [
      {
        is: 'choice',
        key: 'what',
        label: 'What',
        options: () => [
          { value: 'food', label: 'fed' },
          { value: 'additive', label: 'dosed' },
          { value: 'flow', label: 'flow' },
          { value: 'water', label: 'water change' },
          { value: 'other', label: 'else' },
        ],
        from: (e) => e?.what ?? 'food',
      },
      {
        is: 'text',
        key: 'of',
        label: 'Of what, how much',
        most: 200,
        from: (e) => e?.of ?? '',
        offered: (e) => e.of,
      },
    ],
    note: { label: 'In your words', hint: 'may stay empty' },
    live: ({ what, of }, _, earlier, nowMs) => {
      if (what !== 'additive' || key(String(of ?? '')) === '') return null;
      const lately = earlier.filter(
        (e) => e.what === 'additive' && key(e.of) !== '' && nowMs - Date.parse(e.atUtc) < APART_DAYS * DAY_MS,
      );
      const known = earlier.some((e) => e.what === 'additive' && key(e.of) === key(String(of)));
      const other = lately.find((e) => key(e.of) !== key(String(of)));
      return known || !other
        ? null
        : `▲ “${other.of}” was dosed within ${APART_DAYS} days: two new things at once, and nobody will know which of them did it. One at a time.`;
    },
    make: ({ what, of }) =>
      what === 'additive' && String(of).trim() === ''
        ? { field: 'of', say: 'Say what was dosed.' }
        : { what: what as What, of: String(of ?? '').trim() },
  },
});
