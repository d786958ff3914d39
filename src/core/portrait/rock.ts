import { seeded } from '../spectrum/random';
import type { Solid, Tank } from '../optics/tank';
import { groundDepth } from '../optics/tank';
import type { Stuff } from './stuff';

/** Stones: half sizes, cm, and how many lie on a square cm of what they cover. Drawing licence. */
const STONE_CM = [2.6, 5.2] as const;
const PER_CM2 = 1 / 38;
/** A pile gets this much wider for each cm that it goes down. */
const SPREAD = 0.3;
/** A coral this near to modelled rock stands on it, cm. */
const ON_ROCK = 4;

interface Box {
  tank: Tank;
  stuff: Stuff;
  random: () => number;
  rock: number;
}

function stone({ tank, stuff, random, rock }: Box, x: number, y: number, z: number, cm?: number): void {
  const r = cm ?? STONE_CM[0] + (STONE_CM[1] - STONE_CM[0]) * random();
  const [rx, ry, rz] = [
    r * (0.85 + 0.5 * random()),
    r * (0.8 + 0.3 * random()),
    r * (0.55 + 0.35 * random()),
  ];
  // no stone stands through a pane
  const inside = (v: number, half: number, length: number) =>
    length <= 2 * half ? length / 2 : Math.min(length - half, Math.max(half, v));
  stuff.add([inside(x, rx, tank.lengthCm), inside(y, ry, tank.widthCm), z], [rx, ry, rz], rock, {
    pattern: 'stone',
    shear: [(random() - 0.5) * 0.5, (random() - 0.5) * 0.4],
    seed: Math.floor(random() * 1e6),
  });
}

/** Rock grown under a place: a pile of stones from it down to what lies beneath. */
export function pileUnder(box: Box, at: { xCm: number; yCm: number; depthCm: number }, topCm: number): void {
  const { tank, random } = box;
  const ground = groundDepth(tank, at.xCm, at.yCm);
  const drop = ground - at.depthCm;
  if (drop < 1.5) return;
  if (tank.solids.length > 0 && Math.abs(drop) < ON_ROCK) return;
  const head = Math.max(3, topCm);
  for (let z = at.depthCm + 1.5; z < ground + 1; z += 3) {
    const wide = head + SPREAD * (z - at.depthCm);
    const deep = Math.min(wide * 0.8, Math.max(4, at.yCm - 1.5), Math.max(4, tank.widthCm - at.yCm - 1.5));
    const many = Math.max(
      4,
      Math.round(2 * Math.PI * Math.sqrt((wide * wide + deep * deep) / 2) * 3 * PER_CM2 * 2.2),
    );
    const first = random() * 2 * Math.PI;
    for (let k = 0; k < many; k += 1) {
      const a = first + ((k + 0.6 * random()) / many) * 2 * Math.PI;
      const out = 0.72 + 0.28 * random();
      stone(box, at.xCm + Math.cos(a) * wide * out, at.yCm + Math.sin(a) * deep * out, z + 2 * random());
    }
    // the heart of the pile, so that nothing is seen through it
    stone(box, at.xCm, at.yCm, z + 2, Math.min(wide * 0.7, 9));
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
