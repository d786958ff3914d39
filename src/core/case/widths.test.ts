import type { LogEvent } from '../record/log';
import { widening } from './widths';

const width = (id: string, atUtc: string, widthCm: number, spotId = 'a'): LogEvent => ({
  ...{ id, zoneId: 'z', note: '', kind: 'width', spotId },
  ...{ atUtc, widthCm },
});

test('a coral is as much wider as its first and newest measurements say, in whatever order they were written', () => {
  const events = [
    width('3', '2026-11-24T10:00:00.000Z', 22),
    width('1', '2026-08-01T10:00:00.000Z', 18),
    width('2', '2026-09-01T10:00:00.000Z', 30),
    width('4', '2026-12-24T10:00:00.000Z', 9, 'another'),
    { ...{ id: 'n', zoneId: 'z', note: 'cut', kind: 'note' as const }, atUtc: '2026-07-01T10:00:00.000Z' },
  ];
  const grew = widening({ events }, 'a')!;
  expect([grew.first.id, grew.newest.id, grew.days, grew.byCm]).toEqual(['1', '3', 115, 4]);
  // half a centimetre each, independent of one another
  expect(grew.bandCm).toBeCloseTo(0.707, 3);
  expect(events[0]!.id).toBe('3');
});

test('once measured is no growth, and not measured is nothing', () => {
  expect(widening({ events: [] }, 'a')).toBeNull();
  const once = widening({ events: [width('1', '2026-08-01T10:00:00.000Z', 18)] }, 'a');
  expect(once).toMatchObject({ days: 0, byCm: 0 });
});
