/** The posterior over all sets of faults, exact, in one pass: what each finding says alone comes from the same pass by dividing it out. */
import { cutsLikelihood, predictiveMoments } from "./cutReading";
import { type Needs, needsOf } from "./decision";
import { factorsOf } from "./factors";
import type { OutcomeFinding, SortedFindings } from "./findings";
import { type LossModel, lossModel } from "./losses";
import { type SetPrior, setPrior } from "./prior";
import type { LossReading } from "./readings";
import { type FaultSets, heaviest } from "./sets";
import type { FoundBefore, Symptom, TraceModel, TraceUsage } from "./types";
import type { SetPosterior } from "./weigh";

/** Prior probability that the cause is not in the catalog. */
export const NONE_PRIOR = 0.03;
/** A reading of the light is left out over all singles and pairs, and over the heaviest sets of three. */
const LEFT_OUT_SETS = 4000;

export interface Posterior {
  /** Probability of each set, and of "none of these"; they sum to 1. */
  readonly sets: Float64Array;
  readonly none: number;
  readonly losses: LossModel;
  /** State of the fault that has the largest share of what was reported, for each set; -1 where none has one. */
  readonly main: Int16Array;
  /** State that has to be mended besides for a proof to hold; -1 where none has. */
  readonly further: Int16Array;
  /** The state that takes most after the main one, and the chances of both to be right to mend first. */
  readonly second: Int16Array;
  readonly lead: Float64Array;
  readonly trail: Float64Array;
  /** Probability of each fault with one check's findings left out, by check id. Empty where it was not asked for. */
  readonly without: ReadonlyMap<string, Float64Array>;
}

interface LossLaw {
  readonly losses: LossModel;
  /** Ln likelihood of the readings and the cuts under a set; the set's losses are in `post` afterwards. */
  readonly logLikelihood: (a: number, b: number, c: number, post?: SetPosterior) => number;
}

function lossLaw(
  model: TraceModel,
  usages: readonly TraceUsage[],
  readings: readonly LossReading[],
  cuts: readonly OutcomeFinding[],
): LossLaw {
  const losses = lossModel(model, usages, readings);
  const scratch = losses.newPosterior();
  const timeOf = ({ check }: OutcomeFinding) => check.past?.time ?? losses.now;
  const made = [...new Set(cuts.map(timeOf))].map((time) => ({
    light: losses.predict({ kind: "ladder", at: model.stations.length - 1, time }),
    likelihood: cutsLikelihood(cuts.filter((cut) => timeOf(cut) === time)),
  }));
  const moments = { mean: 0, variance: 0 };
  const logLikelihood = (a: number, b: number, c: number, post = scratch): number => {
    losses.evaluate(a, b, c, post);
    let sum = post.logLikelihood;
    for (let i = 0; i < made.length; i++) {
      const { light, likelihood } = made[i]!;
      predictiveMoments(light, post, a, b, c, moments);
      sum += Math.log(likelihood(moments.mean, moments.variance));
    }
    return sum;
  };
  return { losses, logLikelihood };
}

/** Posterior over all sets. `usages` are those up to each time of the case; `withEvidence` also leaves out every finding in turn. */
export function posterior(
  model: TraceModel,
  usages: readonly TraceUsage[],
  earlier: FoundBefore | undefined,
  sets: FaultSets,
  found: SortedFindings,
  symptom: Symptom,
  withEvidence: boolean,
): Posterior {
  const prior = setPrior(model, usages[0] ?? {}, symptom, earlier);
  const factors = factorsOf(model, found.outcomes, found.values);
  const law = lossLaw(model, usages, found.losses, found.cuts);
  const F = factors.checks.length;
  const states = model.faults.length * 2;
  const { first, second, third, told, count } = sets;
  const weights = new Float64Array(count);
  const light = new Float64Array(count);
  const main = new Int16Array(count);
  const further = new Int16Array(count);
  const next = new Int16Array(count);
  const lead = new Float64Array(count);
  const trail = new Float64Array(count);
  const need: Needs = { main: -1, second: -1, both: false, lead: 1, trail: 0 };
  // What was worked out for the sets that the one at hand extends by faults nothing was found out about: by how many it has of the others.
  const factors3 = [0, 1, 2, 3].map(() => new Float64Array(F));
  const seenOf = new Float64Array(4);
  const lost = [0, 1, 2, 3].map(() => law.losses.newPosterior());
  const meanOf = law.losses.priorMean;
  const varianceOf = law.losses.priorVariance;
  // Per finding: its marginal rate, and the states' weights with it left out, their total in the last place.
  const rate = new Float64Array(F);
  const without = new Float64Array(withEvidence ? F * (states + 1) : 0);
  const zero = law.logLikelihood(-1, -1, -1);
  let best = zero;
  for (let s = 0; s < states; s++) best = Math.max(best, law.logLikelihood(s, -1, -1));
  let priorTotal = 0;
  let lightRate = 0;
  let total = 0;
  const needs = needsOf(model, symptom);
  for (let n = 0; n < count; n++) {
    const a = first[n]!;
    const b = second[n]!;
    const c = third[n]!;
    const size = c >= 0 ? 3 : b >= 0 ? 2 : a >= 0 ? 1 : 0;
    const p = prior(a, b, c);
    const known = told[n]!;
    const factor = factors3[known]!;
    if (known === size) {
      seenOf[known] = Math.exp(law.logLikelihood(a, b, c, lost[known]) - best);
      factors.fill(a, b, c, factor);
    }
    const seen = seenOf[known]!;
    const { mean, cov } = lost[known]!;
    // What nothing was found out about follows its prior, and goes with nothing.
    if (known < 1 && a >= 0) {
      mean[0] = meanOf[a]!;
      cov[0] = varianceOf[a]!;
    }
    if (known < 2 && b >= 0) {
      mean[1] = meanOf[b]!;
      cov[4] = varianceOf[b]!;
      cov[1] = cov[3] = 0;
    }
    if (known < 3 && c >= 0) {
      mean[2] = meanOf[c]!;
      cov[8] = varianceOf[c]!;
      cov[2] = cov[6] = cov[5] = cov[7] = 0;
    }
    needs(a, b, c, mean, cov, need);
    main[n] = need.main;
    further[n] = need.both ? need.second : -1;
    next[n] = need.second;
    lead[n] = need.lead;
    trail[n] = need.trail;
    let w = p * seen;
    for (let f = 0; f < F; f++) {
      w *= factor[f]!;
      rate[f] = rate[f]! + p * factor[f]!;
    }
    priorTotal += p;
    lightRate += p * seen;
    total += w;
    weights[n] = w;
    light[n] = seen;
    if (withEvidence) leaveOut(without, states, factor, w, a, b, c);
  }
  // Under "none of these" each finding has its marginal rate, and so has the light.
  let none = (NONE_PRIOR / (1 - NONE_PRIOR)) * lightRate;
  for (let f = 0; f < F; f++) none *= rate[f]! / priorTotal;
  const all = total + none;
  for (let n = 0; n < count; n++) weights[n] = weights[n]! / all;

  const left = new Map<string, Float64Array>();
  if (withEvidence) {
    factors.checks.forEach((check, f) => {
      const rest = without.subarray(f * (states + 1), (f + 1) * (states + 1));
      left.set(check, byFault(rest, states, none / (rate[f]! / priorTotal)));
    });
    const lightChecks = new Set([...found.losses.map((r) => r.check), ...found.cuts.map((c) => c.check.id)]);
    const few = lightChecks.size > 0 ? fewer(sets, weights) : new Int32Array(0);
    for (const check of lightChecks) {
      const rest = lossLaw(
        model,
        usages,
        found.losses.filter((r) => r.check !== check),
        found.cuts.filter((c) => c.check.id !== check),
      );
      // A look speaks twice: of its part, by a table, and of how much its dirt takes.
      const look = found.outcomes.find((o) => o.check.id === check);
      const f = factors.checks.indexOf(check);
      const said = look && { of: saidBy(model, look), rate: rate[f]! / priorTotal };
      left.set(check, lightLeftOut(sets, states, few, weights, light, prior, rest, none / all, lightRate / priorTotal, said));
    }
  }
  return { sets: weights, none: none / all, losses: law.losses, main, further, second: next, lead, trail, without: left };
}

