import type { AlgaId } from '../feeding/algae';
import { seeded } from '../spectrum/random';
import { Stuff } from './stuff';

/** How algae grow over their mat, and in what clumps they stand. Drawing licence. */
const TAU = 2 * Math.PI;

interface Clump {
  stuff: Stuff;
  random: () => number;
  surface: number;
  x: number;
  y: number;
  cm: number;
}

/** A thread or stem: balls along a way that wanders. */
function thread(
  c: Clump,
  from: readonly [number, number, number],
  steps: number,
  step: number,
  r: number,
  rise: number,
  wander: number,
) {
  let [x, y, z] = from;
  let a = c.random() * TAU;
  for (let k = 0; k < steps; k += 1) {
    c.stuff.ball(x, y, z, r * (1 - (0.4 * k) / steps), c.surface);
    a += (c.random() - 0.5) * wander;
    x += Math.cos(a) * step * (1 - rise);
    y += Math.sin(a) * step * (1 - rise) * 0.8;
    z -= step * (rise + (c.random() - 0.5) * (1 - rise));
  }
  return [x, y, z] as const;
}

const GROWS: Record<AlgaId, (c: Clump) => void> = {
  /** a ball of stiff threads */
  greenTangle: (c) => {
    for (let k = 0; k < 46; k += 1) {
      const [a, o] = [c.random() * TAU, Math.sqrt(c.random())];
      const up = c.random() * c.cm * 0.55 * (1 - o * o * 0.7);
      thread(
        c,
        [c.x + Math.cos(a) * o * c.cm * 0.46, c.y + Math.sin(a) * o * c.cm * 0.4, -up],
        15,
        c.cm * 0.035,
        c.cm * 0.017,
        0.06,
        1.1,
      );
    }
  },
  /** feathers from runners */
  featheryGreen: (c) => {
    for (let k = 0; k < 9; k += 1) {
      const [a, o] = [c.random() * TAU, Math.sqrt(c.random()) * c.cm * 0.4];
      const tall = c.cm * (0.5 + 0.35 * c.random());
      const [lx, ly] = [(c.random() - 0.5) * 0.5, (c.random() - 0.5) * 0.3];
      const turn = c.random() * Math.PI;
      for (let s = 0; s < 22; s += 1) {
        const t = s / 21;
        const [x, y, z] = [
          c.x + Math.cos(a) * o + lx * tall * t * t,
          c.y + Math.sin(a) * o * 0.8 + ly * tall * t * t,
          -tall * t,
        ];
        c.stuff.ball(x, y, z, c.cm * 0.011, c.surface);
        if (t < 0.15) continue;
        const wide = c.cm * 0.11 * Math.sin(Math.PI * Math.min(1, 0.2 + 0.8 * t) ** 0.9);
        for (const side of [-1, 1])
          for (let b = 1; b <= 4; b += 1) {
            const w = (side * wide * b) / 4;
            c.stuff.ball(
              x + Math.cos(turn) * w,
              y + Math.sin(turn) * w * 0.6,
              z - Math.abs(w) * 0.45,
              c.cm * 0.0085,
              c.surface,
            );
          }
      }
    }
  },
  /** clusters of bladders */
  grapeGreen: (c) => {
    for (let k = 0; k < 8; k += 1) {
      const [a, o] = [c.random() * TAU, Math.sqrt(c.random()) * c.cm * 0.4];
      const tall = c.cm * (0.35 + 0.3 * c.random());
      const [lx, ly] = [(c.random() - 0.5) * 0.5, (c.random() - 0.5) * 0.3];
      for (let s = 0; s < 30; s += 1) {
        const t = 0.1 + (0.9 * s) / 29;
        const b = s * 2.39996;
        const w = c.cm * 0.055 * (1.1 - 0.5 * t);
        c.stuff.ball(
          c.x + Math.cos(a) * o + lx * tall * t + Math.cos(b) * w,
          c.y + Math.sin(a) * o * 0.8 + ly * tall * t + Math.sin(b) * w,
          -tall * t,
          c.cm * (0.026 - 0.008 * t),
          c.surface,
        );
      }
    }
  },
  /** wavy leaves */
  redLeaf: (c) => {
    for (let k = 0; k < 11; k += 1) {
      const a = c.random() * TAU;
      const tall = c.cm * (0.35 + 0.3 * c.random());
      const turn = c.random() * Math.PI;
      const wave = c.random() * TAU;
      for (let s = 0; s < 14; s += 1) {
        const t = s / 13;
        const wide = c.cm * 0.13 * Math.sin(Math.PI * Math.min(0.98, 0.12 + 0.86 * t));
        for (let b = -3; b <= 3; b += 1) {
          const w = (wide * b) / 3;
          const fold = c.cm * 0.025 * Math.sin(8 * t + b + wave);
          c.stuff.add(
            [
              c.x + Math.cos(a) * (c.cm * 0.08 + tall * 0.5 * t) + Math.cos(turn) * w,
              c.y + Math.sin(a) * (c.cm * 0.07 + tall * 0.4 * t) + Math.sin(turn) * w * 0.7 + fold,
              -tall * t * (1 - 0.2 * t),
            ],
            [c.cm * 0.026, c.cm * 0.016, c.cm * 0.028],
            c.surface,
          );
        }
      }
    }
  },
  /** bushes that fork, fine as hair */
  redBush: (c) => {
    const fork = (
      from: readonly [number, number, number],
      heading: readonly [number, number],
      length: number,
      left: number,
    ) => {
      let [x, y, z] = from;
      const steps = 6;
      for (let s = 0; s < steps; s += 1) {
        c.stuff.ball(x, y, z, c.cm * (0.008 + 0.004 * left), c.surface);
        x += (heading[0] * length) / steps;
        y += (heading[1] * length) / steps;
        z -= (length / steps) * (0.75 - 0.25 * Math.hypot(...heading));
      }
      if (left === 0) return;
      for (let k = 0; k < 3; k += 1) {
        const b = c.random() * TAU;
        fork(
          [x, y, z],
          [heading[0] * 0.6 + Math.cos(b) * 0.6, heading[1] * 0.6 + Math.sin(b) * 0.5],
          length * 0.72,
          left - 1,
        );
      }
    };
    for (let k = 0; k < 6; k += 1) {
      const a = c.random() * TAU;
      fork([c.x, c.y, 0], [Math.cos(a) * 0.7, Math.sin(a) * 0.6], c.cm * 0.2, 3);
    }
  },
  /** long blades */
  brownBlade: (c) => {
    for (let k = 0; k < 8; k += 1) {
      const a = c.random() * TAU;
      const tall = c.cm * (0.6 + 0.35 * c.random());
      const wave = c.random() * TAU;
      for (let s = 0; s < 30; s += 1) {
        const t = s / 29;
        const wide = c.cm * 0.05 * Math.min(1, 0.3 + 1.6 * t) * (t > 0.85 ? (1.05 - t) * 5 : 1);
        c.stuff.add(
          [
            c.x +
              Math.cos(a) * (c.cm * 0.07 + tall * 0.35 * t * t) +
              c.cm * 0.05 * t * Math.sin(6 * t + wave),
            c.y + Math.sin(a) * (c.cm * 0.06 + tall * 0.25 * t * t),
            -tall * t,
          ],
          [Math.max(0.12, wide), c.cm * 0.012, c.cm * 0.03],
          c.surface,
        );
      }
    }
  },
};

