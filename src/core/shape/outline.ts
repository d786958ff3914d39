import { polygonArea } from 'd3-polygon';
import simplify from 'simplify-js';

import { type At, LEAST_POINTS, MOST_POINTS } from './similarity';

/** A hand on a picture draws no finer than this, as a share of its width. Mark: rule of thumb. */
const FINE = 0.002;

/** In shares of the width, so that nothing is stretched. */
const inWidths = (points: readonly At[], heightPerWidth: number): At[] =>
  points.map(({ x, y }) => ({ x, y: y * heightPerWidth }));

/**
 * A line that a hand drew around something, with as few points as show it.
 * @param line shares of width and height; @returns the same, at most `MOST_POINTS`; null where nothing is enclosed
 */
export function drawnAround(line: readonly At[], heightPerWidth: number): At[] | null {
  const within = inWidths(line, heightPerWidth);
  let made = within;
  for (let fine = FINE; ; fine *= 1.5) {
    made = simplify([...within], fine, true);
    if (made.length <= MOST_POINTS) break;
  }
  const points = made.map(({ x, y }) => ({ x, y: y / heightPerWidth }));
  return points.length >= LEAST_POINTS && areaOf(points, heightPerWidth) > 0 ? points : null;
}

/** Area within an outline, in widths of the picture squared; the way round does not matter. */
export const areaOf = (outline: readonly At[], heightPerWidth: number): number =>
  Math.abs(polygonArea(inWidths(outline, heightPerWidth).map(({ x, y }): [number, number] => [x, y])));

/** How far apart two points are, in widths. */
export const apartOf = (a: At, b: At, heightPerWidth: number): number =>
  Math.hypot(a.x - b.x, (a.y - b.y) * heightPerWidth);
