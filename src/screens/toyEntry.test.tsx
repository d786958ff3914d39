/** A kind of log entry that is known in one place is offered, typed in, read, drawn, exported, and acts on the light. */
import { screen } from '@testing-library/react';
import * as v from 'valibot';

import { courseOf } from '@/core/case/course';
import { logCsv } from '@/core/formats/logCsv';
import { timeline } from '@/core/case/timeline';
import { logDocKind } from '@/core/record/log';
import type * as Kinds from '@/core/record/log/kinds';
import type * as LogKinds from '@/core/record/log/logKind';
import { useSession } from '@/state/session';

import { Log } from './log/Log';
import { choose, demo, fill, freshPlaces, show, tap, text } from './test/kit';
import type * as Router from './test/router';

jest.mock('expo-router', () => jest.requireActual<typeof Router>('./test/router').mockRouter);
jest.mock('@/core/record/log/kinds', () => {
  const { LOG_KINDS } = jest.requireActual<typeof Kinds>('@/core/record/log/kinds');
  const { logBase, logKind } = jest.requireActual<typeof LogKinds>('@/core/record/log/logKind');
  const va = jest.requireActual<typeof v>('valibot');
  const schema = va.object({ ...logBase, kind: va.literal('cover'), hours: va.number() });
  const cover = logKind<v.InferOutput<typeof schema>>({
    kind: 'cover',
    schema,
    lane: { id: 'cover', label: 'Covers', always: false },
    words: (e) => `A cloth lay over the tank for ${e.hours} h`,
    acts: (e) => [
      {
        does: 'dark',
        fromMs: Date.parse(e.atUtc),
        toMs: Date.parse(e.atUtc) + e.hours * 3_600_000,
        groupIds: null,
      },
    ],
    form: {
      key: 'Cloth',
      title: 'A cloth over the tank',
      when: 'Since',
      fields: [
        {
          is: 'number',
          key: 'hours',
          label: 'For',
          unit: 'h',
          low: 1,
          high: 24,
          say: 'Give 1 to 24 h.',
          from: () => 2,
        },
      ],
      note: { label: 'Why', hint: 'may stay empty' },
      make: ({ hours }) => ({ hours: Number(hours) }),
    },
  });
  return { LOG_KINDS: [...LOG_KINDS, cover] };
});

freshPlaces();

test('its key, form, words, lane, table and what it does to the light follow from its one description', () => {
  show(Log);
  expect(screen.queryByRole('radio', { name: 'Covers' })).toBeNull();
  tap('log-cover');
  fill('cover-hours', '99');
  tap('keep-event');
  expect(screen.getByText('▲ Give 1 to 24 h.')).toBeTruthy();
  fill('cover-hours', '3');
  fill('event-note', 'paint in the room');
  tap('keep-event');
  const { log, history, case: doc } = useSession.getState().bundle!;
  const entry = log.events.at(-1)!;
  expect(entry).toMatchObject({ kind: 'cover', hours: 3, note: 'paint in the room' });
  choose('Covers');
  expect(text('line-cover')).toMatch(/A cloth lay over the tank for 3 h/);
  const zone = doc.zones[0]!;
  expect(logCsv(timeline(zone, history, log, [], 0), 'x')).toMatch(/cover,A cloth lay over the tank for 3 h/);
  // it is read again, and a nonsense one is not
  expect(v.safeParse(logDocKind.schema, log).success).toBe(true);
  expect(v.safeParse(logDocKind.schema, { ...log, events: [{ ...entry, hours: 'long' }] }).success).toBe(
    false,
  );
  // dark while it lay there
  const course = courseOf(zone, demo().history, log, 0.1);
  const at = (hours: number) => course.at(Date.parse(entry.atUtc) + hours * 3_600_000).entries.length;
  expect([at(-1), at(1), at(4)]).toEqual([1, 0, 1]);
});
