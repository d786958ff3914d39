import { indexOfNm, zeroSpectrum } from '../spectrum/grid';
import { type Temperature, temperatureOf } from './temperature';
import { type Xy, xyOf, xyzOf } from './xyz';

/** Chromaticity of the equal-energy point, from which purity is measured. Mark: standard. */
const EQUAL_ENERGY: Xy = [1 / 3, 1 / 3];

export interface Tint extends Temperature {
  xy: Xy;
  /** colour name of the hue angle around the equal-energy point */
  hue: string;
  /** distance from the equal-energy point over the distance to the most saturated light seen of that hue, 0..1 */
  purity: number;
}

/** Hue names by angle in (x, y) around the equal-energy point, degrees. Mark: rule of thumb. */
const HUES: readonly (readonly [untilDeg: number, name: string])[] = [
  [25, 'red'],
  [50, 'amber'],
  [85, 'yellow-green'],
  [135, 'green'],
  [190, 'cyan'],
  [225, 'blue'],
  [243, 'royal blue'],
  [262, 'violet-blue'],
  [266, 'violet'],
  [335, 'magenta'],
  [361, 'red'],
];

/** The edges of the visible chromaticities, from the observer's own spectral locus; coarse, cached. */
let edge: Xy[] | undefined;
function spectralEdge(): Xy[] {
  if (!edge) {
    edge = [];
    for (let nm = 400; nm <= 700; nm += 2) {
      const line = zeroSpectrum();
      line[indexOfNm(nm)] = 1;
      edge.push(xyOf(xyzOf(line))!);
    }
  }
  return edge;
}

const angleOf = ([x, y]: Xy) =>
  ((Math.atan2(y - EQUAL_ENERGY[1], x - EQUAL_ENERGY[0]) * 180) / Math.PI + 360) % 360;
const radius = ([x, y]: Xy) => Math.hypot(x - EQUAL_ENERGY[0], y - EQUAL_ENERGY[1]);

/** Distance from equal energy to the edge of visible colours in direction of xy. */
function edgeRadius(xy: Xy): number {
  const points = spectralEdge();
  const [dx, dy] = [xy[0] - EQUAL_ENERGY[0], xy[1] - EQUAL_ENERGY[1]];
  const length = Math.hypot(dx, dy);
  for (let i = 0; i < points.length; i += 1) {
    const a = points[i]!;
    const b = points[(i + 1) % points.length]!;
    // solve E + t·d = a + s·(b−a)
    const [ex, ey] = [b[0] - a[0], b[1] - a[1]];
    const det = ex * dy - ey * dx;
    if (Math.abs(det) < 1e-15) continue;
    const [px, py] = [EQUAL_ENERGY[0] - a[0], EQUAL_ENERGY[1] - a[1]];
    const t = (ey * px - ex * py) / det;
    const s = (dy * px - dx * py) / det;
    if (t > 0 && s >= 0 && s <= 1) return t * length;
  }
  return length;
}

/** Tint of a light: kelvin where honest, otherwise hue and purity. Null without light. */
export function tintOf(spectrum: ArrayLike<number>): Tint | null {
  const xy = xyOf(xyzOf(spectrum));
  if (!xy) return null;
  const angle = angleOf(xy);
  const hue = HUES.find(([until]) => angle < until)![1];
  const purity = radius(xy) < 1e-6 ? 0 : Math.min(1, radius(xy) / edgeRadius(xy));
  return { ...temperatureOf(xy), xy, hue, purity };
}
