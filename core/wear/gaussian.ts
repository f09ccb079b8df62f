/**
 * One Gaussian over everything wear is made of, built up from priors, chains and readings. Readings that only bound a sum are taken in by
 * expectation propagation (Rasmussen and Williams, "Gaussian Processes for Machine Learning", section 3.6), with a share of them told wrong;
 * the covariance is brought forward by rank-one updates (Sherman and Morrison).
 */
import { cholesky, forward, inverse, lnDeterminant } from "#core/matrix";
import { normalCdf, normalPdf } from "#core/normal";

/** A row of the design, by its entries that are not nought. */
export interface Row {
  readonly at: readonly number[];
  readonly value: readonly number[];
}

/** A sum of rows, each times a figure. */
export function sumOfRows(...parts: readonly (readonly [Row, number])[]): Row {
  const sums = new Map<number, number>();
  for (const [row, times] of parts) for (const [k, at] of row.at.entries()) sums.set(at, (sums.get(at) ?? 0) + times * row.value[k]!);
  const kept = [...sums].filter(([, v]) => v !== 0);
  return { at: kept.map(([at]) => at), value: kept.map(([, v]) => v) };
}

/** Says that a row's sum, blurred by `variance`, lies above (1) or below (-1) a threshold; a share of such words is wrong. */
export interface Bound {
  readonly row: Row;
  readonly side: 1 | -1;
  readonly threshold: number;
  readonly variance: number;
  readonly wrong: number;
}

/** Mean and covariance (row-wise, n by n). */
export interface Posterior {
  readonly n: number;
  readonly mean: Float64Array;
  readonly covariance: Float64Array;
}

/** Mean and variance of a row's sum. */
export function ofRow({ n, mean, covariance }: Posterior, row: Row): { readonly mean: number; readonly variance: number } {
  let [m, v] = [0, 0];
  for (const [k, i] of row.at.entries()) {
    m += row.value[k]! * mean[i]!;
    for (const [l, j] of row.at.entries()) v += row.value[k]! * row.value[l]! * covariance[i * n + j]!;
  }
  return { mean: m, variance: Math.max(0, v) };
}

/** Covariance of two rows' sums. */
export function between({ n, covariance }: Posterior, a: Row, b: Row): number {
  let sum = 0;
  for (const [k, i] of a.at.entries()) for (const [l, j] of b.at.entries()) sum += a.value[k]! * b.value[l]! * covariance[i * n + j]!;
  return sum;
}

/** Prior and readings in precision form. Priors first, then readings. */
export class Field {
  private readonly prior: Float64Array;
  private readonly priorShift: Float64Array;
  private priorSquare = 0;
  constructor(
    readonly n: number,
    private readonly read: { readonly precision: Float64Array; readonly shift: Float64Array; square: number },
  ) {
    this.prior = new Float64Array(n * n);
    this.priorShift = new Float64Array(n);
  }

  static readingsOf(n: number): Field["read"] {
    return { precision: new Float64Array(n * n), shift: new Float64Array(n), square: 0 };
  }

  expect(i: number, mean: number, sd: number): void {
    this.prior[i * this.n + i] = this.prior[i * this.n + i]! + 1 / sd ** 2;
    this.priorShift[i] = this.priorShift[i]! + mean / sd ** 2;
    this.priorSquare += (mean / sd) ** 2;
  }

  /** Neighbours in a chain: i differs from j by nothing, give or take; i from nought where j is left out. */
  chain(i: number, j: number | undefined, variance: number): void {
    const { n, prior } = this;
    prior[i * n + i] = prior[i * n + i]! + 1 / variance;
    if (j === undefined) return;
    prior[j * n + j] = prior[j * n + j]! + 1 / variance;
    prior[i * n + j] = prior[i * n + j]! - 1 / variance;
    prior[j * n + i] = prior[j * n + i]! - 1 / variance;
  }

  /** Figures from `at` on that share one mean: each differs from it by `own`, all together by `common` (standard deviations). */
  alike(at: number, count: number, mean: number, own: number, common: number): void {
    if (count === 0) return;
    const cov = Float64Array.from({ length: count * count }, (_, k) => common ** 2 + (Math.floor(k / count) === k % count ? own ** 2 : 0));
    const precision = inverse(cov, count);
    for (let a = 0; a < count; a++)
      for (let b = 0; b < count; b++) {
        const p = precision[a * count + b]!;
        this.prior[(at + a) * this.n + at + b] = this.prior[(at + a) * this.n + at + b]! + p;
        this.priorShift[at + a] = this.priorShift[at + a]! + p * mean;
        this.priorSquare += p * mean * mean;
      }
  }

  /** What is believed after the readings. */
  posterior(): Posterior {
    const { n } = this;
    const { precision, shift } = this.withReadings();
    const covariance = inverse(precision, n);
    return { n, mean: multiply(covariance, shift, n), covariance };
  }

  /** How likely the readings were (ln, up to what is the same for every prior). */
  logEvidence(): number {
    const { n, prior, read, priorSquare } = this;
    const { precision, shift } = this.withReadings();
    const factor = cholesky(precision, n);
    const fit = forward(factor, shift, n).reduce((sum, x) => sum + x * x, 0);
    return (lnDeterminant(cholesky(prior, n), n) - lnDeterminant(factor, n) - (read.square + priorSquare - fit)) / 2;
  }

