import type { CoralForm, ShapeId } from '../coral/form';
import type { AlgaId } from '../feeding/algae';
import { type Field } from '../optics/field';
import { fieldSteps } from '../optics/fieldSteps';
import { computeResponse, type Rig } from '../optics/response';
import { sentUp } from '../optics/sides';
import type { Tank } from '../optics/tank';
import { GRID_SIZE } from '../spectrum/grid';
import { seeded, seedOf } from '../spectrum/random';
import { grownMat } from './algaeGrowth';
import { ARRIVE, AT_DEPTHS, DEPTHS, HAZE, type PortraitScene } from './buffers';
import { grownCoral } from './growth';
import { USUAL_CM } from './sizes';
import { cells, noise } from './noise';
import { coverSolid, moundUnder, ridges, rubble } from './rock';
import { type Hits, noHits, splat, type Ways } from './splat';
import { PATTERNS, SIZES, Stuff } from './stuff';
import { algaSurface, coralSurfaces, fixedSurfaces, type Surface, surfaceId } from './surfaces';
import { cardPlace, seenAt, type View, viewOf, WATER_INDEX } from './view';

/** A lamp as it hangs: what casts shadows. */
export interface PortraitLamp {
  groupId: string;
  lampId: string;
  xCm: number;
  yCm: number;
  heightCm: number;
  lengthCm: number;
  widthCm: number;
  turnDeg: number;
}
export interface PortraitCoral {
  id: string;
  xCm: number;
  yCm: number;
  depthCm: number;
  shape: ShapeId;
  /** null = nobody has described it: it is drawn pale */
  form: CoralForm | null;
  /** width across; null = as is usual for its shape */
  sizeCm: number | null;
}
export interface PortraitMat {
  id: string;
  xCm: number;
  yCm: number;
  depthCm: number;
  algaId: AlgaId;
  lengthCm: number;
  widthCm: number;
}

/** Everything a picture is made of but the levels of its lamps. */
export interface PortraitInput {
  tank: Tank;
  /** null: one coral or alga by itself, close, evenly lit from above */
  rig: Omit<Rig, 'spots'> | null;
  /** content key of the rig: its light is kept by it */
  rigKey: string;
  lamps: readonly PortraitLamp[];
  corals: readonly PortraitCoral[];
  mats: readonly PortraitMat[];
  fish: boolean;
  card: boolean;
  width: number;
  height: number;
  /** without shadows of surroundings and fine growth: at once, until the whole one is there */
  coarse: boolean;
}

/**
 * Share of light that comes straight from lamps; the rest comes from all around, so that hollows darken. Light bends round what is
 * soft. Drawing licence, held to the flanks that `optics/sides` reckons.
 */
const DIRECT = 0.85;
const WRAP = 0.05;

/** Light of a point on a face over that on a level one there. @param n normal of length 1, z down; @param to the way to the point */
export function slantOn(n: readonly number[], dx: number, dy: number, dz: number): number {
  // a picture asks a million times: hypot takes several times as long
  const d = 1 / Math.sqrt(dx * dx + dy * dy + dz * dz);
  const facing = (n[0]! * dx + n[1]! * dy + n[2]! * dz) * d + WRAP;
  return facing > 0 ? facing / (-dz * d + WRAP) : 0;
}

/**
 * All light on a face, in the measure of its parts: a lamp's PAR there on a level face, that share of it which comes straight, what the
 * sky brings, and what the floor sends up (on an upright face half of it, as in `optics/sides`).
 */
export const faceLight = (there: number, direct: number, around: number, up: number, nz: number): number =>
  there * (DIRECT * direct + (1 - DIRECT) * around) + (up * (1 + nz)) / 2;
/** Shadows are looked for from one to three points along a lamp, and from these directions of the sky. */
export const SKY: readonly (readonly [x: number, y: number])[] = [
  [0, 0],
  [0.9, 0],
  [-0.9, 0],
  [0, 0.9],
  [0, -0.9],
  [0.7, -0.7],
  [-0.7, -0.7],
];
const SHADOW_COLUMNS = 384;
const SKY_COLUMNS = 200;
/** What lies this near behind what casts a shadow is not in it, cm. */
const BIAS_CM = 1.1;
/** Sea water hides half of what lies so far behind the pane, cm. Drawing licence. */
const HALF_HIDDEN_CM = 190;

/** Light of rigs that were drawn lately: a coral that is moved leaves it as it is. */
export type KeptLight = Map<string, readonly LampLight[]>;
const MOST_KEPT = 6;
/** Ellipsoids times lamps whose shadows a coarse scene looks for; of more it shows none, to be there in time. Drawing licence. */
const MOST_SHADED = 1_000_000;

