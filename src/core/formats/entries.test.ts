import { watersCase } from '@/demo/lagoon';

import { parsed } from '../fixtures/events';
import { type LogEvent, MOST_EVENTS } from '../record/log';
import { entriesCsv, readEntriesCsv } from './entriesCsv';

const zone = watersCase(Date.parse('2026-11-24T12:00:00Z'), 'UTC').case.zones[0]!;
const spotId = zone.spots[0]!.id;
const ids = () => {
  let n = 0;
  return () => `id-${(n += 1)}`;
};
const base = (kind: LogEvent['kind'], id: string, minute: number) => ({
  ...{ kind, id, zoneId: zone.id, note: '' },
  atUtc: `2026-11-20T10:${minute}:00.000Z`,
});
const EVENTS: LogEvent[] = [
  parsed({
    ...base('sign', 'id-1', 10),
    spotId,
    sign: 'hueMoved',
    region: 'tips',
    by: 'camera',
    hue: 'violet',
  }),
  parsed({
    ...base('test', 'id-2', 11),
    nitratePpm: 5,
    phosphatePpm: null,
    ph: 8.15,
    note: '=SUM(A1) "quoted", twice',
  }),
  parsed({ ...base('care', 'id-3', 12), what: 'additive', of: '-amino; 2 ml' }),
  parsed({ ...base('befell', 'id-4', 13), spotId, what: 'cut' }),
  parsed({ ...base('note', 'id-5', 14), note: "'an apostrophe\nand a line" }),
];

test('what was entered goes out and comes back the same', () => {
  const text = entriesCsv([...EVENTS].reverse(), zone);
  const back = readEntriesCsv(text, zone, ids());
  expect(back).toEqual({ ok: true, value: EVENTS });
  // what a spreadsheet would take for a formula it does not
  expect(text).not.toMatch(/(^|,)"?[=+@-]/m);
  expect(entriesCsv([], zone).split('\r\n')[0]).toMatch(
    /^instant \(UTC\),kind,coral.*nitrate \(ppm\).*pH,note$/,
  );
});

test('every wrong line is named with what to do, and nothing of the file is taken', () => {
  const head = 'instant (UTC),kind,coral,what,nitrate (ppm),note';
  const read = (...lines: string[]) => readEntriesCsv([head, ...lines].join('\n'), zone, ids());
  const out = read(
    '2026-11-20T10:00:00.000Z,test,,,5,',
    'yesterday,test,,,5,',
    '2026-11-20T10:00:00.000Z,sign,Nobody,paling,,',
    `2026-11-20T10:00:00.000Z,sign,${zone.spots[0]!.name},glowing,,`,
    '2026-11-20T10:00:00.000Z,test,,,many,',
    '2026-11-20T10:00:00.000Z,test,,,5000,',
    '2026-11-20T10:00:00.000Z,party,,,,',
  );
  expect(out.ok ? [] : out.error.map((p) => [p.line, p.problem])).toEqual([
    [3, expect.stringMatching(/atUtc give an instant/)],
    [4, '“Nobody” is nobody of this water'],
    [5, expect.stringMatching(/sign is no sign known here/)],
    [6, '“many” is no number'],
    [7, expect.stringMatching(/nitratePpm must be at most 1000/)],
    [8, '“party” is no kind of entry'],
  ]);
  // a spot by its name in any case; columns that are not there are empty; empty lines are nothing
  const fine = read(
    '',
    `2026-11-20T10:00:00.000Z,sign,${zone.spots[0]!.name.toUpperCase()},paling,,seen at noon`,
  );
  expect(fine).toMatchObject({
    ok: true,
    value: [{ kind: 'sign', spotId, sign: 'paling', note: 'seen at noon' }],
  });
});

test('what is no such file is refused at once', () => {
  const problem = (text: string) => {
    const out = readEntriesCsv(text, zone, ids());
    return out.ok ? '' : out.error[0]!.problem;
  };
  expect(problem('a,b\n1,2')).toMatch(/no columns/);
  expect(problem('x'.repeat(40_000_001))).toMatch(/characters/);
  expect(problem(`instant (UTC),kind\n${'a,b\n'.repeat(MOST_EVENTS + 1)}`)).toMatch(/lines/);
  const many = readEntriesCsv(`instant (UTC),kind\n${'a,b\n'.repeat(500)}`, zone, ids());
  expect(many.ok ? 0 : many.error.length).toBe(20);
});
