import { normal, seeded } from '../spectrum/random';
import { deltaE, movedBy, type PatchColour, patchColour } from './patch';
import { type Mean, outlineMean, roundMean } from './pixels';

const lab = (l: number, a: number, b: number): PatchColour => ({ l, a, b });

test.each([
  // Sharma, Wu & Dalal 2005, table 1
  [lab(50, 2.6772, -79.7751), lab(50, 0, -82.7485), 2.0425],
  [lab(50, 3.1571, -77.2803), lab(50, 0, -82.7485), 2.8615],
  [lab(50, 2.8361, -74.02), lab(50, 0, -82.7485), 3.4412],
  [lab(50, 0, 0), lab(50, -1, 2), 2.3669],
  [lab(50, 2.49, -0.001), lab(50, -2.49, 0.0009), 7.1792],
  [lab(50, 2.49, -0.001), lab(50, -2.49, 0.0011), 7.2195],
  [lab(50, 2.5, 0), lab(50, 0, -2.5), 4.3065],
  [lab(50, 2.5, 0), lab(73, 25, -18), 27.1492],
  [lab(60.2574, -34.0099, 36.2677), lab(60.4626, -34.1751, 39.4387), 1.2644],
  [lab(2.0776, 0.0795, -1.135), lab(0.9033, -0.0636, -0.5514), 0.9082],
])('differences as published: %j %j', (a, b, published) => {
  expect(deltaE(a, b)).toBeCloseTo(published, 4);
  expect(deltaE(b, a)).toBeCloseTo(published, 4);
});

const encode = (v: number) => 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
/** A patch under a wrong white balance and exposure, with the camera's noise. */
const shot = (reflects: readonly number[], gains: readonly number[], noise: () => number): Mean =>
  reflects.map((v, i) =>
    Math.round(Math.min(255, encode(v * gains[i]! * (1 + 0.01 * noise())))),
  ) as unknown as Mean;

test('known differences come back through a wrong white balance and exposure', () => {
  const random = seeded(4);
  const noise = () => normal(random) * 0.3;
  const grey = [0.18, 0.18, 0.18];
  for (const [before, after] of [
    [
      [0.2, 0.1, 0.05],
      [0.2, 0.1, 0.05],
    ],
    [
      [0.2, 0.1, 0.05],
      [0.24, 0.14, 0.08],
    ],
    [
      [0.05, 0.2, 0.12],
      [0.09, 0.17, 0.08],
    ],
    [
      [0.1, 0.05, 0.25],
      [0.14, 0.05, 0.2],
    ],
  ] as const) {
    const truth = deltaE(
      patchColour(
        shot(before, [1, 1, 1], () => 0),
        shot(grey, [1, 1, 1], () => 0),
      )!,
      patchColour(
        shot(after, [1, 1, 1], () => 0),
        shot(grey, [1, 1, 1], () => 0),
      )!,
    );
    for (let k = 0; k < 20; k += 1) {
      const gains = () => [0.6 + random(), 0.6 + random(), 0.6 + 1.4 * random()];
      const [g, h] = [gains(), gains()];
      const a = patchColour(shot(before, g, noise), shot(grey, g, noise))!;
      const b = patchColour(shot(after, h, noise), shot(grey, h, noise))!;
      expect(Math.abs(deltaE(a, b) - truth)).toBeLessThan(1.6);
    }
  }
});

test('a card that is black or burnt out balances nothing', () => {
  expect(patchColour([100, 100, 100], [255, 120, 120])).toBeNull();
  expect(patchColour([100, 100, 100], [0, 0, 0])).toBeNull();
  const neutral = patchColour([118, 118, 118], [118, 118, 118])!;
  expect(Math.hypot(neutral.a, neutral.b)).toBeLessThan(0.1);
});

test('lighter, stronger, turned: in words a keeper uses', () => {
  const m = movedBy(lab(40, 20, 0), lab(50, 0, 30));
  expect(m.lighter).toBe(10);
  expect(m.stronger).toBe(10);
  expect(m.hueDeg).toBeCloseTo(90, 10);
  expect(movedBy(lab(40, 20, 1), lab(40, 20, -1)).hueDeg).toBeCloseTo(-5.7, 1);
  expect(movedBy(lab(40, 1, 1), lab(40, -1, 1)).hueDeg).toBe(0);
});

test('a mean is that of a disc, without its corners and what lies outside the picture', () => {
  const side = 5;
  const rgba = new Uint8ClampedArray(4 * side * side);
  for (let i = 0; i < side * side; i += 1) rgba.set([100, 50, 20, 255], 4 * i);
  rgba.set([255, 255, 255, 255], 0);
  rgba.set([0, 0, 0, 0], 4 * 12);
  expect(roundMean(rgba, side)).toEqual([100, 50, 20]);
  expect(roundMean(new Uint8ClampedArray(4), 1)).toEqual([0, 0, 0]);
});

test('what a line encloses: its mean, whichever way round, and where the line bends in', () => {
  const [w, h] = [20, 10];
  const rgba = Array.from({ length: w * h }, (_, i) =>
    i % w < 10 ? [200, 0, 0, 255] : [0, 0, 100, 255],
  ).flat();
  const square = (x0: number, x1: number) =>
    [
      [x0, 0],
      [x1, 0],
      [x1, h],
      [x0, h],
    ] as [number, number][];
  expect(outlineMean(rgba, w, h, square(0, 10))).toEqual([200, 0, 0]);
  expect(outlineMean(rgba, w, h, square(5, 15).reverse())).toEqual([100, 0, 50]);
  // a notch cut out of the blue half
  const bent = [
    [0, 0],
    [20, 0],
    [20, 2],
    [10, 2],
    [10, 8],
    [20, 8],
    [20, 10],
    [0, 10],
  ] as [number, number][];
  expect(outlineMean(rgba, w, h, bent).map(Math.round)).toEqual([143, 0, 29]);
  expect(outlineMean(rgba, w, h, square(30, 40))).toEqual([0, 0, 0]);
});
