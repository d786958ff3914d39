import { dayResponse, ekUsedTo, INHIBITION, photosynthesis } from './response';

test('photosynthesis: a slope of 1/Ek in the dark, its greatest 1, less beyond', () => {
  for (const r of [0, INHIBITION, 0.02]) {
    expect(photosynthesis(1e-3, 100, r) / (1e-3 / 100)).toBeCloseTo(1, 3);
    let best = 0;
    for (let e = 0; e < 5000; e += 1) best = Math.max(best, photosynthesis(e, 100, r));
    expect(best).toBeCloseTo(1, r === 0 ? 6 : 4);
    expect(photosynthesis(0, 100, r)).toBe(0);
  }
  expect(photosynthesis(3000, 100)).toBeLessThan(photosynthesis(600, 100));
  // without harm at Ek: 1 − 1/e
  expect(photosynthesis(100, 100, 0)).toBeCloseTo(1 - 1 / Math.E, 9);
});

test('a day against one second after the other: ramps, plateaus and dark', () => {
  const stretches = [
    { minutes: 90, from: 0, to: 300 },
    { minutes: 240, from: 300, to: 300 },
    { minutes: 60, from: 300, to: 80 },
    { minutes: 120, from: 80, to: 0 },
    { minutes: 930, from: 0, to: 0 },
  ];
  const ek = 130;
  let [made, given, lit, above, excess] = [0, 0, 0, 0, 0];
  for (const { minutes, from, to } of stretches.slice(0, 4))
    for (let s = 0; s < minutes * 60; s += 1) {
      const e = from + ((to - from) * (s + 0.5)) / (minutes * 60);
      made += photosynthesis(e, ek);
      given += e;
      lit += 1;
      above += Number(e > ek);
      excess += Math.max(0, e - 1.5 * ek);
    }
  const found = dayResponse(stretches, ek);
  expect(found.yieldShare).toBeCloseTo(made / lit, 5);
  expect(found.feedShare).toBeCloseTo((made * ek) / given, 5);
  expect(found.hoursAbove).toBeCloseTo(above / 3600, 2);
  expect(found.excessMol).toBeCloseTo(excess / 1e6, 5);
  // the same light a day, brief and bright or long and dim: the long one feeds more of it, and wastes less
  const long = dayResponse([{ minutes: 600, from: 100, to: 100 }], ek);
  const brief = dayResponse([{ minutes: 150, from: 400, to: 400 }], ek);
  expect(long.feedShare).toBeGreaterThan(1.5 * brief.feedShare);
  expect([long.excessMol, brief.excessMol > 0]).toEqual([0, true]);
  expect(dayResponse([], ek)).toEqual({ yieldShare: 0, feedShare: 0, hoursAbove: 0, excessMol: 0 });
});

test('saturation follows what a tenant is used to, within what its kind has', () => {
  expect(ekUsedTo(90, [60, 120], 85, 85)).toBe(90);
  expect(ekUsedTo(90, [60, 120], 40, 85)).toBe(60);
  expect(ekUsedTo(90, [60, 120], 100, 85)).toBeCloseTo(90 * (100 / 85) ** 0.6, 9);
  expect(ekUsedTo(90, [60, 120], 900, 85)).toBe(120);
});