/** Makes the scene step by step; yields how far it is, 0..1. */
export function* portraitSteps(
  input: PortraitInput,
  kept: KeptLight = new Map(),
): Generator<number, PortraitScene> {
  const { rig, tank, lamps, width, height } = input;
  const view = viewOf(tank, width, height);
  const { stuff, surfaces, things, ranges } = furnish(input);
  yield 0.02;

  // the light of each lamp, as the product computes it
  const lightKey = `${input.rigKey} ${input.coarse}`;
  const light = kept.get(lightKey) ?? (yield* lampLights(input));
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  kept.set(lightKey, light);
  yield 0.4;

  const hits = noHits({ columns: width, rows: height });
  for (const share of splat(stuff, cameraWays(view), hits)) yield 0.4 + 0.2 * share;
  const shadows = lamps.map(() => [] as Shade[]);
  const points = input.coarse ? 1 : lamps.length > 2 ? 2 : 3;
  const bare = input.coarse && stuff.count * lamps.length > MOST_SHADED;
  for (const [l, lamp] of lamps.entries())
    for (let k = 0; k < points; k += 1) {
      const way = lampWays(tank, lamp, (k + 0.5) / points - 0.5);
      shadows[l]!.push(bare ? { ...way, hits: noHits(way.ways) } : yield* shadeOf(stuff, way));
      yield 0.6 + (0.1 * l) / Math.max(1, lamps.length);
    }
  const sky: Shade[] = [];
  for (const way of input.coarse ? SKY.slice(0, 1) : SKY) {
    sky.push(yield* shadeOf(stuff, skyWays(tank, way)));
    yield 0.7;
  }

  const scene: PortraitScene = {
    width,
    height,
    cell: new Uint16Array(width * height),
    arrive: new Uint16Array(width * height * lamps.length),
    haze: new Uint8Array(width * height * lamps.length),
    lamps: lamps.map(({ groupId, lampId }) => ({
      groupId,
      lampId,
      channels: rig ? channelsOf(rig, groupId, lampId) : [],
    })),
    surfaces: surfaces.map(({ name, of }) => ({ name, of })),
    table: rig ? tableOf(surfaces, light) : [],
    things,
    boxes: ranges.map((r) => boxOf(view, stuff, r)),
  };
  const shader = new Shader(input, view, stuff, hits, light, shadows, sky, scene);
  const rowsAtATime = 24;
  for (let j = 0; j < height; j += rowsAtATime) {
    shader.rows(j, Math.min(height, j + rowsAtATime));
    yield 0.7 + (0.3 * j) / height;
  }
  return scene;
}

/** The scene in one go. */
export function portraitScene(input: PortraitInput, kept?: KeptLight): PortraitScene {
  const steps = portraitSteps(input, kept);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}

const channelsOf = (rig: Omit<Rig, 'spots'>, groupId: string, lampId: string): string[] =>
  rig.rows.flatMap(({ of }) => (of?.groupId === groupId && of.lampId === lampId ? [of.channelId] : []));

/** What stands in the tank: stones, corals, mats, fish. */
function furnish(input: PortraitInput) {
  const { tank } = input;
  const stuff = new Stuff();
  const surfaces: Surface[] = [...fixedSurfaces()];
  const things: string[] = [];
  const ranges: (readonly [number, number])[] = [];
  const random = seeded(seedOf(`${tank.lengthCm} ${tank.widthCm} ${tank.depthCm}`));
  const rock = surfaceId('rock');
  const stands = input.corals.map(({ xCm, yCm, depthCm, shape, sizeCm }) => ({
    ...{ xCm, yCm, depthCm },
    reachCm: (sizeCm ?? USUAL_CM[shape]) * 0.4,
  }));
  const box = { tank, stuff, random, rock, stands };
  // what is modelled lies where it is said to
  for (const s of tank.solids) coverSolid({ ...box, stands: [] }, s, surfaceId('sand'));
  if (input.rig) {
    for (const [i, c] of input.corals.entries())
      moundUnder({ ...box, random: seeded(seedOf(`rock ${c.id}`)) }, stands[i]!, stands[i]!.reachCm * 0.75);
    ridges(box);
  }
  // a refugium's floor is bare; where corals stand rubble lies about
  if (input.rig && input.corals.length > 0) rubble(box, seedOf(`${tank.lengthCm}`));
  for (const c of input.corals) {
    const of = things.push(c.id) - 1;
    const own = coralSurfaces(c.form, of);
    const first = surfaces.length;
    surfaces.push(...own);
    const from = stuff.count;
    const grown = grownCoral(
      c.shape,
      c.sizeCm ?? USUAL_CM[c.shape],
      seedOf(c.id),
      own.map((_, k) => first + k),
    );
    stuff.addAll(grown, c.xCm, c.yCm, c.depthCm);
    ranges.push([from, stuff.count]);
  }
  for (const m of input.mats) {
    const of = things.push(m.id) - 1;
    const surface = surfaces.push(algaSurface(m.algaId, of)) - 1;
    const from = stuff.count;
    const tall = Math.min(tank.depthCm * 0.7, 6 + 0.3 * Math.min(m.lengthCm, m.widthCm));
    // its depth is that of its top
    const foot = input.rig ? Math.min(tank.depthCm, m.depthCm + tall * 0.8) : m.depthCm;
    stuff.addAll(grownMat(m.algaId, m, tall, seedOf(m.id), surface), m.xCm, m.yCm, foot);
    ranges.push([from, stuff.count]);
  }
  if (input.fish) for (const f of FISH) swim(stuff, tank, f);
  return { stuff, surfaces, things, ranges };
}

