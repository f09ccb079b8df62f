/** A cut as a reading: censored light. Through means the need or more, anything less at most so much. */
import { tabledNormalCdf } from "#core/normal";
import { SLIP } from "./findings";
import type { Predictive } from "./losses";
import type { SetPosterior } from "./weigh";

/**
 * Ln effective power that an owner's usual cut needs: the usual setting leaves 8 % below the v50 of a good machine, on top of
 * the fouling between two rounds.
 */
const USUAL_NEED = Math.log(0.87);
/** How far below the need a cut still hangs, and how far it only marks the surface, in ln effective power. */
const HANGS_WITHIN = 0.07;
const SURFACE_BELOW = 0.55;
const CUT_SD = 0.05;

/**
 * P(through, hangs, part-through, surface-only) of a cut that needs `neededLnRatio`, for ln effective power N(mean, variance): a
 * censored reading, through means at least the need, anything less at most.
 */
export function cutOutcomes(mean: number, variance: number, out: Float64Array, neededLnRatio = USUAL_NEED): void {
  const sd = Math.sqrt(variance + CUT_SD * CUT_SD);
  const surface = tabledNormalCdf((neededLnRatio - SURFACE_BELOW - mean) / sd);
  const part = tabledNormalCdf((neededLnRatio - HANGS_WITHIN - mean) / sd);
  const hangs = tabledNormalCdf((neededLnRatio - mean) / sd);
  const slip = SLIP / 4;
  out[0] = (1 - SLIP) * (1 - hangs) + slip;
  out[1] = (1 - SLIP) * (hangs - part) + slip;
  out[2] = (1 - SLIP) * (part - surface) + slip;
  out[3] = (1 - SLIP) * surface + slip;
}

/** How far below its need a cut of each outcome is at least, and at most, in ln effective power. */
const BELOW = [Number.NEGATIVE_INFINITY, 0, HANGS_WITHIN, SURFACE_BELOW, Number.POSITIVE_INFINITY] as const;

/** Held here, since an import is looked up at each of a hundred thousand uses. */
const cdf = tabledNormalCdf;
const MEANT = 1 - SLIP;
const SLIPPED = SLIP / 4;

/** Probability of the one outcome that was seen: the same as in `cutOutcomes`, for the inner loop. */
export function cutLikelihood(mean: number, variance: number, outcome: number, neededLnRatio = USUAL_NEED): number {
  const gap = neededLnRatio - mean;
  const sd = Math.sqrt(variance + CUT_SD * CUT_SD);
  const above = outcome === 0 ? 1 : cdf((gap - BELOW[outcome]!) / sd);
  const below = outcome === 3 ? 0 : cdf((gap - BELOW[outcome + 1]!) / sd);
  return MEANT * (above - below) + SLIPPED;
}

/** Mean and variance of a further reading under a set that was just evaluated into `post`. */
export function predictiveMoments(
  law: Predictive,
  post: SetPosterior,
  a: number,
  b: number,
  c: number,
  out: { mean: number; variance: number },
): void {
  let mean = law.baseMean;
  let variance = law.baseVariance;
  if (a >= 0) {
    const g0 = law.gain[a]!;
    mean -= g0 * post.mean[0]!;
    variance += g0 * g0 * post.cov[0]!;
    if (b >= 0) {
      const g1 = law.gain[b]!;
      mean -= g1 * post.mean[1]! + post.extra * law.extraGain[post.extraAt]!;
      variance += g1 * g1 * post.cov[4]! + 2 * g0 * g1 * post.cov[1]!;
      if (c >= 0) {
        const g2 = law.gain[c]!;
        mean -= g2 * post.mean[2]!;
        variance += g2 * g2 * post.cov[8]! + 2 * g0 * g2 * post.cov[2]! + 2 * g1 * g2 * post.cov[5]!;
      }
    }
  }
  out.mean = mean;
  out.variance = Math.max(1e-9, variance);
}
