import { fresnelIntoWater, SEA_WATER_INDEX, sinAirForDistance } from './refraction';
import { type Frame, intensity, intensityAlong, type Optic } from './optic';
import { blocks, insideSolid, obstacle, type Obstacle, type Solid, type Tank } from './tank';

/*
 * How light gets from a lamp to a place in the water.
 *
 * A place is a target in a plane of one depth. Seen from it, a lamp is a handful of emitters, and the tank's glass is a mirror: light that
 * was thrown back by a wall arrives as if it came from straight through it. So instead of following rays, the target is mirrored in the
 * walls (`mirroredTargets`), and every emitter is asked how much it sends on the straight way to every image. A way counts only where it
 * enters through the real surface, inside the rim; each mirror on it takes its part (`waterToAir` at the true incidence, times the wall's
 * own factor), and rock that stands on it, mirrored along, blocks it.
 *
 * On that way the ray is bent once, at the surface. Which ray reaches a distance has no closed form, but it depends on three numbers alone
 * (height, depth, distance); so for each height and plane a table over distance is made once (`Radial`): irradiance per intensity by
 * conservation of flux, where the surface is crossed, how long the way in the water is. Emitters then only look up.
 *
 * Water takes its share by the length of the way and by wavelength. To leave the wavelengths open, light is not multiplied but sorted:
 * each contribution is laid between the two nearest of a few path lengths (`nodeSecant`). Whoever called (`response`, `field`) then applies any
 * number of wavelengths, bands or waters to those nodes at once, and slopes over yellowness come out of the same sort.
 */

/** Where one hung lamp's channel sends light from. */
export interface RigEmitter {
  xCm: number;
  yCm: number;
  heightCm: number;
  /** share of the flux of its spectrum that this emitter sends out; the shares of a spectrum add to 1 */
  share: number;
  /** which spectrum of the row it emits */
  spectrum: number;
  optic: Optic;
  /** null = straight down */
  frame: Frame | null;
}

const N = SEA_WATER_INDEX;
/** Steepest a ray from air can run in the water: 1/cos of the critical angle. */
const LONGEST = 1 / Math.sqrt(1 - 1 / (N * N));
/** Sideways reach of a ray in the water per depth. */
const SIDEWAYS = Math.sqrt(LONGEST * LONGEST - 1);
/** Below this cosine of incidence a water→air surface reflects everything. */
const TOTAL = Math.sqrt(1 - 1 / (N * N));

/** Reflectance of the water→air surface at an incidence of this cosine, unpolarised (Fresnel); total beyond the critical angle. Mark: standard. */
export function waterToAir(cosIncidence: number): number {
  if (cosIncidence <= TOTAL) return 1;
  return 1 - fresnelIntoWater(Math.min(1, N * Math.sqrt(Math.max(0, 1 - cosIncidence * cosIncidence))));
}

/**
 * Paths in the water, as nodes: light is gathered by the length of its path, so that any number of wavelengths, bands or
 * waters can be applied afterwards. Node k stands for the path depth × nodeSecant(k, nodes).
 */
export const nodeSecant = (k: number, nodes: number): number => 1 + ((LONGEST - 1) * k) / (nodes - 1);

/** Targets in one plane of the water. */
export interface Plane {
  depthCm: number;
  x: Float64Array;
  y: Float64Array;
}

/** What rays from one height reach at distances from it, in one plane. */
interface Radial {
  /** per distance: see the four places below */
  values: Float64Array;
  /** entries per cm; 0 = exact, computed anew for every distance into the first entry */
  perCm: number;
  last: number;
}
/** In a radial's entry: horizontal irradiance per intensity (m⁻² sr; m⁻² with the intensity folded in), share of the horizontal way that lies in air, place of the path among the nodes, sine of the angle in water. */
const GEOMETRY = 0;
const CROSSING = 1;
const NODE = 2;
const SIN_WATER = 3;
const ENTRY = 4;