/** Fish: where they swim as shares of the tank, which way, and how long, cm. */
const FISH = [
  { surface: 'orangeFish', at: [0.4, 0.25, 0.2], way: 1, cm: 6 },
  { surface: 'yellowFish', at: [0.24, 0.45, 0.13], way: -1, cm: 7 },
  { surface: 'blueFish', at: [0.77, 0.3, 0.17], way: -1, cm: 7 },
  { surface: 'redFish', at: [0.57, 0.5, 0.4], way: 1, cm: 5 },
] as const;
function swim(stuff: Stuff, { lengthCm, widthCm, depthCm }: Tank, f: (typeof FISH)[number]): void {
  const [x, y, z] = [f.at[0] * lengthCm, f.at[1] * widthCm, f.at[2] * depthCm];
  const cm = Math.min(f.cm, lengthCm / 8);
  const surface = surfaceId(f.surface);
  for (let k = 0; k < 12; k += 1) {
    const t = k / 11;
    const tall = cm * 0.24 * Math.sin(Math.PI * (0.12 + 0.8 * t)) ** 0.8;
    stuff.add([x + f.way * cm * (0.45 - 0.75 * t), y, z], [cm * 0.08, tall * 0.42, tall], surface);
  }
  for (const side of [-1, 1])
    stuff.add([x - f.way * cm * 0.42, y, z + side * cm * 0.08], [cm * 0.11, cm * 0.02, cm * 0.07], surface, {
      shear: [-side * f.way * 0.9, 0],
    });
  stuff.add([x + f.way * cm * 0.1, y, z - cm * 0.22], [cm * 0.2, cm * 0.015, cm * 0.07], surface);
  stuff.ball(x + f.way * cm * 0.33, y - cm * 0.09, z - cm * 0.03, cm * 0.028, surfaceId('pane'));
}

/** Where a stretch of ellipsoids is seen. */
function boxOf(
  view: View,
  stuff: Stuff,
  [from, to]: readonly [number, number],
): PortraitScene['boxes'][number] {
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let n = from; n < to; n += 1) {
    const [x, y, z, rx, , rz] = stuff.sizes.subarray(n * SIZES, n * SIZES + 6) as unknown as number[];
    const at = seenAt(view, x!, y!, z!);
    const [hx, hz] = [rx! * view.perCm, rz! * view.perCm];
    x0 = Math.min(x0, at.x - hx);
    x1 = Math.max(x1, at.x + hx);
    y0 = Math.min(y0, at.y - hz);
    y1 = Math.max(y1, at.y + hz);
  }
  return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, halfX: (x1 - x0) / 2, halfY: (y1 - y0) / 2 };
}

/** The light of every lamp by itself, all its channels at full. */
export interface LampLight {
  /** PAR on the cells of the water: layer-major, then y, then x; null = even light */
  par: Float32Array | null;
  grid: Field['grid'];
  /** PAR right under the lamp at AT_DEPTHS */
  under: number[];
  /** spectra there: depth-major, then channel, then wavelength */
  spectra: Float64Array;
  channels: number;
}

/** Cells of the light that portraits are lit by: so many cm, and so many layers. */
const CELL_CM = 4;
const LAYERS = 8;

const EVEN: LampLight = {
  par: null,
  grid: { nx: 0, ny: 0, depthsCm: [] },
  under: [],
  spectra: new Float64Array(0),
  channels: 0,
};

