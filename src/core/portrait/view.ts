import type { Tank } from '../optics/tank';

/**
 * How a tank is seen from before its front pane, a little from above the water line, shifted so that verticals stay vertical.
 * Frame as the tank's: x left→right, y front→back, z down from the surface, cm. A pixel's way through the water is straight:
 * x = xf + (xf − eyeX) · bend · y, z = zf + (zf − eyeZ) · bend · y, with (xf, zf) where it meets the front pane.
 */
export interface View {
  width: number;
  height: number;
  /** pixels per cm on the front pane */
  perCm: number;
  /** x and z on the front pane at the picture's left and upper edge, cm */
  left: number;
  top: number;
  eyeX: number;
  eyeZ: number;
  /** how fast ways part behind the pane, per cm: one over the eye's distance, drawn nearer by the water's refraction */
  bend: number;
}

/** Refractive index of sea water. Mark: literature. */
export const WATER_INDEX = 1.34;
/** Air over the water that is shown, as a share of the depth; the eye's height over the water and its distance. Mark: drawing licence. */
const HEADROOM = 0.14;
const EYE_HEIGHT = 0.42;
const EYE_DISTANCE = 1.25;

/** Height of a picture as a share of its width: of a long tank no more than its water and the lamps over it take. */
const SHAPE = { most: 0.39, least: 0.2, ofDepth: 1.17 };
export const pictureShape = (tank?: Pick<Tank, 'lengthCm' | 'depthCm'>): number =>
  tank
    ? Math.min(SHAPE.most, Math.max(SHAPE.least, (SHAPE.ofDepth * tank.depthCm) / tank.lengthCm))
    : SHAPE.most;

export function viewOf(
  { lengthCm, depthCm }: Pick<Tank, 'lengthCm' | 'depthCm'>,
  width: number,
  height: number,
): View {
  const perCm = Math.min(width / lengthCm, height / (depthCm * (1 + HEADROOM)));
  const distance = EYE_DISTANCE * Math.max(0.75 * lengthCm, 1.2 * depthCm);
  return {
    width,
    height,
    perCm,
    left: lengthCm / 2 - width / perCm / 2,
    top: depthCm - height / perCm,
    eyeX: lengthCm / 2,
    eyeZ: -EYE_HEIGHT * depthCm,
    bend: 1 / (distance * WATER_INDEX),
  };
}

/** Where the white card lies on the sand, and half its width, cm. */
export function cardPlace({ lengthCm }: Pick<Tank, 'lengthCm'>): {
  xCm: number;
  yCm: number;
  wideCm: number;
} {
  const wideCm = Math.min(7, lengthCm / 14);
  return { xCm: lengthCm - 1.6 * wideCm, yCm: wideCm, wideCm };
}

/** Where a place in the tank is seen, px from the upper left. */
export function seenAt(v: View, x: number, y: number, z: number): { x: number; y: number } {
  const k = v.bend * y;
  return {
    x: ((x + v.eyeX * k) / (1 + k) - v.left) * v.perCm,
    y: ((z + v.eyeZ * k) / (1 + k) - v.top) * v.perCm,
  };
}

/** The place at a distance behind the front pane that is seen at a pixel. */
export function placeAt(v: View, px: number, py: number, y: number): { x: number; z: number } {
  const xf = v.left + px / v.perCm;
  const zf = v.top + py / v.perCm;
  const k = v.bend * y;
  return { x: xf + (xf - v.eyeX) * k, z: zf + (zf - v.eyeZ) * k };
}
