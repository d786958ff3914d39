import { converter } from 'culori';
import fc from 'fast-check';

import { phosphorWhiteTable } from '../mix/phosphor';
import { emissionSpectrum, sumEmissions } from '../spectrum/emission';
import { JOULE_NM_PER_UMOL, sample } from '../spectrum/grid';
import { adaptationDegree, adaptTo, D65 } from './adapt';
import { CARD_ON_SCREEN, reflected, seeUnder } from './look';
import { intoGamut, linearSrgb, oklab, screenRgb } from './screen';
import { locusAt, planckUv, temperatureOf } from './temperature';
import { tintOf } from './tint';
import { xyOf, xyzOf } from './xyz';

/** Photon spectrum of a Planckian radiator, written out on its own. */
const planck = (kelvin: number) =>
  sample((nm) => (nm / JOULE_NM_PER_UMOL) * ((560 / nm) ** 5 / Math.expm1(0.01438777e9 / (nm * kelvin))));

test('CIE illuminant A has its published chromaticity', () => {
  const [x, y] = xyOf(xyzOf(planck(2855.5)))!;
  expect(Math.abs(x - 0.4476)).toBeLessThan(0.0002);
  expect(Math.abs(y - 0.4074)).toBeLessThan(0.0002);
});

test('a Planckian radiator is its own colour temperature, on the locus', () => {
  for (const kelvin of [1200, 2856, 5000, 6504, 12_000, 24_000]) {
    const t = temperatureOf(xyOf(xyzOf(planck(kelvin)))!);
    expect(t.cctK! / kelvin).toBeCloseTo(1, 3);
    expect(Math.abs(t.duv)).toBeLessThan(1e-5);
  }
});

test('D65 lies above the locus at about 6504 K', () => {
  const t = temperatureOf([0.3127, 0.329]);
  expect(t.cctK).toBeGreaterThan(6490);
  expect(t.cctK).toBeLessThan(6515);
  expect(t.duv).toBeCloseTo(0.0032, 3);
});

test('blue mixes get no kelvin figure but a hue and a purity', () => {
  const blue = tintOf(
    sumEmissions([
      { shape: 'line', peakNm: 451, fwhmNm: 19, flux: 3 },
      { shape: 'line', peakNm: 471, fwhmNm: 22, flux: 1 },
    ]),
  )!;
  expect(blue.cctK).toBeNull();
  expect(blue.duv).toBeLessThan(-0.02);
  expect(blue.hue).toMatch(/blue/);
  expect(blue.purity).toBeGreaterThan(0.9);
  // red and blue together lie past where single wavelengths end
  expect(
    tintOf(
      sumEmissions([
        { shape: 'line', peakNm: 451, fwhmNm: 19, flux: 1 },
        { shape: 'line', peakNm: 660, fwhmNm: 18, flux: 5 },
      ]),
    )!.hue,
  ).toBe('magenta');
  expect(tintOf(planck(500))!.cctK).toBeNull();
  expect(tintOf(new Float64Array(421))).toBeNull();
});

test.each([2000, 3000, 4000, 6500, 8000, 10_000, 20_000])(
  'a phosphor white of %d K lies on the locus',
  (kelvin) => {
    const table = phosphorWhiteTable(kelvin);
    const t = temperatureOf(
      xyOf(xyzOf(emissionSpectrum({ shape: 'table', quantity: 'photon', points: table })))!,
    );
    expect(Math.abs(t.duv)).toBeLessThan(0.003);
    expect(t.cctK! / kelvin).toBeCloseTo(1, 1);
  },
);

test('a phosphor white outside its range is refused', () => {
  expect(() => phosphorWhiteTable(1500)).toThrow(RangeError);
});

test('the conversions agree with an independent library', () => {
  const toOklab = converter('oklab');
  const toRgb = converter('rgb');
  fc.assert(
    fc.property(
      fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.01, max: 0.9, noNaN: true }))),
      ([r, g, b]) => {
        const lab = toOklab({ mode: 'lrgb', r: r!, g: g!, b: b! });
        const own = oklab([r!, g!, b!]);
        expect(own[0]).toBeCloseTo(lab.l, 4);
        expect(own[1]).toBeCloseTo(lab.a, 4);
        expect(own[2]).toBeCloseTo(lab.b, 4);
      },
    ),
  );
  const rgb = toRgb({ mode: 'xyz65', x: 0.3, y: 0.4, z: 0.5 });
  const own = screenRgb([0.3, 0.4, 0.5]);
  [rgb.r, rgb.g, rgb.b].forEach((v, k) => expect(Math.abs(own[k]! - v * 255)).toBeLessThan(0.8));
});