function* lampLights({ rig, tank, lamps, coarse }: PortraitInput): Generator<number, readonly LampLight[]> {
  if (!rig) return lamps.map(() => EVEN);
  // stones cast their own shadows
  const bare = { ...rig, tank: { ...tank, solids: [] } };
  const cells = (cm: number) =>
    Math.max(6, Math.min(coarse ? 20 : 48, Math.round(cm / (coarse ? 8 : CELL_CM))));
  const layers = coarse ? 4 : LAYERS;
  const grid = {
    nx: cells(tank.lengthCm),
    ny: cells(tank.widthCm),
    depthsCm: Array.from({ length: layers }, (_, k) => (tank.depthCm * (0.02 + 0.98 * k)) / (layers - 1)),
  };
  const out: LampLight[] = [];
  for (const [l, lamp] of lamps.entries()) {
    const rows = bare.rows.filter((r) => r.of?.groupId === lamp.groupId && r.of.lampId === lamp.lampId);
    const steps = fieldSteps({ ...bare, rows }, grid);
    let field: Field | null = null;
    while (!field) {
      const next = steps.next();
      if (next.done) field = next.value;
      else yield 0.02 + (0.36 * (l + next.value)) / lamps.length;
    }
    const cellCount = grid.nx * grid.ny;
    const par = new Float32Array(layers * cellCount);
    for (let d = 0; d < layers; d += 1)
      for (let r = 0; r < rows.length; r += 1)
        for (let c = 0; c < cellCount; c += 1)
          par[d * cellCount + c]! += field.par[(d * rows.length + r) * cellCount + c]!;
    const inside = (v: number, length: number) => Math.min(length * 0.98, Math.max(length * 0.02, v));
    const response = computeResponse({
      ...bare,
      rows,
      spots: AT_DEPTHS.map((share) => ({
        xCm: inside(lamp.xCm, tank.lengthCm),
        yCm: inside(lamp.yCm, tank.widthCm),
        depthCm: share * tank.depthCm,
        openShare: 1,
      })),
    });
    out.push({
      par,
      grid,
      under: AT_DEPTHS.map((_, k) => {
        let sum = 0;
        for (let r = 0; r < rows.length; r += 1) sum += response.par[k * rows.length + r]!;
        return sum;
      }),
      spectra: response.spectra,
      channels: rows.length,
    });
  }
  return out;
}

/** XYZ of every surface under every channel of every lamp at full, at AT_DEPTHS. */
function tableOf(surfaces: readonly Surface[], light: readonly LampLight[]): Float32Array[][] {
  const made = new Map<Surface['weights'], Float32Array[]>();
  return surfaces.map(({ weights }) => {
    const known = made.get(weights);
    if (known) return known;
    const lit = light.map(({ spectra, channels }) => {
      const out = new Float32Array(AT_DEPTHS.length * channels * 3);
      for (let at = 0; at < AT_DEPTHS.length * channels; at += 1) {
        const from = at * GRID_SIZE;
        for (let k = 0; k < 3; k += 1) {
          const w = weights[k]!;
          let sum = 0;
          for (let i = 0; i < GRID_SIZE; i += 1) sum += w[i]! * spectra[from + i]!;
          out[at * 3 + k] = sum;
        }
      }
      return out;
    });
    made.set(weights, lit);
    return lit;
  });
}

function cameraWays(v: View): Ways {
  const x0 = v.left + 0.5 / v.perCm;
  const z0 = v.top + 0.5 / v.perCm;
  const step = 1 / v.perCm;
  return {
    columns: v.width,
    rows: v.height,
    origin: { base: [x0, 0, z0], column: [step, 0, 0], row: [0, 0, step] },
    direction: {
      base: [(x0 - v.eyeX) * v.bend, 1, (z0 - v.eyeZ) * v.bend],
      column: [step * v.bend, 0, 0],
      row: [0, 0, step * v.bend],
    },
    at: (x, y, z, into) => {
      const k = v.bend * Math.max(0, y);
      into[0] = ((x + v.eyeX * k) / (1 + k) - v.left) * v.perCm - 0.5;
      into[1] = ((z + v.eyeZ * k) / (1 + k) - v.top) * v.perCm - 0.5;
    },
    box: (x, y, z, hx, hy, hz, into) => {
      const near = v.bend * Math.max(0, y - hy);
      const far = v.bend * Math.max(0, y + hy);
      const [a, b] = [1 / (1 + near), 1 / (1 + far)];
      const span = (from: number, to: number, eye: number, start: number, at: number) => {
        into[at] = (Math.min((from + eye * near) * a, (from + eye * far) * b) - start) * v.perCm - 0.5;
        into[at + 1] = (Math.max((to + eye * near) * a, (to + eye * far) * b) - start) * v.perCm - 0.5;
      };
      span(x - hx, x + hx, v.eyeX, v.left, 0);
      span(z - hz, z + hz, v.eyeZ, v.top, 2);
    },
  };
}

/** A look down on the tank: what is first met on each way to a pixel of the floor. */
interface Shade {
  ways: Ways;
  hits: Hits;
  /** t of a place on its way, and one cm of it */
  tOf: (z: number) => number;
  biasT: number;
  /** towards the light from a place: for lamps their point, else a direction */
  point: readonly [number, number, number] | null;
  way: readonly [number, number, number];
}

function* shadeOf(stuff: Stuff, shade: Omit<Shade, 'hits'>): Generator<number, Shade> {
  const hits = noHits(shade.ways);
  for (const share of splat(stuff, shade.ways, hits)) yield 0.6 + 0.1 * share;
  return { ...shade, hits };
}

