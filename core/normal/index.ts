/**
 * # The normal distribution
 * Answers: how likely is a value below x. Source: standard normal law; erfc by the Chebyshev fit of
 * Press et al., "Numerical Recipes", section 6.2 (relative error below 1.2e-7 everywhere, so the far tails keep
 * their size and a log of them is safe).
 */

const LN_SQRT_TAU = 0.5 * Math.log(2 * Math.PI);

/** Half width of a 90 % range in standard deviations. */
export const Z90 = 1.6449;

/** Complementary error function. Any real x; result in 0..2. */
export function erfc(x: number): number {
  const z = Math.abs(x);
  const t = 1 / (1 + 0.5 * z);
  const r =
    t *
    Math.exp(
      -z * z -
        1.26551223 +
        t *
          (1.00002368 +
            t *
              (0.37409196 +
                t *
                  (0.09678418 +
                    t * (-0.18628806 + t * (0.27886807 + t * (-1.13520398 + t * (1.48851587 + t * (-0.82215223 + t * 0.17087277)))))))),
    );
  return x >= 0 ? r : 2 - r;
}

/** Error function. Any real x; result in -1..1. */
export function erf(x: number): number {
  return 1 - erfc(x);
}

/** Standard normal cumulative probability, 0..1. */
export function normalCdf(z: number): number {
  return 0.5 * erfc(-z / Math.SQRT2);
}

/** Density of the standard normal law. */
export function normalPdf(z: number): number {
  return Math.exp(-0.5 * z * z - LN_SQRT_TAU);
}

/** Log density of a normal law with the given mean and variance (> 0). */
export function logNormalPdf(x: number, mean: number, variance: number): number {
  const d = x - mean;
  return -0.5 * ((d * d) / variance + Math.log(variance)) - LN_SQRT_TAU;
}

const TABLE_STEP = 1 / 256;
const TABLE_LIMIT = 6;
const TABLE = (() => {
  const n = (2 * TABLE_LIMIT) / TABLE_STEP + 2;
  const table = new Float64Array(n);
  for (let i = 0; i < n; i++) table[i] = normalCdf(-TABLE_LIMIT + i * TABLE_STEP);
  return table;
})();

/** Tabled cumulative probability for inner loops: linear between 1/256 steps, absolute error below 1e-6. */
export function tabledNormalCdf(z: number): number {
  if (z <= -TABLE_LIMIT) return 0;
  if (z >= TABLE_LIMIT) return 1;
  const p = (z + TABLE_LIMIT) / TABLE_STEP;
  const i = p | 0;
  const lower = TABLE[i]!;
  return lower + (TABLE[i + 1]! - lower) * (p - i);
}
