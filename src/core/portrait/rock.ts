import { seeded } from '../spectrum/random';
import type { Solid, Tank } from '../optics/tank';
import { groundDepth } from '../optics/tank';
import type { Stuff } from './stuff';

/** Stones: half sizes, cm, many of them small, and how many lie on a square cm of what they cover. Drawing licence. */
const STONE_CM = [2.2, 7] as const;
const PER_CM2 = 1 / 38;
/** A mound gets wider by this for each cm that it goes down, on its steepest and its gentlest side. Drawing licence. */
const SLOPE = [0.1, 0.75] as const;
/** Ledges on the way down: how far apart, and how far they stand out, cm. Drawing licence. */
const LEDGE_CM = [11, 2.4] as const;
/** Mounds nearer than this to one another are joined by a ridge, cm; those that stand lower than this have none. Drawing licence. */
const JOINED_CM = 62;
const TALL_CM = 8;
/** A coral this near to modelled rock stands on it, cm. */
const ON_ROCK = 4;

/** Where something stands that no stone may bury: its depth, and how far it reaches. */
export interface Stands {
  xCm: number;
  yCm: number;
  depthCm: number;
  reachCm: number;
}

interface Box {
  tank: Tank;
  stuff: Stuff;
  random: () => number;
  rock: number;
  stands: readonly Stands[];
}

/** Lays a stone; false where it would bury a coral that stands lower than `own`, or anywhere. */
function stone(
  { tank, stuff, random, rock, stands }: Box,
  x: number,
  y: number,
  z: number,
  cm?: number,
  own?: Stands,
): boolean {
  const r = cm ?? STONE_CM[0] + (STONE_CM[1] - STONE_CM[0]) * random() ** 2;
  const [rx, ry, rz] = [
    r * (0.85 + 0.5 * random()),
    r * (0.8 + 0.3 * random()),
    r * (0.55 + 0.35 * random()),
  ];
  // no stone stands through a pane
  const inside = (v: number, half: number, length: number) =>
    length <= 2 * half ? length / 2 : Math.min(length - half, Math.max(half, v));
  // nor over the coral that stands on it
  const low = own ? Math.max(z, own.depthCm + rz - 1) : z;
  const at = [inside(x, rx, tank.lengthCm), inside(y, ry, tank.widthCm), low] as const;
  const turn = [(random() - 0.5) * 0.5, (random() - 0.5) * 0.4] as const;
  const seed = Math.floor(random() * 1e6);
  const buries = (s: Stands) =>
    s !== own &&
    s.depthCm > low - rz &&
    Math.hypot(s.xCm - at[0], s.yCm - at[1]) < s.reachCm + Math.max(rx, ry);
  if (stands.some(buries)) return false;
  stuff.add(at, [rx, ry, rz], rock, { pattern: 'stone', shear: turn, seed });
  return true;
}

/** How far down it is from a place to what lies beneath; 0 where it stands on modelled rock. */
function dropUnder(tank: Tank, at: Stands): number {
  const drop = groundDepth(tank, at.xCm, at.yCm) - at.depthCm;
  return drop < 1.5 || (tank.solids.length > 0 && Math.abs(drop) < ON_ROCK) ? 0 : drop;
}

/** Rock grown under a place: a mound of stones from it down to what lies beneath, steep on one side, broad on another, with ledges. */
export function moundUnder(box: Box, at: Stands, topCm: number): void {
  const { tank, random } = box;
  const drop = dropUnder(tank, at);
  if (drop === 0) return;
  const head = Math.max(3, topCm);
  const [p, q, s] = [random(), random(), random()].map((v) => v * 2 * Math.PI) as [number, number, number];
  const lean = (random() - 0.5) * 0.24;
  const reach = (a: number, down: number) => {
    const side = 0.5 + 0.3 * Math.sin(a + p) + 0.2 * Math.sin(2 * a + q);
    const ledge = LEDGE_CM[1] * Math.sin((2 * Math.PI * down) / LEDGE_CM[0] + s + 1.5 * Math.sin(a + q));
    return head + down * (SLOPE[0] + (SLOPE[1] - SLOPE[0]) * side) + ledge * Math.min(1, down / 6);
  };
  for (let down = 1.5; down < drop + 1; down += 3) {
    const [x, z] = [at.xCm + lean * down, at.depthCm + down];
    const wide = reach(0, down) / 2 + reach(Math.PI, down) / 2;
    const many = Math.max(4, Math.round(2 * Math.PI * wide * 3 * PER_CM2 * 1.9));
    const first = random() * 2 * Math.PI;
    for (let k = 0; k < many; k += 1) {
      const a = first + ((k + 0.6 * random()) / many) * 2 * Math.PI;
      const out = reach(a, down) * (0.72 + 0.28 * random());
      const put = (o: number) =>
        stone(box, x + Math.cos(a) * o, at.yCm + Math.sin(a) * o * 0.8, z + 2 * random(), undefined, at);
      // beside a coral that stands lower the mound is hollow
      if (!put(out)) put(out * 0.5);
    }
    // the heart of the mound, so that nothing is seen through it; what stands over a lower coral stands on a pillar
    const heart = Math.min(wide * 0.7, 9);
    if (!stone(box, x, at.yCm, z + 2, heart, at)) stone({ ...box, stands: [] }, x, at.yCm, z + 2, heart / 2);
  }
  // the stone that the coral stands on
  box.stuff.add(
    [at.xCm, at.yCm, at.depthCm + 2.2],
    [head * 1.05, Math.min(head, Math.max(3, at.yCm)), 2.4],
    box.rock,
    {
      pattern: 'stone',
      seed: Math.floor(random() * 1e6),
    },
  );
}

