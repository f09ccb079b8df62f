/** Weighs sets of up to three faults by the readings' joint Gaussian, factored once for all of them. The inner loops of a trace. */
import { inverse as inverseOf } from "#core/matrix";
import type { LossReading } from "./readings";
import { residualsOf, type Sight, type States } from "./sight";

/** What one set of faults says of the lost light, given the readings. Reused between calls: copy what must last. */
export interface SetPosterior {
  logLikelihood: number;
  /** Posterior mean loss of the first, second and third fault state. */
  readonly mean: Float64Array;
  /** Their covariance, 3 x 3 row-wise. */
  readonly cov: Float64Array;
  /** Extra loss (ln) because several faults push the beam off axis together, and where it shows. */
  extra: number;
  extraAt: number;
}

/** The readings' joint Gaussian, factored: all that a set of faults is weighed by. */
export interface Factored {
  readonly states: States;
  /** Number of directions: one a state, then one a place for its fouling, then one a place for the off-axis extra; those begin at `clipped`. */
  readonly vectors: number;
  readonly clipped: number;
  readonly residual: Float64Array;
  readonly inverse: Float64Array;
  /** Directions over the readings, row by row. */
  readonly a: Float64Array;
  /** Residual seen along each direction, and the directions' products with each other, both in the metric of the covariance. */
  readonly g: Float64Array;
  readonly gram: Float64Array;
  /** The residual's own product. */
  readonly q0: number;
}

export function dot(x: Float64Array, xOffset: number, y: Float64Array, yOffset: number, n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i++) sum += x[xOffset + i]! * y[yOffset + i]!;
  return sum;
}

export function factor(states: States, places: number, sight: Sight, readings: readonly LossReading[]): Factored {
  const n = readings.length;
  const clipped = states.count + places;
  const vectors = clipped + places;
  const residual = residualsOf(readings, sight);
  const covariance = new Float64Array(n * n);
  readings.forEach((r, i) => {
    readings.forEach((q, k) => {
      covariance[i * n + k] = sight.covariance(r, q) + (i === k ? r.sd * r.sd : 0);
    });
  });
  const inverse = inverseOf(covariance, n);
  const a = new Float64Array(vectors * n);
  const wa = new Float64Array(vectors * n);
  for (let v = 0; v < vectors; v++) {
    readings.forEach((r, i) => {
      a[v * n + i] = sight.direction(r, v);
    });
    for (let i = 0; i < n; i++) wa[v * n + i] = dot(inverse, i * n, a, v * n, n);
  }
  const wr = new Float64Array(n);
  for (let i = 0; i < n; i++) wr[i] = dot(inverse, i * n, residual, 0, n);
  const g = new Float64Array(vectors);
  const gram = new Float64Array(vectors * vectors);
  for (let v = 0; v < vectors; v++) {
    g[v] = dot(a, v * n, wr, 0, n);
    for (let u = 0; u < vectors; u++) gram[v * vectors + u] = dot(a, v * n, wa, u * n, n);
  }
  return { states, vectors, clipped, residual, inverse, a, g, gram, q0: dot(wr, 0, residual, 0, n) };
}

/** Weighs one fault. */
export function weighOne({ states, vectors, g, gram, q0 }: Factored, s0: number, out: SetPosterior): void {
  const m0 = states.mean[s0]!;
  const d0 = 1 / states.variance[s0]!;
  const g00 = gram[s0 * vectors + s0]!;
  const t0 = g[s0]! + m0 * g00;
  const c = 1 / (d0 + g00);
  const quad = q0 + m0 * (2 * g[s0]! + m0 * g00);
  out.logLikelihood = -0.5 * (quad - t0 * t0 * c + Math.log((d0 + g00) / d0));
  out.mean[0] = m0 - c * t0;
  out.cov[0] = c;
}

/** What the off-axis extra of a set adds to its quadratic form by itself. */
function ownExtra({ clipped, vectors, g, gram }: Factored, out: SetPosterior): number {
  const x = out.extra;
  const e = clipped + out.extraAt;
  return x === 0 ? 0 : x * (2 * g[e]! + x * gram[e * vectors + e]!);
}

