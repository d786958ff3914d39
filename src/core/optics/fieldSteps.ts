import { ended } from '../shape/ended';
import { BANDS, par, PAR_FROM_NM, PAR_TO_NM } from '../spectrum/bands';
import { integrate, zeroSpectrum } from '../spectrum/grid';
import { cellX, cellY, type Field, type FieldGrid, PANES } from './field';
import { addThrough, floorBounce, nodeTransmission } from './light';
import type { Rig } from './response';
import { insideSolid } from './tank';
import { enteredShare, gather, planeCache } from './transport';
import { attenuationPerM } from './water';

/** The error of so few paths stays below 2e-3 in the yellowest, deepest water, and 2e-4 in most. */
const NODES = 6;
/** PAR first, then the nine bands. */
const VALUES = 1 + BANDS.length;
const RANGES = [[PAR_FROM_NM, PAR_TO_NM], ...BANDS.map((b) => [b.fromNm, b.toNm])] as [number, number][];

/** Photons of a spectrum in PAR and each band, added to `into` from `at` on. */
function addValues(into: Float32Array | Float64Array, at: number, spectrum: Float64Array, factor = 1): void {
  for (let v = 0; v < VALUES; v += 1)
    into[at + v]! += factor * integrate(spectrum, RANGES[v]![0], RANGES[v]![1]);
}

/**
 * Computes the field step by step; yields how far it is (0..1) so that a caller can report, breathe or stop between.
 * The cost grows linearly in cells and in emitters.
 */
export function* fieldSteps(rig: Omit<Rig, 'spots'>, grid: FieldGrid): Generator<number, Field> {
  const { tank, rows } = rig;
  const cells = grid.nx * grid.ny;
  const layers = grid.depthsCm.length;
  const field: Field = {
    grid,
    lengthCm: tank.lengthCm,
    widthCm: tank.widthCm,
    rows: rows.length,
    names: rows.map((r) => r.of ?? null),
    par: new Float32Array(layers * rows.length * cells),
    bands: new Float32Array(layers * rows.length * cells * BANDS.length),
    rock: new Uint8Array(layers * cells),
    entered: new Float64Array(rows.length),
    flux: new Float64Array(rows.length),
    glass: new Float64Array(rows.length * PANES.length),
  };
  const x = new Float64Array(cells);
  const y = new Float64Array(cells);
  for (let c = 0; c < cells; c += 1) {
    x[c] = cellX(field, c % grid.nx);
    y[c] = cellY(field, Math.floor(c / grid.nx));
  }
  const loss = attenuationPerM(rig.water);
  yield 0;
  const bounce = floorBounce(tank, rig.water, rows);
  const most = Math.max(1, ...rows.map((r) => r.spectra.length));
  const scratch = Array.from({ length: most }, () => new Float64Array(cells * NODES));
  const steps = layers * rows.length;

  for (let d = 0; d < layers; d += 1) {
    const depthCm = grid.depthsCm[d]!;
    const through = nodeTransmission(loss, depthCm, NODES);
    const cache = planeCache();
    for (const s of tank.solids)
      for (let c = 0; c < cells; c += 1)
        if (insideSolid(s, x[c]!, y[c]!, depthCm)) field.rock[d * cells + c] = 1;
    for (let r = 0; r < rows.length; r += 1) {
      yield (d * rows.length + r) / steps;
      const row = rows[r]!;
      const weights = scratch.slice(0, row.spectra.length);
      weights.forEach((w) => w.fill(0));
      gather(tank, { depthCm, x, y }, row.emitters, weights, { nodes: NODES, cache });
      const floor = zeroSpectrum();
      bounce.add(r, depthCm, floor);
      const base = new Float64Array(VALUES);
      addValues(base, 0, floor);
      const per = row.spectra.map((spectrum) => {
        const out = new Float64Array(NODES * VALUES);
        const left = zeroSpectrum();
        for (let k = 0; k < NODES; k += 1) {
          const at = k * left.length;
          for (let i = 0; i < left.length; i += 1) left[i] = spectrum[i]! * through[at + i]!;
          addValues(out, k * VALUES, left);
        }
        return out;
      });
      project(field, (d * rows.length + r) * cells, weights, per, base);
    }
  }
  describeRows(field, rig, loss);
  return field;
}