/**
 * One ray, by flux conservation E = I(θa) T(θa) (sin θa / r) (dθa/dr). Source: geometrical optics. Mark: standard.
 * @param optic intensity of a straight-down optic that is the same all around, folded in; null = asked per ray
 */
function ray(
  out: Float64Array,
  at: number,
  rCm: number,
  hCm: number,
  zCm: number,
  nodes: number,
  optic: Optic | null,
): void {
  const n = N;
  const h = hCm / 100;
  const z = zCm / 100;
  const sinA = sinAirForDistance(rCm / 100, h, z);
  const cosA = Math.sqrt(1 - sinA * sinA);
  const sinW = sinA / n;
  const cosW = Math.sqrt(1 - sinW * sinW);
  // r / sin θa, finite at r = 0
  const spread = h / cosA + z / (n * cosW);
  const drByAngle = h / (cosA * cosA) + (z * cosA) / (n * cosW * cosW * cosW);
  const folded = optic ? intensity(optic, cosA, 0) : 1;
  out[at + GEOMETRY] = (folded * fresnelIntoWater(sinA)) / (spread * drByAngle);
  out[at + CROSSING] = h / cosA / spread;
  out[at + NODE] = ((1 / cosW - 1) / (LONGEST - 1)) * (nodes - 1);
  out[at + SIN_WATER] = sinW;
}

const TABLE = 800;

function tableOf(farCm: number, hCm: number, zCm: number, nodes: number, optic: Optic | null): Radial {
  const values = new Float64Array(TABLE * ENTRY);
  const perCm = (TABLE - 1) / farCm;
  for (let i = 0; i < TABLE; i += 1) ray(values, i * ENTRY, i / perCm, hCm, zCm, nodes, optic);
  return { values, perCm, last: TABLE - 2 };
}

/** What is the same for every row gathered in one plane: tables over distance (null = every ray exactly), mirrored targets, which solids hold which targets. */
export interface PlaneCache {
  tables: Map<string, Radial> | null;
  images: Mirrored[] | null;
  holds: Uint8Array[] | null;
}
export const planeCache = (): PlaneCache => ({ tables: new Map(), images: null, holds: null });
/** For few targets: rays of their own, what is mirrored kept. */
export const exactCache = (): PlaneCache => ({ tables: null, images: null, holds: null });

/** A mirrored copy of the water along one axis: place = offset + sign × place; what its walls leave per reflectance. */
interface Image {
  index: number;
  offset: number;
  sign: number;
  factor: number;
  bounces: number;
}

/** Images along an axis that a ray of this depth can reach, with the product of the factors of the walls it meets. */
function imagesAlong(length: number, depth: number, low: number, high: number): Image[] {
  const out: Image[] = [{ index: 0, offset: 0, sign: 1, factor: 1, bounces: 0 }];
  const reach = depth * SIDEWAYS;
  for (let n = 1; (n - 1) * length < reach; n += 1) {
    for (const index of [n, -n]) {
      const odd = n % 2 === 1;
      // walls are met in turn, the one on its own side first
      const [first, second] = index > 0 ? [high, low] : [low, high];
      const factor = first ** Math.ceil(n / 2) * second ** Math.floor(n / 2);
      if (factor > 0)
        out.push({
          index,
          offset: odd ? (index + 1) * length : index * length,
          sign: odd ? -1 : 1,
          factor,
          bounces: n,
        });
    }
  }
  return out;
}

/** Copies of the solids that stand in the way of rays to an image: those of every mirrored water on the way. */
function obstaclesFor(solids: readonly Solid[], tank: Tank, i: number, j: number): Obstacle[] {
  const mirrored = (n: number, length: number, at: number) =>
    n % 2 === 0 ? n * length + at : (n + 1) * length - at;
  const out: Obstacle[] = [];
  for (let a = Math.min(0, i); a <= Math.max(0, i); a += 1) {
    for (let b = Math.min(0, j); b <= Math.max(0, j); b += 1) {
      for (const s of solids)
        out.push(obstacle(s, mirrored(a, tank.lengthCm, s.xCm), mirrored(b, tank.widthCm, s.yCm)));
    }
  }
  return out;
}

