import { planckUv } from '../colour/temperature';
import { centreNm } from '../library/held';

import { bandPhotons } from './bands';
import { FIRST_NM, integrate, integrateWeighted, zeroSpectrum } from './grid';
import { sprague5to1 } from './observer';

const gauss = (peak: number, width: number) =>
  zeroSpectrum().map((_, i) => Math.exp(-(((FIRST_NM + i - peak) / width) ** 2)));

describe('Sprague interpolation', () => {
  const table = (f: (x: number) => number) => Array.from({ length: 9 }, (_, k) => f(5 * k));

  test('is exact on a cubic where six points of the table surround it', () => {
    const cubic = (x: number) => 3 + 0.4 * x - 0.05 * x ** 2 + 0.001 * x ** 3;
    const fine = sprague5to1(table((x) => 50 + cubic(x)));
    expect(fine).toHaveLength(41);
    for (let x = 10; x <= 30; x += 1) expect(fine[x]).toBeCloseTo(50 + cubic(x), 9);
  });

  test('is exact on a straight line to its very ends', () => {
    sprague5to1(table((x) => 2 + 0.3 * x)).forEach((v, x) => expect(v).toBeCloseTo(2 + 0.3 * x, 9));
  });

  test('never overshoots below zero beside a step', () => {
    const fine = sprague5to1([0, 0, 0, 1, 1, 0, 0, 0, 0]);
    expect(Math.min(...fine)).toBe(0);
    expect([fine[10], fine[15], fine[20], fine[25]]).toEqual([0, 1, 1, 0]);
  });
});

describe('sums over a spectrum', () => {
  test('a weight of ones changes nothing; a band holds the photons between its edges', () => {
    const light = gauss(450, 12);
    const ones = zeroSpectrum().fill(1);
    expect(integrateWeighted(light, ones)).toBeCloseTo(integrate(light), 9);
    expect(integrateWeighted(light, ones, 430, 470)).toBeCloseTo(integrate(light, 430, 470), 9);
    const bands = bandPhotons(light);
    const all = Object.values(bands).reduce((sum, v) => sum + v, 0);
    expect(all).toBeCloseTo(12 * Math.sqrt(Math.PI), 6);
    expect(bands.royalBlue).toBe(Math.max(...Object.values(bands)));
  });

  test('the centre of a symmetric line is its peak; of two equal ones between them; of none 0', () => {
    expect(centreNm(gauss(523, 8))).toBeCloseTo(523, 6);
    const [a, b] = [gauss(450, 8), gauss(650, 8)];
    expect(centreNm(a.map((v, i) => v + b[i]!))).toBeCloseTo(550, 6);
    expect(centreNm(zeroSpectrum())).toBe(0);
  });
});

describe('the Planckian locus in CIE 1960 (u, v)', () => {
  test('illuminant A stands at 2856 K; infinite heat at its published limit', () => {
    const [u, v] = planckUv(1e6 / 2856);
    expect(u).toBeCloseTo(0.256, 3);
    expect(v).toBeCloseTo(0.3495, 3);
    const [u0, v0] = planckUv(0);
    expect(u0).toBeCloseTo(0.1801, 3);
    expect(v0).toBeCloseTo(0.2635, 3);
  });
});
