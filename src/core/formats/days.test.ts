import * as fc from 'fast-check';
import ICAL from 'ical.js';

import { formatTime } from '../day/clock';
import { datedCalendar, onOffCalendar } from './calendar';
import type { LampTable } from '../case/table';
import type { LogLine } from '../case/timeline';
import { must, refusalOf } from '../fixtures/result';
import { parseDayCsv } from './dayCsv';
import { logCsv } from './logCsv';
import { sheetCsv } from './sheetText';

describe('a day as CSV', () => {
  test('the sheet that is written is read back', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 1439 }), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 0, max: 10_000 }),
        (minutes, v) => {
          const times = [...minutes].sort((a, b) => a - b);
          const whites = times.map((_, i) => ((v + i * 37) % 10_000) / 100);
          const table: LampTable = {
            times: times.map(formatTime),
            controls: [
              { name: 'Violet', kind: 'level', percents: times.map(() => v / 100) },
              { name: '=White, "cool"', kind: 'level', percents: whites },
              { name: 'Circuit', kind: 'onOff', percents: times.map((_, i) => (i % 2) * 100) },
            ],
            capPercent: v / 100,
          };
          const read = must(parseDayCsv(sheetCsv(table)));
          expect(read.controls).toEqual(['Violet', '=White, "cool"', 'Circuit']);
          expect(read.capShare).toBeCloseTo(v / 10_000, 9);
          expect(read.points.map((p) => [p.minute, p.strengthShare, p.mix.Circuit])).toEqual(
            times.map((minute, i) => [minute, 1, i % 2]),
          );
          expect(read.points.map((p) => Math.round(p.mix['=White, "cool"']! * 10_000))).toEqual(
            whites.map((w) => Math.round(w * 100)),
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  test('semicolons, decimal commas, comments, a strength and headings with units', () => {
    const read = must(
      parseDayCsv(
        '# my day\ntime; strength (%); Blue (%); White %\n9:30; 12,5; 80; on\n18.00; 100; 40,5; off\n',
      ),
    );
    expect(read.points).toEqual([
      { minute: 570, strengthShare: 0.125, mix: { Blue: 0.8, White: 1 } },
      { minute: 1080, strengthShare: 1, mix: { Blue: 0.405, White: 0 } },
    ]);
    expect(read.capShare).toBeNull();
  });

  test.each([
    ['', 0, 'nothing in it'],
    ['Violet,Blue\n1,2', 1, 'no column is headed "time"'],
    ['time\n09:00', 1, 'there is no colour'],
    ['time,A,A\n09:00,1,2', 1, '"A" heads two columns'],
    ['time,__proto__\n09:00,1', 1, 'column 2 has no usable heading'],
    [`time,${Array.from({ length: 41 }, (_, i) => `A${i}`).join()}\n`, 1, 'there are 41 colours'],
    ['x'.repeat(500_001), 0, 'the file has 500001 characters'],
    ['time,A\n25:00,1', 2, 'no time of day'],
    ['time,A\n\n09:00,1\n9:00,2', 4, 'stands already in line 3'],
    ['time,A\n09:00,101', 2, 'no percent'],
    ['time,A\n09:00,x', 2, 'no percent'],
    ['cap,200\ntime,A\n09:00,1', 1, 'no cap'],
    ['time,A,cap (%)\n09:00,1,80\n10:00,1,70', 3, 'its cap is not that'],
    ['time,A', 1, 'no point follows'],
  ])('%j is refused with the line and the remedy', (text, line, problem) => {
    const refused = refusalOf(parseDayCsv(text));
    expect(refused.line).toBe(line);
    expect(refused.problem).toContain(problem);
    expect(refused.remedy).not.toBe('');
  });

  test('any text is read or refused, nothing else', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200, unit: 'binary' }), (junk) => {
        for (const text of [junk, `time,A\n${junk}`, `${junk}\ntime;B\n9:00;1`]) {
          const read = parseDayCsv(text);
          if (!read.ok) expect(read.error.remedy).not.toBe('');
          else expect(read.value.points.every((p) => p.minute >= 0 && p.minute < 1440)).toBe(true);
        }
      }),
      { numRuns: 200 },
    );
    expect(parseDayCsv('x'.repeat(600_000)).ok).toBe(false);
  });
});

