import { lightOnParts } from '../coral/sides';
import { SHAPE_IDS } from '../coral/form';
import { seeded } from '../spectrum/random';
import type { Crossing } from './ripple';
import { sentUp, sidesAt } from './sides';

const place = { xCm: 50, yCm: 30, depthCm: 20 };
const ray = (xCm: number, yCm: number, par: number): Crossing => ({ channel: 0, xCm, yCm, aboveCm: 20, par });

test('straight down all sides together are what falls from above; a flank then sees the floor alone', () => {
  const s = sidesAt([ray(50, 30, 100)], place, 100, 0);
  expect(s).toEqual({ down: 100, scalar: 100, flank: 0, underside: 0 });
  expect(sidesAt([], place, 0, 0)).toEqual({ down: 0, scalar: 0, flank: 0, underside: 0 });
  const over = sidesAt([ray(50, 30, 100)], place, 100, sentUp(0.4, 50));
  expect([over.underside, over.flank, over.scalar]).toEqual([20, 10, 140]);
});

test('photons thrown at a ball, a stick and a sheet agree', () => {
  const random = seeded(12);
  const rays = Array.from({ length: 40 }, () =>
    ray(50 + 50 * (random() - 0.5), 30 + 40 * (random() - 0.5), random()),
  );
  const down = rays.reduce((s, r) => s + r.par, 0);
  const up = 0.3 * down;
  const said = sidesAt(rays, place, down, up);
  /** mean over faces of what falls on each, from every ray and from the matt floor */
  const caught = (faceAt: () => readonly [number, number, number]) => {
    let sum = 0;
    const throws = 4000;
    for (let k = 0; k < throws; k += 1) {
      const n = faceAt();
      for (const r of rays) {
        const [dx, dy] = [place.xCm - r.xCm, place.yCm - r.yCm];
        const length = Math.hypot(dx, dy, place.depthCm);
        const facing = -(n[0] * dx + n[1] * dy + n[2] * place.depthCm) / length;
        if (facing > 0) sum += (r.par * facing * length) / place.depthCm;
      }
      // one photon of the floor's, sent by Lambert's law: radiance up/π alike over the lower half
      const [mu, turn] = [random(), 2 * Math.PI * random()];
      const side = Math.sqrt(1 - mu * mu);
      const toFloor = n[0] * side * Math.cos(turn) + n[1] * side * Math.sin(turn) + n[2] * mu;
      if (toFloor > 0) sum += 2 * up * toFloor;
    }
    return sum / throws;
  };
  // z runs down: a face looking up has z −1
  const turned = () => 2 * Math.PI * random();
  const ball = () => {
    const z = 2 * random() - 1;
    const t = turned();
    const r = Math.sqrt(1 - z * z);
    return [r * Math.cos(t), r * Math.sin(t), z] as const;
  };
  const stick = () => {
    const t = turned();
    return [Math.cos(t), Math.sin(t), 0] as const;
  };
  expect((4 * caught(ball)) / said.scalar).toBeCloseTo(1, 1);
  expect(caught(stick) / said.flank).toBeCloseTo(1, 1);
  expect(caught(() => [0, 0, 1]) / said.underside).toBeCloseTo(1, 1);
  expect(caught(() => [0, 0, -1]) / said.down).toBeCloseTo(1, 6);
  // over a tank scalar light is one to two times what falls from above
  expect(said.scalar / said.down).toBeGreaterThan(1.1);
  expect(said.scalar / said.down).toBeLessThan(2.2);
});

test('every form has its parts, none brighter than a ball there, undersides darkest', () => {
  const sides = sidesAt([ray(40, 30, 60), ray(70, 40, 40)], place, 110, 20);
  for (const shape of [null, ...SHAPE_IDS]) {
    const parts = lightOnParts(shape, sides);
    expect(parts.length).toBeGreaterThanOrEqual(2);
    for (const { umol } of parts) {
      expect(umol).toBeGreaterThan(0);
      expect(umol).toBeLessThanOrEqual(sides.scalar);
    }
  }
  expect(lightOnParts('plate', sides).at(-1)).toEqual({ part: 'underside', umol: 10 });
  const [tips, flanks, inside] = lightOnParts('branch', sides);
  expect(tips!.umol).toBeGreaterThan(flanks!.umol);
  expect(flanks!.umol).toBeGreaterThan(inside!.umol);
});
