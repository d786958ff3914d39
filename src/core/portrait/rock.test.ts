import type { Tank } from '../optics/tank';
import { seeded } from '../spectrum/random';
import { moundUnder, ridges, type Stands } from './rock';
import { SIZES, Stuff } from './stuff';

const tank: Tank = {
  ...{ lengthCm: 150, widthCm: 60, depthCm: 50, floorReflectance: 0.6, lidShare: 1, solids: [] },
  walls: { left: 1, right: 1, front: 1, back: 1 },
};
const at = (xCm: number, yCm: number, depthCm: number, reachCm = 8): Stands => ({
  ...{ xCm, yCm, depthCm, reachCm },
});
const grown = (stands: readonly Stands[], seed: number, joined: boolean) => {
  const stuff = new Stuff();
  const box = { tank, stuff, random: seeded(seed), rock: 2, stands };
  for (const s of stands) moundUnder(box, s, 6);
  if (joined) ridges(box);
  return Array.from({ length: stuff.count }, (_, n) => {
    const [x, y, z, rx, ry, rz] = stuff.sizes.subarray(n * SIZES, n * SIZES + 6);
    return { x: x!, y: y!, z: z!, rx: rx!, ry: ry!, rz: rz! };
  });
};
const seeds = Array.from({ length: 12 }, (_, i) => i + 1);

test('a mound stands under its coral all the way to the floor, and within the panes', () => {
  for (const seed of seeds) {
    const own = at(12, 52, 14);
    const stones = grown([own], seed, false);
    for (let z = own.depthCm + 3; z < tank.depthCm; z += 3)
      expect(
        stones.some((s) => Math.abs(s.z - z) < s.rz + 1 && Math.hypot(s.x - own.xCm, s.y - own.yCm) < s.rx),
      ).toBe(true);
    for (const s of stones) {
      expect(s.x - s.rx).toBeGreaterThan(-0.6);
      expect(s.y + s.ry).toBeLessThan(tank.widthCm + 0.6);
    }
  }
});

test('no mound or ridge buries a coral that stands lower, and what stands over one stands on a pillar', () => {
  const [tall, low, next] = [at(60, 30, 12), at(72, 26, 36, 7), at(104, 30, 16)];
  for (const seed of seeds) {
    const stones = grown([tall, low, next], seed, true);
    const over = stones.filter(
      (s) =>
        s.z - s.rz < low.depthCm - 3 &&
        Math.hypot(s.x - low.xCm, s.y - low.yCm) < low.reachCm &&
        Math.hypot(s.x - tall.xCm, s.y - tall.yCm) > 5,
    );
    expect(over).toEqual([]);
    for (let z = tall.depthCm + 3; z < tank.depthCm; z += 3)
      expect(
        stones.some((s) => Math.abs(s.z - z) < s.rz + 2 && Math.hypot(s.x - tall.xCm, s.y - tall.yCm) < 9),
      ).toBe(true);
  }
});

test('neighbours are joined by a ridge, those far apart are not, and no two mounds are alike', () => {
  const between = (stones: ReturnType<typeof grown>, x: number) =>
    stones.filter((s) => Math.abs(s.x - x) < 4 && s.z > 30).length;
  const near = [at(50, 30, 32), at(105, 30, 32)];
  const far = [at(30, 30, 32), at(120, 30, 32)];
  for (const seed of seeds) {
    expect(between(grown(near, seed, true), 77)).toBeGreaterThan(between(grown(near, seed, false), 77));
    expect(grown(far, seed, true)).toEqual(grown(far, seed, false));
  }
  const shape = (seed: number) => grown([at(75, 30, 14)], seed, false).map((s) => Math.round(s.x));
  expect(new Set(seeds.map((s) => shape(s).join())).size).toBe(seeds.length);
});

test('what stands on modelled rock or on the sand has none grown under it', () => {
  expect(grown([at(75, 30, 49)], 1, true)).toEqual([]);
  const stuff = new Stuff();
  const solid = { id: 's', name: 's', shape: 'block' as const, xCm: 75, yCm: 30, lengthCm: 60, widthCm: 30 };
  const own = at(75, 30, 24);
  const modelled = { ...tank, solids: [{ ...solid, topCm: 25, bottomCm: 50 }] };
  moundUnder({ tank: modelled, stuff, random: seeded(1), rock: 2, stands: [own] }, own, 6);
  expect(stuff.count).toBe(0);
});
