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

/** Points of an outline, in pixels. */
type Corner = readonly [x: number, y: number];

/** Mean within an outline over RGBA pixels, row by row (even-odd rule); black where it encloses no pixel's middle. */
export function outlineMean(
  rgba: ArrayLike<number>,
  width: number,
  height: number,
  corners: readonly Corner[],
): Mean {
  const sum = [0, 0, 0];
  let count = 0;
  for (let y = 0; y < height; y += 1) {
    const middle = y + 0.5;
    const crossings: number[] = [];
    corners.forEach(([x0, y0], i) => {
      const [x1, y1] = corners[(i + 1) % corners.length]!;
      if (y0 > middle !== y1 > middle) crossings.push(x0 + ((x1 - x0) * (middle - y0)) / (y1 - y0));
    });
    crossings.sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2)
      for (
        let x = Math.max(0, Math.ceil(crossings[k]! - 0.5));
        x < Math.min(width, crossings[k + 1]! - 0.5);
        x += 1
      ) {
        const at = 4 * (y * width + x);
        count += 1;
        for (let c = 0; c < 3; c += 1) sum[c]! += rgba[at + c]!;
      }
  }
  return count === 0 ? [0, 0, 0] : [sum[0]! / count, sum[1]! / count, sum[2]! / count];
}
