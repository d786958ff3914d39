/**
 * What a tank is drawn of: ellipsoids, upright and sheared, thousands of them. Places in cm, z down. Each has a surface, a second one
 * and a pattern that says where on it which of them shows.
 */
export const PATTERNS = ['plain', 'rim', 'dots', 'meander', 'rings', 'stone'] as const;
export type Pattern = (typeof PATTERNS)[number];

/** Numbers of an ellipsoid: its middle, half sizes, shear (z follows x and y). */
export const SIZES = 8;

export class Stuff {
  sizes = new Float32Array(SIZES * 1024);
  /** surface, second surface, pattern, seed */
  marks = new Int32Array(4 * 1024);
  count = 0;

  add(
    at: readonly [x: number, y: number, z: number],
    half: readonly [x: number, y: number, z: number],
    surface: number,
    more: { second?: number; pattern?: Pattern; seed?: number; shear?: readonly [x: number, y: number] } = {},
  ): void {
    const n = this.count;
    if ((n + 1) * SIZES > this.sizes.length) {
      const sizes = new Float32Array(this.sizes.length * 2);
      sizes.set(this.sizes);
      const marks = new Int32Array(this.marks.length * 2);
      marks.set(this.marks);
      [this.sizes, this.marks] = [sizes, marks];
    }
    const [kx, ky] = more.shear ?? [0, 0];
    this.sizes.set([at[0], at[1], at[2], half[0], half[1], half[2], kx, ky], n * SIZES);
    this.marks.set(
      [surface, more.second ?? surface, PATTERNS.indexOf(more.pattern ?? 'plain'), more.seed ?? n],
      n * 4,
    );
    this.count = n + 1;
  }

  ball(x: number, y: number, z: number, r: number, surface: number): void {
    this.add([x, y, z], [r, r, r], surface);
  }

  /** Its largest extent along an axis, cm. */
  extentCm(): number {
    return Math.max(
      ...[0, 1, 2].map((k) => {
        let [from, to] = [Infinity, -Infinity];
        for (let i = 0; i < this.count * SIZES; i += SIZES) {
          from = Math.min(from, this.sizes[i + k]! - this.sizes[i + 3 + k]!);
          to = Math.max(to, this.sizes[i + k]! + this.sizes[i + 3 + k]!);
        }
        return to - from;
      }),
    );
  }

  /** Grows or shrinks all of it around the origin. */
  scale(by: number): void {
    for (let i = 0; i < this.count * SIZES; i += 1) if (i % SIZES < 6) this.sizes[i]! *= by;
  }

  /** All of another's, moved. */
  addAll(other: Stuff, dx: number, dy: number, dz: number): void {
    for (let i = 0; i < other.count; i += 1) {
      const s = other.sizes.subarray(i * SIZES, (i + 1) * SIZES);
      const m = other.marks.subarray(i * 4, (i + 1) * 4);
      this.add([s[0]! + dx, s[1]! + dy, s[2]! + dz], [s[3]!, s[4]!, s[5]!], m[0]!, {
        second: m[1],
        pattern: PATTERNS[m[2]!],
        seed: m[3],
        shear: [s[6]!, s[7]!],
      });
    }
  }
}
