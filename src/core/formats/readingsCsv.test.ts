import fc from 'fast-check';

import { must, refusalOf } from '../fixtures/result';
import { parseReadingsCsv, readingsCsv, readReadingsCsv } from './readingsCsv';
import { problemWords } from './table';

test('decimal commas, units and headings in any order are understood', () => {
  const read = must(
    parseReadingsCsv(
      '\ufeff# evening\r\nPAR (µmol);Depth (in);Spot;X (mm);from front;note\r\n212,5;10;Copper table;400;32;calm\r\n\r\n98;4;Moss;10;1,5;\r\n',
    ),
  );
  expect(read.unit).toBe('µmol');
  expect(read.readings[0]).toMatchObject({
    name: 'Copper table',
    xCm: 40,
    yCm: 32,
    depthCm: 25.4,
    tries: [212.5],
    line: 3,
  });
  expect(read.readings[1]).toMatchObject({ xCm: 1, yCm: 1.5, tries: [98] });
});

test('several columns are several tries; lux is told; levels are read as percents', () => {
  const read = must(
    parseReadingsCsv(
      'spot,lux 1,lux 2,lux 3,level: Panels / Royal blue (%)\nA,900,910,,80\nB,1200,,1180,100\n',
    ),
  );
  expect(read.unit).toBe('lux');
  expect(read.readings.map((r) => r.tries)).toEqual([
    [900, 910],
    [1200, 1180],
  ]);
  expect(read.readings[0]!.levels).toEqual({ 'Panels / Royal blue': 0.8 });
  expect(read.readings[0]!.xCm).toBeNull();
});

test('a heading that says no unit leaves it to be asked; one that does speaks for all', () => {
  expect(must(parseReadingsCsv('spot;reading\nA;212\n')).unit).toBeNull();
  expect(must(parseReadingsCsv('spot;reading 1 (lux);reading 2\nA;212;213\n')).unit).toBe('lux');
});

test('every bad line is named with what to do; good ones are kept beside', () => {
  const { readings, problems } = must(
    readReadingsCsv(
      'spot;x;y;depth;PAR\nA;1;2;3;100\nB;1;2;3;much\nC;1;2;3;-4\nD;1;;3;50\nE;1;2;3;\nF;1;2;3;4;5\nG;1;2;3;1e9\nH;4;5;6;70\n',
    ),
  );
  expect(readings.map((r) => r.name)).toEqual(['A', 'H']);
  expect(problems.map((p) => p.line)).toEqual([3, 4, 5, 6, 7, 8]);
  problems.forEach((p) => expect(p.remedy).toMatch(/\w/));
});

test.each([
  ['', 0, /empty/],
  ['spot;x\nA;1\n', 1, /no heading names a reading/],
  ['PAR;lux\n1;2\n', 1, /some readings are in lux/],
  ['# a\nPAR;PAR\n1;2\n', 2, /stands twice/],
  ['\nx (miles);PAR\n1;2\n', 2, /unit/],
  ['PAR\n', 0, /no reading below/],
  ['a\u0000b', 0, /no text/],
  ['spot,PAR\nA,1,5\n', 2, /decimal comma|columns/],
  [`PAR\n${'7\n'.repeat(1001)}`, 1002, /more than 1000/],
  ['x'.repeat(2_000_001), 0, /2000001 characters/],
])('refuses %# with its line', (text, line, problem) => {
  const refused = refusalOf(parseReadingsCsv(text));
  expect(refused.line).toBe(line);
  expect(problemWords(refused)).toMatch(problem);
});

test('what is written is read back', () => {
  const number = fc.integer({ min: 0, max: 20_000 }).map((v) => v / 10);
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          name: fc.stringMatching(/^[A-Za-z][A-Za-z0-9 ;,"-]{0,20}[a-z]$/),
          xCm: number,
          yCm: number,
          depthCm: number,
          tries: fc.array(number, { minLength: 1, maxLength: 4 }),
          levels: fc.constantFrom<Record<string, number>>({}, { 'Panels / Blue': 0.35, 'Panels / Red': 1 }),
        }),
        { minLength: 1, maxLength: 8 },
      ),
      (readings) => {
        const back = must(parseReadingsCsv(readingsCsv('µmol', readings)));
        expect(back.readings.map(({ line, levels, ...r }) => ({ ...r, levels: levels ?? {} }))).toEqual(
          readings,
        );
      },
    ),
  );
  // a name that a table program would run is written as text
  const [first] = readingsCsv('lux', [
    { name: '=HYPERLINK()', xCm: 1, yCm: 1, depthCm: 1, tries: [1], levels: {} },
  ])
    .split('\r\n')[1]!
    .split(',');
  expect(first).toContain("'=");
});