export interface GatherOptions {
  nodes: number;
  /** for many rows of one plane in one tank. Absent = every ray exactly */
  cache?: PlaneCache;
  /** only light that falls on this pane, as irradiance of the pane; targets lie on it */
  pane?: 'left' | 'right' | 'front' | 'back';
  /** told of every ray that arrives: its target, its weight, walls it met, its optic and the cosine of its angle from the optic's axis */
  arrived?: (target: number, weight: number, bounces: number, optic: Optic, cosAxis: number) => void;
}

/** Targets mirrored in one image of the water, without those that no ray of this depth can reach. */
interface Mirrored {
  target: Int32Array;
  x: Float64Array;
  y: Float64Array;
  bouncesX: number;
  bouncesY: number;
  factor: number;
  way: Obstacle[] | null;
}

function mirroredTargets(tank: Tank, plane: Plane, pane: GatherOptions['pane']): Mirrored[] {
  const { lengthCm: L, widthCm: W, walls } = tank;
  const reach = plane.depthCm * SIDEWAYS + 1e-9;
  const out: Mirrored[] = [];
  for (const ix of imagesAlong(L, plane.depthCm, walls.left, walls.right)) {
    if ((pane === 'left' || pane === 'right') && ix.index !== 0) continue;
    for (const iy of imagesAlong(W, plane.depthCm, walls.front, walls.back)) {
      if ((pane === 'front' || pane === 'back') && iy.index !== 0) continue;
      const target: number[] = [];
      const x: number[] = [];
      const y: number[] = [];
      for (let t = 0; t < plane.x.length; t += 1) {
        const px = ix.offset + ix.sign * plane.x[t]!;
        const py = iy.offset + iy.sign * plane.y[t]!;
        if (px > L + reach || px < -reach || py > W + reach || py < -reach) continue;
        target.push(t);
        x.push(px);
        y.push(py);
      }
      if (target.length === 0) continue;
      out.push({
        target: Int32Array.from(target),
        x: Float64Array.from(x),
        y: Float64Array.from(y),
        bouncesX: ix.bounces,
        bouncesY: iy.bounces,
        factor: ix.factor * iy.factor,
        way: tank.solids.length > 0 ? obstaclesFor(tank.solids, tank, ix.index, iy.index) : null,
      });
    }
  }
  return out;
}

const heldTargets = (tank: Tank, plane: Plane): Uint8Array[] =>
  tank.solids.map((s) =>
    Uint8Array.from(plane.x, (x, t) => (insideSolid(s, x, plane.y[t]!, plane.depthCm) ? 1 : 0)),
  );

/**
 * Light that the emitters of one row send to the targets of a plane, without the water's loss: m⁻² per unit of flux, by
 * spectrum, target and node of path length. Walls by images of the target mirrored in them: kept are images whose ray
 * enters through the real water surface, weakened per reflection by the water→air reflectance at its true incidence and
 * the wall's factor. Solids cast shadows; those that hold a target do not shade it.
 * @param into [spectrum] targets × nodes, added to
 */
