import { SIZES, type Stuff } from './stuff';

/**
 * Straight ways through the tank, one per pixel: origin + t · direction, both linear in the pixel's column and row. What is nearest
 * along t is seen.
 */
export interface Ways {
  columns: number;
  rows: number;
  /** origin at column 0, row 0, and what a column and a row add to it */
  origin: Linear;
  direction: Linear;
  /** column and row (with fractions) in which a place lies */
  at: (x: number, y: number, z: number, into: Float64Array) => void;
  /** first and last column, first and last row that a box around a place may lie in */
  box: Box;
}
type Box = (
  x: number,
  y: number,
  z: number,
  halfX: number,
  halfY: number,
  halfZ: number,
  into: Float64Array,
) => void;
export interface Linear {
  base: readonly [number, number, number];
  column: readonly [number, number, number];
  row: readonly [number, number, number];
}

export interface Hits {
  /** t of what is seen; Infinity = nothing */
  t: Float32Array;
  /** which ellipsoid; −1 = none */
  id: Int32Array;
}

export const noHits = ({ columns, rows }: Pick<Ways, 'columns' | 'rows'>): Hits => ({
  t: new Float32Array(columns * rows).fill(Infinity),
  id: new Int32Array(columns * rows).fill(-1),
});

/** Ellipsoids that are drawn between two looks at the clock. */
const AT_A_TIME = 4000;

/** Meets every ellipsoid exactly, over its own little box of pixels, and keeps what is nearest. Yields now and then. */
export function* splat(stuff: Stuff, ways: Ways, hits: Hits): Generator<number, void> {
  const { columns, rows, origin, direction } = ways;
  const { t: nearest, id: which } = hits;
  const box = new Float64Array(4);
  const [ob, oc, or] = [origin.base, origin.column, origin.row];
  const [db, dc, dr] = [direction.base, direction.column, direction.row];
  for (let n = 0; n < stuff.count; n += 1) {
    if (n % AT_A_TIME === AT_A_TIME - 1) yield n / stuff.count;
    const s = n * SIZES;
    const cx = stuff.sizes[s]!;
    const cy = stuff.sizes[s + 1]!;
    const cz = stuff.sizes[s + 2]!;
    const rx = stuff.sizes[s + 3]!;
    const ry = stuff.sizes[s + 4]!;
    const rz = stuff.sizes[s + 5]!;
    const kx = stuff.sizes[s + 6]!;
    const ky = stuff.sizes[s + 7]!;
    const hz = rz + Math.abs(kx) * rx + Math.abs(ky) * ry;
    ways.box(cx, cy, cz, rx, ry, hz, box);
    const i0 = Math.max(0, Math.floor(box[0]!));
    const i1 = Math.min(columns - 1, Math.ceil(box[1]!));
    const j0 = Math.max(0, Math.floor(box[2]!));
    const j1 = Math.min(rows - 1, Math.ceil(box[3]!));
    if (i0 > i1 || j0 > j1) continue;
    // origin and direction as a ball of radius 1 around 0 has them are linear in column and row, too
    const ix = 1 / rx;
    const iy = 1 / ry;
    const iz = 1 / rz;
    const px = ob[0] - cx;
    const py = ob[1] - cy;
    const uzc = (oc[2] - kx * oc[0] - ky * oc[1]) * iz;
    const wzc = (dc[2] - kx * dc[0] - ky * dc[1]) * iz;
    const uxc = oc[0] * ix;
    const uyc = oc[1] * iy;
    const wxc = dc[0] * ix;
    const wyc = dc[1] * iy;
    for (let j = j0; j <= j1; j += 1) {
      const uxj = (px + or[0] * j) * ix;
      const uyj = (py + or[1] * j) * iy;
      const uzj = (ob[2] - cz + or[2] * j - kx * (px + or[0] * j) - ky * (py + or[1] * j)) * iz;
      const wxj = (db[0] + dr[0] * j) * ix;
      const wyj = (db[1] + dr[1] * j) * iy;
      const wzj = (db[2] + dr[2] * j - kx * (db[0] + dr[0] * j) - ky * (db[1] + dr[1] * j)) * iz;
      for (let i = i0; i <= i1; i += 1) {
        const ux = uxj + uxc * i;
        const uy = uyj + uyc * i;
        const uz = uzj + uzc * i;
        const wx = wxj + wxc * i;
        const wy = wyj + wyc * i;
        const wz = wzj + wzc * i;
        const a = wx * wx + wy * wy + wz * wz;
        const b = ux * wx + uy * wy + uz * wz;
        const c = ux * ux + uy * uy + uz * uz - 1;
        const d = b * b - a * c;
        if (d < 0) continue;
        const root = Math.sqrt(d);
        let t = (-b - root) / a;
        if (t <= 0) t = (-b + root) / a;
        const at = j * columns + i;
        if (t > 0 && t < nearest[at]!) {
          nearest[at] = t;
          which[at] = n;
        }
      }
    }
  }
}
