import fc from 'fast-check';

import { must, refusalOf } from '../fixtures/result';
import { photometryAt } from '../optics/optic';
import { parseIes } from './ies';
import { type FileProblem, problemWords } from './table';

const head = (version: string) => `${version}\n[TEST] bench 7\n[LUMINAIRE] Matt reflector\nTILT=NONE\n`;
const body = '1 1000 2 5 1 1 2 0.2 0.1 0\n1 1 50\n0 22.5 45 67.5 90\n0\n100 90 60 20 0\n';
const refused = (text: string): FileProblem => refusalOf(parseIes(text));

test.each(['IESNA:LM-63-1995', 'IESNA:LM-63-2002', 'IES:LM-63-2019', 'IESNA91'])('%s is read', (version) => {
  const optic = must(parseIes(head(version) + body));
  expect(optic.name).toBe('Matt reflector');
  expect(optic.verticalDeg).toEqual([0, 22.5, 45, 67.5, 90]);
  expect(optic.intensity).toEqual([[200, 180, 120, 40, 0]]);
  expect(photometryAt(optic, Math.cos((33.75 * Math.PI) / 180), 123)).toBeCloseTo(150, 9);
  expect(photometryAt(optic, -0.1, 0)).toBe(0);
});

test('numbers run over lines as they like; symmetry follows from the last horizontal angle', () => {
  const text = `${head('IESNA:LM-63-2002').replace('TILT=NONE', 'TILT=INCLUDE')}1\n2\n0 90\n1 1\n1 1000 1 3 3\n1 2 0.2 0.1 0 1 1 50\n0 45\n90 0 45 90\n10 8\n0\n20 12 0 40 30 0\n`;
  const optic = must(parseIes(text));
  expect(optic.intensity).toEqual([
    [10, 8, 0],
    [20, 12, 0],
    [40, 30, 0],
  ]);
  // between the angles of a file and up to its last, nothing beyond
  const cos = (deg: number) => Math.cos((deg * Math.PI) / 180);
  expect(photometryAt(optic, cos(22.5), 45)).toBeCloseTo(16, 9);
  expect(photometryAt(optic, 1, 22.5)).toBeCloseTo(15, 9);
  expect(photometryAt(optic, cos(80), 90)).toBeCloseTo((30 * 10) / 45, 9);
  expect(photometryAt(optic, cos(91), 90)).toBe(0);
  // a quarter stands for all four
  for (const deg of [45, 135, 225, 315, -45]) expect(photometryAt(optic, 1, deg)).toBe(20);
  expect(photometryAt(optic, 1, 180)).toBe(10);
  expect(photometryAt(optic, 1, 270)).toBe(40);
});

test.each([
  ['no header', 'nonsense', 1, /LM-63/],
  ['no text', 'a\u0000', 0, /no text/],
  ['a giant', 'x'.repeat(2_000_001), 0, /2000001 characters/],
  ['no tilt', 'IESNA:LM-63-2002\n[TEST] x\n', 3, /TILT/],
  ['tilt elsewhere', `IESNA:LM-63-2002\nTILT=other.tlt\n${body}`, 2, /another file/],
  ['free text', `IESNA:LM-63-2002\nhello\nTILT=NONE\n${body}`, 2, /keyword/],
  ['type B', (head('IESNA:LM-63-2002') + body).replace('5 1 1 2', '5 1 2 2'), 5, /type is B/],
  ['a word', (head('IESNA:LM-63-2002') + body).replace('90 60', '90 sixty'), 9, /sixty/],
  ['cut off', (head('IESNA:LM-63-2002') + body).replace(' 20 0\n', ''), 9, /ends before/],
  ['too much', `${head('IESNA:LM-63-2002')}${body}7\n`, 10, /more numbers/],
  ['falling angles', (head('IESNA:LM-63-2002') + body).replace('22.5 45', '45 22.5'), 7, /does not rise/],
  ['negative light', (head('IESNA:LM-63-2002') + body).replace('100 90', '100 -90'), 9, /below 0/],
  [
    'half a turn from 90',
    (head('IESNA:LM-63-2002') + body).replace('\n0\n100', '\n45\n100'),
    8,
    /run from 45/,
  ],
  [
    'all light up',
    (head('IESNA:LM-63-2002') + body).replace('0 22.5 45 67.5 90', '90 100 120 150 180'),
    7,
    /goes up/,
  ],
  ['no light', (head('IESNA:LM-63-2002') + body).replace('100 90 60 20 0', '0 0 0 0 0'), 0, /no light/],
  ['countless angles', (head('IESNA:LM-63-2002') + body).replace('2 5 1 1 2', '2 99999 1 1 2'), 5, /99999/],
])('refuses %s and names the line', (_, text, line, problem) => {
  const error = refused(text);
  expect(error.line).toBe(line);
  expect(problemWords(error)).toMatch(problem);
  expect(error.remedy).toMatch(/\w/);
});

test('whatever the text, it is read or refused with a line', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 300 }), fc.integer({ min: 0, max: 120 }), (noise, at) => {
      const whole = head('IESNA:LM-63-1995') + body;
      const read = parseIes(whole.slice(0, at) + noise + whole.slice(at));
      if (read.ok) expect(read.value.intensity.flat().every((x) => x >= 0)).toBe(true);
      else expect(read.error.problem).toMatch(/\w/);
    }),
  );
});
