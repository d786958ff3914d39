import * as v from 'valibot';

import { id, instant, list } from '../../shape/shape';
import { ALL, EVENTS, groupName, logBase, logKind, whichLamps } from './logKind';

const schema = v.pipe(
  v.object({
    ...logBase,
    kind: v.literal('outage'),
    /** null = not back yet */
    toUtc: v.nullable(instant),
    /** null = all */
    groupIds: v.nullable(list(id, 1)),
  }),
  v.check((o) => o.toUtc === null || o.toUtc > o.atUtc, 'ends after it begins'),
);
type Outage = v.InferOutput<typeof schema>;

const lasted = ({ atUtc, toUtc }: Outage): string => {
  if (toUtc === null) return 'not back yet';
  const minutes = Math.round((Date.parse(toUtc) - Date.parse(atUtc)) / 60_000);
  if (minutes >= 2880) return `for ${Math.round(minutes / 1440)} days`;
  const [h, m] = [Math.floor(minutes / 60), minutes % 60];
  return `for ${[h > 0 ? `${h} h` : '', m > 0 || h === 0 ? `${m} min` : ''].filter(Boolean).join(' ')}`;
};

/** Power was out: the light that was missed counts. */
export const outage = logKind<Outage>({
  kind: 'outage',
  schema,
  lane: EVENTS,
  words: (e, zone) =>
    `Power out: ${e.groupIds === null ? 'all lamps' : e.groupIds.map((g) => groupName(zone, g)).join(', ')}`,
  details: (e) => [lasted(e)],
  acts: (e) => [
    {
      does: 'dark',
      fromMs: Date.parse(e.atUtc),
      toMs: e.toUtc === null ? Infinity : Date.parse(e.toUtc),
      groupIds: e.groupIds,
    },
  ],
  form: {
    key: 'Power out',
    title: 'Power was out',
    when: 'It went',
    fields: [
      {
        is: 'choice',
        key: 'who',
        label: 'Which lamps',
        options: whichLamps,
        from: (e) => e?.groupIds?.[0] ?? ALL,
      },
      {
        is: 'end',
        key: 'toUtc',
        label: 'Power',
        ended: 'is back',
        lasts: 'is still out',
        from: (e) => e?.toUtc ?? null,
      },
    ],
    note: { label: 'In your words', hint: 'may stay empty' },
    about: () =>
      'The light that was missed counts: what they are used to falls, and every later step is planned from there. A cut may also have reset the lamp’s clock or its own easing: look at it.',
    make: ({ who, toUtc }) => ({
      toUtc: toUtc as string | null,
      groupIds: who === ALL ? null : [String(who)],
    }),
    then: 'missed',
  },
});
