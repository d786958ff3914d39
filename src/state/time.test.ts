import { sayIn, METRIC } from '@/core/shape/units';

import { longDate, paperDate, shortDate, timeOfDay } from './time';

beforeEach(() => {
  jest.useFakeTimers({ now: Date.parse('2026-11-24T12:00:00Z') });
});
afterEach(() => {
  jest.useRealTimers();
  sayIn(METRIC);
});
const at = (iso: string) => Date.parse(iso);

test('dates of other years are said with their year, those around New Year without', () => {
  expect(shortDate('2026-11-18')).toBe('Wed 18 Nov');
  expect(shortDate('2027-01-02')).toBe('Sat 2 Jan');
  expect(shortDate('2026-03-02')).toBe('Mon 2 Mar');
  // the same day of the year, another year
  expect(shortDate('2025-11-18')).toBe('Tue 18 Nov 2025');
  expect(shortDate('2027-11-18')).toBe('Thu 18 Nov 2027');
  expect(longDate(at('2026-11-24T15:40:00Z'), 'Europe/Berlin')).toBe('Tuesday 24 November, 16:40');
  expect(longDate(at('2016-06-01T22:30:00Z'), 'Europe/Berlin')).toBe('Thursday 2 June 2016, 00:30');
  expect(paperDate(at('2026-11-24T15:40:00Z'), 'UTC')).toBe('24 November 2026');
});

test('a time of day is that of its water, by the clock that is read', () => {
  expect(timeOfDay(at('2026-11-24T15:40:59Z'), 'Europe/Berlin')).toBe('16:40');
  sayIn({ ...METRIC, clock: '12 h' });
  expect(timeOfDay(at('2026-11-24T15:40:59Z'), 'Europe/Berlin')).toBe('4:40 pm');
  expect(longDate(at('2026-11-24T23:05:00Z'), 'UTC')).toBe('Tuesday 24 November, 11:05 pm');
});
