import fc from 'fast-check';

import { refusalOf } from '../fixtures/result';
import { plainNumber } from './cells';
import { parseDayCsv } from './dayCsv';
import { parseIes } from './ies';
import { parseReadingsCsv } from './readingsCsv';
import { parseSpdx } from './spdx';
import { parseSpectrumCsv } from './spectrumCsv';
import { LARGEST_SPECTRUM_TEXT, problemWords } from './table';

const fragments = fc.constantFrom(
  '400',
  '450.5',
  '-3',
  '1e5',
  'nm',
  ';',
  ',',
  '\t',
  '\n',
  '\r\n',
  ' ',
  '"',
  '#',
  '<',
  '>',
  '</',
  '<IESTM2714>',
  '<SpectralDistribution>',
  '<SpectralData wavelength="400">1</SpectralData>',
  '&amp;',
  '&x;',
  ']]>',
  '<!--',
  'ä',
  '\ufeff',
);
const soup = fc
  .array(fc.oneof(fragments, fc.string({ maxLength: 6 })), { maxLength: 40 })
  .map((a) => a.join(''));

test.each([
  ['CSV', parseSpectrumCsv],
  ['TM-27', parseSpdx],
] as const)('%s: any text is either read or refused with a remedy, never anything else', (_, parse) => {
  fc.assert(
    fc.property(soup, (text) => {
      const read = parse(text);
      if (read.ok) {
        const { points } = read.value;
        expect(points.length).toBeGreaterThanOrEqual(2);
        expect(points.every(([nm, v]) => nm >= 200 && nm <= 1200 && v >= 0)).toBe(true);
        expect(points.every(([nm], i) => i === 0 || nm > points[i - 1]![0])).toBe(true);
      } else {
        expect(read.error.remedy).not.toBe('');
        expect(problemWords(read.error).length).toBeLessThan(500);
      }
    }),
    { numRuns: 400 },
  );
});

test('huge files are refused before they are read', () => {
  const huge = 'x'.repeat(LARGEST_SPECTRUM_TEXT + 1);
  for (const parse of [parseSpectrumCsv, parseSpdx]) {
    const began = performance.now();
    expect(parse(huge).ok).toBe(false);
    expect(performance.now() - began).toBeLessThan(200);
  }
  const many = Array.from({ length: 3000 }, (_, i) => `${300 + i * 0.1},1`).join('\n');
  expect(refusalOf(parseSpectrumCsv(many)).problem).toMatch(/3000 points, more than 2000/);
});

test('deeply nested and entity-laden XML does no harm', () => {
  const deep = `${'<a>'.repeat(5000)}${'</a>'.repeat(5000)}`;
  expect(parseSpdx(deep).ok).toBe(false);
  expect(
    refusalOf(parseSpdx('<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><IESTM2714>&b;</IESTM2714>'))
      .problem,
  ).toMatch(/entities/);
});

test('no text takes longer to refuse than to read: long digits, blanks, headings', () => {
  const digits = '1'.repeat(60_000);
  const blanks = ' '.repeat(60_000);
  const texts: [name: string, read: () => { ok: boolean }][] = [
    ['blanks in a heading of a day', () => parseDayCsv(`time;blue${blanks}x\n08:00;1\n`)],
    ['blanks and a bracket', () => parseDayCsv(`time;blue (${blanks}\n08:00;1\n`)],
    [
      'headings of a day',
      () => parseDayCsv(`time;${Array.from({ length: 30_000 }, (_, i) => `c${i} (%)`).join(';')}\n08:00;1\n`),
    ],
    ['digits of a day', () => parseDayCsv(`time;blue\n08:00;${digits}x\n`)],
    ['digits of readings', () => parseReadingsCsv(`name,PAR\nA,${digits}x\n`)],
    ['digits in a heading of readings', () => parseReadingsCsv(`name,PAR${digits}x\nA,1\n`)],
    ['headings of readings', () => parseReadingsCsv(`name${',PAR'.repeat(30_000)}\nA,1\n`)],
    ['digits of a spectrum', () => parseSpectrumCsv(`400,${digits}\n500,1\n${digits}x,1\n`)],
    ['digits of photometry', () => parseIes(`IESNA:LM-63-2002\nTILT=NONE\n1 ${digits}x 1 1 1\n`)],
  ];
  for (const [name, read] of texts) {
    const began = performance.now();
    read();
    expect({ name, slow: performance.now() - began > 300 }).toEqual({ name, slow: false });
  }
  expect(Number.isNaN(plainNumber(digits))).toBe(true);
  expect(plainNumber('-1.5e3')).toBe(-1500);
});
