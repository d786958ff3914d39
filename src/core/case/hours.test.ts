import fc from 'fast-check';

import { type Day, litHours, litPieces } from '../day/day';
import { blockDay, oppositeHours, overlap, sharedHours, sharedMinutes } from './hours';

/** A switched day: on and off at minutes of the ring. */
const switched = (on: number, off: number): Day => ({
  knots: [
    { minute: on, levels: [1] },
    { minute: off, levels: [0] },
  ].sort((a, b) => a.minute - b.minute),
  capShare: 1,
  easingShare: 1,
  interpolation: 'hold',
});
const ramp: Day = {
  knots: [
    { minute: 480, levels: [0] },
    { minute: 780, levels: [1] },
    { minute: 1200, levels: [0] },
  ],
  capShare: 1,
  easingShare: 1,
  interpolation: 'ramp',
};

describe('hours of two waters', () => {
  test('a day over midnight is two pieces; a ramp is lit from its first to its last light', () => {
    expect(litPieces([switched(1260, 540)])).toEqual([
      { from: 0, to: 540 },
      { from: 1260, to: 1440 },
    ]);
    expect(litPieces([ramp])).toEqual([{ from: 480, to: 1200 }]);
    expect(litPieces([])).toEqual([]);
    expect(litPieces([switched(600, 900), ramp])).toEqual([{ from: 480, to: 1200 }]);
  });

  test('overlap across midnight: 21:00-09:00 against 08:00-20:00 shares one hour and leaves one dark', () => {
    const o = overlap(litPieces([switched(1260, 540)]), litPieces([ramp]));
    expect(o).toEqual({ both: 60, onlyA: 660, onlyB: 660, dark: 60 });
  });

  test('the four parts of two days always make 24 hours, and the overlap is what minute by minute counts', () => {
    const minute = fc.integer({ min: 0, max: 1439 });
    fc.assert(
      fc.property(minute, minute, minute, minute, (a, b, c, d) => {
        fc.pre(a !== b && c !== d);
        const [x, y] = [litPieces([switched(a, b)]), litPieces([switched(c, d)])];
        const o = overlap(x, y);
        expect(o.both + o.onlyA + o.onlyB + o.dark).toBeCloseTo(1440, 6);
        const lit = (on: number, off: number, m: number) =>
          on < off ? m >= on && m < off : m >= on || m < off;
        let both = 0;
        for (let m = 0; m < 1440; m += 1) if (lit(a, b, m) && lit(c, d, m)) both += 1;
        expect(o.both).toBe(both);
        expect(sharedMinutes(y, x)).toBe(both);
        expect(litHours(switched(a, b), switched(c, d)) * 60).toBeCloseTo(1440 - o.dark, 6);
      }),
    );
  });

  test('opposite hours fall into the dark, on the steps of the timer', () => {
    const day = litPieces([ramp]);
    expect(oppositeHours([ramp], 12, 30)).toEqual({ onMinute: 1200, offMinute: 480 });
    const { onMinute, offMinute } = oppositeHours([ramp], 9, 30);
    expect(onMinute % 30).toBe(0);
    expect(overlap(litPieces([switched(onMinute, offMinute)]), day).both).toBe(0);
    // longer than the dark is long: the rest is shared evenly at both ends
    const long = oppositeHours([ramp], 14, 30);
    expect(overlap(litPieces([switched(long.onMinute, long.offMinute)]), day).both).toBe(120);
    expect(oppositeHours([ramp], 24, 30).onMinute).toBe(oppositeHours([ramp], 24, 30).offMinute);
    // of two dark stretches the longer: 09:00-21:00, not 23:00-01:00
    expect(oppositeHours([switched(60, 540), switched(1260, 1380)], 6, 30)).toEqual({
      onMinute: 720,
      offMinute: 1080,
    });
    // always dark or never: the afternoon, when a lamp is at least seen to work
    const never = oppositeHours([], 8, 30);
    expect(never).toEqual({ onMinute: 690, offMinute: 1170 });
    const always: Day = { ...ramp, knots: [{ minute: 0, levels: [1] }] };
    expect(oppositeHours([always], 8, 30)).toEqual(never);
  });

  test('a water that is looked at is lit with the others, about their middle, else in the afternoon', () => {
    // 08:00-20:00 has its middle at 14:00
    expect(sharedHours([ramp], 10, 30)).toEqual({ onMinute: 540, offMinute: 1140 });
    expect(sharedHours([], 9, 30)).toEqual({ onMinute: 660, offMinute: 1200 });
    // a night over midnight has its middle there
    expect(sharedHours([switched(1260, 540)], 6, 1)).toEqual({ onMinute: 0, offMinute: 360 });
  });

  test('plain hours as threads: switched, ramped, too short to hold, always on', () => {
    const hold = { interpolation: 'hold' as const, everyMin: 30 };
    const slow = { interpolation: 'ramp' as const, everyMin: 1 };
    expect(blockDay(hold, 1230, 510)).toEqual([
      { minute: 1230, strengthShare: 1 },
      { minute: 510, strengthShare: 0 },
    ]);
    expect(blockDay(slow, 1420, 400)).toEqual([
      { minute: 1420, strengthShare: 0 },
      { minute: 0, strengthShare: 1 },
      { minute: 380, strengthShare: 1 },
      { minute: 400, strengthShare: 0 },
    ]);
    expect(blockDay(slow, 600, 640).map((t) => t.minute)).toEqual([600, 620, 640]);
    expect(blockDay(hold, 600, 600)).toEqual([{ minute: 600, strengthShare: 1 }]);
    // coarse timers ramp in their own steps
    expect(blockDay({ interpolation: 'ramp', everyMin: 60 }, 0, 600)[1]).toEqual({
      minute: 60,
      strengthShare: 1,
    });
  });
});