export function gather(
  tank: Tank,
  plane: Plane,
  emitters: readonly RigEmitter[],
  into: readonly Float64Array[],
  { nodes, cache, pane, arrived }: GatherOptions,
): void {
  const { lengthCm: L, widthCm: W } = tank;
  const z = plane.depthCm;
  const images = cache?.images ?? mirroredTargets(tank, plane, pane);
  const holds = cache?.holds ?? heldTargets(tank, plane);
  if (cache) Object.assign(cache, { images, holds });
  const exact: Radial = { values: new Float64Array(ENTRY * 2), perCm: 0, last: 0 };
  const lastNode = nodes - 2;
  const n = N;
  const total = TOTAL;

  for (const e of emitters) {
    const { xCm: ex, yCm: ey, heightCm, optic, frame } = e;
    const out = into[e.spectrum]!;
    const fold = frame === null && optic.radial;
    const folded = fold ? optic : null;
    const radial = cache?.tables ? tableFor(cache.tables, tank, e, z, nodes, folded) : exact;
    const { values, perCm, last } = radial;
    const scale = e.share * tank.lidShare;
    for (const image of images) {
      const { target, x, y, bouncesX, bouncesY, way } = image;
      const weight = scale * image.factor;
      for (let k = 0; k < target.length; k += 1) {
        const dx = x[k]! - ex;
        const dy = y[k]! - ey;
        const r = Math.sqrt(dx * dx + dy * dy);
        let at = 0;
        let f = 0;
        if (perCm > 0) {
          const place = r * perCm;
          const i = place < last ? Math.floor(place) : last;
          f = place - i;
          at = i * ENTRY;
        } else ray(values, 0, r, heightCm, z, nodes, folded);
        const g = 1 - f;
        const crossing = g * values[at + CROSSING]! + f * values[at + ENTRY + CROSSING]!;
        const enterX = ex + dx * crossing;
        if (enterX < 0 || enterX > L) continue;
        const enterY = ey + dy * crossing;
        if (enterY < 0 || enterY > W) continue;
        let w = weight * (g * values[at + GEOMETRY]! + f * values[at + ENTRY + GEOMETRY]!);
        const sinW = g * values[at + SIN_WATER]! + f * values[at + ENTRY + SIN_WATER]!;
        if (bouncesX > 0) {
          const cos = (sinW * Math.abs(dx)) / r;
          if (cos > total) w *= waterToAir(cos) ** bouncesX;
        }
        if (bouncesY > 0) {
          const cos = (sinW * Math.abs(dy)) / r;
          if (cos > total) w *= waterToAir(cos) ** bouncesY;
        }
        if (!fold) {
          const sinA = sinW * n;
          const u = r > 0 ? sinA / r : 0;
          w *= intensityAlong(optic, frame ?? DOWN, u * dx, u * dy, Math.sqrt(1 - sinA * sinA));
        }
        if (pane) {
          const outward = pane === 'left' ? -dx : pane === 'right' ? dx : pane === 'front' ? -dy : dy;
          if (outward <= 0) continue;
          w *= ((sinW / Math.sqrt(1 - sinW * sinW)) * outward) / r;
        }
        if (!(w > 0)) continue;
        const t = target[k]!;
        if (way && shaded(way, holds, t, enterX, enterY, x[k]!, y[k]!, z)) continue;
        const node = g * values[at + NODE]! + f * values[at + ENTRY + NODE]!;
        const whole = node < lastNode ? Math.floor(node) : lastNode;
        const part = node - whole;
        const slot = t * nodes + whole;
        out[slot]! += w * (1 - part);
        out[slot + 1]! += w * part;
        if (arrived)
          arrived(
            t,
            w,
            bouncesX + bouncesY,
            optic,
            cosFromAxis(frame ?? DOWN, r > 0 ? (sinW * n) / r : 0, dx, dy),
          );
      }
    }
  }
}

/** Tables reach this much further at a time, so that emitters at other places share them. */
const REACH_STEP_CM = 40;

function tableFor(
  tables: Map<string, Radial>,
  tank: Tank,
  e: RigEmitter,
  z: number,
  nodes: number,
  folded: Optic | null,
): Radial {
  const { lengthCm: L, widthCm: W } = tank;
  const rim = Math.hypot(Math.max(e.xCm, L - e.xCm), Math.max(e.yCm, W - e.yCm));
  const far = Math.ceil((rim + z * SIDEWAYS + 1) / REACH_STEP_CM) * REACH_STEP_CM;
  const key = `${e.heightCm} ${far} ${folded ? opticId(folded) : ''}`;
  let table = tables.get(key);
  if (!table) tables.set(key, (table = tableOf(far, e.heightCm, z, nodes, folded)));
  return table;
}

