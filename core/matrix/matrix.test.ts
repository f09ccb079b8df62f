import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cholesky, forward, inverse, lnDeterminant, NotPositiveDefinite } from "#core/matrix";

/** B·Bᵀ + d·I is positive definite for any B. */
const definite = fc.integer({ min: 1, max: 7 }).chain((n) =>
  fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: n * n, maxLength: n * n }).map((b) => {
    const a = Array.from({ length: n * n }, (_, at) => {
      const [i, j] = [Math.floor(at / n), at % n];
      let sum = i === j ? 0.1 : 0;
      for (let k = 0; k < n; k++) sum += b[i * n + k]! * b[j * n + k]!;
      return sum;
    });
    return { a, n };
  }),
);
const times = (a: ArrayLike<number>, b: ArrayLike<number>, n: number) =>
  Array.from({ length: n * n }, (_, at) => {
    let sum = 0;
    for (let k = 0; k < n; k++) sum += a[Math.floor(at / n) * n + k]! * b[k * n + (at % n)]!;
    return sum;
  });

describe("small matrices", () => {
  it("gives an inverse that undoes the matrix, and is symmetric", () => {
    fc.assert(
      fc.property(definite, ({ a, n }) => {
        const inverted = inverse(a, n);
        times(a, inverted, n).forEach((v, at) => {
          expect(v).toBeCloseTo(at % (n + 1) === 0 ? 1 : 0, 6);
        });
        for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) expect(inverted[i * n + j]).toBeCloseTo(inverted[j * n + i]!, 6);
      }),
    );
  });

  it("factors what is known by hand", () => {
    expect([...cholesky([4, 2, 2, 3], 2)]).toEqual([2, 0, 1, Math.SQRT2]);
    const factor = cholesky([4, 2, 2, 3], 2);
    expect(lnDeterminant(factor, 2)).toBeCloseTo(Math.log(8), 12);
    expect([...forward(factor, [2, 3], 2)]).toEqual([1, 2 / Math.SQRT2]);
  });

  it("refuses what is no covariance, and names the row", () => {
    expect(() => inverse([1, 2, 2, 1], 2)).toThrow(NotPositiveDefinite);
    expect(() => inverse([1, 2, 2, 1], 2)).toThrow(/row 1/);
    expect(() => inverse([0], 1)).toThrow(/row 0/);
  });
});