  private withReadings() {
    const { prior, priorShift, read } = this;
    return { precision: prior.map((p, k) => p + read.precision[k]!), shift: priorShift.map((s, k) => s + read.shift[k]!) };
  }

  /** The same with bounds taken in. */
  withBounds(bounds: readonly Bound[]): Posterior {
    const { precision, shift } = this.withReadings();
    return propagate(precision, shift, bounds, this.n);
  }
}

/** Takes a reading of a row's sum in. */
export function observe(read: Field["read"], n: number, { at, value }: Row, sum: number, variance: number): void {
  const weight = 1 / variance;
  read.square += weight * sum * sum;
  for (let i = 0; i < at.length; i++) {
    read.shift[at[i]!] = read.shift[at[i]!]! + weight * value[i]! * sum;
    for (let j = 0; j < at.length; j++)
      read.precision[at[i]! * n + at[j]!] = read.precision[at[i]! * n + at[j]!]! + weight * value[i]! * value[j]!;
  }
}

/** Passes over the bounds; they settle after three or four. */
const SWEEPS = 6;
const SETTLED = 1e-3;

function propagate(precision: Float64Array, shift: Float64Array, bounds: readonly Bound[], n: number): Posterior {
  let covariance = inverse(precision, n);
  let mean = multiply(covariance, shift, n);
  const sites = bounds.map((b) => ({ ...b, precision: 0, shift: 0 }));
  const c = new Float64Array(n);
  for (let sweep = 0; sweep < SWEEPS && sites.length > 0; sweep++) {
    let moved = 0;
    for (const s of sites) {
      const { at, value } = s.row;
      c.fill(0);
      for (let k = 0; k < at.length; k++) for (let i = 0; i < n; i++) c[i] = c[i]! + covariance[i * n + at[k]!]! * value[k]!;
      let [variance, middle] = [0, 0];
      for (let k = 0; k < at.length; k++) {
        variance += value[k]! * c[at[k]!]!;
        middle += value[k]! * mean[at[k]!]!;
      }
      const met = matched(s, middle, variance);
      if (!met) continue;
      const [dp, ds] = [met.precision - s.precision, met.shift - s.shift];
      if (dp === 0 && ds === 0) continue;
      s.precision = met.precision;
      s.shift = met.shift;
      moved = Math.max(moved, Math.abs(dp) * variance, Math.abs(ds) * Math.sqrt(variance));
      const gain = dp / (1 + dp * variance);
      const pull = ds - gain * (middle + ds * variance);
      for (let i = 0; i < n; i++) {
        if (c[i] === 0) continue;
        mean[i] = mean[i]! + pull * c[i]!;
        for (let j = 0; j < n; j++) covariance[i * n + j] = covariance[i * n + j]! - gain * c[i]! * c[j]!;
      }
    }
    // Rank-one updates drift; each pass begins from the exact inverse.
    const exact = precision.slice();
    const pushed = shift.slice();
    for (const s of sites)
      for (let i = 0; i < s.row.at.length; i++) {
        const a = s.row.at[i]!;
        pushed[a] = pushed[a]! + s.shift * s.row.value[i]!;
        for (let j = 0; j < s.row.at.length; j++)
          exact[a * n + s.row.at[j]!] = exact[a * n + s.row.at[j]!]! + s.precision * s.row.value[i]! * s.row.value[j]!;
      }
    covariance = inverse(exact, n);
    mean = multiply(covariance, pushed, n);
    if (moved < SETTLED) break;
  }
  return { n, mean, covariance };
}

/** What a bound says by itself of its row's sum, as a Gaussian: matched to the mean and spread it leaves. */
function matched(
  s: Bound & { readonly precision: number; readonly shift: number },
  middle: number,
  variance: number,
): { precision: number; shift: number } | undefined {
  // Without its own word: what all the others say of this row.
  const freePrecision = 1 / variance - s.precision;
  if (!(freePrecision > 1e-9)) return undefined;
  const freeVariance = 1 / freePrecision;
  const freeMean = freeVariance * (middle / variance - s.shift);
  const spread = Math.sqrt(freeVariance + s.variance);
  const z = (s.side * (freeMean - s.threshold)) / spread;
  const right = 1 - 2 * s.wrong;
  const hazard = z < -12 && s.wrong === 0 ? -z : (right * normalPdf(z)) / Math.max(1e-300, s.wrong + right * normalCdf(z));
  const left = freeVariance - (freeVariance ** 2 / spread ** 2) * hazard * (z + hazard);
  const met = freeMean + (s.side * freeVariance * hazard) / spread;
  if (!(left > 0) || !Number.isFinite(met)) return undefined;
  const precision = Math.max(0, 1 / left - freePrecision);
  return { precision, shift: precision === 0 ? 0 : met / left - freeMean / freeVariance };
}

function multiply(matrix: Float64Array, x: Float64Array, n: number): Float64Array {
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (let j = 0; j < n; j++) sum += matrix[i * n + j]! * x[j]!;
    out[i] = sum;
  }
  return out;
}
