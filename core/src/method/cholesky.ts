/**
 * Factor of a symmetric positive definite matrix in place (Cholesky), lower triangle. Rows of unpinned unknowns only.
 * @throws Refusal when the matrix is singular.
 */
import { refusal } from '../refusal/refusal.js';
export function cholesky(a: Float64Array, n: number): void {
  for (let j = 0; j < n; j++) {
    for (let i = j; i < n; i++) {
      let sum = a[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= a[i * n + k]! * a[j * n + k]!;
      if (i === j) {
        if (!(sum > 0)) throw refusal('netApart');
        a[j * n + j] = Math.sqrt(sum);
      } else a[i * n + j] = sum / a[j * n + j]!;
    }
  }
}
/** Solves A x = b from the factor `cholesky` left. */
export function solveFactored(l: Float64Array, n: number, b: Float64Array): Float64Array {
  const x = b.slice();
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) x[i]! -= l[i * n + k]! * x[k]!;
    x[i]! /= l[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i]! -= l[k * n + i]! * x[k]!;
    x[i]! /= l[i * n + i]!;
  }
  return x;
}

/** Inverse of a symmetric positive definite matrix, row by row. @throws Refusal when it is singular. */
export function inverse(a: Float64Array, n: number): Float64Array {
  const l = a.slice();
  cholesky(l, n);
  const out = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    const unit = new Float64Array(n);
    unit[i] = 1;
    out.set(solveFactored(l, n, unit), i * n);
  }
  return out;
}
