import { contours } from 'd3-contour';

import type { Standing } from '@/core/record/needs';

/** A box on the chart, px. */
export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

export const overlap = (a: Box, b: Box): boolean => a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1;

export interface Label {
  id: string;
  /** what it speaks of, px */
  x: number;
  y: number;
  width: number;
  height: number;
  /** how far from its point it stands at least, px; 0 = on it */
  gap: number;
}

/** Where a label stands: its box, and whether it is far enough for a leader. */
export interface Placed {
  box: Box;
  leader: boolean;
}

const AROUND: readonly (readonly [dx: number, dy: number])[] = [
  [1, 0],
  [-1, 0],
  [1, -0.45],
  [1, 0.45],
  [-1, -0.45],
  [-1, 0.45],
  [0, -1],
  [0, 1],
  [1, -1],
  [-1, -1],
  [1, 1],
  [-1, 1],
];
const FURTHER = [1, 2.2, 3.6, 5.5, 8] as const;
/** Leaders up to here are easily followed: rings of `FURTHER`. */
export const NEAR_RINGS = 3;

/**
 * Places labels in order of importance so that none touches another, an obstacle or the edge; what finds no room is left out.
 */
export function placeLabels(
  labels: readonly Label[],
  obstacles: readonly Box[],
  bounds: Box,
  rings: number = FURTHER.length,
): Map<string, Placed> {
  const taken: Box[] = [...obstacles];
  const placed = new Map<string, Placed>();
  for (const l of labels) {
    const spots: { box: Box; leader: boolean }[] = [];
    if (l.gap === 0) spots.push({ box: boxAt(l.x, l.y, l), leader: false });
    else {
      for (const far of FURTHER.slice(0, rings)) {
        for (const [dx, dy] of AROUND) {
          const reach = l.gap * far;
          spots.push({
            box: boxAt(l.x + dx * (reach + l.width / 2), l.y + dy * (reach + l.height / 2), l),
            leader: far > 1,
          });
        }
      }
    }
    const free = spots.find(
      ({ box }) =>
        box.x0 >= bounds.x0 &&
        box.y0 >= bounds.y0 &&
        box.x1 <= bounds.x1 &&
        box.y1 <= bounds.y1 &&
        taken.every((t) => !overlap(t, box)),
    );
    if (!free) continue;
    taken.push(free.box);
    placed.set(l.id, free);
  }
  return placed;
}

/**
 * The richest of several sets of labels in which all that must stand find room; else the set in which most of them do.
 * @param sets richest first; later ones are only made when they are needed
 */
export function placeRichest<T extends { labels: readonly Label[]; rings?: number }>(
  sets: readonly (() => T)[],
  must: (id: string) => boolean,
  obstacles: readonly Box[],
  bounds: Box,
): { set: T; placed: Map<string, Placed> } {
  let best: { set: T; placed: Map<string, Placed> } | null = null;
  let most = -1;
  for (const make of sets) {
    const set = make();
    const placed = placeLabels(set.labels, obstacles, bounds, set.rings);
    const wanted = set.labels.filter((l) => must(l.id));
    const stand = wanted.filter((l) => placed.has(l.id)).length;
    if (stand > most) [most, best] = [stand, { set, placed }];
    if (stand === wanted.length) break;
  }
  return best!;
}

const boxAt = (x: number, y: number, l: Pick<Label, 'width' | 'height'>): Box => ({
  x0: x - l.width / 2,
  y0: y - l.height / 2,
  x1: x + l.width / 2,
  y1: y + l.height / 2,
});

/** Width of a text in the chart's sans, px, on the safe side. */
export const textWidth = (text: string, fontSize: number): number => text.length * fontSize * 0.58 + 2;

const STEPS = [1, 2, 2.5, 5, 10] as const;

