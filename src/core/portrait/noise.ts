/** Smooth and cellular noise over space: the same everywhere and always. */
const hash = (x: number, y: number, z: number, seed: number): number => {
  let h =
    Math.imul(x, 0x27d4eb2d) ^
    Math.imul(y, 0x165667b1) ^
    Math.imul(z, 0x9e3779b1) ^
    Math.imul(seed, 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return ((h ^ (h >>> 15)) >>> 0) / 4_294_967_296;
};

const smooth = (t: number) => t * t * (3 - 2 * t);

/** Value noise, 0..1, with features of about 1. */
export function noise(x: number, y: number, z: number, seed: number): number {
  const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [u, v, w] = [smooth(x - i), smooth(y - j), smooth(z - k)];
  let sum = 0;
  for (let c = 0; c < 8; c += 1) {
    const [a, b, d] = [c & 1, (c >> 1) & 1, c >> 2];
    sum += hash(i + a, j + b, k + d, seed) * (a ? u : 1 - u) * (b ? v : 1 - v) * (d ? w : 1 - w);
  }
  return sum;
}

/** Distance to the nearest of scattered points, about one in each unit cell. */
export function cells(x: number, y: number, z: number, seed: number): number {
  const [i, j, k] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  let best = 9;
  for (let a = -1; a <= 1; a += 1)
    for (let b = -1; b <= 1; b += 1)
      for (let c = -1; c <= 1; c += 1) {
        const [p, q, r] = [i + a, j + b, k + c];
        const dx = p + hash(p, q, r, seed) - x;
        const dy = q + hash(p, q, r, seed + 1) - y;
        const dz = r + hash(p, q, r, seed + 2) - z;
        best = Math.min(best, dx * dx + dy * dy + dz * dz);
      }
  return Math.sqrt(best);
}
