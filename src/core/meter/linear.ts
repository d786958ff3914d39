/**
 * Inverse of a symmetric positive matrix, Gauss-Jordan with pivots on the diagonal; fit sizes are a few dozen at most.
 * @throws Error when the matrix has no inverse
 */
export function inverse(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const a = matrix.map((row) => [...row]);
  const out = a.map((_, i) => a.map((__, j) => (i === j ? 1 : 0)));
  for (let k = 0; k < n; k += 1) {
    const pivot = a[k]![k]!;
    if (!(Math.abs(pivot) > 1e-300)) throw new Error('the matrix has no inverse');
    for (let j = 0; j < n; j += 1) {
      a[k]![j]! /= pivot;
      out[k]![j]! /= pivot;
    }
    for (let i = 0; i < n; i += 1) {
      const factor = a[i]![k]!;
      if (i === k || factor === 0) continue;
      for (let j = 0; j < n; j += 1) {
        a[i]![j]! -= factor * a[k]![j]!;
        out[i]![j]! -= factor * out[k]![j]!;
      }
    }
  }
  return out;
}

/**
 * Solves matrix × x = right for a symmetric matrix whose diagonal is first made so much larger: LDLᵀ without pivots, of a few dozen rows.
 * @param damping share by which the diagonal grows
 * @throws Error when the matrix has no inverse
 */
export function solve(
  matrix: readonly (readonly number[])[],
  right: readonly number[],
  damping: number,
): Float64Array {
  const n = matrix.length;
  // rows of L below the diagonal, D on it
  const l = new Float64Array(n * n);
  const scaled = new Float64Array(n);
  for (let i = 0; i < n; i += 1) {
    const row = matrix[i]!;
    const at = i * n;
    let pivot = row[i]! * (1 + damping);
    for (let j = 0; j < i; j += 1) {
      const other = j * n;
      let sum = row[j]!;
      for (let k = 0; k < j; k += 1) sum -= scaled[k]! * l[other + k]!;
      scaled[j] = sum;
      const value = sum / l[other + j]!;
      l[at + j] = value;
      pivot -= sum * value;
    }
    if (!(Math.abs(pivot) > 1e-300)) throw new Error('the matrix has no inverse');
    l[at + i] = pivot;
  }
  const x = Float64Array.from(right);
  for (let i = 0; i < n; i += 1) {
    let sum = x[i]!;
    for (let k = 0; k < i; k += 1) sum -= l[i * n + k]! * x[k]!;
    x[i] = sum;
  }
  for (let i = n - 1; i >= 0; i -= 1) {
    let sum = x[i]! / l[i * n + i]!;
    for (let k = i + 1; k < n; k += 1) sum -= l[k * n + i]! * x[k]!;
    x[i] = sum;
  }
  return x;
}

/** Matrix × vector. */
export const times = (matrix: readonly (readonly number[])[], vector: ArrayLike<number>): number[] =>
  matrix.map((row) => dot(row, vector));

/** Vector · vector. */
export const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
};
