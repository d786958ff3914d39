/** Mean of a patch of a picture, 8-bit sRGB. */
export type Mean = readonly [r: number, g: number, b: number];

/** Mean over the disc within a square of RGBA pixels; what lies outside the picture is clear and left out. */
export function roundMean(rgba: ArrayLike<number>, side: number): Mean {
  const r = (side - 1) / 2;
  const sum = [0, 0, 0];
  let count = 0;
  for (let y = 0; y < side; y += 1)
    for (let x = 0; x < side; x += 1) {
      const at = 4 * (y * side + x);
      if (Math.hypot(x - r, y - r) > r || rgba[at + 3]! < 255) continue;
      count += 1;
      for (let c = 0; c < 3; c += 1) sum[c]! += rgba[at + c]!;
    }
  return count === 0 ? [0, 0, 0] : [sum[0]! / count, sum[1]! / count, sum[2]! / count];
}
