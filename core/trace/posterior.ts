/** The posterior over all sets of faults, exact, in one pass: what each finding says alone comes from the same pass by dividing it out. */
import { type CutLaw, cutsLikelihood, predictiveMoments } from "./cutReading";
import { type Decisions, decisions, type Needs, needsOf } from "./decision";
import { factorsOf } from "./factors";
import type { OutcomeFinding, SortedFindings } from "./findings";
import { lightRow } from "./lightRow";
import { type LossModel, lossModel } from "./losses";
import { type SetPrior, setPrior } from "./prior";
import type { LossReading } from "./readings";
import { type FaultSets, weightOfHeaviest } from "./sets";
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
  readonly decided: Decisions;
  /** Probability of each fault with one check's findings left out, by check id. Empty where it was not asked for. */
  readonly without: ReadonlyMap<string, Float64Array>;
}

interface LossLaw {
  readonly losses: LossModel;
  readonly cuts: readonly CutLaw[];
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
  return { losses, cuts: made, logLikelihood };
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
  const seen = new Float64Array(count);
  const main = new Int16Array(count).fill(-1);
  const further = new Int16Array(count).fill(-1);
  const need: Needs = { main: -1, second: -1, both: false, lead: 1, trail: 0 };
  const meanOf = law.losses.priorMean;
  const varianceOf = law.losses.priorVariance;
  const best = bestOf(law, states);
  const needs = needsOf(model, symptom);
  const decided = decisions(model);
  // Of a row: what its states weigh before anything is found and after; what each finding says of {a, b}, and with each state that shows.
  const before = new Float64Array(states);
  const weight = new Float64Array(states);
  const factor = new Float64Array(F);
  const apart = factors.places.map((places) => new Float64Array(places.length));
  // Per finding: its marginal rate, and the states' weights with it left out, in their order, their total in the last place.
  const rate = new Float64Array(F);
  const without = Array.from({ length: withEvidence ? F : 0 }, () => new Float64Array(states + 1));
  const row = lightRow(law.losses, law.cuts);
  const { base } = row;
  const lost = law.losses.newPosterior();
  factors.fill(-1, -1, -1, factor);
  seen[0] = Math.exp(law.logLikelihood(-1, -1, -1) - best);
  weights[0] = factor.reduce((product, of) => product * of, seen[0]!);
  decided.add(need, weights[0]!);
  let priorTotal = 1;
  let lightRate = seen[0]!;
  let total = weights[0]!;
  factor.forEach((of, f) => {
    rate[f] = of;
    if (withEvidence) without[f]![states] = weights[0]! / of;
  });
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : order[i]!;
    const b = j < 0 ? -1 : order[j]!;
    // What the light tells nothing of follows its prior and goes with nothing.
    const isDark = [i >= dark, j >= dark];
    const known = row.begin(isDark[0] ? -1 : a, isDark[0] || isDark[1] ? -1 : b, best);
    const size = i < 0 ? 0 : j < 0 ? 1 : 2;
    for (let place = 0; place < size; place++)
      if (isDark[place]) alone(base, place, meanOf[place === 0 ? a : b]!, varianceOf[place === 0 ? a : b]!);
    factors.fillRow(a, b, from, factor, apart);
    findRow(weight, from, factor, factors.places, apart);
    let rowTotal = 0;
    for (let k = from; k < states; k++) {
      const s = order[k]!;
      const n = at + k - from;
      const x = size === 0 ? s : a;
      const y = size === 0 ? -1 : size === 1 ? s : b;
      const z = size < 2 ? -1 : s;
      const p = prior(x, y, z);
      let light = known;
      if (k < dark) {
        light = row.extend(s, lost);
        needs(x, y, z, lost.mean, lost.cov, need);
      } else {
        alone(base, size, meanOf[s]!, varianceOf[s]!);
        needs(x, y, z, base.mean, base.cov, need);
      }
      const w = weight[k]! * p * light;
      before[k] = p;
      weight[k] = w;
      weights[n] = w;
      seen[n] = light;
      main[n] = need.main;
      further[n] = need.both ? need.second : -1;
      decided.add(need, w);
      rowTotal += p;
      lightRate += p * light;
      total += w;
    }
    priorTotal += rowTotal;
    for (let f = 0; f < F; f++) rate[f] = rate[f]! + rateOf(rowTotal, before, from, factor[f]!, factors.places[f]!, apart[f]!);
    for (let f = 0; f < without.length; f++) leaveOut(without[f]!, weight, i, j, from, factor[f]!, factors.places[f]!, apart[f]!);
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
    const cut = lightChecks.size === 0 ? 0 : weightOfHeaviest(weights, LEFT_OUT_SETS);
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
      left.set(check, lightLeftOut(sets, weights, cut, seen, prior, rest, none / all, lightRate / priorTotal, said));
    }
  }
  const { of } = decided;
  of.probability.forEach((w, d) => {
    of.probability[d] = w / all;
  });
  of.probability[of.unknown] = none / all;
  return { sets: weights, none: none / all, losses: law.losses, main, further, decided: of, without: left };
}