/** Round values for about this many contour lines between the least and the most. */
export function contourValues(min: number, max: number, about = 6): number[] {
  const span = max - min;
  if (!(span > 0)) return [];
  const rough = span / about;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = power * STEPS.find((s) => s * power >= rough)!;
  const out: number[] = [];
  for (let k = Math.ceil(min / step); k * step < max; k += 1) {
    const value = Math.round(k * step * 1e6) / 1e6;
    if (value > min) out.push(value);
  }
  return out;
}

/** A grid of values as the chart draws it. */
export interface Sheet {
  nx: number;
  ny: number;
  /** row by row; NaN = rock */
  values: ArrayLike<number>;
  /** place on the chart of a point of the grid, px; cells are one wide, the first from 0 to 1 */
  project: (gx: number, gy: number) => readonly [x: number, y: number];
}

export interface Contour {
  value: number;
  /** the line, without the parts that run along the edge */
  line: string;
  /** the ground at this value and above */
  area: string;
  /** places along the line where its figure may stand, px */
  along: [x: number, y: number][];
}

/** Contours of a grid at the given values. */
export function contourPaths(sheet: Sheet, values: readonly number[]): Contour[] {
  const { nx, ny, project } = sheet;
  const filled = Array.from(sheet.values, (v) => (Number.isFinite(v) ? v : -1e9));
  return contours()
    .size([nx, ny])
    .thresholds([...values])(filled)
    .map((multi) => {
      let line = '';
      let area = '';
      const along: [number, number][] = [];
      for (const ring of multi.coordinates.flat()) {
        const points = ring.map(([x, y]) => project(x!, y!));
        area += `M${points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join('L')}Z`;
        let down = false;
        for (let i = 0; i < ring.length; i += 1) {
          const edge = i > 0 && onEdge(ring[i - 1]!, nx, ny) && onEdge(ring[i]!, nx, ny);
          const [x, y] = points[i]!;
          line += `${down && !edge ? 'L' : 'M'}${x.toFixed(1)},${y.toFixed(1)}`;
          down = true;
          if (!onEdge(ring[i]!, nx, ny) && i % 5 === 2) along.push([x, y]);
        }
      }
      return { value: multi.value, line, area, along };
    });
}

const onEdge = ([x, y]: readonly number[], nx: number, ny: number): boolean =>
  x! <= 0.01 || y! <= 0.01 || x! >= nx - 0.01 || y! >= ny - 0.01;

/** Value of a grid at a point of it, linear between cell centres; NaN beside rock. */
export function valueAt(sheet: Pick<Sheet, 'nx' | 'ny' | 'values'>, gx: number, gy: number): number {
  const { nx, ny, values } = sheet;
  const at = (u: number, n: number): [number, number] => {
    const v = Math.min(n - 1, Math.max(0, u - 0.5));
    const i = Math.min(n - 2, Math.floor(v));
    return [i, v - i];
  };
  const [i, fx] = at(gx, nx);
  const [j, fy] = at(gy, ny);
  const row = (jj: number) => values[jj * nx + i]! * (1 - fx) + values[jj * nx + i + 1]! * fx;
  return row(j) * (1 - fy) + row(j + 1) * fy;
}

/** Something on the chart that can be taken and moved. Places in cm of the view: across, and down from the surface (heights are negative). */
export interface SoundingMark {
  id: string;
  kind: 'coral' | 'spot' | 'lamp';
  name: string;
  across: number;
  down: number;
  /** figure under its name */
  figure: string;
  /** what was read there under this light; null = nothing */
  read: string | null;
  standing: Standing | null;
  /** stands in the ring itself, for what is told beside the chart; such a mark has no label */
  letter?: string;
  /** size of a lamp, cm */
  wide?: number;
  high?: number;
  turnDeg?: number;
}

export interface SoundingView {
  /** what is across and what is down */
  kind: 'top' | 'front' | 'side';
  acrossCm: number;
  downCm: number;
  /** air drawn above the surface, cm; 0 from above */
  airCm: number;
  /** the values, with the middle of the first cell at 0.5; `layered` = rows are planes from the surface to the floor */
  nx: number;
  ny: number;
  values: ArrayLike<number>;
  layered: boolean;
}
