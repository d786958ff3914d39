import fc from 'fast-check';

import { normal, seeded } from '../spectrum/random';
import { channelGains } from './channelGains';
import { fit } from './fit';
import { dot, inverse, times } from './linear';

const light = [
  [100, 0],
  [0, 80],
  [60, 50],
  [20, 90],
  [150, 10],
];
const readings = (gains: readonly number[]) => light.map((row) => dot(row, gains));

test('an inverse undoes its matrix', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 9, maxLength: 9 }),
      fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 3, maxLength: 3 }),
      (entries, x) => {
        const rows = [0, 1, 2].map((i) => entries.slice(3 * i, 3 * i + 3));
        // A Aᵀ + 1 is symmetric and positive
        const m = rows.map((a, i) => rows.map((b, j) => dot(a, b) + (i === j ? 1 : 0)));
        times(inverse(m), times(m, x)).forEach((v, i) => expect(v).toBeCloseTo(x[i]!, 6));
      },
    ),
  );
  expect(() =>
    inverse([
      [1, 1],
      [1, 1],
    ]),
  ).toThrow('no inverse');
});

test('gains are found; the prior pulls a little, and less the more is read', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.7, max: 1.3, noNaN: true }),
      fc.double({ min: 0.7, max: 1.3, noNaN: true }),
      (a, b) => {
        const found = channelGains(readings([a, b]), light);
        expect(Math.abs(found.gain[0]! - a)).toBeLessThan(0.02);
        expect(Math.abs(found.gain[1]! - b)).toBeLessThan(0.02);
        expect(found.fit.suspects).toEqual([]);
        found.standardError.forEach((se) => expect(se).toBeLessThan(0.06));
      },
    ),
  );
});

test('standard errors say what scatter the noise really makes', () => {
  const wanted = [1.1, 0.9];
  const off: number[] = [];
  let said = 0;
  for (let seed = 1; seed <= 200; seed += 1) {
    const random = seeded(seed);
    const noisy = readings(wanted).map((v) => v + (0.05 * v + 1) * normal(random));
    const found = channelGains(noisy, light);
    off.push((found.gain[0]! - wanted[0]!) / found.standardError[0]!);
    said += found.standardError[0]! / 200;
  }
  const rms = Math.sqrt(off.reduce((s, v) => s + v * v, 0) / off.length);
  expect(rms).toBeGreaterThan(0.85);
  expect(rms).toBeLessThan(1.25);
  expect(said).toBeLessThan(0.05);
});

test('one bad reading is named and left out; the rest is fitted as if it were not there', () => {
  const clean = channelGains(readings([1.2, 0.8]), light);
  const spoilt = readings([1.2, 0.8]);
  spoilt[2] = spoilt[2]! * 3;
  const found = channelGains(spoilt, light);
  expect(found.fit.suspects).toEqual([2]);
  expect(found.fit.dropped).toEqual([2]);
  expect(found.gain[0]).toBeCloseTo(clean.gain[0]!, 1);
});

test('few readings never pretend: one overall gain, and channels not read alone stay doubtful', () => {
  const one = channelGains([130], [[100, 50]]);
  expect(one.gain[0]).toBe(one.gain[1]);
  one.standardError.forEach((se) => expect(se).toBeGreaterThanOrEqual(0.1));
  const alone = channelGains(
    [150, 155],
    [
      [150, 0],
      [150, 0],
    ],
  );
  expect(alone.standardError[0]).toBeLessThan(0.05);
  expect(alone.standardError[1]).toBe(0.1);
  // two that disagree cannot say who is wrong: none is left out
  const torn = channelGains(
    [100, 400],
    [
      [100, 0],
      [100, 0],
    ],
  );
  expect(torn.fit.dropped).toEqual([]);
  // a dark reading moves nothing
  const dark = channelGains(
    [0, 0, 0],
    [
      [0, 0],
      [0, 0],
      [0, 0],
    ],
  );
  expect(dark.gain).toEqual([1, 1]);
  expect(dark.standardError[0]).toBeCloseTo(0.25, 6);
});

test('bounds hold, and a nonlinear model is followed to its parameter', () => {
  const x = [0.1, 0.3, 0.6, 1];
  const model = (p: readonly number[]) => ({
    value: x.map((v) => 200 * Math.exp(-p[0]! * v)),
    slope: x.map((v) => [-200 * v * Math.exp(-p[0]! * v)]),
  });
  const input = {
    observed: model([0.8]).value,
    predict: model,
    prior: { mean: [0.2], covariance: [[1]] },
    bounds: [[0, 3]] as const,
  };
  expect(fit(input).parameters[0]).toBeCloseTo(0.8, 2);
  expect(fit({ ...input, bounds: [[0, 0.5]] }).parameters[0]).toBe(0.5);
});
