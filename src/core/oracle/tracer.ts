/**
 * A Monte Carlo tracer of the same box, written from the physics alone: it shares nothing with the fast solver and is what
 * that is held against. Photons leave their emitters, meet the surface, panes, rock and floor as single photons do.
 */

export interface TracedEmitter {
  xCm: number;
  yCm: number;
  heightCm: number;
  /** photons, µmol s⁻¹ */
  flux: number;
  exponent: number;
  /** the way it points; z down. Absent = straight down */
  axis?: readonly [number, number, number];
}
export interface TracedSolid {
  shape: 'block' | 'mound' | 'step';
  xCm: number;
  yCm: number;
  lengthCm: number;
  widthCm: number;
  topCm: number;
  bottomCm: number;
}
export interface TracedBox {
  lengthCm: number;
  widthCm: number;
  depthCm: number;
  walls: { left: number; right: number; front: number; back: number };
  floorReflectance: number;
  lidShare: number;
  solids: readonly TracedSolid[];
  /** one attenuation for all photons, m⁻¹ */
  lossPerM: number;
  index: number;
  /** RMS slope of a rippled surface; 0 = flat */
  rippleSlope?: number;
}
export interface Tally {
  /** photons sent so far */
  photons: number;
  /** downward irradiance of each cell, µmol m⁻² s⁻¹: layer, then y, then x */
  cells: Float64Array;
  /** standard error of each, same order */
  errors: Float64Array;
  /** share that crossed the surface inside the rim, and share lost through the panes */
  entered: number;
  throughGlass: number;
}

