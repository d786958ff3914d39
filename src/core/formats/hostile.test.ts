import fc from 'fast-check';

import { refusalOf } from '../fixtures/result';
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