function leaveOut(without: Float64Array, states: number, factor: Float64Array, w: number, a: number, b: number, c: number): void {
  for (let f = 0; f < factor.length; f++) {
    const rest = w / factor[f]!;
    const at = f * (states + 1);
    without[at + states] = without[at + states]! + rest;
    if (a < 0) continue;
    without[at + a] = without[at + a]! + rest;
    if (b < 0) continue;
    without[at + b] = without[at + b]! + rest;
    if (c >= 0) without[at + c] = without[at + c]! + rest;
  }
}

/** Probability of each fault from its two states' weights, the total of all sets standing after them. */
function byFault(weights: Float64Array, states: number, none: number): Float64Array {
  const total = weights[states]! + none;
  return Float64Array.from({ length: states / 2 }, (_, f) => (weights[2 * f]! + weights[2 * f + 1]!) / total);
}

/** All singles and pairs, and those of three among the heaviest. */
function fewer({ third, count }: FaultSets, weights: Float64Array): Int32Array {
  const few = new Int32Array(count);
  let n = 0;
  for (let i = 0; i < count; i++) if (third[i]! < 0) few[n++] = i;
  for (const i of heaviest(weights, LEFT_OUT_SETS)) if (third[i]! >= 0) few[n++] = i;
  return few.subarray(0, n);
}

/** What a check says of a set by its table, and at what rate it says it of all. */
interface Said {
  readonly of: (a: number, b: number, c: number) => number;
  readonly rate: number;
}

/** What a look says of a set by its table. */
function saidBy(model: TraceModel, look: OutcomeFinding): Said["of"] {
  const factors = factorsOf(model, [look], []);
  const out = new Float64Array(1);
  return (a, b, c) => {
    factors.fill(a, b, c, out);
    return out[0]!;
  };
}

function lightLeftOut(
  { first, second, third }: FaultSets,
  states: number,
  few: Int32Array,
  weights: Float64Array,
  light: Float64Array,
  prior: SetPrior,
  rest: LossLaw,
  none: number,
  lightRate: number,
  said: Said | undefined,
): Float64Array {
  const logs = Float64Array.from(few, (n) => rest.logLikelihood(first[n]!, second[n]!, third[n]!));
  const top = logs.reduce((m, l) => Math.max(m, l), Number.NEGATIVE_INFINITY);
  const sums = new Float64Array(states + 1);
  let restRate = 0;
  let priorTotal = 0;
  few.forEach((n, i) => {
    const a = first[n]!;
    const b = second[n]!;
    const c = third[n]!;
    const seen = Math.exp(logs[i]! - top);
    const p = prior(a, b, c);
    restRate += p * seen;
    priorTotal += p;
    const w = (weights[n]! / Math.max(1e-300, light[n]! * (said?.of(a, b, c) ?? 1))) * seen;
    sums[states] = sums[states]! + w;
    if (a < 0) return;
    sums[a] = sums[a]! + w;
    if (b >= 0) sums[b] = sums[b]! + w;
    if (c >= 0) sums[c] = sums[c]! + w;
  });
  return byFault(sums, states, (none / (lightRate * (said?.rate ?? 1))) * (restRate / priorTotal));
}