test('gamut mapping keeps lightness and hue and never leaves the screen', () => {
  fc.assert(
    fc.property(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -0.3, max: 1.2, noNaN: true }))), (raw) => {
      const [r, g, b] = raw as [number, number, number];
      const before = oklab([r, g, b]);
      fc.pre(before[0] > 0.05 && before[0] < 0.99);
      const mapped = intoGamut([r, g, b]);
      expect(mapped.every((v) => v > -2e-4 && v < 1 + 2e-4)).toBe(true);
      const after = oklab(mapped);
      expect(after[0]).toBeCloseTo(before[0], 3);
      const chroma = Math.hypot(after[1], after[2]);
      if (chroma > 0.01)
        expect(Math.cos(Math.atan2(after[2], after[1]) - Math.atan2(before[2], before[1]))).toBeGreaterThan(
          0.999,
        );
    }),
  );
});

test('adaptation: full makes the card D65, none leaves it, and the degree grows with luminance', () => {
  const white = xyzOf(emissionSpectrum({ shape: 'line', peakNm: 470, fwhmNm: 25, flux: 1 }));
  const full = adaptTo(white, 1)(white);
  // the gain limit holds back the cones that this light hardly reaches; a broad light has no such limit
  expect(full[1]).toBeCloseTo(1, 9);
  const broad = xyzOf(planck(12_000));
  adaptTo(broad, 1)(broad).forEach((v, k) => expect(v).toBeCloseTo(D65[k]!, 6));
  adaptTo(broad, 0)(broad).forEach((v, k) => expect(v).toBeCloseTo(broad[k]! / broad[1], 6));
  expect(adaptationDegree(10_000)).toBeGreaterThan(adaptationDegree(50));
  expect(adaptationDegree(1e6)).toBeCloseTo(0.8, 6);
});

test('a white card under D65 is neutral at every degree; deeper adaptation makes sand under blue less saturated', () => {
  const daylight = sample((nm) => nm);
  const card = seeUnder(planck(6504), { degree: 1 })!.colour(planck(6504));
  // pale, a little warm
  const sand = sample((nm) => 0.62 + 0.12 * Math.min(1, Math.max(0, (nm - 400) / 250)));
  expect(Math.max(...card) - Math.min(...card)).toBeLessThanOrEqual(2);
  const tank = sumEmissions([
    { shape: 'line', peakNm: 450, fwhmNm: 20, flux: 3 },
    { shape: 'table', quantity: 'photon', points: phosphorWhiteTable(6500), flux: 1 },
  ]);
  const chroma = (degree: number) => {
    const seen = seeUnder(tank, { degree })!.colour(reflected(tank, sand));
    const c = seen.map((v) => (v / 255) ** 2.2) as unknown as [number, number, number];
    const [, a, b] = oklab(c);
    return Math.hypot(a, b);
  };
  expect(chroma(1)).toBeLessThan(chroma(0.8));
  expect(chroma(0.8)).toBeLessThan(chroma(0.5));
  expect(seeUnder(daylight)!.degree).toBeGreaterThan(0.5);
});

test('what is reflected is at most what arrives, and the card is drawn at its stated brightness', () => {
  const light = planck(6504);
  const half = reflected(
    light,
    light.map(() => 0.5),
  );
  expect(half.every((v, i) => v === light[i]! / 2)).toBe(true);
  const seen = seeUnder(light, { degree: 1 })!;
  const [r] = seen.colour(light);
  const linear = ((r / 255 + 0.055) / 1.055) ** 2.4;
  expect(linear).toBeCloseTo(CARD_ON_SCREEN, 1);
  expect(linearSrgb(D65).every((v) => Math.abs(v - 1) < 0.001)).toBe(true);
  expect(seeUnder(new Float64Array(421))).toBeNull();
});

test('the locus between the rows of its table is the integral', () => {
  for (let mired = 0; mired < 2500; mired += 7.3) {
    const [a, b] = [planckUv(mired), locusAt(mired)];
    expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(2e-8);
  }
});