/** From one of a lamp's points: seen from within the water a lamp stands higher than it hangs. */
function lampWays(tank: Tank, lamp: PortraitLamp, along: number): Omit<Shade, 'hits'> {
  const out = along * lamp.lengthCm;
  const turn = (lamp.turnDeg * Math.PI) / 180;
  const [px, py] = [lamp.xCm + Math.cos(turn) * out, lamp.yCm + Math.sin(turn) * out];
  const pz = -lamp.heightCm * WATER_INDEX;
  const margin = 0.5;
  const [columns, rows] = [SHADOW_COLUMNS, SHADOW_COLUMNS / 2];
  const [x0, y0] = [-margin * tank.lengthCm, -margin * tank.widthCm];
  const [sx, sy] = [((1 + 2 * margin) * tank.lengthCm) / columns, ((1 + 2 * margin) * tank.widthCm) / rows];
  const tall = tank.depthCm - pz;
  return {
    ways: {
      columns,
      rows,
      origin: { base: [px, py, pz], column: [0, 0, 0], row: [0, 0, 0] },
      direction: { base: [x0 + sx / 2 - px, y0 + sy / 2 - py, tall], column: [sx, 0, 0], row: [0, sy, 0] },
      at: (x, y, z, into) => {
        const t = Math.max(1e-3, (z - pz) / tall);
        into[0] = (px + (x - px) / t - x0) / sx - 0.5;
        into[1] = (py + (y - py) / t - y0) / sy - 0.5;
      },
      box: (x, y, z, hx, hy, hz, into) => {
        const a = 1 / Math.max(1e-3, (z - hz - pz) / tall);
        const b = 1 / Math.max(1e-3, (z + hz - pz) / tall);
        const [l, r, f, k] = [x - hx - px, x + hx - px, y - hy - py, y + hy - py];
        into[0] = (px + Math.min(l * a, l * b) - x0) / sx - 0.5;
        into[1] = (px + Math.max(r * a, r * b) - x0) / sx - 0.5;
        into[2] = (py + Math.min(f * a, f * b) - y0) / sy - 0.5;
        into[3] = (py + Math.max(k * a, k * b) - y0) / sy - 0.5;
      },
    },
    tOf: (z) => (z - pz) / tall,
    biasT: BIAS_CM / tall,
    point: [px, py, pz],
    way: [0, 0, -1],
  };
}

/** From a direction of the sky. */
function skyWays(tank: Tank, [dx, dy]: readonly [number, number]): Omit<Shade, 'hits'> {
  const [columns, rows] = [SKY_COLUMNS, SKY_COLUMNS / 2];
  const margin = tank.depthCm;
  const [x0, y0] = [-margin, -margin];
  const [sx, sy] = [(tank.lengthCm + 2 * margin) / columns, (tank.widthCm + 2 * margin) / rows];
  const above = 8;
  const tall = tank.depthCm + above;
  const length = Math.hypot(dx, dy, 1);
  return {
    ways: {
      columns,
      rows,
      origin: {
        base: [x0 + sx / 2 - dx * tall, y0 + sy / 2 - dy * tall, -above],
        column: [sx, 0, 0],
        row: [0, sy, 0],
      },
      direction: { base: [dx * tall, dy * tall, tall], column: [0, 0, 0], row: [0, 0, 0] },
      at: (x, y, z, into) => {
        const down = tank.depthCm - z;
        into[0] = (x + dx * down - x0) / sx - 0.5;
        into[1] = (y + dy * down - y0) / sy - 0.5;
      },
      box: (x, y, z, hx, hy, hz, into) => {
        const down = tank.depthCm - z;
        const [wx, wy] = [hx + Math.abs(dx) * hz, hy + Math.abs(dy) * hz];
        into[0] = (x + dx * down - wx - x0) / sx - 0.5;
        into[1] = (x + dx * down + wx - x0) / sx - 0.5;
        into[2] = (y + dy * down - wy - y0) / sy - 0.5;
        into[3] = (y + dy * down + wy - y0) / sy - 0.5;
      },
    },
    tOf: (z) => (z + above) / tall,
    biasT: BIAS_CM / tall,
    point: null,
    way: [-dx / length, -dy / length, -1 / length],
  };
}

/** Turns what is seen in each pixel into light that arrives there. */
class Shader {
  private readonly at = new Float64Array(2);
  private readonly normal: [number, number, number] = [0, 0, -1];
  private surface = 0;
  private readonly skyUp: number;

  constructor(
    private readonly input: PortraitInput,
    private readonly view: View,
    private readonly stuff: Stuff,
    private readonly hits: Hits,
    private readonly light: readonly LampLight[],
    private readonly shadows: readonly (readonly Shade[])[],
    private readonly sky: readonly Shade[],
    private readonly scene: PortraitScene,
  ) {
    this.skyUp = sky.reduce((sum, s) => sum - s.way[2], 0);
  }

  rows(from: number, to: number): void {
    for (let j = from; j < to; j += 1) for (let i = 0; i < this.view.width; i += 1) this.pixel(i, j);
  }