/** Ridges that join a mound to the next one along the tank. */
export function ridges(box: Box): void {
  const { tank, random } = box;
  const mounds = box.stands
    .map((at) => ({ ...at, drop: dropUnder(tank, at) }))
    .filter((m) => m.drop > TALL_CM)
    .sort((a, b) => a.xCm - b.xCm);
  for (const [i, to] of mounds.entries()) {
    const from = mounds[i - 1];
    if (!from) continue;
    const far = Math.hypot(to.xCm - from.xCm, to.yCm - from.yCm);
    if (far > JOINED_CM) continue;
    const low = 0.3 + 0.3 * random();
    const steps = Math.round(far / 3.5);
    for (let k = 1; k < steps; k += 1) {
      const t = k / steps;
      const tall = (from.drop + (to.drop - from.drop) * t) * (low + (1 - low) * (2 * t - 1) ** 2) * 0.72;
      const wide = 4 + 0.45 * tall;
      const [x, y] = [from.xCm + (to.xCm - from.xCm) * t, from.yCm + (to.yCm - from.yCm) * t];
      for (let s = -wide; s <= wide; s += 4.5) {
        const up = tall * Math.sqrt(1 - (s / (wide + 1)) ** 2);
        stone(box, x + 3 * random(), y + s, tank.depthCm - up + 2 * random());
      }
      if (tall > 6) stone(box, x, y, tank.depthCm - tall / 2, Math.min(tall / 2, 9));
    }
  }
}

/** Modelled rock: stones all over it; a step of the floor keeps sand on top. */
export function coverSolid(box: Box, s: Solid, sand: number): void {
  const { random } = box;
  const height = s.bottomCm - s.topCm;
  if (s.shape === 'mound') {
    const many = Math.round((s.lengthCm * s.widthCm + (s.lengthCm + s.widthCm) * height * 1.6) * PER_CM2);
    for (let k = 0; k < many; k += 1) {
      const a = k * 2.39996 + random() * 0.3;
      const up = (k + 0.5) / many;
      const out = Math.sqrt(1 - up * up) * 0.96;
      stone(
        box,
        s.xCm + (Math.cos(a) * out * s.lengthCm) / 2,
        s.yCm + (Math.sin(a) * out * s.widthCm) / 2,
        s.bottomCm - up * height + 2.2,
      );
    }
    box.stuff.add([s.xCm, s.yCm, s.bottomCm], [s.lengthCm / 2.2, s.widthCm / 2.2, height * 0.9], box.rock, {
      pattern: 'stone',
    });
    return;
  }
  const along = (cm: number, apart: number) => Math.max(1, Math.round(cm / apart));
  const apart = s.shape === 'step' ? 4 : 6;
  const [nx, ny, nz] = [along(s.lengthCm, apart), along(s.widthCm, apart), along(height, apart)];
  for (let i = 0; i <= nx; i += 1)
    for (let j = 0; j <= ny; j += 1) {
      const x = s.xCm + (i / nx - 0.5) * s.lengthCm;
      const y = s.yCm + (j / ny - 0.5) * s.widthCm;
      if (s.shape === 'step')
        box.stuff.add([x, y, s.topCm + 1.4], [4.2, 4.2, 1.5], sand, { pattern: 'stone' });
      else stone(box, x, y, s.topCm + 2);
      const edge = i === 0 || j === 0 || i === nx || j === ny;
      if (edge) for (let k = 1; k <= nz; k += 1) stone(box, x, y, s.topCm + (k / nz) * height);
    }
}

/** Rubble on the sand, in loose heaps along the back. */
export function rubble(box: Box, seed: number): void {
  const { tank } = box;
  const random = seeded(seed);
  const heaps = Math.max(2, Math.round(tank.lengthCm / 28));
  for (let h = 0; h < heaps; h += 1) {
    const x = ((h + 0.2 + 0.6 * random()) / heaps) * tank.lengthCm;
    const y = tank.widthCm * (0.5 + 0.4 * random());
    const many = 3 + Math.floor(random() * 5);
    for (let k = 0; k < many; k += 1)
      stone(
        box,
        x + (random() - 0.5) * 16,
        y + (random() - 0.5) * 12,
        tank.depthCm - 1 - random() * 3,
        1.6 + 2.6 * random(),
      );
  }
}
