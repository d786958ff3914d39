/** Median time of a function in ms, after warming up. */
export function medianMs(work: () => unknown, runs = 15): number {
  for (let i = 0; i < 3; i += 1) work();
  const times = Array.from({ length: runs }, () => {
    const began = performance.now();
    work();
    return performance.now() - began;
  }).sort((a, b) => a - b);
  return times[Math.floor(runs / 2)]!;
}

/** Value below which a share of the samples lies. */
export function quantile(samples: readonly number[], share: number): number {
  const sorted = [...samples].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)]!;
}

/** One line of the report: ours beside a naive reference in the same run. */
export function report(name: string, oursMs: number, naiveMs: number, agreement: string): void {
  console.log(
    `${name.padEnd(46)} ${oursMs.toFixed(3).padStart(9)} ms   naive ${naiveMs.toFixed(3).padStart(9)} ms   ratio ${(naiveMs / oursMs).toFixed(1).padStart(7)}   ${agreement}`,
  );
}
