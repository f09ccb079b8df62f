/** A cut as a reading: censored light. Through means the need or more, anything less at most so much. */
import { tabledNormalCdf } from "#core/normal";
import { SLIP } from "../model/slips";
import type { Predictive } from "./losses";
import type { SetPosterior } from "./weigh";

/** How far below the need a cut still hangs, and how far it only marks the surface, in ln effective power. */
const HANGS_WITHIN = 0.07;
const SURFACE_BELOW = 0.55;
/** Spread of a cut (ln effective power): its own, 0.05, and as much of what it needs. */
const CUT_SD = 0.07;

/**
 * P(through, hangs, part-through, surface-only) of a cut that needs `neededLnRatio`, for ln effective power N(mean, variance): a
 * censored reading, through means at least the need, anything less at most.
 */
export function cutOutcomes(mean: number, variance: number, out: Float64Array, neededLnRatio: number): void {
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
export function cutLikelihood(mean: number, variance: number, outcome: number, neededLnRatio: number, orWorse = false): number {
  const gap = neededLnRatio - mean;
  const sd = Math.sqrt(variance + CUT_SD * CUT_SD);
  const above = outcome === 0 ? 1 : cdf((gap - BELOW[outcome]!) / sd);
  const below = outcome === 3 || orWorse ? 0 : cdf((gap - BELOW[outcome + 1]!) / sd);
  return MEANT * (above - below) + SLIPPED;
}

/** A cut that was made: the place of its outcome among `cutOutcomes`, and and what it needed. */
export interface CutMade {
  readonly outcome: number;
  readonly neededLnRatio: number;
  /** Whether it may have been worse: who says that it does not cut through does not say how far it came. */
  readonly orWorse?: boolean | undefined;
}

/** Nodes in standard deviations and their weights, the middle one and one side: the trapezoid rule, exact enough for edges of `CUT_SD`. */
const NODES = Array.from({ length: 8 }, (_, i) => 0.55 * i);
const WEIGHTS = (() => {
  const density = NODES.map((z) => Math.exp(-0.5 * z * z));
  const total = 2 * density.reduce((sum, d) => sum + d, 0) - density[0]!;
  return density.map((d) => d / total);
})();
/** Where the light of a cut is tabled, in ln effective power. */
const FROM = -2.4;
const UNTIL = 1.2;
const STEP = 0.01;
/** And its spread, up to the widest that is tabled. */
const SD_STEP = 0.01;
const MOST_SD = 0.6;

/**
 * Likelihood of all cuts that were made of the same light, as a function of its mean and variance (ln effective power). Each cut errs by
 * itself, the light that is missing is the same in all: of more than one it is integrated out.
 */
export function cutsLikelihood(cuts: readonly CutMade[]): (mean: number, variance: number) => number {
  const [only] = cuts;
  if (only === undefined) return () => 1;
  if (cuts.length === 1) return (mean, variance) => cutLikelihood(mean, variance, only.outcome, only.neededLnRatio, only.orWorse);
  const count = Math.round((UNTIL - FROM) / STEP) + 1;
  const table = Float64Array.from({ length: count }, (_, i) =>
    cuts.reduce((product, cut) => product * cutLikelihood(FROM + i * STEP, 0, cut.outcome, cut.neededLnRatio, cut.orWorse), 1),
  );
  const at = (x: number): number => {
    const place = Math.min(count - 1.001, Math.max(0, (x - FROM) / STEP));
    const below = Math.floor(place);
    return table[below]! + (place - below) * (table[below + 1]! - table[below]!);
  };
  const under = (mean: number, sd: number): number => {
    let sum = WEIGHTS[0]! * at(mean);
    for (let i = 1; i < NODES.length; i++) sum += WEIGHTS[i]! * (at(mean - NODES[i]! * sd) + at(mean + NODES[i]! * sd));
    return sum;
  };
  // Every one of a hundred thousand sets asks, so that a row of means is tabled for each spread when it is first asked for.
  const spreads: Float64Array[] = [];
  const spreadAt = (i: number): Float64Array => {
    const known = spreads[i];
    if (known) return known;
    const made = Float64Array.from({ length: count }, (_, m) => under(FROM + m * STEP, i * SD_STEP));
    spreads[i] = made;
    return made;
  };
  return (mean, variance) => {
    const sd = Math.sqrt(variance);
    if (sd >= MOST_SD) return under(mean, sd);
    const place = sd / SD_STEP;
    const row = Math.floor(place);
    const along = Math.min(count - 1.001, Math.max(0, (mean - FROM) / STEP));
    const below = Math.floor(along);
    const t = along - below;
    const near = spreadAt(row);
    const far = spreadAt(row + 1);
    const ofNear = near[below]! + t * (near[below + 1]! - near[below]!);
    const ofFar = far[below]! + t * (far[below + 1]! - far[below]!);
    return ofNear + (place - row) * (ofFar - ofNear);
  };
}

/** Cuts that were made of one light: the law of that light, and how likely they are under its mean and variance. */
export interface CutLaw {
  readonly light: Predictive;
  readonly likelihood: (mean: number, variance: number) => number;
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
