import fc from 'fast-check';

import { must, refusalOf } from '../fixtures/result';
import { parseSpdx, spdx } from './spdx';
import { parseSpectrumCsv, spectrumCsv } from './spectrumCsv';
import { problemWords } from './table';

test('a problem says its line where it has one, and what to do', () => {
  expect(problemWords({ line: 3, problem: 'it is torn', remedy: 'Mend it.' })).toBe(
    'line 3: it is torn. Mend it.',
  );
  expect(problemWords({ line: 0, problem: 'it is torn', remedy: 'Mend it.' })).toBe('it is torn. Mend it.');
});

const GOOD: [number, number][] = [
  [400, 0.1],
  [450, 1.5],
  [500, 0.2],
];

test.each([
  ['comma', '400,0.1\n450,1.5\n500,0.2'],
  ['semicolon, decimal comma', 'nm;W\n400;0,1\n450;1,5\n500;0,2\n'],
  ['tab, decimal comma, CRLF', '400\t0,1\r\n450\t1,5\r\n500\t0,2'],
  ['spaces', '400 0.1\n450   1.5\n500 0.2'],
  ['headings, comments, byte order mark', '\ufeff# lamp\nwavelength,power\n400,0.1\n\n450,1.5\n500,2e-1'],
  ['unordered, more columns', '500,0.2,9.5\n400,0.1,9.5\n450,1.5,9.5'],
])('a spectrum as CSV: %s', (_, text) => {
  expect(must(parseSpectrumCsv(text))).toEqual({ shape: 'table', quantity: 'energy', points: GOOD });
});

test('wavelengths may carry their unit', () => {
  const read = parseSpectrumCsv('wavelength,value\n380nm,0.1\n390 nm,0.4\n"400nm",0.2');
  expect(read.ok && read.value.points).toEqual([
    [380, 0.1],
    [390, 0.4],
    [400, 0.2],
  ]);
});

test('a heading that speaks of photons makes a photon spectrum', () => {
  expect(must(parseSpectrumCsv('nm;µmol\n400;1\n500;2')).quantity).toBe('photon');
});

test.each([
  ['', 0, /empty/],
  ['400,0.1', 0, /fewer than two/],
  ['400,0\n450,0\n500,0', 0, /every value is 0/],
  ['400,0.1\nabc,1', 2, /"abc" is no wavelength/],
  ['400,0.1\n450,x', 2, /"x" is no number/],
  ['400,0.1\n450', 2, /value is missing/],
  ['400,0.1\n400,0.2\n500,1', 2, /stands already in line 1/],
  ['0.4,0.1\n0.5,0.2', 1, /no wavelength between/],
  ['400,5\n450,-3\n500,1', 2, /below 0/],
  ['380,0,5\n390,1,5', 1, /commas both part/],
  ['800,1\n900,2', 0, /between 360 and 780/],
  ['PK\u0000\u0003', 0, /no text file/],
])('bad CSV is refused with its line and a remedy (%#)', (text, line, message) => {
  const p = refusalOf(parseSpectrumCsv(text));
  expect([p.line, problemWords(p)]).toEqual([line, expect.stringMatching(message)]);
  expect(p.remedy.length).toBeGreaterThan(8);
});

const data = (rows: string) => `<?xml version="1.0"?>
<IESTM2714 xmlns="http://www.ies.org/iestm2714" version="1.0">
<Header><Description>bench &amp; lamp</Description></Header>
<SpectralDistribution><SpectralQuantity>flux</SpectralQuantity>
${rows}
</SpectralDistribution></IESTM2714>`;

test('TM-27: points, quantity and description', () => {
  const text = data(GOOD.map(([nm, v]) => `<SpectralData wavelength="${nm}">${v}</SpectralData>`).join('\n'));
  expect(must(parseSpdx(text))).toEqual({
    shape: 'table',
    points: GOOD,
    quantity: 'energy',
    description: 'bench & lamp',
  });
  const prefixed = text
    .replaceAll('<', '<i:')
    .replaceAll('<i:/', '</i:')
    .replace('<i:?xml version="1.0"?>', '')
    .replace('xmlns=', 'xmlns:i=');
  expect(must(parseSpdx(prefixed)).points).toEqual(GOOD);
});

test.each([
  ['no xml at all', 0, /XML|not/],
  ['<a><b></a>', 1, /well-formed/],
  ['<svg/>', 1, /"svg", not IESTM2714/],
  ['<IESTM2714/>', 1, /SpectralDistribution is missing/],
  [data('').replace('flux', 'reflectance'), 4, /"reflectance", which is no light/],
  [data('<SpectralData>1</SpectralData>'), 5, /no wavelength/],
  [data('<SpectralData wavelength="x">1</SpectralData>'), 5, /"x" is no number/],
  [data('\n<SpectralData wavelength="400">much</SpectralData>'), 6, /400 nm is no number/],
  ['<!DOCTYPE a [<!ENTITY b "c">]><IESTM2714/>', 0, /entities/],
  [data('<SpectralData wavelength="400">1</SpectralData>'), 0, /fewer than two/],
])('bad TM-27 is refused with its line (%#)', (text, line, message) => {
  const p = refusalOf(parseSpdx(text));
  expect(problemWords(p)).toMatch(message);
  if (line > 0) expect(p.line).toBe(line);
});

const arbitraryPoints = fc
  .uniqueArray(fc.integer({ min: 380, max: 760 }), { minLength: 2, maxLength: 40 })
  .chain((nms) =>
    fc.tuple(
      ...nms
        .sort((a, b) => a - b)
        .map((nm) => fc.double({ min: 1e-9, max: 1e6, noNaN: true }).map((v): [number, number] => [nm, v])),
    ),
  );

test('both formats come back exactly as they went', () => {
  fc.assert(
    fc.property(
      arbitraryPoints,
      fc.constantFrom('energy' as const, 'photon' as const),
      (points, quantity) => {
        expect(must(parseSpectrumCsv(spectrumCsv(points, quantity)))).toMatchObject({ points, quantity });
        expect(must(parseSpdx(spdx(points, 'a <b> & "c"', '2026-01-31')))).toMatchObject({
          points,
          description: 'a <b> & "c"',
        });
      },
    ),
    { numRuns: 40 },
  );
});