/** Makes a set's loss at a place what it is before anything is read of it. */
function alone({ mean, cov }: SetPosterior, place: number, priorMean: number, priorVariance: number): void {
  mean[place] = priorMean;
  for (let other = 0; other < 3; other++) cov[3 * place + other] = cov[3 * other + place] = 0;
  cov[4 * place] = priorVariance;
}

/** What the findings say of a row's sets: of what they share, and apart where a state shows. */
function findRow(
  weight: Float64Array,
  from: number,
  factor: Float64Array,
  places: readonly Int16Array[],
  apart: readonly Float64Array[],
): void {
  let shared = 1;
  for (let f = 0; f < factor.length; f++) shared *= factor[f]!;
  weight.fill(shared, from);
  for (let f = 0; f < factor.length; f++) {
    const at = places[f]!;
    const own = apart[f]!;
    const inverse = 1 / factor[f]!;
    for (let t = at.length - 1; t >= 0 && at[t]! >= from; t--) weight[at[t]!] = weight[at[t]!]! * own[t]! * inverse;
  }
}

/** Prior rate of one finding over a row. */
function rateOf(total: number, before: Float64Array, from: number, factor: number, places: Int16Array, apart: Float64Array): number {
  let rate = total * factor;
  for (let t = places.length - 1; t >= 0 && places[t]! >= from; t--) rate += before[places[t]!]! * (apart[t]! - factor);
  return rate;
}

/** Adds a row of sets with one finding left out: to each state that makes them differ, to the two they share, and to the total. */
function leaveOut(
  without: Float64Array,
  weight: Float64Array,
  i: number,
  j: number,
  from: number,
  factor: number,
  places: Int16Array,
  apart: Float64Array,
): void {
  const inverse = 1 / factor;
  let sum = 0;
  for (let k = from; k < weight.length; k++) {
    const rest = weight[k]! * inverse;
    without[k] = without[k]! + rest;
    sum += rest;
  }
  for (let t = places.length - 1; t >= 0 && places[t]! >= from; t--) {
    const k = places[t]!;
    const more = weight[k]! * (1 / apart[t]! - inverse);
    without[k] = without[k]! + more;
    sum += more;
  }
  if (i >= 0) without[i] = without[i]! + sum;
  if (j >= 0) without[j] = without[j]! + sum;
  without[weight.length] = without[weight.length]! + sum;
}

/** Probability of each fault from its two states' weights, the total of all sets standing after them. */
function byFault(weights: Float64Array, states: number, none: number): Float64Array {
  const total = weights[states]! + none;
  return Float64Array.from({ length: states / 2 }, (_, f) => (weights[2 * f]! + weights[2 * f + 1]!) / total);
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
  sets: FaultSets,
  weights: Float64Array,
  cut: number,
  seen: Float64Array,
  prior: SetPrior,
  rest: LossLaw,
  none: number,
  lightRate: number,
  said: Said | undefined,
): Float64Array {
  const { order, rows } = sets;
  const states = order.length;
  const light = lightRow(rest.losses, rest.cuts);
  const lost = rest.losses.newPosterior();
  const top = bestOf(rest, states);
  const sums = new Float64Array(states + 1);
  let restRate = 0;
  let priorTotal = 0;
  const add = (n: number, a: number, b: number, c: number, rest: number): number => {
    const p = prior(a, b, c);
    restRate += p * rest;
    priorTotal += p;
    return (weights[n]! / Math.max(1e-300, seen[n]! * (said?.of(a, b, c) ?? 1))) * rest;
  };
  sums[states] = add(0, -1, -1, -1, Math.exp(rest.logLikelihood(-1, -1, -1) - top));
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : order[i]!;
    const b = j < 0 ? -1 : order[j]!;
    let shared = 0;
    let begun = false;
    for (let k = from; k < states; k++) {
      const n = at + k - from;
      if (b >= 0 && weights[n]! < cut) continue;
      if (!begun) light.begin(a, b, top);
      begun = true;
      const s = order[k]!;
      const w = add(n, a < 0 ? s : a, a < 0 ? -1 : b < 0 ? s : b, b < 0 ? -1 : s, light.extend(s, lost));
      sums[s] = sums[s]! + w;
      shared += w;
    }
    if (a >= 0) sums[a] = sums[a]! + shared;
    if (b >= 0) sums[b] = sums[b]! + shared;
    sums[states] = sums[states]! + shared;
  }
  return byFault(sums, states, (none / (lightRate * (said?.rate ?? 1))) * (restRate / priorTotal));
}

/** The largest ln likelihood of none and of one fault: what likelihoods are counted from. */
function bestOf(law: LossLaw, states: number): number {
  let best = law.logLikelihood(-1, -1, -1);
  for (let s = 0; s < states; s++) best = Math.max(best, law.logLikelihood(s, -1, -1));
  return best;
}
