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

/** Sum of the products of two rows, from one place to before another. */
function rowProduct(a: Float64Array, rowA: number, b: Float64Array, rowB: number, from: number, to: number): number {
  let sum = 0;
  for (let k = from; k < to; k++) sum += a[rowA + k]! * b[rowB + k]!;
  return sum;
}

/**
 * Lower triangle L with L·Lᵀ = A, row-wise in an n by n array whose upper triangle is 0. Reads the lower triangle of A only. Throws
 * NotPositiveDefinite.
 */
export function cholesky(a: ArrayLike<number>, n: number): Float64Array {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      const sum = a[i * n + j]! - rowProduct(l, i * n, l, j * n, 0, j);
      if (i !== j) l[i * n + j] = sum / l[j * n + j]!;
      else if (sum > 0) l[i * n + i] = Math.sqrt(sum);
      else throw new NotPositiveDefinite(i);
    }
  }
  return l;
}

/** A symmetric positive definite matrix turned round. */
export interface Inverted {
  /** Row-wise, n by n. */
  readonly inverse: Float64Array;
  /** Natural logarithm of the matrix's own determinant. */
  readonly lnDeterminant: number;
}

/** Inverse and determinant of a symmetric positive definite matrix, n by n. Throws NotPositiveDefinite. */
export function invert(a: ArrayLike<number>, n: number): Inverted {
  const l = cholesky(a, n);
  // Columns of the inverse of L, each kept as a row, so that all sums below run along rows.
  const columns = new Float64Array(n * n);
  let lnDeterminant = 0;
  for (let j = 0; j < n; j++) {
    const own = j * n;
    columns[own + j] = 1 / l[own + j]!;
    lnDeterminant += 2 * Math.log(l[own + j]!);
    for (let i = j + 1; i < n; i++) {
      const row = i * n;
      columns[own + i] = -rowProduct(l, row, columns, own, j, i) / l[row + i]!;
    }
  }
  const inverse = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const sum = rowProduct(columns, i * n, columns, j * n, i, n);
      inverse[i * n + j] = sum;
      inverse[j * n + i] = sum;
    }
  return { inverse, lnDeterminant };
}

/** Natural logarithm of the determinant alone. Throws NotPositiveDefinite. */
export function lnDeterminantOf(a: ArrayLike<number>, n: number): number {
  const l = cholesky(a, n);
  let sum = 0;
  for (let i = 0; i < n; i++) sum += 2 * Math.log(l[i * n + i]!);
  return sum;
}

/** The inverse alone. */
export const inverse = (a: ArrayLike<number>, n: number): Float64Array => invert(a, n).inverse;
