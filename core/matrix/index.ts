/**
 * # Small dense matrices
 * Answers: the inverse of a covariance or a precision of a few dozen rows. By Cholesky's factorisation, which is stable for symmetric
 * positive definite matrices and fails on any other (Golub and Van Loan, "Matrix Computations", section 4.2).
 */

/** The matrix is not positive definite: it is no covariance. */
export class NotPositiveDefinite extends RangeError {
  override readonly name = "NotPositiveDefinite";
  constructor(readonly row: number) {
    super(`row ${row} makes the matrix not positive definite: it cannot be a covariance`);
  }
}

/**
 * Lower triangle L with L·Lᵀ = A, row-wise in an n by n array whose upper triangle is 0. Reads the lower triangle of A only. Throws
 * NotPositiveDefinite.
 */
export function cholesky(a: ArrayLike<number>, n: number): Float64Array {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = a[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= l[i * n + k]! * l[j * n + k]!;
      if (i !== j) l[i * n + j] = sum / l[j * n + j]!;
      else if (sum > 0) l[i * n + i] = Math.sqrt(sum);
      else throw new NotPositiveDefinite(i);
    }
  }
  return l;
}

/** Inverse of a symmetric positive definite matrix, row-wise, n by n. Throws NotPositiveDefinite. */
export function inverse(a: ArrayLike<number>, n: number): Float64Array {
  const l = cholesky(a, n);
  const result = new Float64Array(n * n);
  const x = new Float64Array(n);
  for (let column = 0; column < n; column++) {
    // Forward through L, then back through its transpose.
    for (let i = 0; i < n; i++) {
      let sum = i === column ? 1 : 0;
      for (let k = column; k < i; k++) sum -= l[i * n + k]! * x[k]!;
      x[i] = i < column ? 0 : sum / l[i * n + i]!;
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = x[i]!;
      for (let k = i + 1; k < n; k++) sum -= l[k * n + i]! * x[k]!;
      x[i] = sum / l[i * n + i]!;
    }
    for (let i = 0; i < n; i++) result[i * n + column] = x[i]!;
  }
  return result;
}
