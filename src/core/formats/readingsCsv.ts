import Papa from 'papaparse';

import { bad, good } from '../shape/result';
import { headingOf, plainNumber } from './cells';
import { type FileProblem, type Read, unread } from './table';

/** A reading from a file: where and what the meter showed, try by try. */
export interface ReadReading {
  name: string;
  /** null where the file gives no place: it then stands at the spot of that name */
  xCm: number | null;
  yCm: number | null;
  depthCm: number | null;
  tries: number[];
  /** levels 0..1 by the heading's own words, "group / channel"; null where the file says nothing */
  levels: Record<string, number> | null;
  line: number;
}

export interface ReadReadings {
  /** null where no heading says it: it is asked */
  unit: 'µmol' | 'lux' | null;
  readings: ReadReading[];
}

const LARGEST_TEXT = 2_000_000;
const MOST_ROWS = 1000;
const MOST_PROBLEMS = 20;
const TO_CM: Readonly<Record<string, number>> = { cm: 1, mm: 0.1, m: 100, in: 2.54, inch: 2.54, '"': 2.54 };

type Column =
  | { is: 'name' }
  | { is: 'xCm' | 'yCm' | 'depthCm'; factor: number }
  | { is: 'try'; unit: 'µmol' | 'lux' | null }
  | { is: 'level'; of: string; full: number };

/** Most columns of a list: places, tries, and the levels of many lamps. Mark: rule of thumb. */
const MOST_COLUMNS = 200;

