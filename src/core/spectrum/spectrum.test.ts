import fc from 'fast-check';

import { bandShares, par } from './bands';
import { type Emission, emissionSpectrum, sumEmissions } from './emission';
import { integrate } from './grid';
import { beamExponent, channelSpectrum, efficacyUmolPerJ, groupFluxUmolPerS, lampKind } from './lamp';
import { fullWallWatts, wallWatts } from './watts';
import { luxPerPar } from './lux';
import { CIE_1931_5NM, cmf } from './observer';
import { feedingAbsorptance, symbiontAbsorption, tissueAbsorptance, usableShare } from '../feeding/symbiont';

const line = (peakNm: number, fwhmNm: number, flux = 1): Emission => ({
  shape: 'line',
  peakNm,
  fwhmNm,
  flux,
});

test('the observer sums to the published totals and keeps its 5 nm values', () => {
  const sums = [0, 1, 2].map((k) => CIE_1931_5NM.reduce((sum, row) => sum + row[k as 0], 0));
  expect(sums[0]).toBeCloseTo(21.373, 3);
  expect(sums[1]).toBeCloseTo(21.3714, 3);
  expect(sums[2]).toBeCloseTo(21.379, 3);
  expect(cmf().y[555 - 360]).toBeCloseTo(1, 12);
  expect(integrate(cmf().y)).toBeCloseTo(106.857, 1);
});

test.each([
  [450, 6.9],
  [525, 123.4],
  [555, 147.2],
  [660, 7.55],
])('monochromatic %d nm gives %d lux per µmol', (nm, lux) => {
  expect(luxPerPar(emissionSpectrum(line(nm, 0.01)))! / lux).toBeCloseTo(1, 2);
});

test('the Ohno line falls to half its height at half its width, as energy', () => {
  const s = emissionSpectrum(line(550, 40));
  const energy = (nm: number) => s[nm - 360]! / nm;
  expect(energy(570) / energy(550)).toBeCloseTo(0.5, 3);
  expect(energy(530) / energy(550)).toBeCloseTo(0.5, 3);
});

test('flux is the integral over 360-780 for any peak and width, near or far', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('line' as const, 'gaussian' as const),
      fc.double({ min: 100, max: 1200, noNaN: true }),
      fc.double({ min: 1e-3, max: 500, noNaN: true }),
      fc.double({ min: 0, max: 1e6, noNaN: true }),
      (shape, peakNm, fwhmNm, flux) => {
        const s = emissionSpectrum({ shape, peakNm, fwhmNm, flux });
        expect(integrate(s)).toBeCloseTo(flux, 3);
        expect(s.every((v) => v >= 0 && Number.isFinite(v))).toBe(true);
      },
    ),
  );
});

test('tables run linearly in any order, are zero outside, and turn energy into photons', () => {
  const s = emissionSpectrum({
    shape: 'table',
    quantity: 'photon',
    points: [
      [500, 4],
      [400, 2],
      [450, 2],
    ],
  });
  expect(s[475 - 360]).toBeCloseTo(3, 12);
  expect(s[500 - 360]).toBe(4);
  expect(s[501 - 360]).toBe(0);
  expect(s[399 - 360]).toBe(0);
  const e = emissionSpectrum({
    shape: 'table',
    quantity: 'energy',
    points: [
      [440, 1],
      [460, 1],
    ],
  });
  expect(e[450 - 360]).toBeCloseTo(450 / 119.627, 9);
  expect(
    integrate(
      emissionSpectrum({
        shape: 'table',
        quantity: 'energy',
        flux: 7,
        points: [
          [440, 1],
          [460, 1],
        ],
      }),
    ),
  ).toBeCloseTo(7, 9);
});

test('band shares add to 1 and a narrow line on an edge is split between its neighbours', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 370, max: 770 }), fc.integer({ min: 5, max: 90 })), {
        minLength: 1,
      }),
      (lines) => {
        const shares = bandShares(sumEmissions(lines.map(([p, w]) => line(p, w))));
        expect(Object.values(shares).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
      },
    ),
  );
  const edge = bandShares(emissionSpectrum(line(430, 0.01)));
  expect(edge.violet).toBeCloseTo(0.5, 9);
  expect(edge.royalBlue).toBeCloseTo(0.5, 9);
});

