/** Smooth and cellular noise over space: the same everywhere and always. */
const [BY_X, BY_Y, BY_Z, BY_SEED] = [0x27d4eb2d, 0x165667b1, 0x9e3779b1, 0x85ebca6b];
const mixed = (of: number): number => {
  let h = Math.imul(of ^ (of >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return (h ^ (h >>> 15)) >>> 0;
};
const hash = (x: number, y: number, z: number, seed: number): number =>
  mixed(Math.imul(x, BY_X) ^ Math.imul(y, BY_Y) ^ Math.imul(z, BY_Z) ^ Math.imul(seed, BY_SEED)) /
  4_294_967_296;

/** Value noise, 0..1, with features of about 1. Written out: a picture asks for it a million times. */
export function noise(x: number, y: number, z: number, seed: number): number {
  const i = Math.floor(x);
  const j = Math.floor(y);
  const k = Math.floor(z);
  let u = x - i;
  let v = y - j;
  let w = z - k;
  u *= u * (3 - 2 * u);
  v *= v * (3 - 2 * v);
  w *= w * (3 - 2 * w);
  const of = Math.imul(seed, BY_SEED);
  const x0 = Math.imul(i, BY_X);
  const x1 = (x0 + BY_X) | 0;
  const y0 = Math.imul(j, BY_Y);
  const y1 = (y0 + BY_Y) | 0;
  const z0 = Math.imul(k, BY_Z);
  const z1 = (z0 + BY_Z) | 0;
  const near = of ^ z0;
  const far = of ^ z1;
  const a = mixed(x0 ^ y0 ^ near);
  const b = mixed(x0 ^ y1 ^ near);
  const c = mixed(x0 ^ y0 ^ far);
  const d = mixed(x0 ^ y1 ^ far);
  const e = a + (mixed(x1 ^ y0 ^ near) - a) * u;
  const f = b + (mixed(x1 ^ y1 ^ near) - b) * u;
  const g = c + (mixed(x1 ^ y0 ^ far) - c) * u;
  const h = d + (mixed(x1 ^ y1 ^ far) - d) * u;
  const p = e + (f - e) * v;
  return (p + (g + (h - g) * v - p) * w) / 4_294_967_296;
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