/** What a heading means; null = nothing this reads. */
function columnOf(heading: string): Column | null {
  const h = heading.trim().toLowerCase().replace(/μ/g, 'µ');
  const unit = /[([]\s*([^)\]]+?)\s*[)\]]/.exec(h)?.[1] ?? '';
  const word = h
    .replace(/[([].*$/, '')
    .replace(/\s*\d+\s*$/, '')
    .trim();
  const length = (is: 'xCm' | 'yCm' | 'depthCm'): Column | null => {
    const factor = unit === '' ? 1 : TO_CM[unit];
    return factor === undefined ? null : { is, factor };
  };
  if (/^level\b/.test(h)) {
    const of = heading
      .trim()
      .replace(/^level:?\s*/i, '')
      .replace(/\s*[([]\s*%\s*[)\]]\s*$/, '');
    return { is: 'level', of, full: unit === '%' ? 100 : 1 };
  }
  if (/^(spot|place|name|coral|position|point|location)$/.test(word)) return { is: 'name' };
  if (/^(x|left|from left)$/.test(word)) return length('xCm');
  if (/^(y|front|from front)$/.test(word)) return length('yCm');
  if (/^(z|depth|deep)$/.test(word)) return length('depthCm');
  if (/^(par|ppfd|reading|value|try|lux|lx|µmol|umol)$/.test(word)) {
    const lux = /lux|lx/.test(h);
    const umol = /µmol|umol|par|ppfd/.test(h);
    return { is: 'try', unit: lux ? 'lux' : umol ? 'µmol' : null };
  }
  return null;
}

/** A number with a decimal point or comma; NaN when it is none. */
function numberOf(text: string): number {
  return plainNumber(text.trim().replace(',', '.'));
}

/**
 * Reads readings: a line each, columns known by their headings: a name, x, y and depth (cm unless a heading says mm, m or in), one or
 * more columns PAR, PPFD, lux or reading (several are several tries), and levels as "level: group / channel (%)". Comma, semicolon or
 * tab part the columns; numbers have a decimal point or, where commas do not part columns, a comma. Lines that begin with # are comments.
 * @returns what could be read, and every problem with its line; refused when the file as a whole cannot be read
 */
export function readReadingsCsv(text: string): Read<ReadReadings & { problems: FileProblem[] }> {
  if (text.length > LARGEST_TEXT)
    return unread(0, `the file has ${text.length} characters`, 'Choose a list of at most 2 MB.');
  if (text.includes('\u0000')) return unread(0, 'this is no text file', 'Export the readings as CSV.');
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  const headAt = lines.findIndex((l) => l.trim() !== '' && !l.trim().startsWith('#'));
  if (headAt < 0)
    return unread(
      0,
      'the file is empty',
      'Give headings such as "spot; PAR (µmol)" and a reading in each line.',
    );
  const head = lines[headAt]!;
  const delimiter = ['\t', ';', ','].find((d) => head.includes(d)) ?? ',';
  const cellsOf = (line: string) =>
    (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []).map((c) => c.trim());
  const headings = cellsOf(head).map(headingOf);
  if (headings.length > MOST_COLUMNS)
    return unread(headAt + 1, `there are ${headings.length} columns`, `Give at most ${MOST_COLUMNS}.`);
  const columns = headings.map(columnOf);
  const tries = columns.filter((c) => c?.is === 'try');
  if (tries.length === 0)
    return unread(
      headAt + 1,
      'no heading names a reading',
      'Call its column "PAR (µmol)", "lux" or "reading"; headings come first.',
    );
  const units = new Set(tries.flatMap((c) => (c?.is === 'try' && c.unit ? [c.unit] : [])));
  if (units.size > 1)
    return unread(headAt + 1, 'some readings are in lux, some in µmol', 'Give one list per meter.');
  for (const [i, h] of headings.entries()) {
    const again = columns[i] && headings.indexOf(h) !== i;
    if (again) return unread(headAt + 1, `the heading "${short(h)}" stands twice`, 'Name every column once.');
    if (!columns[i] && /^\s*(x|y|z|depth|left|front)\b/i.test(h))
      return unread(headAt + 1, `the unit of "${short(h)}" is not known here`, 'Give cm, mm, m or in.');
  }

  const problems: FileProblem[] = [];
  const readings: ReadReading[] = [];
  for (let i = headAt + 1; i < lines.length && problems.length < MOST_PROBLEMS; i += 1) {
    const raw = lines[i]!;
    if (raw.trim() === '' || raw.trim().startsWith('#')) continue;
    const row = readRow(cellsOf(raw), columns, headings, i + 1, readings.length + 1);
    if (row.ok) readings.push(row.value);
    else problems.push(row.error);
    if (readings.length > MOST_ROWS)
      return unread(i + 1, `there are more than ${MOST_ROWS} readings`, 'Split the list.');
  }
  if (readings.length === 0 && problems.length === 0)
    return unread(0, 'there is no reading below the headings', 'Give a reading in each line.');
  const [unit = null] = units;
  return good({ unit, readings, problems });
}

function readRow(
  cells: readonly string[],
  columns: readonly (Column | null)[],
  headings: readonly string[],
  line: number,
  number: number,
): Read<ReadReading> {
  if (cells.length > columns.length)
    return unread(
      line,
      `there are ${cells.length} columns, the headings name ${columns.length}`,
      'A decimal comma needs semicolons or tabs between columns.',
    );
  const out: ReadReading = {
    name: `reading ${number}`,
    xCm: null,
    yCm: null,
    depthCm: null,
    tries: [],
    levels: null,
    line,
  };
  for (const [i, column] of columns.entries()) {
    const cell = cells[i] ?? '';
    if (!column || cell === '') continue;
    if (column.is === 'name') {
      out.name = cell.slice(0, 120);
      continue;
    }
    const value = numberOf(cell);
    if (Number.isNaN(value))
      return unread(
        line,
        `"${short(cell)}" under "${short(headings[i]!)}" is no number`,
        'Give a plain number.',
      );
    if (value < 0)
      return unread(line, `${value} under "${short(headings[i]!)}" is below 0`, 'Give 0 or more.');
    if (value > 1e6)
      return unread(line, `${value} under "${short(headings[i]!)}" is beyond a million`, 'Check the unit.');
    if (column.is === 'try') out.tries.push(value);
    else if (column.is === 'level') {
      const level = value / column.full;
      if (level > 1)
        return unread(
          line,
          `the level ${value} under "${short(headings[i]!)}" is above full`,
          'Give 0 to 100 %.',
        );
      (out.levels ??= {})[column.of] = level;
    } else out[column.is] = value * column.factor;
  }
  if (out.tries.length === 0)
    return unread(line, 'the reading is missing', 'Give what the meter showed, or leave the line out.');
  const placed = [out.xCm, out.yCm, out.depthCm].filter((v) => v !== null).length;
  if (placed > 0 && placed < 3)
    return unread(
      line,
      'part of the place is missing',
      'Give x, y and depth, or none of them and the name of a spot.',
    );
  return good(out);
}

const short = (text: string) => (text.length > 24 ? `${text.slice(0, 24)}…` : text);

/** The readings of a file in which every line is right; refused by the first problem. */
export function parseReadingsCsv(text: string): Read<ReadReadings> {
  const read = readReadingsCsv(text);
  if (!read.ok) return read;
  const { problems, ...all } = read.value;
  return problems[0] ? bad(problems[0]) : good(all);
}

/** Writes readings as CSV that reads back; names that a table program would take for formulas are quoted as text. */
export function readingsCsv(
  unit: 'µmol' | 'lux',
  readings: readonly {
    name: string;
    xCm: number;
    yCm: number;
    depthCm: number;
    tries: readonly number[];
    levels: Readonly<Record<string, number>>;
  }[],
): string {
  const most = Math.max(1, ...readings.map((r) => r.tries.length));
  const levels = [...new Set(readings.flatMap((r) => Object.keys(r.levels)))];
  const fields = [
    'spot',
    'x (cm)',
    'y (cm)',
    'depth (cm)',
    ...Array.from({ length: most }, (_, i) => `reading ${i + 1} (${unit})`),
    ...levels.map((l) => `level: ${l} (%)`),
  ];
  const data = readings.map((r) => [
    r.name,
    r.xCm,
    r.yCm,
    r.depthCm,
    ...Array.from({ length: most }, (_, i) => r.tries[i] ?? ''),
    ...levels.map((l) => (l in r.levels ? Math.round(r.levels[l]! * 10_000) / 100 : '')),
  ]);
  return `${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
