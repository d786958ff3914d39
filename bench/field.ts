import { type Field, type FieldGrid, cellX, cellY } from '@/core/optics/field';
import { computeField } from '@/core/optics/fieldSteps';
import { par } from '@/core/spectrum/bands';
import { lampKind } from '@/core/spectrum/lamp';
import { lampRows } from '@/core/optics/rig';
import { fresnelIntoWater, SEA_WATER_INDEX } from '@/core/optics/refraction';
import { plainTank } from '@/core/optics/tank';
import { attenuationPerM } from '@/core/optics/water';

import { medianMs, report } from './timing';

// 150 × 60 × 55 cm, two lamps of 40 emitters in eight colours, 60 × 24 × 10 cells
const PEAKS = [385, 415, 435, 450, 470, 495, 525, 660];
const kind = lampKind({
  id: 'bench',
  name: 'bench',
  channels: PEAKS.map((peakNm, i) => ({
    id: `c${i}`,
    name: `${peakNm}`,
    groups: [{ light: { shape: 'line' as const, peakNm, fwhmNm: 20 }, count: 5, wattsEach: 3 }],
  })),
  beamAngleDeg: 90,
  faceLengthCm: 40,
  faceWidthCm: 20,
});
const tank = plainTank(150, 60, 55);
const water = { yellow440PerM: 0.15, scatterPerM: 0.05 };
const lamp = (xCm: number) => lampRows(kind, { xCm, yCm: 30, heightCm: 24, turnDeg: 0 });
const rows = [...lamp(40), ...lamp(110)];
const depths = (n: number, deepest = 55) => Array.from({ length: n }, (_, k) => (deepest * k) / (n - 1));
const grid: FieldGrid = { nx: 60, ny: 24, depthsCm: depths(10) };
const rig = { tank, water, rows };

/** Light at one cell by plain summation over emitters and images with bisection, per wavelength: what the field saves. */
function direct(x: number, y: number, z: number, row: number): number {
  const loss = attenuationPerM(water);
  const sum = new Float64Array(loss.length);
  const n = SEA_WATER_INDEX;
  for (const e of rows[row]!.emitters) {
    for (let i = -2; i <= 2; i += 1) {
      for (let j = -3; j <= 3; j += 1) {
        const px = i % 2 === 0 ? i * 150 + x : (i + 1) * 150 - x;
        const py = j % 2 === 0 ? j * 60 + y : (j + 1) * 60 - y;
        const [dx, dy] = [px - e.xCm, py - e.yCm];
        const r = Math.hypot(dx, dy);
        let low = 0;
        let high = Math.PI / 2 - 1e-9;
        for (let k = 0; k < 50; k += 1) {
          const a = (low + high) / 2;
          if (e.heightCm * Math.tan(a) + z * Math.tan(Math.asin(Math.sin(a) / n)) > r) high = a;
          else low = a;
        }
        const a = (low + high) / 2;
        const w = Math.asin(Math.sin(a) / n);
        const reach = (e.heightCm * Math.tan(a)) / Math.max(r, 1e-9);
        const [ex, ey] = [e.xCm + dx * reach, e.yCm + dy * reach];
        if (ex < 0 || ex > 150 || ey < 0 || ey > 60) continue;
        const mirror = (cos: number, times: number) => {
          const sin = n * Math.sqrt(Math.max(0, 1 - cos * cos));
          return sin >= 1 ? 1 : (1 - fresnelIntoWater(sin)) ** times;
        };
        const walls =
          mirror((Math.sin(w) * Math.abs(dx)) / Math.max(r, 1e-9), Math.abs(i)) *
          mirror((Math.sin(w) * Math.abs(dy)) / Math.max(r, 1e-9), Math.abs(j));
        const [h, d] = [e.heightCm / 100, z / 100];
        const spread = h / Math.cos(a) + d / (n * Math.cos(w));
        const slope = h / Math.cos(a) ** 2 + (d * Math.cos(a)) / (n * Math.cos(w) ** 3);
        const m = e.optic.exponent;
        const weight =
          (e.share * walls * ((m + 1) / (2 * Math.PI)) * Math.cos(a) ** m * fresnelIntoWater(Math.sin(a))) /
          (spread * slope);
        rows[row]!.spectra[e.spectrum]!.forEach((flux, k) => {
          sum[k]! += weight * flux * Math.exp((-loss[k]! * d) / Math.cos(w));
        });
      }
    }
  }
  return par(sum);
}

console.log('field of light, 150 × 60 × 55 cm, two lamps of 40 emitters, 60 × 24 × 10 cells');
let field: Field | null = null;
const first = performance.now();
field = computeField({ ...rig, tank: { ...tank, floorReflectance: 0 } }, grid);
const cold = performance.now() - first;
// a sample of cells for the direct sum, scaled up to all of them
const sample = Array.from({ length: 24 }, (_, k) => ({
  i: (k * 17) % 60,
  j: (k * 7) % 24,
  d: 1 + ((k * 3) % 9),
}));
let worst = 0;
const began = performance.now();
for (const { i, j, d } of sample) {
  const at = (d * rows.length + 3) * 1440 + j * 60 + i;
  const there = direct(cellX(field, i), cellY(field, j), grid.depthsCm[d]!, 3);
  worst = Math.max(worst, Math.abs(there / field.par[at]! - 1));
}
const perCell = (performance.now() - began) / sample.length;
const warm = medianMs(() => computeField(rig, grid), 7);
report(
  'the whole field, warm',
  warm,
  perCell * 60 * 24 * 10 * rows.length,
  `sample differs by at most ${(worst * 100).toFixed(2)} %`,
);
console.log(`first run ${cold.toFixed(0)} ms without, ${warm.toFixed(0)} ms warm with the floor (aim 500)`);
const half = { ...grid, nx: 30 };
const quarter = { ...grid, nx: 15 };
const [all, h, q] = [grid, half, quarter].map((g) => medianMs(() => computeField(rig, g), 5));
console.log(
  `cells: 14 400 in ${all!.toFixed(0)} ms, 7 200 in ${h!.toFixed(0)} ms, 3 600 in ${q!.toFixed(0)} ms`,
);
const one = { ...rig, rows: lamp(40) };
const four = { ...rig, rows: [...rows, ...lamp(20), ...lamp(130)] };
const [e40, e80, e160] = [one, rig, four].map((r) => medianMs(() => computeField(r, half), 5));
console.log(
  `emitters: 40 in ${e40!.toFixed(0)} ms, 80 in ${e80!.toFixed(0)} ms, 160 in ${e160!.toFixed(0)} ms (half the cells)`,
);
