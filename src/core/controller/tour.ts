/** The cheapest way round the ring from one start. */
export interface Tour {
  cost: number;
  sum: number;
  stops: number[];
}

/** Of two ways that cost the same: fewer stops, then the smaller sum. */
export const better = (a: Tour, b: Tour) =>
  a.stops.length < b.stops.length || (a.stops.length === b.stops.length && a.sum < b.sum - 1e-12);

/** Every way round crosses every place: the candidates whose steps cross the place that the fewest cross. */
export function startsToTry(edges: readonly (readonly { d: number }[])[]): number[] {
  const n = edges.length;
  const reach = edges.map((list) => list[list.length - 1]?.d ?? 0);
  const crossing = (x: number) => reach.flatMap((r, i) => ((x - i + n) % n < r ? [i] : []));
  let fewest = crossing(0);
  for (let x = 1; x < n; x += 1) {
    const all = crossing(x);
    if (all.length < fewest.length) fewest = all;
  }
  return fewest;
}

/** The way from a start once round with at most `most` stops whose dearest step is cheapest; null when none is within the bound. */
export function tour(
  start: number,
  n: number,
  most: number,
  bound: number,
  edges: readonly (readonly { d: number; cost: number }[])[],
): Tour | null {
  // offsets from the start: 0 … n, where n is the start again
  let dearest = new Float64Array(n + 1).fill(Infinity);
  let sums = new Float64Array(n + 1).fill(Infinity);
  dearest[0] = 0;
  sums[0] = 0;
  const from: Int32Array[] = [];
  let best: Tour | null = null;
  let limit = bound;
  for (let k = 1; k <= most; k += 1) {
    const next = new Float64Array(n + 1).fill(Infinity);
    const nextSums = new Float64Array(n + 1).fill(Infinity);
    const back = new Int32Array(n + 1).fill(-1);
    for (let o = 0; o < n; o += 1) {
      const here = dearest[o]!;
      if (here > limit + 1e-12) continue;
      for (const { d, cost } of edges[(start + o) % n]!) {
        const to = o + d;
        if (to > n) break;
        const c = Math.max(here, cost);
        if (c > limit + 1e-12) continue;
        const sum = sums[o]! + cost;
        if (c < next[to]! - 1e-12 || (c <= next[to]! + 1e-12 && sum < nextSums[to]!)) {
          next[to] = c;
          nextSums[to] = sum;
          back[to] = o;
        }
      }
    }
    from.push(back);
    if (next[n]! < (best?.cost ?? Infinity) - 1e-12) {
      const stops: number[] = [];
      for (let step = k, o = n; step > 0; step -= 1) {
        o = from[step - 1]![o]!;
        stops.push((start + o) % n);
      }
      best = { cost: next[n]!, sum: nextSums[n]!, stops };
      limit = Math.min(limit, best.cost);
    }
    dearest = next;
    sums = nextSums;
  }
  return best;
}
