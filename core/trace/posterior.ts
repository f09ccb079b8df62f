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
  const { first, second, third, order, dark, rows, count } = sets;
  const factors = factorsOf(model, found.outcomes, found.values, order);
  const law = lossLaw(model, usages, found.losses, found.cuts);
  const F = factors.checks.length;
  const states = order.length;
  const weights = new Float64Array(count);
  const light = new Float64Array(count);
  const main = new Int16Array(count).fill(-1);
  const further = new Int16Array(count).fill(-1);
  const next = new Int16Array(count).fill(-1);
  const lead = new Float64Array(count).fill(1);
  const trail = new Float64Array(count);
  const need: Needs = { main: -1, second: -1, both: false, lead: 1, trail: 0 };
  const meanOf = law.losses.priorMean;
  const varianceOf = law.losses.priorVariance;
  const zero = law.logLikelihood(-1, -1, -1);
  let best = zero;
  for (let s = 0; s < states; s++) best = Math.max(best, law.logLikelihood(s, -1, -1));
  const needs = needsOf(model, symptom);
  // Of a row: what its states weigh before anything is found, what the light says of them, what all does, and what each finding does.
  const before = new Float64Array(states);
  const seen = new Float64Array(states);
  const weight = new Float64Array(states);
  const factor = Array.from({ length: F }, () => new Float64Array(states));
  // Per finding: its marginal rate, and the states' weights with it left out, in their order, their total in the last place.
  const rate = new Float64Array(F);
  const without = Array.from({ length: withEvidence ? F : 0 }, () => new Float64Array(states + 1));
  const base = law.losses.newPosterior();
  const lost = law.losses.newPosterior();
  const empty = new Float64Array(F);
  factors.fill(-1, -1, -1, empty);
  light[0] = Math.exp(zero - best);
  weights[0] = empty.reduce((product, of) => product * of, light[0]!);
  let priorTotal = 1;
  let lightRate = light[0]!;
  let total = weights[0]!;
  empty.forEach((of, f) => {
    rate[f] = of;
    if (withEvidence) without[f]![states] = weights[0]! / of;
  });
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : order[i]!;
    const b = j < 0 ? -1 : order[j]!;
    // What the light tells nothing of follows its prior and goes with nothing.
    const isDark = [i >= dark, j >= dark];
    const known = Math.exp(law.logLikelihood(isDark[0] ? -1 : a, isDark[0] || isDark[1] ? -1 : b, -1, base) - best);
    const size = i < 0 ? 0 : j < 0 ? 1 : 2;
    for (let place = 0; place < size; place++)
      if (isDark[place]) alone(base, place, meanOf[place === 0 ? a : b]!, varianceOf[place === 0 ? a : b]!);
    for (let k = from; k < states; k++) {
      const s = order[k]!;
      const n = at + k - from;
      const x = size === 0 ? s : a;
      const y = size === 0 ? -1 : size === 1 ? s : b;
      const z = size < 2 ? -1 : s;
      before[k] = prior(x, y, z);
      if (k < dark) {
        seen[k] = Math.exp(law.logLikelihood(x, y, z, lost) - best);
        needs(x, y, z, lost.mean, lost.cov, need);
      } else {
        seen[k] = known;
        alone(base, size, meanOf[s]!, varianceOf[s]!);
        needs(x, y, z, base.mean, base.cov, need);
      }
      weight[k] = before[k]! * seen[k]!;
      light[n] = seen[k]!;
      main[n] = need.main;
      further[n] = need.both ? need.second : -1;
      next[n] = need.second;
      lead[n] = need.lead;
      trail[n] = need.trail;
      priorTotal += before[k]!;
      lightRate += weight[k]!;
    }
    factors.fillRow(a, b, from, factor);
    for (let f = 0; f < F; f++) rate[f] = rate[f]! + weighBy(factor[f]!, before, weight, from);
    for (let f = 0; f < without.length; f++) leaveOut(without[f]!, factor[f]!, weight, i, j, from);
    for (let k = from; k < states; k++) total += weight[k]!;
    weights.set(from === 0 ? weight : weight.subarray(from), at);
  }
  // Under "none of these" each finding has its marginal rate, and so has the light.
  let none = (NONE_PRIOR / (1 - NONE_PRIOR)) * lightRate;
  for (let f = 0; f < F; f++) none *= rate[f]! / priorTotal;
  const all = total + none;
  for (let n = 0; n < count; n++) weights[n] = weights[n]! / all;

  const left = new Map<string, Float64Array>();
  if (withEvidence) {
    factors.checks.forEach((check, f) => {
      const rest = new Float64Array(states + 1);
      without[f]!.forEach((w, k) => {
        rest[order[k] ?? states] = w;
      });
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

/** Makes a set's loss at a place what it is before anything is read of it. */
function alone({ mean, cov }: SetPosterior, place: number, priorMean: number, priorVariance: number): void {
  mean[place] = priorMean;
  for (let other = 0; other < 3; other++) cov[3 * place + other] = cov[3 * other + place] = 0;
  cov[4 * place] = priorVariance;
}

/** Weighs a row by what one finding says of it; the finding's rate over the row. */
function weighBy(factor: Float64Array, before: Float64Array, weight: Float64Array, from: number): number {
  let rate = 0;
  for (let k = from; k < factor.length; k++) {
    const of = factor[k]!;
    weight[k] = weight[k]! * of;
    rate += before[k]! * of;
  }
  return rate;
}

/** Adds a row of sets with one finding left out: to each state that makes them differ, to the two they share, and to the total. */
function leaveOut(without: Float64Array, factor: Float64Array, weight: Float64Array, i: number, j: number, from: number): void {
  let sum = 0;
  for (let k = from; k < factor.length; k++) {
    const rest = weight[k]! / factor[k]!;
    without[k] = without[k]! + rest;
    sum += rest;
  }
  if (i >= 0) without[i] = without[i]! + sum;
  if (j >= 0) without[j] = without[j]! + sum;
  without[factor.length] = without[factor.length]! + sum;
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
