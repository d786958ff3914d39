import * as v from 'valibot';

import { chore as choreOf } from '../chores';
import { logBase, logKind } from './logKind';

const schema = v.object({
  ...logBase,
  kind: v.literal('chore'),
  // a wiped lens, fresh carbon, a test and a session are entries of their own
  chore: v.picklist(
    ['fan', 'salt', 'drip', 'residual', 'clock', 'tubes', 'pictures', 'age'],
    'is no chore known here',
  ),
});

/** Upkeep that was done: entered where it is due. */
export const chore = logKind<v.InferOutput<typeof schema>>({
  kind: 'chore',
  schema,
  lane: { id: 'chore', label: 'Upkeep', always: false },
  words: (e) => `${choreOf(e.chore).name}: done`,
  form: null,
});
