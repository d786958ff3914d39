import type { RowName } from './light';

/** Cells of the water: nx × ny columns, at these depths. */
export interface FieldGrid {
  nx: number;
  ny: number;
  depthsCm: number[];
}

export const PANES = ['left', 'right', 'front', 'back'] as const;

/** Light at every cell from each row at full emission. */
export interface Field {
  grid: FieldGrid;
  lengthCm: number;
  widthCm: number;
  rows: number;
  /** what every row is the light of, in order */
  names: readonly (RowName | null)[];
  /** PAR, µmol m⁻² s⁻¹: layer-major, then row, then cell (x fastest) */
  par: Float32Array;
  /** photons in the nine bands of each cell: layer, row, cell, band */
  bands: Float32Array;
  /** 1 where rock fills the cell: layer, cell */
  rock: Uint8Array;
  /** per row: share of its photons that enters the water; the rest misses or is reflected */
  entered: Float64Array;
  /** per row: photons it emits at full, µmol s⁻¹ */
  flux: Float64Array;
  /** per row and pane: mean direct PAR on the inside of the glass, µmol m⁻² s⁻¹ */
  glass: Float64Array;
}

export const cellX = (f: Pick<Field, 'grid' | 'lengthCm'>, i: number): number =>
  ((i + 0.5) / f.grid.nx) * f.lengthCm;
export const cellY = (f: Pick<Field, 'grid' | 'widthCm'>, j: number): number =>
  ((j + 0.5) / f.grid.ny) * f.widthCm;

/** A grid with cells of about this size over a box. */
export function gridFor(
  tank: { lengthCm: number; widthCm: number; depthCm: number },
  cellCm = 2.5,
  layers = 10,
): FieldGrid {
  const cells = (cm: number) => Math.max(8, Math.min(72, Math.round(cm / cellCm)));
  return {
    nx: cells(tank.lengthCm),
    ny: cells(tank.widthCm),
    depthsCm: Array.from({ length: layers }, (_, k) => (tank.depthCm * k) / (layers - 1)),
  };
}

/**
 * PAR of a layer for emitted shares (or mol per day at full) per row: matrix × shares. NaN where rock fills the cell.
 * @param depthCm between layers it is read linearly
 */
export function layerPar(field: Field, depthCm: number, shares: ArrayLike<number>): Float64Array {
  const { grid, rows } = field;
  const cells = grid.nx * grid.ny;
  const [below, f] = layerAt(grid.depthsCm, depthCm);
  const out = new Float64Array(cells);
  for (const [d, weight] of [
    [below, 1 - f],
    [below + 1, f],
  ] as const) {
    if (weight === 0) continue;
    for (let r = 0; r < rows; r += 1) {
      const share = shares[r]! * weight;
      if (share === 0) continue;
      const at = (d * rows + r) * cells;
      for (let c = 0; c < cells; c += 1) out[c]! += share * field.par[at + c]!;
    }
    for (let c = 0; c < cells; c += 1) if (field.rock[d * cells + c] === 1) out[c] = NaN;
  }
  return out;
}

/** Layer above a depth and how far it lies towards the next. */
export function layerAt(depths: readonly number[], depthCm: number): [layer: number, fraction: number] {
  let d = 0;
  while (d < depths.length - 2 && depths[d + 1]! <= depthCm) d += 1;
  const gap = depths[d + 1]! - depths[d]!;
  return [d, Math.min(1, Math.max(0, (depthCm - depths[d]!) / gap))];
}

/** PAR at any place of the water for emitted shares per row, linear between cells; what a finger drags over the chart reads. */
export function parInField(
  field: Field,
  xCm: number,
  yCm: number,
  depthCm: number,
  shares: ArrayLike<number>,
): number {
  return fieldAt(field, xCm, yCm, depthCm).reduce((sum, p, r) => sum + p * shares[r]!, 0);
}

/** PAR at full of each row at any place, linear between cells. */
export function fieldAt(field: Field, xCm: number, yCm: number, depthCm: number): Float64Array {
  const { nx, ny, depthsCm } = field.grid;
  const at = (value: number, length: number, n: number): [number, number] => {
    const u = Math.min(n - 1, Math.max(0, (value / length) * n - 0.5));
    const i = Math.min(n - 2, Math.floor(u));
    return [i, u - i];
  };
  const [i, fx] = at(xCm, field.lengthCm, nx);
  const [j, fy] = at(yCm, field.widthCm, ny);
  const [d, fz] = layerAt(depthsCm, depthCm);
  const out = new Float64Array(field.rows);
  for (let r = 0; r < field.rows; r += 1) {
    const value = (dd: number, jj: number, ii: number) =>
      field.par[((dd * field.rows + r) * ny + jj) * nx + ii]!;
    const line = (dd: number, jj: number) => value(dd, jj, i) * (1 - fx) + value(dd, jj, i + 1) * fx;
    const face = (dd: number) => line(dd, j) * (1 - fy) + line(dd, j + 1) * fy;
    out[r] = face(d) * (1 - fz) + face(d + 1) * fz;
  }
  return out;
}

/**
 * PAR on an upright section for emitted shares per row: along x at a y, or along y at an x; rows are the field's depths. NaN in rock.
 * @param along the axis that runs across the section; @param atCm the place on the other one, linear between cells
 */
export function sectionPar(
  field: Field,
  along: 'x' | 'y',
  atCm: number,
  shares: ArrayLike<number>,
): { n: number; values: Float64Array } {
  const { nx, ny, depthsCm } = field.grid;
  const n = along === 'x' ? nx : ny;
  const across = along === 'x' ? ny : nx;
  const length = along === 'x' ? field.widthCm : field.lengthCm;
  const u = Math.min(across - 1, Math.max(0, (atCm / length) * across - 0.5));
  const low = Math.min(across - 2, Math.floor(u));
  const values = new Float64Array(n * depthsCm.length);
  depthsCm.forEach((_, d) => {
    for (const [line, weight] of [
      [low, 1 - (u - low)],
      [low + 1, u - low],
    ] as const) {
      if (weight === 0) continue;
      const cell = (k: number) => (along === 'x' ? line * nx + k : k * nx + line);
      for (let r = 0; r < field.rows; r += 1) {
        const share = shares[r]! * weight;
        if (share === 0) continue;
        const at = (d * field.rows + r) * nx * ny;
        for (let k = 0; k < n; k += 1) values[d * n + k]! += share * field.par[at + cell(k)]!;
      }
      for (let k = 0; k < n; k += 1) if (field.rock[d * nx * ny + cell(k)] === 1) values[d * n + k] = NaN;
    }
  });
  return { n, values };
}
