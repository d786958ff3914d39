import * as v from 'valibot';

import { logBase, logKind } from './logKind';

const schema = v.object({ ...logBase, kind: v.literal('note') });

/** The keeper's own words. */
export const note = logKind<v.InferOutput<typeof schema>>({
  kind: 'note',
  schema,
  lane: { id: 'note', label: 'Notes', always: true },
  words: (e) => e.note || 'Note',
  form: {
    key: 'Note',
    title: 'Note',
    when: 'When',
    fields: [],
    note: {
      label: 'What happened',
      hint: 'chemistry, feeding, fish, flow: what may explain a colour later',
      needed: 'Write what happened.',
    },
    make: () => ({}),
  },
});