/** Cosine from an optic's axis of the ray that leaves sideways by (u·dx, u·dy). */
function cosFromAxis({ axis }: Frame, u: number, dx: number, dy: number): number {
  const [x, y] = [u * dx, u * dy];
  return axis[0] * x + axis[1] * y + axis[2] * Math.sqrt(1 - x * x - y * y);
}

const DOWN: Frame = { along: [1, 0, 0], across: [0, 1, 0], axis: [0, 0, 1] };

function shaded(
  way: readonly Obstacle[],
  holds: readonly Uint8Array[],
  target: number,
  enterX: number,
  enterY: number,
  px: number,
  py: number,
  z: number,
): boolean {
  for (let o = 0; o < way.length; o += 1) {
    if (holds[o % holds.length]![target] === 1) continue;
    if (blocks(way[o]!, enterX, enterY, px, py, z)) return true;
  }
  return false;
}

const ids = new WeakMap<Optic, string>();
let named = 0;
function opticId(o: Optic): string {
  if (!o.photometry) return `${o.exponent} ${o.diffuseShare}`;
  let id = ids.get(o);
  if (!id) ids.set(o, (id = `file ${(named += 1)}`));
  return id;
}

/** Share of a circle of this radius around a place that lies over the rim's inside, 0..1. */
export function arcInside(x: number, y: number, radius: number, L: number, W: number): number {
  if (radius <= 0) return x >= 0 && x <= L && y >= 0 && y <= W ? 1 : 0;
  const cuts: number[] = [0, 2 * Math.PI];
  const add = (angle: number) => cuts.push((angle + 2 * Math.PI) % (2 * Math.PI));
  for (const edge of [0 - x, L - x]) {
    if (Math.abs(edge) < radius) {
      const a = Math.acos(edge / radius);
      add(a);
      add(-a);
    }
  }
  for (const edge of [0 - y, W - y]) {
    if (Math.abs(edge) < radius) {
      const a = Math.asin(edge / radius);
      add(a);
      add(Math.PI - a);
    }
  }
  cuts.sort((a, b) => a - b);
  let sum = 0;
  for (let i = 1; i < cuts.length; i += 1) {
    const middle = (cuts[i - 1]! + cuts[i]!) / 2;
    const px = x + radius * Math.cos(middle);
    const py = y + radius * Math.sin(middle);
    if (px >= 0 && px <= L && py >= 0 && py <= W) sum += cuts[i]! - cuts[i - 1]!;
  }
  return sum / (2 * Math.PI);
}

const RINGS = 360;
const AROUND = 180;

/** Share of an emitter's photons that cross the surface inside the rim and are transmitted, before any lid. */
export function enteredShare(tank: Tank, e: RigEmitter, rings = RINGS): number {
  let sum = 0;
  const { lengthCm: L, widthCm: W } = tank;
  for (let i = 0; i < rings; i += 1) {
    const theta = ((i + 0.5) / rings) * (Math.PI / 2);
    const sin = Math.sin(theta);
    const cos = Math.cos(theta);
    const radius = (e.heightCm * sin) / cos;
    const through = fresnelIntoWater(sin) * sin;
    if (e.frame === null && e.optic.radial) {
      sum += through * intensity(e.optic, cos, 0) * arcInside(e.xCm, e.yCm, radius, L, W) * 2 * Math.PI;
      continue;
    }
    for (let k = 0; k < AROUND; k += 1) {
      const phi = ((k + 0.5) / AROUND) * 2 * Math.PI;
      const px = e.xCm + radius * Math.cos(phi);
      const py = e.yCm + radius * Math.sin(phi);
      if (px < 0 || px > L || py < 0 || py > W) continue;
      sum +=
        (through *
          intensityAlong(e.optic, e.frame ?? DOWN, sin * Math.cos(phi), sin * Math.sin(phi), cos) *
          2 *
          Math.PI) /
        AROUND;
    }
  }
  return sum * (Math.PI / 2 / rings);
}
