import Papa from 'papaparse';
import * as v from 'valibot';

import { kindNamed, type LogEvent, MOST_EVENTS } from '../record/log';
import { MEASURES } from '../record/log/measures';
import type { Zone } from '../record/zone';
import { bad, good, type Result } from '../shape/result';
import { plainNumber } from './cells';
import type { FileProblem } from './table';

/**
 * What a keeper entered, a line each: `instant (UTC)`, `kind` (sign, test, care, befell, note), `coral`, `what`, `part`, `seen by`,
 * `hue`, `of`, a column for each measure of a test with its unit, and `note`.
 */
const KINDS = ['sign', 'test', 'care', 'befell', 'note'] as const;
type EntryKind = (typeof KINDS)[number];
const measureHead = (m: (typeof MEASURES)[number]) => (m.unit === '' ? m.name : `${m.name} (${m.unit})`);
const HEAD = [
  ...['instant (UTC)', 'kind', 'coral', 'what', 'part', 'seen by', 'hue', 'of'],
  ...MEASURES.map(measureHead),
  'note',
] as const;

const isEntry = (e: LogEvent): e is Extract<LogEvent, { kind: EntryKind }> =>
  (KINDS as readonly string[]).includes(e.kind);
/** A spreadsheet would take these for formulas. */
const told = (text: string) => text.replace(/^['=+\-@\t]/, "'$&");
const untold = (text: string) => text.replace(/^'(?=['=+\-@\t])/, '');

/** Entries as CSV, oldest first; kinds that only the app can write are left out. */
export function entriesCsv(events: readonly LogEvent[], zone: Zone): string {
  const rows = events
    .filter(isEntry)
    .sort((a, b) => (a.atUtc < b.atUtc ? -1 : a.atUtc > b.atUtc ? 1 : 0))
    .map((e) => {
      const coral = 'spotId' in e ? (zone.spots.find((s) => s.id === e.spotId)?.name ?? e.spotId) : '';
      const what = e.kind === 'sign' ? e.sign : e.kind === 'care' || e.kind === 'befell' ? e.what : '';
      return [
        ...[e.atUtc, e.kind, told(coral), what],
        ...(e.kind === 'sign' ? [e.region ?? '', e.by ?? '', e.hue ?? ''] : ['', '', '']),
        e.kind === 'care' ? told(e.of) : '',
        ...MEASURES.map((m) => (e.kind === 'test' ? (e[m.id] ?? '') : '')),
        told(e.note),
      ];
    });
  return `${Papa.unparse([[...HEAD], ...rows])}\r\n`;
}

const LARGEST_TEXT = 40_000_000;
const MOST_PROBLEMS = 20;

/**
 * Reads entries; refused as a whole, with every wrong line named, so that nothing is half read in.
 * @param id makes an id
 */
export function readEntriesCsv(
  text: string,
  zone: Zone,
  id: () => string,
): Result<LogEvent[], FileProblem[]> {
  const refuse = (line: number, problem: string, remedy: string) => bad([{ line, problem, remedy }]);
  if (text.length > LARGEST_TEXT)
    return refuse(0, `the file has ${text.length} characters`, 'Give at most 8 MB.');
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: false });
  const head = (data[0] ?? []).map((h) => h.trim().toLowerCase());
  const at = (name: string) => head.indexOf(name.toLowerCase());
  if (at('instant (UTC)') < 0 || at('kind') < 0)
    return refuse(
      1,
      'it has no columns “instant (UTC)” and “kind”',
      'Keep the entries as CSV to see the columns.',
    );
  if (data.length > MOST_EVENTS + 1)
    return refuse(0, `it has ${data.length} lines`, `Give at most ${MOST_EVENTS}.`);
  const problems: FileProblem[] = [];
  const out: LogEvent[] = [];
  data.slice(1).forEach((row, i) => {
    if (row.every((c) => c.trim() === '') || problems.length >= MOST_PROBLEMS) return;
    const line = i + 2;
    const wrong = (problem: string, remedy: string) => problems.push({ line, problem, remedy });
    const cell = (name: string) => untold((row[at(name)] ?? '').trim());
    const kind = cell('kind') as EntryKind;
    if (!KINDS.includes(kind))
      return wrong(`“${kind}” is no kind of entry`, `Give one of ${KINDS.join(', ')}.`);
    const coral = cell('coral');
    const spot = zone.spots.find((s) => s.name.toLowerCase() === coral.toLowerCase() || s.id === coral);
    if ((kind === 'sign' || kind === 'befell') && !spot)
      return wrong(`“${coral}” is nobody of this water`, 'Give the name of a spot as it stands on Tank.');
    const values: Record<string, number | null> = {};
    if (kind === 'test')
      for (const m of MEASURES) {
        const typed = cell(measureHead(m));
        const x = typed === '' ? null : plainNumber(typed.replace(',', '.'));
        if (Number.isNaN(x))
          return wrong(`“${typed}” is no number`, `Give ${measureHead(m)} as a number, or nothing.`);
        if (x !== null || m.id === 'nitratePpm' || m.id === 'phosphatePpm') values[m.id] = x;
      }
    const given = (name: string, key: string) => (cell(name) === '' ? {} : { [key]: cell(name) });
    const read = v.safeParse(kindNamed(kind).schema, {
      ...{ id: id(), zoneId: zone.id, atUtc: cell('instant (UTC)'), note: cell('note'), kind },
      ...(spot && (kind === 'sign' || kind === 'befell') ? { spotId: spot.id } : {}),
      ...(kind === 'sign'
        ? {
            sign: cell('what'),
            ...given('part', 'region'),
            // the eye is what is meant where nothing stands
            ...(cell('seen by').toLowerCase() === 'eye' ? {} : given('seen by', 'by')),
            ...given('hue', 'hue'),
          }
        : {}),
      ...(kind === 'care' ? { what: cell('what'), of: cell('of') } : {}),
      ...(kind === 'befell' ? { what: cell('what') } : {}),
      ...values,
    });
    if (read.success) out.push(read.output as LogEvent);
    else
      wrong(
        `${v.getDotPath(read.issues[0]) ?? 'it'} ${read.issues[0].message}`,
        'Correct it, or leave the line out.',
      );
  });
  return problems.length > 0 ? bad(problems) : good(out);
}