  private pixel(i: number, j: number): void {
    const { view: v, hits, input } = this;
    const { lengthCm: L, widthCm: W, depthCm: D } = input.tank;
    const at = j * v.width + i;
    const xf = v.left + (i + 0.5) / v.perCm;
    const zf = v.top + (j + 0.5) / v.perCm;
    if (input.rig && (xf < 0 || xf > L)) return;
    const vx = (xf - v.eyeX) * v.bend;
    const vz = (zf - v.eyeZ) * v.bend;
    // the box: which wall the way meets, and the surface where it comes from above
    let wall: 'back' | 'side' | 'floor' = 'back';
    let tWall = W;
    const tSide = !input.rig ? Infinity : vx > 0 ? (L - xf) / vx : vx < 0 ? -xf / vx : Infinity;
    if (tSide < tWall) [wall, tWall] = ['side', tSide];
    const tFloor = vz > 0 ? (D - zf) / vz : Infinity;
    if (tFloor < tWall) [wall, tWall] = ['floor', tFloor];
    const t = hits.t[at]!;
    if (zf < 0 && input.rig) {
      const tTop = vz > 0 ? -zf / vz : Infinity;
      const top = Math.min(tTop, tWall);
      if (!(t < top)) {
        if (tTop < tWall && tTop < W) this.waterTop(at, xf + vx * tTop, tTop);
        else this.air(at, xf, zf);
        return;
      }
    }
    const n = this.normal;
    let y: number;
    let x: number;
    let z: number;
    if (t < tWall) {
      y = t;
      x = xf + vx * t;
      z = zf + vz * t;
      this.onStuff(hits.id[at]!, x, y, z);
    } else {
      y = tWall;
      x = xf + vx * y;
      z = zf + vz * y;
      if (wall === 'floor') this.onFloor(x, y);
      else {
        this.surface = surfaceId('pane');
        n[0] = wall === 'side' ? (x < L / 2 ? 1 : -1) : 0;
        n[1] = wall === 'back' ? -1 : 0;
        n[2] = -0.35;
      }
    }
    this.lit(at, x, y, z, wall !== 'floor' && !(t < tWall));
  }

  private put(at: number, surface: number, z: number): void {
    const share = Math.min(1, Math.max(0, z / this.input.tank.depthCm));
    this.scene.cell[at] = surface * DEPTHS + Math.round(share * (DEPTHS - 1));
  }

  /** The water's surface, seen from a little above: its ripples mirror the lamps, broken into glints on the way to the eye. */
  private waterTop(at: number, x: number, y: number): void {
    const wave = noise(x * 0.13, y * 0.5, 0, 5) + 0.4 * noise(x * 0.4, y * 1.5, 0, 6);
    this.put(at, surfaceId('card'), 0);
    this.input.lamps.forEach((lamp, k) => {
      const away = Math.max(0, Math.abs(x - lamp.xCm) - halfAlong(lamp)) / GLINT_CM;
      const glint = Math.max(0, wave - 0.62) * Math.exp(-away * away);
      const gleam = 0.03 + 0.05 * wave + 1.5 * glint * glint;
      this.scene.arrive[at * this.light.length + k] = clip(
        gleam * this.share(this.light[k]!, x, y, 0.5) * ARRIVE,
        65535,
      );
    });
  }

  /** Over the water: dark, but for the lamps' faces at the upper edge. */
  private air(at: number, xf: number, zf: number): void {
    const { lamps } = this.input;
    const top = Math.max(this.view.top, -this.input.tank.depthCm * 0.13);
    this.put(at, surfaceId('card'), 0);
    lamps.forEach((lamp, k) => {
      const away = Math.max(0, Math.abs(xf - lamp.xCm) - halfAlong(lamp));
      const down = Math.max(0, zf - top - FACE_CM, top - zf);
      const far = Math.hypot(away, down);
      // the face, and its shine in the damp air under it
      const glow = far === 0 ? 2.6 : zf < top ? 0 : 0.3 * Math.exp(-far / 1.6);
      this.scene.arrive[at * this.light.length + k] = clip(glow * ARRIVE, 65535);
    });
  }

  private onFloor(x: number, y: number): void {
    const n = this.normal;
    const { input } = this;
    const dune = (u: number, v: number) =>
      noise(u * 0.05, v * 0.07, 0, 11) * 2.2 + noise(u * 0.4, v * 0.4, 0, 12) * 0.35;
    const here = dune(x, y);
    n[0] = (here - dune(x + 0.6, y)) * 0.9 + (noise(x * 3, y * 3, 0, 13) - 0.5) * 0.22;
    n[1] = (here - dune(x, y + 0.6)) * 0.9 + (noise(x * 3, y * 3, 0, 14) - 0.5) * 0.22;
    n[2] = -1;
    const { xCm, yCm, wideCm } = cardPlace(input.tank);
    const onCard = input.card && Math.abs(x - xCm) < wideCm && Math.abs(y - yCm) < wideCm * 0.75;
    if (onCard) n[0] = n[1] = 0;
    this.surface = onCard
      ? surfaceId('card')
      : input.rig && noise(x * 0.35, y * 0.35, 0, 15) + 0.3 * (noise(x * 1.9, y * 1.9, 0, 16) - 0.5) > 0.94
        ? surfaceId('detritus')
        : surfaceId('sand');
  }

