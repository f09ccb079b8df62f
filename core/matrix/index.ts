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

/** Natural logarithm of the determinant of L·Lᵀ. */
export function lnDeterminant(l: Float64Array, n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i++) sum += 2 * Math.log(l[i * n + i]!);
  return sum;
}

/** The x with L·x = b: its square is bᵀ·(L·Lᵀ)⁻¹·b. */
export function forward(l: Float64Array, b: ArrayLike<number>, n: number): Float64Array {
  const x = new Float64Array(n);
  for (let i = 0; i < n; i++) x[i] = (b[i]! - rowProduct(l, i * n, x, 0, 0, i)) / l[i * n + i]!;
  return x;
}

/** Inverse of a symmetric positive definite matrix, row-wise, n by n. Throws NotPositiveDefinite. */
export function inverse(a: ArrayLike<number>, n: number): Float64Array {
  const l = cholesky(a, n);
  // Columns of the inverse of L, each kept as a row, so that all sums run along rows.
  const columns = new Float64Array(n * n);
  for (let j = 0; j < n; j++) {
    const own = j * n;
    columns[own + j] = 1 / l[own + j]!;
    for (let i = j + 1; i < n; i++) columns[own + i] = -rowProduct(l, i * n, columns, own, j, i) / l[i * n + i]!;
  }
  const result = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const sum = rowProduct(columns, i * n, columns, j * n, i, n);
      result[i * n + j] = sum;
      result[j * n + i] = sum;
    }
  return result;
}
