/** How many items two lists share at their beginning and, of the rest, at their end: the same objects, not the same contents. */
export function sharedEnds(a: readonly unknown[], b: readonly unknown[]): { head: number; tail: number } {
  const shorter = Math.min(a.length, b.length);
  let [head, tail] = [0, 0];
  while (head < shorter && a[head] === b[head]) head += 1;
  while (tail < shorter - head && a[a.length - 1 - tail] === b[b.length - 1 - tail]) tail += 1;
  return { head, tail };
}
