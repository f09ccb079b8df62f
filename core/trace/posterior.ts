import { tabledNormalCdf } from "#core/normal";
import { type OutcomeFinding, outcomeTable, SLIP, type SortedFindings, valueLikelihood, valueTable } from "./findings";
import { type LossModel, lossModel, type Predictive } from "./losses";
import { logPriorWeights } from "./prior";
import type { LossReading } from "./readings";
import type { FaultSets } from "./sets";
import type { Symptom, TraceModel, TraceUsage } from "./types";
import type { SetPosterior } from "./weigh";

/** Prior probability that the cause is not in the catalog. */
export const NONE_PRIOR = 0.03;

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

/** Weights of every set under all findings, and of "none of these"; they sum to 1. */
export interface Weights {
  readonly sets: Float64Array;
  readonly none: number;
}

export interface Posterior extends Weights {
  readonly losses: LossModel;
  /** Weights with one finding left out, by check id. */
  readonly without: ReadonlyMap<string, Weights>;
}

interface LossPass {
  readonly losses: LossModel;
  /** ln density of the loss readings per set. */
  readonly logDensity: Float64Array;
  /** P(known cut's outcome | set, readings), when it was made. */
  readonly cut: Float64Array | undefined;
}

function lossPass(
  model: TraceModel,
  usage: TraceUsage,
  sets: FaultSets,
  readings: readonly LossReading[],
  cutFinding: OutcomeFinding | undefined,
): LossPass {
  const losses = lossModel(model, usage, readings);
  const post = losses.newPosterior();
  const logDensity = new Float64Array(sets.count);
  const cut = cutFinding === undefined ? undefined : new Float64Array(sets.count);
  if (readings.length === 0 && cut === undefined) return { losses, logDensity, cut };
  const law = losses.predict("ladder", model.stations.length - 1);
  const moments = { mean: 0, variance: 0 };
  const outcome = new Float64Array(4);
  for (let n = 0; n < sets.count; n++) {
    const a = sets.first[n]!;
    const b = sets.second[n]!;
    const c = sets.third[n]!;
    losses.evaluate(a, b, c, post);
    logDensity[n] = post.logLikelihood;
    if (!cut) continue;
    predictiveMoments(law, post, a, b, c, moments);
    cutOutcomes(moments.mean, moments.variance, outcome, cutFinding?.neededLnRatio);
    cut[n] = outcome[cutFinding?.outcome as number]!;
  }
  return { losses, logDensity, cut };
}

/** Sum of prior-weighted values: the marginal rate of what was found. */
function marginal(prior: Float64Array, values: Float64Array): number {
  let sum = 0;
  for (let n = 0; n < prior.length; n++) sum += prior[n]! * values[n]!;
  return sum;
}

function normalise(sets: Float64Array, none: number): Weights {
  let total = none;
  for (let n = 0; n < sets.length; n++) total += sets[n]!;
  for (let n = 0; n < sets.length; n++) sets[n] = sets[n]! / total;
  return { sets, none: none / total };
}

/** Posterior over all sets, with every finding's leave-one-out weights from the same pass. */
export function posterior(model: TraceModel, usage: TraceUsage, sets: FaultSets, found: SortedFindings): Posterior {
  const logPrior = logPriorWeights(model, usage);
  const prior = new Float64Array(sets.count);
  let priorTotal = 0;
  for (let n = 0; n < sets.count; n++) {
    const a = sets.first[n]!;
    const b = sets.second[n]!;
    const c = sets.third[n]!;
    const lp = (a < 0 ? 0 : logPrior[a]!) + (b < 0 ? 0 : logPrior[b]!) + (c < 0 ? 0 : logPrior[c]!);
    prior[n] = Math.exp(lp);
    priorTotal += prior[n]!;
  }
  for (let n = 0; n < sets.count; n++) prior[n] = (prior[n]! / priorTotal) * (1 - NONE_PRIOR);

  // Qualitative and numeric findings that are independent given the set: one factor per check.
  const factors = new Map<string, Float64Array>();
  for (const finding of found.outcomes) {
    const table = outcomeTable(model, finding.check);
    const out = new Float64Array(table.outcomes);
    const values = new Float64Array(sets.count);
    for (let n = 0; n < sets.count; n++) {
      table.fill(sets.first[n]!, sets.second[n]!, sets.third[n]!, out);
      values[n] = out[finding.outcome]!;
    }
    factors.set(finding.check.id, values);
  }
  for (const finding of found.values) {
    const table = valueTable(model, finding.check);
    const values = new Float64Array(sets.count);
    for (let n = 0; n < sets.count; n++) {
      values[n] = valueLikelihood(table, finding, sets.first[n]!, sets.second[n]!, sets.third[n]!);
    }
    factors.set(finding.check.id, values);
  }

  const pass = lossPass(model, usage, sets, found.losses, found.cut);
  const lossFactor = densities(pass);
  const rates = new Map([...factors].map(([check, values]) => [check, marginal(prior, values) / (1 - NONE_PRIOR)]));

  const weigh = (leave: string | undefined, loss: Float64Array): Weights => {
    const w = new Float64Array(sets.count);
    let none = NONE_PRIOR * (marginal(prior, loss) / (1 - NONE_PRIOR));
    for (let n = 0; n < sets.count; n++) w[n] = prior[n]! * loss[n]!;
    for (const [check, values] of factors) {
      if (check === leave) continue;
      none *= rates.get(check) as number;
      for (let n = 0; n < sets.count; n++) w[n] = w[n]! * values[n]!;
    }
    return normalise(w, none);
  };

  const all = weigh(undefined, lossFactor);
  const without = new Map<string, Weights>();
  for (const [check, values] of factors) {
    // Dividing the factor out again is exact and saves a pass; slips keep it above zero.
    const w = new Float64Array(sets.count);
    for (let n = 0; n < sets.count; n++) w[n] = all.sets[n]! / values[n]!;
    without.set(check, normalise(w, all.none / (rates.get(check) as number)));
  }
  if (found.cut) {
    const noCut = densities({ ...pass, cut: undefined });
    without.set(found.cut.check.id, weigh(undefined, noCut));
  }
  for (const check of new Set(found.losses.map((r) => r.check))) {
    const rest = lossPass(
      model,
      usage,
      sets,
      found.losses.filter((r) => r.check !== check),
      found.cut,
    );
    without.set(check, weigh(undefined, densities(rest)));
  }
  return { ...all, losses: pass.losses, without };
}

/** Densities of the loss readings and the cut per set, scaled so that the largest is 1. */
function densities(pass: LossPass): Float64Array {
  let top = Number.NEGATIVE_INFINITY;
  for (const l of pass.logDensity) if (l > top) top = l;
  return pass.logDensity.map((l, n) => Math.exp(l - top) * (pass.cut ? pass.cut[n]! : 1));
}

/** How much each fault state weighs in the reported symptom: its expected loss, or its declared share. */
export function shareOf(model: TraceModel, symptom: Symptom, fault: number, severity: number, meanLoss: number): number {
  const spec = model.faults[fault];
  if (!spec) return 0;
  const declared = spec.symptoms[symptom] ?? 0;
  if (symptom !== "power" || declared === 0) return declared * (severity === 1 ? 1 : 0.5);
  return Math.max(1e-4, meanLoss) * Math.max(spec.cutGain, spec.lossAt === undefined ? 0 : 1);
}
