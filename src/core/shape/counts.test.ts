import { aboutHours, formatHours } from '../day/clock';
import { allOf, capital, counted, inWords, plural, several } from './counts';

test('counts stand as figures or as words, with their plurals', () => {
  expect([0, 1, 12, 13].map(inWords)).toEqual(['no', 'one', 'twelve', '13']);
  expect([0, 1, 2].map((n) => plural(n, 'coral'))).toEqual(['0 corals', '1 coral', '2 corals']);
  expect([1, 2, 30].map((n) => counted(n, 'alga', 'algae'))).toEqual(['one alga', 'two algae', '30 algae']);
  expect(capital(counted(2, 'head takes', 'heads take'))).toBe('Two heads take');
  expect(capital('')).toBe('');
});

test('hours are hours and minutes, never tenths', () => {
  expect([0, 0.25, 0.999, 1, 11.5, 23.9999, 24].map(formatHours)).toEqual([
    ...['0 h', '15 min', '1 h', '1 h', '11 h 30 min', '24 h', '24 h'],
  ]);
  expect([10.87, 6.3, 0.1].map(aboutHours)).toEqual(['11 h', '6 h 30 min', '0 h']);
});

test('names in a sentence: all of a few, the first of many', () => {
  expect([[], ['A'], ['A', 'B'], ['A', 'B', 'C']].map((n) => several(n))).toEqual([
    '',
    'A',
    'A and B',
    'A, B and C',
  ]);
  expect(several(['A', 'B', 'C', 'D', 'E'])).toBe('A, B, C and 2 more');
  expect(several(['A', 'B', 'C', 'D', 'E'], Infinity)).toBe('A, B, C, D and E');
});

test('two are both, more are all of so many', () => {
  expect([2, 3, 13].map(allOf)).toEqual(['both', 'all three', 'all 13']);
});
