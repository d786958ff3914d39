import * as v from 'valibot';

import { between, id, list, name, share } from '../shape/shape';

const walls = v.object({ left: share, right: share, front: share, back: share });
/** Factor on each pane's own reflectance: 1 = clean glass, 0 = painted black or overgrown. */
export type Walls = v.InferOutput<typeof walls>;

const solid = v.pipe(
  v.object({
    id,
    name,
    shape: v.picklist(['block', 'mound', 'step'], 'is "block", "mound" or "step"'),
    /** its middle */
    xCm: between(-500, 1500, ' cm'),
    yCm: between(-500, 1500, ' cm'),
    lengthCm: between(1, 1000, ' cm'),
    widthCm: between(1, 1000, ' cm'),
    topCm: between(0, 299, ' cm'),
    bottomCm: between(1, 300, ' cm'),
  }),
  v.check((s) => s.bottomCm > s.topCm, 'its bottom lies below its top'),
);
/**
 * Simple rockwork and stepped floors, upright: a `block` fills its box, a `mound` is the upper half of an ellipsoid, a
 * `step` is a block of floor (it stands on the floor and throws light back as the floor does). Depths from the surface, cm.
 */
export type Solid = v.InferOutput<typeof solid>;

export const tankSchema = v.object({
  lengthCm: between(5, 1000, ' cm'),
  widthCm: between(5, 1000, ' cm'),
  depthCm: between(5, 300, ' cm'),
  walls,
  /** diffuse reflectance of the floor: sand 0.4, bare glass 0.1 (rule of thumb) */
  floorReflectance: share,
  /** share of light that a lid or screen leaves; 1 = open */
  lidShare: share,
  solids: v.pipe(list(solid), v.maxLength(40, 'at most 40 solids')),
});
/** The water and what bounds it. Frame: x left→right, y front→back, z down from the surface, cm. Water stands to the rim. */
export type Tank = v.InferOutput<typeof tankSchema>;

/** A box of clean glass with sand, open above. */
export const plainTank = (lengthCm: number, widthCm: number, depthCm: number): Tank => ({
  lengthCm,
  widthCm,
  depthCm,
  walls: { left: 1, right: 1, front: 1, back: 1 },
  floorReflectance: 0.4,
  lidShare: 1,
  solids: [],
});

/** True when a place lies inside a solid (its skin does not count). */
export function insideSolid(s: Solid, x: number, y: number, z: number): boolean {
  const skin = 1e-6;
  const u = (2 * (x - s.xCm)) / s.lengthCm;
  const v = (2 * (y - s.yCm)) / s.widthCm;
  if (z <= s.topCm + skin || z >= s.bottomCm + skin) return false;
  if (s.shape !== 'mound') return Math.abs(u) < 1 - skin && Math.abs(v) < 1 - skin;
  const w = (s.bottomCm - z) / (s.bottomCm - s.topCm);
  return u * u + v * v + w * w < 1 - skin;
}

/**
 * Depth of what a light from straight above first falls on at x, y: floor, step or rock, cm.
 */
export function groundDepth(tank: Tank, x: number, y: number): number {
  let depth = tank.depthCm;
  for (const s of tank.solids) {
    const u = (2 * (x - s.xCm)) / s.lengthCm;
    const v = (2 * (y - s.yCm)) / s.widthCm;
    if (s.shape === 'mound') {
      const rest = 1 - u * u - v * v;
      if (rest > 0) depth = Math.min(depth, s.bottomCm - Math.sqrt(rest) * (s.bottomCm - s.topCm));
    } else if (Math.abs(u) < 1 && Math.abs(v) < 1) depth = Math.min(depth, s.topCm);
  }
  return depth;
}

/** A solid as rays meet it, mirrored or not: middle, half sizes, depths. */
export interface Obstacle {
  mound: boolean;
  x: number;
  y: number;
  halfX: number;
  halfY: number;
  top: number;
  bottom: number;
}

export const obstacle = (s: Solid, x = s.xCm, y = s.yCm): Obstacle => ({
  mound: s.shape === 'mound',
  x,
  y,
  halfX: s.lengthCm / 2,
  halfY: s.widthCm / 2,
  top: s.topCm,
  bottom: s.bottomCm,
});

/** Rays end this share of their length before the point: a coral stands on its rock, not in it. */
const END = 1 - 1e-6;

/** True when the straight way in the water from (x0, y0, 0) to (x1, y1, z1) passes through the obstacle. */
export function blocks(o: Obstacle, x0: number, y0: number, x1: number, y1: number, z1: number): boolean {
  if (z1 <= o.top) return false;
  // the part of the way between the obstacle's top and bottom
  let from = o.top / z1;
  let to = Math.min(END, o.bottom / z1);
  const dx = x1 - x0;
  const dy = y1 - y0;
  if (o.mound) {
    const h = o.bottom - o.top;
    const ax = dx / o.halfX;
    const ay = dy / o.halfY;
    const az = z1 / h;
    const bx = (x0 - o.x) / o.halfX;
    const by = (y0 - o.y) / o.halfY;
    const bz = -o.bottom / h;
    const a = ax * ax + ay * ay + az * az;
    const b = ax * bx + ay * by + az * bz;
    const d = b * b - a * (bx * bx + by * by + bz * bz - 1);
    if (d <= 0) return false;
    const root = Math.sqrt(d);
    from = Math.max(from, (-b - root) / a);
    to = Math.min(to, (-b + root) / a);
    return from < to;
  }
  if (Math.abs(dx) < 1e-12) {
    if (Math.abs(x0 - o.x) >= o.halfX) return false;
  } else {
    const a = (o.x - o.halfX - x0) / dx;
    const b = (o.x + o.halfX - x0) / dx;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  if (Math.abs(dy) < 1e-12) {
    if (Math.abs(y0 - o.y) >= o.halfY) return false;
  } else {
    const a = (o.y - o.halfY - y0) / dy;
    const b = (o.y + o.halfY - y0) / dy;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  return from < to;
}
