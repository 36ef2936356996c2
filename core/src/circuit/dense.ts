/**
 * Solves A x = b for a small dense matrix by Gaussian elimination with partial pivoting. a: row by
 * row, n by n, overwritten; b: length n, becomes x. Returns false where A is singular.
 */
export function solveDense(a: Float64Array, b: Float64Array, n: number): boolean {
  for (let k = 0; k < n; k += 1) {
    let pivot = k;
    for (let r = k + 1; r < n; r += 1)
      if (Math.abs(a[r * n + k]!) > Math.abs(a[pivot * n + k]!)) pivot = r;
    const top = a[pivot * n + k]!;
    if (!(Math.abs(top) > 1e-300)) return false;
    if (pivot !== k) {
      for (let c = k; c < n; c += 1) {
        const kept = a[k * n + c]!;
        a[k * n + c] = a[pivot * n + c]!;
        a[pivot * n + c] = kept;
      }
      const kept = b[k]!;
      b[k] = b[pivot]!;
      b[pivot] = kept;
    }
    for (let r = k + 1; r < n; r += 1) {
      const factor = a[r * n + k]! / top;
      if (factor === 0) continue;
      const [own, above] = [r * n, k * n];
      for (let c = k + 1; c < n; c += 1) a[own + c] = a[own + c]! - factor * a[above + c]!;
      b[r]! -= factor * b[k]!;
    }
  }
  for (let k = n - 1; k >= 0; k -= 1) {
    let sum = b[k]!;
    for (let c = k + 1; c < n; c += 1) sum -= a[k * n + c]! * b[c]!;
    b[k] = sum / a[k * n + k]!;
  }
  return true;
}
