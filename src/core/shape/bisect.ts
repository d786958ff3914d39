/**
 * Where something that is still too low at one end stops being so, halved down to nothing.
 * @param tooLow true below the place, false above it
 */
export function bisect(tooLow: (x: number) => boolean, low: number, high: number, steps = 40): number {
  let [a, b] = [low, high];
  for (let i = 0; i < steps; i += 1) {
    const middle = (a + b) / 2;
    if (tooLow(middle)) a = middle;
    else b = middle;
  }
  return b;
}

/** The first whole number of a range that is not too low; the last one when all before it are. */
export function firstWhole(tooLow: (n: number) => boolean, low: number, high: number): number {
  let [a, b] = [low, high];
  while (a < b) {
    const middle = Math.floor((a + b) / 2);
    if (tooLow(middle)) a = middle + 1;
    else b = middle;
  }
  return b;
}
