import fc from 'fast-check';

import { mixSpectrum } from '../spectrum/lamp';
import { demoPanel } from '@/demo/panel';
import { cam16, SURROUNDS, ucsDistance } from './cam16';
import { adaptationDegree, coneGains, D65, toCones } from './adapt';
import { seeUnder } from './look';
import { xyzOf, type Xyz } from './xyz';

const daylight = cam16({ white: [95.05, 100, 108.88], adaptingLuminance: 60, surround: SURROUNDS.average });
const grey = (y: number): Xyz => [0.9505 * y, y, 1.0888 * y];

test('the white has J = 100, black 0, greys lie between in order with next to no chroma', () => {
  expect(daylight(grey(100)).J).toBeCloseTo(100, 6);
  expect(daylight([0, 0, 0]).J).toBeLessThan(1);
  let last = -1;
  for (const y of [1, 5, 20, 50, 80, 100]) {
    const { J, M } = daylight(grey(y));
    expect(J).toBeGreaterThan(last);
    expect(M).toBeLessThan(4);
    last = J;
  }
});

test('only the ratio to the white counts, not the scale of the numbers', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.01, max: 1000, noNaN: true }), (k) => {
      const look = cam16({
        white: [95.05 * k, 100 * k, 108.88 * k],
        adaptingLuminance: 60,
        surround: SURROUNDS.average,
      });
      const a = look([19 * k, 20 * k, 40 * k]);
      const b = daylight([19, 20, 40]);
      expect(a.J).toBeCloseTo(b.J, 6);
      expect(a.h).toBeCloseTo(b.h, 6);
    }),
  );
});

test('hues stand in their order: red, yellow, green, blue', () => {
  const hue = (xyz: Xyz) => daylight(xyz).h;
  const [red, yellow, green, blue] = [
    hue([41, 21, 2]),
    hue([77, 93, 14]),
    hue([36, 72, 12]),
    hue([18, 7, 95]),
  ];
  expect(red).toBeLessThan(yellow);
  expect(yellow).toBeLessThan(green);
  expect(green).toBeLessThan(blue);
  expect(blue).toBeLessThan(320);
});

test('brighter surroundings make more of the same colour; deeper adaptation takes the tint out of a blue white', () => {
  const at = (adaptingLuminance: number) =>
    cam16({ white: [95.05, 100, 108.88], adaptingLuminance, surround: SURROUNDS.average })([30, 20, 5]).M;
  expect(at(300)).toBeGreaterThan(at(3));
  const blue = xyzOf(mixSpectrum(demoPanel, { 'royal-blue': 0.4, 'cool-white': 0.8 }));
  const tint = (degree: number) => cam16({ white: blue, adaptingLuminance: 50, degree })(blue).M;
  expect(tint(1)).toBeLessThan(5);
  expect(tint(0.5)).toBeGreaterThan(tint(0.9));
  expect(tint(0)).toBeGreaterThan(tint(0.5));
});

test('distance is a distance', () => {
  const some = fc.tuple(
    fc.double({ min: 1, max: 95, noNaN: true }),
    fc.double({ min: 1, max: 100, noNaN: true }),
    fc.double({ min: 1, max: 108, noNaN: true }),
  );
  fc.assert(
    fc.property(some, some, some, (a, b, c) => {
      const [x, y, z] = [a, b, c].map((v) => daylight(v).ucs) as [never, never, never];
      expect(ucsDistance(x, y)).toBeCloseTo(ucsDistance(y, x), 9);
      expect(ucsDistance(x, z)).toBeLessThanOrEqual(ucsDistance(x, y) + ucsDistance(y, z) + 1e-9);
    }),
  );
});

test('the degree of adaptation grows with light and with the surround, and gains meet at the white', () => {
  expect(adaptationDegree(10)).toBeLessThan(adaptationDegree(5000));
  expect(adaptationDegree(1000, 1)).toBeGreaterThan(adaptationDegree(1000));
  expect(adaptationDegree(1e9)).toBeLessThanOrEqual(0.8);
  const white: Xyz = [1.2, 1, 4];
  const gains = coneGains(white, D65, 1);
  toCones(white).forEach((v, i) => expect(v * gains[i]!).toBeCloseTo(toCones(D65)[i]!, 9));
  expect(coneGains(white, D65, 0)).toEqual([1, 1, 1]);
});

test('a white card is as light under any lamp, however violet; brightness alone goes with dim', () => {
  const lightness = ([r, g, b]: readonly [number, number, number]) => {
    const l = [r, g, b].map((v) =>
      v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4,
    );
    return Math.cbrt(0.2126 * l[0]! + 0.7152 * l[1]! + 0.0722 * l[2]!);
  };
  const mixes: Record<string, number>[] = [
    { violet: 1 },
    { 'near-uv': 1 },
    { 'royal-blue': 1 },
    { 'cool-white': 1 },
    { 'deep-red': 1 },
  ];
  for (const mix of mixes) {
    const light = mixSpectrum(demoPanel, mix);
    const seen = seeUnder(light)!;
    const card = seen.colour(light);
    // never burnt out to the screen's white
    expect(Math.min(...card)).toBeLessThan(252);
    expect(lightness(seen.colour(light, 0.4))).toBeLessThan(lightness(card));
    expect(seen.colourOf(seen.white)).toEqual(card);
  }
  expect(seeUnder(new Float64Array(421))).toBeNull();
});