test('symbiont absorption has the published shape', () => {
  const a = symbiontAbsorption();
  const at = (nm: number) => a[nm - 360]!;
  const peak = 360 + a.indexOf(Math.max(...a));
  expect(peak).toBeGreaterThanOrEqual(438);
  expect(peak).toBeLessThanOrEqual(445);
  for (let nm = 560; nm <= 620; nm += 1) expect(at(nm)).toBeLessThan(0.2);
  expect(at(675)).toBeGreaterThan(0.4);
  expect(at(675)).toBeLessThan(0.6);
  expect(at(540)).toBeGreaterThan(at(570));
  expect(at(500)).toBeGreaterThan(0.3);
});

test('intact tissue takes every colour: absorptance and what feeds lie where they were measured', () => {
  const a = tissueAbsorptance();
  const at = (nm: number) => a[nm - 360]!;
  expect(at(440)).toBeGreaterThan(0.85);
  expect(at(675)).toBeGreaterThan(0.75);
  expect(at(675)).toBeLessThan(0.9);
  for (const nm of [560, 580, 600]) {
    expect(at(nm)).toBeGreaterThan(0.45);
    expect(at(nm)).toBeLessThan(0.65);
  }
  feedingAbsorptance().forEach((f, i) => {
    expect(f).toBeGreaterThanOrEqual(0);
    expect(f).toBeLessThanOrEqual(a[i]!);
  });
  const share = (...lines: [number, number, number][]) =>
    usableShare(sumEmissions(lines.map(([p, w, flux]) => line(p, w, flux))))!;
  const blue = share([450, 20, 1]);
  const white = share([450, 20, 3], [555, 125, 7]) / blue;
  expect(white).toBeGreaterThan(0.75);
  expect(white).toBeLessThan(0.9);
  const green = share([530, 32, 1]) / blue;
  expect(green).toBeGreaterThan(0.5);
  expect(green).toBeLessThanOrEqual(0.76);
  const red = share([660, 18, 1]) / blue;
  expect(red).toBeGreaterThan(0.7);
  expect(red).toBeLessThan(0.9);
});

test('royal blue is used better than amber; no light has no usable share', () => {
  expect(usableShare(emissionSpectrum(line(445, 18)))!).toBeGreaterThan(
    1.5 * usableShare(emissionSpectrum(line(590, 18)))!,
  );
  expect(usableShare(new Float64Array(421))).toBeNull();
  expect(luxPerPar(new Float64Array(421))).toBeNull();
});

describe('lamp', () => {
  const kind = lampKind({
    id: 'k',
    name: 'test lamp',
    channels: [
      {
        id: 'rb',
        name: 'royal blue',
        groups: [{ light: { shape: 'line', peakNm: 450, fwhmNm: 19 }, count: 4, wattsEach: 2.5 }],
      },
      {
        id: 'r',
        name: 'red',
        groups: [{ light: { shape: 'line', peakNm: 660, fwhmNm: 18 }, count: 2, wattsEach: 2 }],
      },
    ],
    beamAngleDeg: 120,
    faceLengthCm: 20,
    faceWidthCm: 10,
  });

  test('flux is count × watts × efficacy × optic; wall watts are emitter watts over the driver', () => {
    expect(groupFluxUmolPerS(kind.channels[0]!.groups[0]!)).toBeCloseTo(10 * 2.4 * 0.85, 9);
    expect(integrate(channelSpectrum(kind.channels[0]!))).toBeCloseTo(20.4, 6);
    expect(fullWallWatts(kind)).toBeCloseTo(14 / 0.88, 9);
    expect(wallWatts(kind, { rb: 0.5 })).toBeCloseTo(5 / 0.88, 9);
  });

  test('a 120° beam is Lambertian and efficacies stay within the published ranges', () => {
    expect(beamExponent(120)).toBeCloseTo(1, 9);
    expect(beamExponent(60)).toBeGreaterThan(4);
    for (const [nm, low, high] of [
      [388, 1.2, 1.6],
      [419, 1.7, 2.0],
      [451, 2.2, 2.6],
      [471, 2.0, 2.3],
      [498, 1.5, 1.7],
      [525, 1.2, 1.4],
      [630, 2.0, 2.4],
      [661, 2.8, 3.4],
    ] as const) {
      expect(efficacyUmolPerJ(nm)).toBeGreaterThanOrEqual(low);
      expect(efficacyUmolPerJ(nm)).toBeLessThanOrEqual(high);
    }
  });

  test('PAR of a channel is at most its photons', () => {
    const s = channelSpectrum(kind.channels[1]!);
    expect(par(s)).toBeLessThanOrEqual(integrate(s));
    expect(par(s)).toBeGreaterThan(0.98 * integrate(s));
  });
});
