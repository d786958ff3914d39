import { demoPanel } from '@/demo/panel';

import { lampRows } from '../optics/rig';
import { par } from './bands';
import { onCurve } from './drive';
import { droopCurve, moved, stateShare } from './lampState';

const hanging = { xCm: 30, yCm: 30, heightCm: 24, turnDeg: 0 };
const channel = (id: string) => demoPanel.channels.findIndex((c) => c.id === id);
const light = (id: string, state: object) =>
  lampRows(demoPanel, { ...hanging, ...state })[channel(id)]!.spectra[0]!;
const peakOf = (s: ArrayLike<number>) => Array.from(s).indexOf(Math.max(...Array.from(s)));

test('a drooping emitter gives more than half its light at half its drive, all of it at full, and always more for more', () => {
  const curve = droopCurve();
  expect(onCurve(curve, 0.5)).toBeCloseTo((0.5 * (1 - 0.05)) / 0.9, 3);
  expect([onCurve(curve, 0), onCurve(curve, 1)]).toEqual([0, 1]);
  for (let level = 0.05; level <= 1; level += 0.05) {
    expect(onCurve(curve, level)).toBeGreaterThan(onCurve(curve, level - 0.05));
    expect(onCurve(curve, level)).toBeGreaterThanOrEqual(level - 1e-9);
    // twelve in a hundred at most: what is published of typical ones
    expect(onCurve(droopCurve(0.15), level) / level).toBeLessThan(1 + 0.15 / 0.85 + 1e-3);
  }
  expect(droopCurve(0)).toEqual([
    [0.25, 0.25],
    [0.5, 0.5],
    [0.75, 0.75],
  ]);
});

test('hours dim a lamp evenly, warmth takes red before blue and moves peaks up', () => {
  expect(stateShare(450, { hoursRun: 45_000 })).toBeCloseTo(0.7, 9);
  expect(stateShare(660, { hoursRun: 90_000 })).toBeCloseTo(0.49, 9);
  expect(stateShare(450, { warmerC: 20 })).toBeCloseTo(0.97, 9);
  expect(stateShare(660, { warmerC: 20 })).toBeCloseTo(0.9, 9);
  expect(stateShare(660, {})).toBe(1);
  const [red, blue] = ['deep-red', 'royal-blue'];
  const lost = (id: string, state: object) => par(light(id, state)) / par(light(id, {}));
  expect(lost(blue!, { hoursRun: 20_000 })).toBeCloseTo(0.7 ** (20 / 45), 6);
  expect(lost(red!, { warmerC: 25 })).toBeLessThan(lost(blue!, { warmerC: 25 }));
  expect(peakOf(light(blue!, { warmerC: 50 })) - peakOf(light(blue!, {}))).toBe(2);
  expect(light(blue!, { hoursRun: 0, warmerC: 0 })).toEqual(light(blue!, {}));
  const table = { shape: 'table', points: [], quantity: 'photons', flux: 1 } as never;
  expect(moved(table, { warmerC: 30 })).toBe(table);
});
