/** A row of sets in the readings' joint Gaussian: what two faults explain is worked out once, and each third is added to it. */
import { type CutLaw, predictiveMoments } from "./cutReading";
import type { LossModel } from "./losses";
import type { SetPosterior } from "./weigh";

export interface LightRow {
  readonly newPosterior: () => SetPosterior;
  /** Losses of {a, b}. */
  readonly base: SetPosterior;
  /** Begins a row of {a, b}, -1 for none: the likelihood of the readings and the cuts under them, over that of `best` (ln). */
  readonly begin: (a: number, b: number, best: number) => number;
  /** The same under {a, b} and a state besides; its losses are in `out` then, at the place after theirs. */
  readonly extend: (state: number, out: SetPosterior) => number;
}

/**
 * Adds a state to a set by conditioning: with the losses of {a, b} integrated out it is one more direction over the readings, in the metric
 * and with the residual that are left (Schur complement). Where it pushes the beam off axis together with one of them, the set is weighed as
 * a whole.
 */
export function lightRow(losses: LossModel, cuts: readonly CutLaw[]): LightRow {
  const { priorMean, priorVariance, toldAlone, movesBeam } = losses;
  const { g, gram, vectors, clipped } = losses.factored;
  const base = losses.newPosterior();
  const moments = { mean: 0, variance: 0 };
  const cutMean = new Float64Array(cuts.length);
  const cutVariance = new Float64Array(cuts.length);
  const gainA = new Float64Array(cuts.length);
  const gainB = new Float64Array(cuts.length);
  const lights = cuts.map((cut) => cut.light);
  const likelihoods = cuts.map((cut) => cut.likelihood);
  let a = -1;
  let b = -1;
  let top = 0;
  let moves = false;

  const cutsUnder = (x: number, y: number, z: number, post: SetPosterior, keeps: boolean): number => {
    let product = 1;
    for (let i = 0; i < cuts.length; i++) {
      predictiveMoments(lights[i]!, post, x, y, z, moments);
      product *= likelihoods[i]!(moments.mean, moments.variance);
      if (!keeps) continue;
      cutMean[i] = moments.mean;
      cutVariance[i] = moments.variance;
      gainA[i] = x < 0 ? 0 : lights[i]!.gain[x]!;
      gainB[i] = y < 0 ? 0 : lights[i]!.gain[y]!;
    }
    return product;
  };
  const begin = (x: number, y: number, best: number): number => {
    a = x;
    b = y;
    top = best;
    moves = (a >= 0 && movesBeam[a] === 1) || (b >= 0 && movesBeam[b] === 1);
    losses.evaluate(a, b, -1, base);
    return Math.exp(base.logLikelihood - best) * cutsUnder(a, b, -1, base, true);
  };
  const asWhole = (s: number, out: SetPosterior): number => {
    const y = b < 0 ? s : b;
    const z = b < 0 ? -1 : s;
    losses.evaluate(a, y, z, out);
    return Math.exp(out.logLikelihood - top) * cutsUnder(a, y, z, out, false);
  };
  const extend = (s: number, out: SetPosterior): number => {
    if (moves && movesBeam[s] === 1) return asWhole(s, out);
    const { mean, cov } = base;
    const m = priorMean[s]!;
    const d = 1 / priorVariance[s]!;
    const own = s * vectors;
    // What it shares with the two, and how much of it they explain; what it shares with nothing is 0.
    const uA = a < 0 ? 0 : gram[own + a]!;
    const uB = b < 0 ? 0 : gram[own + b]!;
    const vA = cov[0]! * uA + cov[1]! * uB;
    const vB = cov[1]! * uA + cov[4]! * uB;
    const metric = gram[own + s]! - uA * vA - uB * vB;
    const along = g[s]! + uA * mean[0]! + uB * mean[1]! + (base.extra === 0 ? 0 : base.extra * gram[own + clipped + base.extraAt]!);
    const variance = 1 / (d + metric);
    const loss = (m * d - along) * variance;
    const shift = along + m * metric;
    const quad = m * (along + shift) - shift * shift * variance;
    let seen = Math.exp(base.logLikelihood - top - toldAlone[s]! - 0.5 * quad) * Math.sqrt(d * variance);
    for (let i = 0; i < cutMean.length; i++) {
      const gain = lights[i]!.gain[s]! - gainA[i]! * vA - gainB[i]! * vB;
      seen *= likelihoods[i]!(cutMean[i]! - gain * loss, cutVariance[i]! + gain * gain * variance);
    }
    const at = a < 0 ? 0 : b < 0 ? 1 : 2;
    out.mean[at] = loss;
    out.cov[4 * at] = variance;
    if (at > 0) {
      out.mean[0] = mean[0]! - vA * loss;
      out.cov[0] = cov[0]! + vA * vA * variance;
      out.cov[at] = out.cov[3 * at] = -vA * variance;
    }
    if (at > 1) {
      out.mean[1] = mean[1]! - vB * loss;
      out.cov[4] = cov[4]! + vB * vB * variance;
      out.cov[1] = out.cov[3] = cov[1]! + vA * vB * variance;
      out.cov[5] = out.cov[7] = -vB * variance;
    }
    return seen;
  };
  return { newPosterior: losses.newPosterior, base, begin, extend };
}