/** Weighs two faults together, with the extra already in `out`. */
export function weighTwo(f: Factored, s0: number, s1: number, out: SetPosterior): void {
  const { states, vectors, clipped, g, gram, q0 } = f;
  const { mean, cov, extra: x } = out;
  const e = clipped + out.extraAt;
  const m0 = states.mean[s0]!;
  const d0 = 1 / states.variance[s0]!;
  const m1 = states.mean[s1]!;
  const d1 = 1 / states.variance[s1]!;
  const g00 = gram[s0 * vectors + s0]!;
  const g11 = gram[s1 * vectors + s1]!;
  const g01 = gram[s0 * vectors + s1]!;
  const xe0 = x === 0 ? 0 : x * gram[s0 * vectors + e]!;
  const xe1 = x === 0 ? 0 : x * gram[s1 * vectors + e]!;
  const t0 = g[s0]! + m0 * g00 + m1 * g01 + xe0;
  const t1 = g[s1]! + m0 * g01 + m1 * g11 + xe1;
  const quad = q0 + m0 * (g[s0]! + t0 + xe0) + m1 * (g[s1]! + t1 + xe1) + ownExtra(f, out);
  const p = d0 + g00;
  const q = d1 + g11;
  const det = p * q - g01 * g01;
  const c00 = q / det;
  const c11 = p / det;
  const c01 = -g01 / det;
  out.logLikelihood = -0.5 * (quad - (c00 * t0 * t0 + 2 * c01 * t0 * t1 + c11 * t1 * t1) + Math.log(det / (d0 * d1)));
  mean[0] = m0 - (c00 * t0 + c01 * t1);
  mean[1] = m1 - (c01 * t0 + c11 * t1);
  cov[0] = c00;
  cov[1] = cov[3] = c01;
  cov[4] = c11;
}

/** Weighs three faults together, with the extra already in `out`. */
export function weighThree(f: Factored, s0: number, s1: number, s2: number, out: SetPosterior): void {
  const { states, vectors, clipped, g, gram, q0 } = f;
  const { mean, cov, extra: x } = out;
  const e = clipped + out.extraAt;
  const m0 = states.mean[s0]!;
  const d0 = 1 / states.variance[s0]!;
  const m1 = states.mean[s1]!;
  const d1 = 1 / states.variance[s1]!;
  const g00 = gram[s0 * vectors + s0]!;
  const g11 = gram[s1 * vectors + s1]!;
  const g01 = gram[s0 * vectors + s1]!;
  const xe0 = x === 0 ? 0 : x * gram[s0 * vectors + e]!;
  const xe1 = x === 0 ? 0 : x * gram[s1 * vectors + e]!;
  const m2 = states.mean[s2]!;
  const d2 = 1 / states.variance[s2]!;
  const g22 = gram[s2 * vectors + s2]!;
  const g02 = gram[s0 * vectors + s2]!;
  const g12 = gram[s1 * vectors + s2]!;
  const xe2 = x === 0 ? 0 : x * gram[s2 * vectors + e]!;
  const t0 = g[s0]! + m0 * g00 + m1 * g01 + m2 * g02 + xe0;
  const t1 = g[s1]! + m0 * g01 + m1 * g11 + m2 * g12 + xe1;
  const t2 = g[s2]! + m0 * g02 + m1 * g12 + m2 * g22 + xe2;
  const quad = q0 + m0 * (g[s0]! + t0 + xe0) + m1 * (g[s1]! + t1 + xe1) + m2 * (g[s2]! + t2 + xe2) + ownExtra(f, out);
  const p = d0 + g00;
  const q = d1 + g11;
  const r = d2 + g22;
  const k00 = q * r - g12 * g12;
  const k01 = g02 * g12 - g01 * r;
  const k02 = g01 * g12 - g02 * q;
  const det = p * k00 + g01 * k01 + g02 * k02;
  cov[0] = k00 / det;
  cov[1] = cov[3] = k01 / det;
  cov[2] = cov[6] = k02 / det;
  cov[4] = (p * r - g02 * g02) / det;
  cov[5] = cov[7] = (g01 * g02 - g12 * p) / det;
  cov[8] = (p * q - g01 * g01) / det;
  const z0 = cov[0]! * t0 + cov[1]! * t1 + cov[2]! * t2;
  const z1 = cov[3]! * t0 + cov[4]! * t1 + cov[5]! * t2;
  const z2 = cov[6]! * t0 + cov[7]! * t1 + cov[8]! * t2;
  out.logLikelihood = -0.5 * (quad - (t0 * z0 + t1 * z1 + t2 * z2) + Math.log(det / (d0 * d1 * d2)));
  mean[0] = m0 - z0;
  mean[1] = m1 - z1;
  mean[2] = m2 - z2;
}
