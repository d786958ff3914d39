import * as v from 'valibot';

import { between, id } from '../../shape/shape';
import { ALL, EVENTS, groupName, logBase, logKind, whichLamps } from './logKind';
import { finePercent as percent } from '../../shape/percent';

/** What a wipe of a salty lens usually gives back, %. Mark: rule of thumb. */
const USUAL_WIPE_PERCENT = 8;

const schema = v.object({
  ...logBase,
  kind: v.literal('lens'),
  /** null = all groups */
  groupId: v.nullable(id),
  /** how much light it gave back, of what was left before */
  gainShare: between(0, 4),
});

/** A wiped lens. */
export const lens = logKind<v.InferOutput<typeof schema>>({
  kind: 'lens',
  schema,
  lane: EVENTS,
  words: (e, zone) =>
    `Lens wiped${e.groupId === null ? '' : `, ${groupName(zone, e.groupId)}`}: about ${percent(e.gainShare)} more light`,
  acts: (e) => [
    { does: 'wipe', atMs: Date.parse(e.atUtc), groupId: e.groupId, lostShare: 1 - 1 / (1 + e.gainShare) },
  ],
  form: {
    key: 'Lens',
    title: 'Lens wiped',
    when: 'When',
    fields: [
      {
        is: 'choice',
        key: 'who',
        label: 'Which lamps',
        options: whichLamps,
        from: (e) => e?.groupId ?? ALL,
      },
      {
        is: 'number',
        key: 'gain',
        label: 'It gave back about',
        unit: '%',
        hint: '8 % when not measured (rule of thumb); better: a reading before and after',
        low: 0,
        high: 100,
        say: 'Give 0 to 100 %.',
        from: (e) => (e ? Math.round(e.gainShare * 1000) / 10 : USUAL_WIPE_PERCENT),
      },
    ],
    note: { label: 'In your words', hint: 'may stay empty' },
    caution: {
      kind: 'mains',
      words: 'Plug out and let it cool before you wipe; no water into the lamp.',
      onlyNew: true,
    },
    make: ({ who, gain }) => ({ groupId: who === ALL ? null : String(who), gainShare: Number(gain) / 100 }),
    then: 'risen',
  },
});
