/** A point of a picture, as shares of its width: y counts by the width too, so that nothing is stretched. */
export interface At {
  x: number;
  y: number;
}
/** Most points of an outline, and fewest: less encloses nothing. */
export const MOST_POINTS = 200;
export const LEAST_POINTS = 3;

/** Turned, scaled and moved: x' = a·x − b·y + dx, y' = b·x + a·y + dy. */
export interface Similarity {
  a: number;
  b: number;
  dx: number;
  dy: number;
}
export const AS_IT_IS: Similarity = { a: 1, b: 0, dx: 0, dy: 0 };

/** What lays two points onto two others; as it is where two of them are one. */
export function similarity(from: readonly [At, At], to: readonly [At, At]): Similarity {
  const [fx, fy] = [from[1].x - from[0].x, from[1].y - from[0].y];
  const [tx, ty] = [to[1].x - to[0].x, to[1].y - to[0].y];
  const long = fx * fx + fy * fy;
  if (long < 1e-9 || tx * tx + ty * ty < 1e-9) return AS_IT_IS;
  const a = (fx * tx + fy * ty) / long;
  const b = (fx * ty - fy * tx) / long;
  return { a, b, dx: to[0].x - a * from[0].x + b * from[0].y, dy: to[0].y - b * from[0].x - a * from[0].y };
}

export const laid = ({ a, b, dx, dy }: Similarity, { x, y }: At): At => ({
  x: a * x - b * y + dx,
  y: b * x + a * y + dy,
});