  private onStuff(id: number, x: number, y: number, z: number): void {
    const { stuff } = this;
    const n = this.normal;
    const s = id * SIZES;
    const { sizes, marks } = stuff;
    const [dx, dy] = [x - sizes[s]!, y - sizes[s + 1]!];
    const rz = sizes[s + 5]!;
    const kx = sizes[s + 6]!;
    const ky = sizes[s + 7]!;
    const surface = marks[id * 4]!;
    const second = marks[id * 4 + 1]!;
    const pattern = marks[id * 4 + 2]!;
    const seed = marks[id * 4 + 3]!;
    const ux = dx / sizes[s + 3]!;
    const uy = dy / sizes[s + 4]!;
    const uz = (z - sizes[s + 2]! - kx * dx - ky * dy) / rz;
    // gradient of |u|², back in the tank's measure
    n[2] = uz / rz;
    n[0] = ux / sizes[s + 3]! - kx * n[2];
    n[1] = uy / sizes[s + 4]! - ky * n[2];
    const l = 1 / Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    n[0] *= l;
    n[1] *= l;
    n[2] *= l;
    this.surface = surface;
    const rough = (amount: number, size: number) => {
      n[0] += amount * (noise(x * size, y * size, z * size, 21) - 0.5);
      n[1] += amount * (noise(x * size, y * size, z * size, 22) - 0.5);
      n[2] += amount * (noise(x * size, y * size, z * size, 23) - 0.5);
    };
    switch (PATTERNS[pattern]) {
      case 'stone': {
        rough(1.5, 0.55);
        rough(0.7, 1.9);
        if (surface === surfaceId('rock')) {
          const crust =
            noise(x * 0.16 + seed, y * 0.16, z * 0.16, 31) + 0.35 * noise(x * 0.6, y * 0.6, z * 0.6, 32);
          // what grows on it frays at its edges
          const fray = 0.34 * (noise(x * 1.5, y * 1.5, z * 1.5, 34) - 0.5);
          const turf = noise(x * 0.25, y * 0.25, z * 0.25, 33) + fray;
          if (crust + fray > 0.86) this.surface = surfaceId('coralline');
          else if (crust - fray < 0.42 && turf > 0.56) this.surface = surfaceId('algae');
          else if (turf < 0.3) this.surface = surfaceId('detritus');
          else if (seed % 3 === 0) this.surface = surfaceId('paleRock');
        }
        break;
      }
      case 'rim':
        if (ux * ux + uy * uy > 0.8) this.surface = second;
        rough(0.5, 2.4);
        break;
      case 'dots': {
        const d = cells(x * 0.95, y * 0.95, z * 0.95, 41);
        if (d < 0.27) this.surface = second;
        const bump = 0.5 * Math.max(0, 0.5 - d);
        n[2] -= bump;
        rough(0.35, 1.6);
        break;
      }
      case 'meander': {
        // a wandering sine makes valleys of one width that never cross
        const [mx, my, mz] = [x * 0.62, y * 0.62, z * 0.62];
        const bend = 2.6;
        const phase = (u: number, v: number, w: number) =>
          Math.sin(
            2.3 * (u + bend * noise(u * 0.55, v * 0.55, w * 0.55, seed % 997)) +
              2.1 * (v + bend * noise(u * 0.5, v * 0.5, w * 0.5, (seed % 997) + 1)) +
              1.7 * w,
          );
        const here = phase(mx, my, mz);
        const e = 0.07;
        const deep = 0.55;
        n[0] -= (deep * (phase(mx + e, my, mz) - here)) / e / 4;
        n[2] -= (deep * (phase(mx, my, mz + e) - here)) / e / 4;
        this.surface = here > -0.15 ? surface : second;
        break;
      }
      default:
        rough(0.3, 2.2);
    }
  }

  /** PAR right under a lamp. */
  private under(l: LampLight, z: number): number {
    const deep = Math.min(1, Math.max(0, z / this.input.tank.depthCm));
    let k = 0;
    while (k < AT_DEPTHS.length - 2 && AT_DEPTHS[k + 1]! < deep) k += 1;
    const v = Math.min(1, Math.max(0, (deep - AT_DEPTHS[k]!) / (AT_DEPTHS[k + 1]! - AT_DEPTHS[k]!)));
    return l.under[k]! * (1 - v) + l.under[k + 1]! * v;
  }

  /** PAR of a lamp at a place on a level face, between the cells of its light. */
  private par(l: LampLight, x: number, y: number, z: number): number {
    const p = l.par!;
    const { lengthCm, widthCm } = this.input.tank;
    const { nx, ny, depthsCm } = l.grid;
    const fx = Math.min(nx - 1, Math.max(0, (x / lengthCm) * nx - 0.5));
    const fy = Math.min(ny - 1, Math.max(0, (y / widthCm) * ny - 0.5));
    const i = Math.min(nx - 2, Math.floor(fx));
    const j = Math.min(ny - 2, Math.floor(fy));
    let d = 0;
    while (d < depthsCm.length - 2 && depthsCm[d + 1]! < z) d += 1;
    const w = (z - depthsCm[d]!) / (depthsCm[d + 1]! - depthsCm[d]!);
    const from = d * nx * ny + j * nx + i;
    if (w >= 1) return between(p, from + nx * ny, nx, fx - i, fy - j);
    const over = between(p, from, nx, fx - i, fy - j);
    return w <= 0 ? over : over + (between(p, from + nx * ny, nx, fx - i, fy - j) - over) * w;
  }

