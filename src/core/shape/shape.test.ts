import * as v from 'valibot';

import { id, instant } from './shape';

test('an instant is one text, however it is spelt; what is of no calendar is refused', () => {
  const read = (text: string) => v.safeParse(instant, text);
  // as it is spelt here, on days that every month has and on those that not every month has
  for (const ms of [0, 951_782_399_999, 1_796_049_600_000, 1_798_761_599_001]) {
    const spelt = new Date(ms).toISOString();
    expect(read(spelt).output).toBe(spelt);
  }
  // the same instant in other words
  for (const other of ['2026-11-24T14:40:00Z', '2026-11-24T15:40:00.000+01:00', '2026-11-24T14:40:00.0Z'])
    expect(read(other).output).toBe('2026-11-24T14:40:00.000Z');
  for (const wrong of ['2026-11-24', '2026-13-01T00:00:00.000Z', '2026-11-32T00:00:00.000Z', 'now', ''])
    expect(read(wrong).success).toBe(false);
});

test('an id is no name that every object has', () => {
  for (const name of ['toString', '__proto__', 'constructor', 'hasOwnProperty'])
    expect(v.safeParse(id, name).success).toBe(false);
  for (const name of ['tostring', 'lamp 1', 'blue']) expect(v.safeParse(id, name).success).toBe(true);
});