/** A small, fast generator of numbers in 0..1 (mulberry32). */
function generator(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Fresnel reflectance between two media for the cosine of incidence on the first side; 1 when nothing passes. */
function fresnel(cosIn: number, from: number, to: number): number {
  const sinOut = (from / to) * Math.sqrt(Math.max(0, 1 - cosIn * cosIn));
  if (sinOut >= 1) return 1;
  const cosOut = Math.sqrt(1 - sinOut * sinOut);
  const rs = (from * cosIn - to * cosOut) / (from * cosIn + to * cosOut);
  const rp = (to * cosIn - from * cosOut) / (to * cosIn + from * cosOut);
  return (rs * rs + rp * rp) / 2;
}

/** A solid as a ray meets it: middle and half sizes of a mound's ellipsoid, or the two corners of a box. */
interface Shape {
  solid: TracedSolid;
  mound: boolean;
  a: Float64Array;
  b: Float64Array;
}
const shapeOf = (s: TracedSolid): Shape =>
  s.shape === 'mound'
    ? {
        solid: s,
        mound: true,
        a: Float64Array.of(s.xCm, s.yCm, s.bottomCm),
        b: Float64Array.of(s.lengthCm / 2, s.widthCm / 2, s.bottomCm - s.topCm),
      }
    : {
        solid: s,
        mound: false,
        a: Float64Array.of(s.xCm - s.lengthCm / 2, s.yCm - s.widthCm / 2, s.topCm),
        b: Float64Array.of(s.xCm + s.lengthCm / 2, s.yCm + s.widthCm / 2, s.bottomCm),
      };

/** Distance along a ray to a solid, or Infinity. */
function toSolid(s: Shape, p: Float64Array, v: Float64Array): number {
  if (s.mound) {
    let a = 0;
    let b = 0;
    let d = -1;
    for (let k = 0; k < 3; k += 1) {
      const o = (p[k]! - s.a[k]!) / s.b[k]!;
      const w = v[k]! / s.b[k]!;
      a += w * w;
      b += 2 * o * w;
      d += o * o;
    }
    const root = b * b - 4 * a * d;
    if (root <= 0) return Infinity;
    const t = (-b - Math.sqrt(root)) / (2 * a);
    return t > 1e-7 && p[2]! + t * v[2]! <= s.a[2]! ? t : Infinity;
  }
  let near = -Infinity;
  let far = Infinity;
  for (let k = 0; k < 3; k += 1) {
    const t1 = (s.a[k]! - p[k]!) / v[k]!;
    const t2 = (s.b[k]! - p[k]!) / v[k]!;
    if (t1 < t2) {
      if (t1 > near) near = t1;
      if (t2 < far) far = t2;
    } else {
      if (t2 > near) near = t2;
      if (t1 < far) far = t1;
    }
  }
  return near < far && near > 1e-7 ? near : Infinity;
}

export interface TraceInput {
  box: TracedBox;
  emitters: readonly TracedEmitter[];
  /** cells of the detector planes and their depths, cm */
  nx: number;
  ny: number;
  depthsCm: readonly number[];
  photons: number;
  seed: number;
}

const REPORT_EVERY = 20_000;
/** Below this weight photons die by lot. */
const FAINT = 0.02;
/** Steps of the three-dimensional Kronecker sequence (powers of the root of x⁴ = x + 1). */
const R1 = 0.8191725133961645;
const R2 = 0.6710436067037893;
const R3 = 0.5497004779019703;

/** Traces photons; yields the share done, so that a caller can report or stop. */
export function* traceSteps(input: TraceInput): Generator<number, Tally> {
  const { box, emitters, nx, ny, depthsCm, photons } = input;
  const random = generator(input.seed);
  const total = emitters.reduce((sum, e) => sum + e.flux, 0);
  const sums = new Float64Array(nx * ny * depthsCm.length);
  const squares = new Float64Array(sums.length);
  const p = new Float64Array(3);
  const v = new Float64Array(3);
  let entered = 0;
  let throughGlass = 0;
  const ripple = box.rippleSlope ?? 0;
  const shapes = box.solids.map(shapeOf);
  const down = Float64Array.of(0, 0, 1);
  const up = Float64Array.of(0, 0, -1);
  const axes = emitters.map((e) => (e.axis ? Float64Array.from(e.axis) : down));

  const count = (from: number, to: number, weight: number) => {
    // every detector plane crossed on the way down
    for (let d = 0; d < depthsCm.length; d += 1) {
      const z = depthsCm[d]!;
      if (from < z && z <= to) {
        const t = (z - p[2]!) / v[2]!;
        const i = Math.floor(((p[0]! + t * v[0]!) / box.lengthCm) * nx);
        const j = Math.floor(((p[1]! + t * v[1]!) / box.widthCm) * ny);
        if (i < 0 || j < 0 || i >= nx || j >= ny) continue;
        const w = weight * Math.exp((-box.lossPerM * t) / 100);
        const at = (d * ny + j) * nx + i;
        sums[at]! += w;
        squares[at]! += w * w;
      }
    }
  };

  // photons are dealt to emitters by flux
  const upTo: number[] = [];
  emitters.reduce((sum, e) => {
    upTo.push(sum + e.flux / total);
    return sum + e.flux / total;
  }, 0);

  for (let n = 0; n < photons; n += 1) {
    if (n % REPORT_EVERY === 0) yield n / photons;
    // emitter and direction follow a low-discrepancy sequence (Kronecker, plastic number): far less noise than chance
    const pick = (n * R1) % 1;
    let which = 0;
    while (which < emitters.length - 1 && upTo[which]! <= pick) which += 1;
    const e = emitters[which]!;
    // direction of cosᵐ around the axis
    const cos = (1 - ((n * R2) % 1)) ** (1 / (e.exponent + 1));
    direct(v, axes[which]!, cos, 2 * Math.PI * ((n * R3) % 1));
    if (v[2]! <= 0) continue;
    const fall = e.heightCm / v[2]!;
    p[0] = e.xCm + fall * v[0]!;
    p[1] = e.yCm + fall * v[1]!;
    p[2] = 0;
    if (p[0]! < 0 || p[0]! > box.lengthCm || p[1]! < 0 || p[1]! > box.widthCm) continue;
    let weight = box.lidShare * refractIn(v, box.index, random, ripple);
    if (weight <= 0) continue;
    entered += weight;

    for (;;) {
      // faint photons die by lot, and those that live stand for the dead
      if (weight < FAINT) {
        if (random() >= 0.25) break;
        weight *= 4;
      }
      const tx: number = v[0]! > 0 ? (box.lengthCm - p[0]!) / v[0]! : v[0]! < 0 ? -p[0]! / v[0]! : Infinity;
      const ty: number = v[1]! > 0 ? (box.widthCm - p[1]!) / v[1]! : v[1]! < 0 ? -p[1]! / v[1]! : Infinity;
      const tz: number = v[2]! > 0 ? (box.depthCm - p[2]!) / v[2]! : v[2]! < 0 ? -p[2]! / v[2]! : Infinity;
      let rock: TracedSolid | null = null;
      let t = Math.min(tx, ty, tz);
      for (let k = 0; k < shapes.length; k += 1) {
        const far = toSolid(shapes[k]!, p, v);
        if (far < t) {
          t = far;
          rock = shapes[k]!.solid;
        }
      }
      if (v[2]! > 0) count(p[2]!, p[2]! + t * v[2]!, weight);
      weight *= Math.exp((-box.lossPerM * t) / 100);
      for (let k = 0; k < 3; k += 1) p[k] = p[k]! + t * v[k]!;
      const onFloor = rock
        ? rock.shape === 'step' && Math.abs(p[2]! - rock.topCm) < 1e-6
        : t === tz && v[2]! > 0;
      if (onFloor) {
        weight *= box.floorReflectance;
        direct(v, up, Math.sqrt(random()), 2 * Math.PI * random());
        p[2] = (rock ? rock.topCm : box.depthCm) - 1e-9;
        continue;
      }
      if (rock) break;
      if (t === tz) {
        // from below to the surface
        weight *= fresnel(-v[2]!, box.index, 1);
        v[2] = -v[2]!;
        p[2] = 0;
        continue;
      }
      const k = t === tx ? 0 : 1;
      const wall =
        k === 0
          ? v[0]! > 0
            ? box.walls.right
            : box.walls.left
          : v[1]! > 0
            ? box.walls.back
            : box.walls.front;
      const kept = wall * fresnel(Math.abs(v[k]!), box.index, 1);
      throughGlass += weight * (1 - kept);
      weight *= kept;
      v[k] = -v[k]!;
    }
  }

  const area = (box.lengthCm / nx / 100) * (box.widthCm / ny / 100);
  const scale = total / photons / area;
  const errors = new Float64Array(sums.length);
  for (let i = 0; i < sums.length; i += 1) errors[i] = Math.sqrt(squares[i]!) * scale;
  return {
    photons,
    cells: sums.map((s) => s * scale),
    errors,
    entered: entered / photons,
    throughGlass: throughGlass / photons,
  };
}

/** A direction at this angle from an axis. */
function direct(v: Float64Array, axis: Float64Array, cos: number, turn: number): void {
  const ax = axis[0]!;
  const ay = axis[1]!;
  const az = axis[2]!;
  const sin = Math.sqrt(Math.max(0, 1 - cos * cos));
  // two directions across the axis: (ux, uy, 0) and axis × that
  const flat = Math.hypot(ax, ay);
  const ux = flat > 1e-9 ? -ay / flat : 1;
  const uy = flat > 1e-9 ? ax / flat : 0;
  const a = sin * Math.cos(turn);
  const b = sin * Math.sin(turn);
  v[0] = cos * ax + a * ux - b * az * uy;
  v[1] = cos * ay + a * uy + b * az * ux;
  v[2] = cos * az + b * (ax * uy - ay * ux);
}

/** Through the surface, whose facet may slope: what passes, as a weight. */
function refractIn(v: Float64Array, index: number, random: () => number, slope: number): number {
  let nx = 0;
  let ny = 0;
  let nz = 1;
  if (slope > 0) {
    const size = (slope / Math.SQRT2) * Math.sqrt(-2 * Math.log(1 - random()));
    const turn = 2 * Math.PI * random();
    nz = 1 / Math.sqrt(size * size + 1);
    nx = size * Math.cos(turn) * nz;
    ny = size * Math.sin(turn) * nz;
  }
  const cos = v[0]! * nx + v[1]! * ny + v[2]! * nz;
  if (cos <= 0) return 0;
  const passes = 1 - fresnel(cos, 1, index);
  const bend = Math.sqrt(1 - (1 - cos * cos) / (index * index)) - cos / index;
  v[0] = v[0]! / index + bend * nx;
  v[1] = v[1]! / index + bend * ny;
  v[2] = v[2]! / index + bend * nz;
  return v[2]! > 0 ? passes : 0;
}

export function trace(input: TraceInput): Tally {
  const steps = traceSteps(input);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}