  /** PAR of a lamp at a place over that right under it at a depth, which is that of the place, on a level face. */
  private share(l: LampLight, x: number, y: number, z: number, depthCm = z): number {
    if (!l.par) return 1;
    const under = this.under(l, depthCm);
    return under > 0 ? this.par(l, x, y, z) / under : 0;
  }

  /** Share of light of a look down that reaches a place: softened over four pixels. */
  private open(s: Shade, x: number, y: number, z: number): number {
    const { ways, hits } = s;
    ways.at(x, y, z, this.at);
    const i = Math.floor(this.at[0]!);
    const j = Math.floor(this.at[1]!);
    const u = this.at[0]! - i;
    const v = this.at[1]! - j;
    const t = s.tOf(z) - s.biasT;
    const { columns, rows } = ways;
    const nearest = hits.t;
    const at = j * columns + i;
    const left = i >= 0 && i < columns;
    const right = i >= -1 && i < columns - 1;
    const upper = j >= 0 && j < rows;
    const lower = j >= -1 && j < rows - 1;
    let sum = 0;
    if (!(upper && left) || nearest[at]! >= t) sum += (1 - u) * (1 - v);
    if (!(upper && right) || nearest[at + 1]! >= t) sum += u * (1 - v);
    if (!(lower && left) || nearest[at + columns]! >= t) sum += (1 - u) * v;
    if (!(lower && right) || nearest[at + columns + 1]! >= t) sum += u * v;
    return sum;
  }

  private lit(at: number, x: number, y: number, z: number, pane: boolean): void {
    const n = this.normal;
    const { depthCm, floorReflectance } = this.input.tank;
    const l = 1 / Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
    const unit = [n[0] * l, n[1] * l, n[2] * l] as const;
    const [nx, ny, nz] = unit;
    let around = 0;
    for (const s of this.sky) {
      const facing = nx * s.way[0] + ny * s.way[1] + nz * s.way[2];
      if (facing > 0) around += facing * (pane ? 1 : this.open(s, x, y, z));
    }
    around /= this.skyUp;
    const hidden = 1 - 0.5 ** (y / HALF_HIDDEN_CM);
    // ripples: brighter and darker threads of light, one on average
    const ripple = pane
      ? 1
      : 1 + RIPPLE * (Math.abs(noise(x * 0.2 + z * 0.05, y * 0.2, z * 0.02, 51) - 0.5) * -4 + 0.74);
    this.put(at, this.surface, z);
    for (let k = 0; k < this.light.length; k += 1) {
      const lamp = this.light[k]!;
      const there = this.share(lamp, x, y, z);
      const onFloor = this.share(lamp, x, y, depthCm, z);
      let direct = 0;
      const points = this.shadows[k]!;
      for (const s of points) {
        const p = s.point!;
        const on = slantOn(unit, p[0] - x, p[1] - y, p[2] - z);
        if (on > 0) direct += on * (pane ? 1 : this.open(s, x, y, z));
      }
      direct /= Math.max(1, points.length);
      const arriving =
        faceLight(there, direct * ripple, around, sentUp(floorReflectance, onFloor), nz) * (1 - hidden);
      this.scene.arrive[at * this.light.length + k] = clip(arriving * ARRIVE, 65535);
      this.scene.haze[at * this.light.length + k] = clip(hidden * there * HAZE, 255);
    }
  }
}

/** Between four cells of a layer, the first of them at `from`. */
const between = (p: Float32Array, from: number, nx: number, u: number, w: number): number => {
  const front = p[from]! + (p[from + 1]! - p[from]!) * u;
  const back = p[from + nx]! + (p[from + nx + 1]! - p[from + nx]!) * u;
  return front + (back - front) * w;
};

/** How far along the tank half a lamp's face reaches, cm. */
const halfAlong = ({ turnDeg, lengthCm, widthCm }: PortraitLamp): number => {
  const turned = Math.abs(Math.cos((turnDeg * Math.PI) / 180));
  return (lengthCm * turned + widthCm * (1 - turned)) / 2;
};
/** How far beside a lamp ripples still mirror it, cm. Drawing licence. */
const GLINT_CM = 14;
/** How thick a lamp's face is drawn, cm. Drawing licence. */
const FACE_CM = 0.8;
/** How much ripples brighten and darken. Drawing licence. */
const RIPPLE = 0.3;
const clip = (v: number, most: number) => Math.min(most, Math.max(0, Math.round(v)));
