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

/** Matrix × vector. */
export const times = (matrix: readonly (readonly number[])[], vector: ArrayLike<number>): number[] =>
  matrix.map((row) => row.reduce((sum, value, i) => sum + value * vector[i]!, 0));

/** Vector · vector. */
export const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
};