describe('clocks as a calendar, read back by another library', () => {
  const circuits = [
    { name: 'Tubes, outer', windows: [{ from: 540, to: 1260 }] },
    {
      name: 'Refugium',
      windows: [
        { from: 1290, to: 1860 },
        { from: 700, to: 730 },
      ],
    },
  ];
  const text = onOffCalendar({
    title: 'Display',
    timeZone: 'Europe/Berlin',
    fromDate: '2026-11-24',
    id: 'case-1',
    nowMs: Date.parse('2026-11-24T14:40:00Z'),
    circuits,
  });
  const calendar = new ICAL.Component(ICAL.parse(text));
  const events = calendar.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));

  test('every time on is a daily event of the right hours, over midnight too', () => {
    expect(events.map((e) => [e.summary, e.startDate.toString(), e.endDate.toString()])).toEqual([
      ['Tubes, outer on', '2026-11-24T09:00:00', '2026-11-24T21:00:00'],
      ['Refugium on', '2026-11-24T21:30:00', '2026-11-25T07:00:00'],
      ['Refugium on', '2026-11-24T11:40:00', '2026-11-24T12:10:00'],
    ]);
    expect(new Set(events.map((e) => e.uid)).size).toBe(3);
    expect(events.every((e) => e.component.getFirstPropertyValue('rrule')!.toString() === 'FREQ=DAILY')).toBe(
      true,
    );
    expect(events[0]!.component.getFirstPropertyValue('dtstamp')!.toString()).toBe('2026-11-24T14:40:00Z');
  });

  test('its time zone is written out: the same wall-clock hours in summer', () => {
    const zone = calendar.getFirstSubcomponent('vtimezone')!;
    const timezone = new ICAL.Timezone(zone);
    expect(timezone.tzid).toBe('Europe/Berlin');
    const start = events[0]!.startDate.clone();
    start.zone = timezone;
    const walk = events[0]!.component.getFirstPropertyValue('rrule') as unknown as {
      iterator: (from: typeof start) => { next: () => typeof start };
    };
    const days = walk.iterator(start);
    for (let i = 0; i < 240; i += 1) {
      const day = days.next();
      expect(formatTime(day.hour * 60 + day.minute)).toBe('09:00');
      const offset = timezone.utcOffset(day) / 3600;
      if (day.toString().startsWith('2027-06')) expect(offset).toBe(2);
      if (day.toString().startsWith('2026-12')) expect(offset).toBe(1);
    }
  });
});

test('steps of an easing in as whole-day events with their numbers, read back by another library', () => {
  const text = datedCalendar({
    title: 'Cap 40 % → 80 %, Display',
    id: 'case-zone',
    nowMs: Date.UTC(2026, 10, 24),
    steps: [
      {
        date: '2026-11-24',
        title: 'Step 1 of 2: cap 52 %',
        text: 'Copper table: 163 µmol; no coral above 1.30 ×, so far',
      },
      { date: '2026-12-01', title: 'Step 2 of 2: Panels cap 80 %, Bar cap 50 %', text: 'x'.repeat(200) },
    ],
  });
  const events = new ICAL.Component(ICAL.parse(text))
    .getAllSubcomponents('vevent')
    .map((e) => new ICAL.Event(e));
  expect(events.map((e) => [e.startDate.toString(), e.startDate.isDate, e.summary])).toEqual([
    ['2026-11-24', true, 'Step 1 of 2: cap 52 %'],
    ['2026-12-01', true, 'Step 2 of 2: Panels cap 80 %, Bar cap 50 %'],
  ]);
  expect(events[0]!.description).toBe('Copper table: 163 µmol; no coral above 1.30 ×, so far');
  expect(events[1]!.description).toHaveLength(200);
  expect(new Set(events.map((e) => e.uid)).size).toBe(2);
});

test('chores come again every so many days, each under its own lasting id', () => {
  const chores = (date: string) =>
    datedCalendar({
      title: 'Upkeep, Refugium',
      id: 'case-zone-upkeep',
      nowMs: Date.UTC(2026, 10, 24),
      steps: [
        { key: 'salt', date, title: 'Salt creep, Refugium', text: 'Look along cables', everyDays: 21 },
        { key: 'lens', date, title: 'Lens, Refugium', text: 'Wipe' },
      ],
    });
  const read = (text: string) =>
    new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));
  const [salt, lens] = read(chores('2026-11-24'));
  const days = salt!.iterator();
  expect([days.next(), days.next(), days.next()].map(String)).toEqual([
    '2026-11-24',
    '2026-12-15',
    '2027-01-05',
  ]);
  expect(lens!.isRecurring()).toBe(false);
  expect(read(chores('2026-12-01')).map((e) => e.uid)).toEqual([salt!.uid, lens!.uid]);
});

test('the log as CSV: oldest first, figures before and after, nothing a spreadsheet would run', () => {
  const line = (id: string, title: string): LogLine => ({
    id,
    atUtc: `2026-11-2${id}T10:00:00.000Z`,
    lane: 'light',
    title,
    details: ['a', 'b, c'],
    met: {
      before: id === '1' ? null : { dli: 4, peak: 200 },
      after: { dli: 5, peak: 250 },
      ratioBefore: id === '1' ? null : 1,
      ratioAfter: Infinity,
      bandShare: 0,
    },
    spotId: null,
    event: null,
  });
  const rows = logCsv([line('2', '=cmd()'), line('1', 'Panels, "first"')], 'Moss')
    .trim()
    .split('\r\n');
  expect(rows[0]).toContain('peak before at Moss (µmol)');
  expect(rows[1]).toBe('2026-11-21T10:00:00.000Z,light,"Panels, ""first""","a; b, c",,250.0,,5.000,,');
  expect(rows[2]).toContain(",'=cmd(),");
  expect(rows[2]).toContain(',200.0,250.0,4.000,5.000,1.000,');
});
