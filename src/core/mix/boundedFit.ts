/**
 * Bounded least squares: minimise ‖A x − b‖ with 0 ≤ x ≤ upper, by an active set on the normal equations (after Stark &
 * Parker 1995, "Bounded-variable least-squares"). A spectrum fit has a handful of unknowns and hundreds of rows, so the
 * Gram matrix is formed once and every step solves a small system.
 */

export interface BoundedFit {
  x: number[];
  /** gradient steps taken; for tests and the bench */
  steps: number;
}

/** Gradients within this share of the largest possible one count as zero. */
const FLAT = 1e-12;
/** A pivot below this share of its diagonal means a column that the free ones already span. */
const SPANNED = 1e-13;

/** Solves G[free][free] y = r by Cholesky; null when the free columns depend on one another. */
function solveFree(
  gram: readonly Float64Array[],
  free: readonly number[],
  r: readonly number[],
): number[] | null {
  const n = free.length;
  const L: number[][] = [];
  for (let i = 0; i < n; i += 1) {
    const row: number[] = [];
    const g = gram[free[i]!]!;
    for (let j = 0; j <= i; j += 1) {
      let sum = g[free[j]!]!;
      for (let k = 0; k < j; k += 1) sum -= row[k]! * (L[j] ?? row)[k]!;
      if (i === j) {
        if (!(sum > SPANNED * g[free[i]!]!)) return null;
        row.push(Math.sqrt(sum));
      } else row.push(sum / L[j]![j]!);
    }
    L.push(row);
  }
  const y = [...r];
  for (let i = 0; i < n; i += 1) {
    for (let k = 0; k < i; k += 1) y[i]! -= L[i]![k]! * y[k]!;
    y[i]! /= L[i]![i]!;
  }
  for (let i = n - 1; i >= 0; i -= 1) {
    for (let k = i + 1; k < n; k += 1) y[i]! -= L[k]![i]! * y[k]!;
    y[i]! /= L[i]![i]!;
  }
  return y;
}

/**
 * @param columns columns of A; a column of zeros keeps its unknown at 0
 * @param target b, as long as every column
 * @param upper upper bounds, default 1
 */
export function boundedFit(
  columns: readonly ArrayLike<number>[],
  target: ArrayLike<number>,
  upper: readonly number[] = columns.map(() => 1),
): BoundedFit {
  const n = columns.length;
  const dot = (a: ArrayLike<number>, b: ArrayLike<number>) => {
    let sum = 0;
    for (let i = 0; i < target.length; i += 1) sum += a[i]! * b[i]!;
    return sum;
  };
  const gram = columns.map((a) => Float64Array.from(columns, (b) => dot(a, b)));
  const rhs = columns.map((a) => dot(a, target));
  const b2 = dot(target, target);

  const x = columns.map(() => 0);
  const free = new Set<number>();
  const useful = (j: number) => gram[j]![j]! > 0 && upper[j]! > 0;
  // largest gradient that could be: |aⱼ|·|b|, so that scale does not matter
  const slack = (j: number) => FLAT * Math.sqrt(gram[j]![j]! * Math.max(b2, gram[j]![j]!));
  const gradient = (j: number) => rhs[j]! - gram[j]!.reduce((sum, g, k) => sum + g * x[k]!, 0);
  const refused = new Set<number>();
  let steps = 0;
  const most = 60 * (n + 1);

  while (steps < most) {
    // the bound unknown that most wants to leave its bound
    let best = -1;
    let strongest = 0;
    for (let j = 0; j < n; j += 1) {
      if (free.has(j) || refused.has(j) || !useful(j)) continue;
      const w = gradient(j);
      const wants = x[j] === 0 ? w : -w;
      if (wants > slack(j) && wants / Math.sqrt(gram[j]![j]!) > strongest) {
        strongest = wants / Math.sqrt(gram[j]![j]!);
        best = j;
      }
    }
    if (best < 0) break;
    free.add(best);
    let first = true;
    while (free.size > 0 && steps < most) {
      steps += 1;
      const set = [...free];
      const r = set.map((j) => {
        let sum = rhs[j]!;
        for (let k = 0; k < n; k += 1) if (!free.has(k)) sum -= gram[j]![k]! * x[k]!;
        return sum;
      });
      const y = solveFree(gram, set, r);
      if (!y) {
        free.delete(best);
        refused.add(best);
        break;
      }
      // rounding may push the freed unknown back over the bound it left: then it stays there
      const k = set.indexOf(best);
      if (first && ((x[best] === 0 && y[k]! <= 0) || (x[best] === upper[best] && y[k]! >= upper[best]!))) {
        free.delete(best);
        refused.add(best);
        break;
      }
      first = false;
      let alpha = 1;
      let hit = -1;
      let to = 0;
      set.forEach((j, i) => {
        const over = y[i]! > upper[j]!;
        if (!over && y[i]! >= 0) return;
        const bound = over ? upper[j]! : 0;
        const a = (bound - x[j]!) / (y[i]! - x[j]!);
        if (a < alpha) [alpha, hit, to] = [a, j, bound];
      });
      set.forEach((j, i) => (x[j] = x[j]! + alpha * (y[i]! - x[j]!)));
      if (hit < 0) {
        refused.clear();
        break;
      }
      x[hit] = to;
      free.delete(hit);
    }
  }
  return { x, steps };
}