/** Clumps stand this far apart, as a share of their size. */
const APART = 0.6;
const MOST_CLUMPS = 9;

/**
 * A mat of algae: clumps over its footprint, standing on z = 0.
 * @param sizeCm its footprint
 * @param tallCm how tall a clump is at most
 */
export function grownMat(
  id: AlgaId,
  sizeCm: { lengthCm: number; widthCm: number },
  tallCm: number,
  seed: number,
  surface: number,
): Stuff {
  const stuff = new Stuff();
  const random = seeded(seed);
  const cm = Math.max(4, Math.min(tallCm, 24));
  const fit = (length: number) => Math.max(1, Math.round(length / (cm * APART)));
  let [columns, rows] = [fit(sizeCm.lengthCm), fit(sizeCm.widthCm)];
  const shrink = Math.sqrt(Math.max(1, (columns * rows) / MOST_CLUMPS));
  [columns, rows] = [Math.max(1, Math.round(columns / shrink)), Math.max(1, Math.round(rows / shrink))];
  for (let i = 0; i < columns; i += 1)
    for (let j = 0; j < rows; j += 1)
      GROWS[id]({
        stuff,
        random,
        surface,
        x: ((i + 0.5 + 0.3 * (random() - 0.5)) / columns - 0.5) * sizeCm.lengthCm * 0.9,
        y: ((j + 0.5 + 0.3 * (random() - 0.5)) / rows - 0.5) * sizeCm.widthCm * 0.9,
        cm: cm * shrink ** 0.4 * (0.85 + 0.3 * random()),
      });
  return stuff;
}
