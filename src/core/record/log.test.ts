import * as v from 'valibot';

import { readDocument } from './documentKind';
import { logDocKind, logKinds } from './log';

const base = { id: 'a', zoneId: 'z', atUtc: '2026-11-24T12:00:00.000Z', note: 'seen' };
const read = (event: unknown) =>
  readDocument(logDocKind, { ...logDocKind.empty!('c'), events: [event] }, { caseId: 'c' });

test('an entry is read by its kind, and an unknown one is told all of them', () => {
  expect(read({ ...base, kind: 'note' })).toMatchObject({ ok: true, value: { events: [base] } });
  for (const kind of ['picnic', 'toString', '__proto__', '', 7, null]) {
    const found = read({ ...base, kind });
    expect(found.ok).toBe(false);
    expect(JSON.stringify(found)).toMatch(/kind is .*note.* or .*photo/);
  }
  expect(JSON.stringify(read(base))).toMatch(/kind.*is missing/);
  for (const entry of [null, 'note', 7, []]) expect(read(entry).ok).toBe(false);
});

test('of every kind its own schema decides, as it does by itself', () => {
  for (const { kind, schema } of logKinds()) {
    const alone = v.safeParse(schema, { ...base, kind });
    expect(read({ ...base, kind }).ok).toBe(alone.success);
  }
});