/** cell values = bounce + Σ weights × what each path leaves of each spectrum. */
function project(
  field: Field,
  first: number,
  weights: readonly Float64Array[],
  per: readonly Float64Array[],
  base: Float64Array,
): void {
  const cells = field.grid.nx * field.grid.ny;
  const bands = BANDS.length;
  const nodes = NODES;
  const values = VALUES;
  const sum = new Float64Array(values);
  for (let c = 0; c < cells; c += 1) {
    for (let v = 0; v < values; v += 1) sum[v] = base[v]!;
    for (let s = 0; s < weights.length; s += 1) {
      const w = weights[s]!;
      const p = per[s]!;
      for (let k = 0; k < nodes; k += 1) {
        const weight = w[c * nodes + k]!;
        if (weight === 0) continue;
        for (let v = 0; v < values; v += 1) sum[v]! += weight * p[k * values + v]!;
      }
    }
    field.par[first + c] = sum[0]!;
    const at = (first + c) * bands;
    for (let b = 0; b < bands; b += 1) field.bands[at + b] = sum[b + 1]!;
  }
}

const PANE_POINTS = 12;
const PANE_DEPTHS = 5;
const RINGS = 120;

/** What enters the water and what falls on the panes, per row. */
function describeRows(field: Field, rig: Omit<Rig, 'spots'>, loss: Float64Array): void {
  const { tank, rows } = rig;
  rows.forEach((row, r) => {
    const flux = row.spectra.map((s) => integrate(s));
    field.flux[r] = flux.reduce((a, b) => a + b, 0);
    const sent = row.emitters.reduce(
      (sum, e) => sum + e.share * flux[e.spectrum]! * enteredShare(tank, e, RINGS) * tank.lidShare,
      0,
    );
    field.entered[r] = field.flux[r]! > 0 ? sent / field.flux[r]! : 0;
  });
  for (let d = 0; d < PANE_DEPTHS; d += 1) {
    const depthCm = ((d + 0.5) / PANE_DEPTHS) * tank.depthCm;
    const through = nodeTransmission(loss, depthCm, NODES);
    PANES.forEach((pane, p) => {
      const cache = planeCache();
      rows.forEach((row, r) => {
        const alongX = pane === 'front' || pane === 'back';
        const at = Float64Array.from(
          { length: PANE_POINTS },
          (_, k) => ((k + 0.5) / PANE_POINTS) * (alongX ? tank.lengthCm : tank.widthCm),
        );
        const wall = { left: 0, right: tank.lengthCm, front: 0, back: tank.widthCm }[pane];
        const on = new Float64Array(PANE_POINTS).fill(wall);
        const weights = row.spectra.map(() => new Float64Array(PANE_POINTS * NODES));
        const plane = alongX ? { depthCm, x: at, y: on } : { depthCm, x: on, y: at };
        gather(tank, plane, row.emitters, weights, { nodes: NODES, cache, pane });
        const light = zeroSpectrum();
        row.spectra.forEach((spectrum, s) => {
          const mean = new Float64Array(NODES);
          weights[s]!.forEach((w, i) => (mean[i % NODES]! += w / PANE_POINTS));
          addThrough(light, spectrum, mean, 0, through, NODES);
        });
        field.glass[r * PANES.length + p]! += par(light) / PANE_DEPTHS;
      });
    });
  }
}

/** The field in one go. */
export const computeField = (rig: Omit<Rig, 'spots'>, grid: FieldGrid): Field => ended(fieldSteps(rig, grid));
