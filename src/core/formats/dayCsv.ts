import Papa from 'papaparse';

import { formatTime, parseTypedTime } from '../day/clock';
import { good } from '../shape/result';
import { headingOf, plainNumber } from './cells';
import { type Read, unread } from './table';

/** A day as a table: a line per point, percents as they are typed into the lamp. */
export interface ReadDay {
  /** headings of the colours, in the file's order */
  controls: string[];
  points: { minute: number; strengthShare: number; mix: Record<string, number> }[];
  /** the cap, where the file says it */
  capShare: number | null;
}

const LARGEST_TEXT = 500_000;
const MOST_POINTS = 1000;
const MOST_CONTROLS = 40;
const RESERVED = ['__proto__', 'prototype', 'constructor'];

/** A percent with a decimal point or comma, or on/off; NaN when it is neither. */
function shareOf(text: string): number {
  const t = text.trim().toLowerCase().replace(/%$/, '').trim().replace(',', '.');
  if (t === 'on') return 1;
  if (t === 'off' || t === '') return 0;
  const value = plainNumber(t);
  return value >= 0 ? value / 100 : NaN;
}

/**
 * Reads a day: a heading line with "time", optionally "strength", and a column per colour; then a line per point. Values are percents
 * or on/off. A column "cap", or a line "cap; 80" before the heading, says the cap. Comma, semicolon or tab part the columns; # begins a comment.
 */
export function parseDayCsv(text: string): Read<ReadDay> {
  if (text.length > LARGEST_TEXT)
    return unread(0, `the file has ${text.length} characters`, 'Choose a day of at most 500 kB.');
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n?|\n/);
  const kept = lines
    .map((line, i) => ({ line, number: i + 1 }))
    .filter(({ line }) => line.trim() !== '' && !line.trim().startsWith('#'));
  if (kept.length === 0)
    return unread(0, 'there is nothing in it', 'Give a heading with "time" and a line per point.');
  const headingAt = kept.findIndex(({ line }) => /(^|[,;\t])\s*"?time"?\s*([,;\t]|$)/i.test(line));
  if (headingAt < 0)
    return unread(
      kept[0]!.number,
      'no column is headed "time"',
      'Begin with a heading such as: time,Violet,Blue,White.',
    );
  const heading = kept[headingAt]!;
  const delimiter = [';', '\t', ','].find((d) => heading.line.includes(d)) ?? ',';
  const cells = (line: string): string[] =>
    (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []).map((c) => c.trim());
  const names = cells(heading.line).map(headingOf);
  if (names.length > MOST_CONTROLS + 3)
    return unread(
      heading.number,
      `there are ${names.length} columns`,
      `Give at most ${MOST_CONTROLS} colours.`,
    );
  const timeAt = names.findIndex((n) => n.toLowerCase() === 'time');
  const isStrength = (n: string) => /^strength(\s*[([]?\s*%\s*[)\]]?)?$/i.test(n);
  const strengthAt = names.findIndex(isStrength);
  const capAt = names.findIndex((n) => /^cap(\s*[([]?\s*%\s*[)\]]?)?$/i.test(n));
  const controls = names
    // a heading that a spreadsheet was kept from taking for a formula begins with an apostrophe
    .map((n, at) => ({ name: n.replace(/\s*[([]?\s*%\s*[)\]]?\s*$/, '').replace(/^'(?=[=+\-@])/, ''), at }))
    .filter(({ at }) => at !== timeAt && at !== strengthAt && at !== capAt);
  if (controls.length === 0)
    return unread(heading.number, 'there is no colour', 'Give a column per colour after the time.');
  if (controls.length > MOST_CONTROLS)
    return unread(heading.number, `there are ${controls.length} colours`, `Give at most ${MOST_CONTROLS}.`);
  for (const { name, at } of controls) {
    if (name === '' || RESERVED.includes(name))
      return unread(heading.number, `column ${at + 1} has no usable heading`, 'Give each colour its name.');
    if (controls.some((c) => c.at !== at && c.name === name))
      return unread(heading.number, `"${name}" heads two columns`, 'Give every colour once.');
  }
  let capShare: number | null = null;
  for (const { line, number } of kept.slice(0, headingAt)) {
    const [word, value] = cells(line);
    if (word?.toLowerCase() !== 'cap') continue;
    capShare = shareOf(value ?? '');
    if (!(capShare >= 0 && capShare <= 1))
      return unread(number, `"${value ?? ''}" is no cap`, 'Give the cap as 0 to 100 %.');
  }
  const seen = new Map<number, number>();
  const points: ReadDay['points'] = [];
  const percents = [
    { at: capAt, what: 'cap' },
    { at: strengthAt, what: 'strength' },
    ...controls.map(({ name, at }) => ({ at, what: name })),
  ].filter(({ at }) => at >= 0);
  for (const { line, number } of kept.slice(headingAt + 1)) {
    const row = cells(line);
    const minute = parseTypedTime(row[timeAt] ?? '');
    if (minute === null)
      return unread(number, `"${row[timeAt] ?? ''}" is no time of day`, 'Give a time such as 14:30.');
    if (seen.has(minute))
      return unread(
        number,
        `${formatTime(minute)} stands already in line ${seen.get(minute)}`,
        'Give every time once.',
      );
    seen.set(minute, number);
    const share = (at: number) => shareOf(row[at] ?? '');
    const wrong = percents.find(({ at }) => !(share(at) >= 0 && share(at) <= 1));
    if (wrong)
      return unread(
        number,
        `"${row[wrong.at] ?? ''}" under ${wrong.what} is no percent`,
        'Give 0 to 100, or on and off.',
      );
    if (capAt >= 0) {
      const cap = share(capAt);
      if (capShare !== null && cap !== capShare)
        return unread(number, `its cap is not that of the lines before`, 'Give one cap for the whole day.');
      capShare = cap;
    }
    points.push({
      minute,
      strengthShare: strengthAt < 0 ? 1 : share(strengthAt),
      mix: Object.fromEntries(controls.map(({ name, at }) => [name, share(at)])),
    });
  }
  if (points.length === 0)
    return unread(heading.number, 'no point follows the heading', 'Give a line per point.');
  if (points.length > MOST_POINTS)
    return unread(0, `there are ${points.length} points`, `Give at most ${MOST_POINTS}.`);
  points.sort((a, b) => a.minute - b.minute);
  return good({ controls: controls.map((c) => c.name), points, capShare });
}
