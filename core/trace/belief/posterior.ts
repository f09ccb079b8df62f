/** The posterior over all sets of faults, exact, in one pass: what each finding says alone comes from the same pass by dividing it out. */

import type { SortedFindings } from "../light/findings";
import type { LossModel } from "../light/losses";
import type { FoundBefore, Symptom, TraceModel, TraceUsage } from "../model/types";
import { type Decisions, decisionsFrom } from "./decision";
import { byFault, leaveOut, leaveOutPlain, lightLeftOut, mattering, saidBy } from "./evidence";
import { factorsOf } from "./factors";
import { type Groundwork, groundwork } from "./groundwork";
import type { FaultSets } from "./sets";

/** Prior probability that the cause is not in the catalog. */
const NONE_PRIOR = 0.03;
/**
 * What stands in no list shows in nothing else that is asked, or in anything, as often as not: the other findings are then those of a sound
 * machine, or each has its marginal rate.
 */
const SHOWS_IN_NOTHING = 0.5;
export interface Posterior {
  readonly faultSets: FaultSets;
  /** Probability of each set, and of "none of these"; they sum to 1. */
  readonly sets: Float64Array;
  readonly none: number;
  /** Share of "none of these" in which all else is as on a sound machine. */
  readonly noneSound: number;
  readonly losses: LossModel;
  /** State of the fault that has the largest share of what was reported, for each set; -1 where none has one. */
  readonly main: Int16Array;
  /** State that has to be mended besides for a proof to hold; -1 where none has. */
  readonly further: Int16Array;
  readonly decided: Decisions;
  /** Probability of each fault with one check's findings left out, by check id. Empty where it was not asked for. */
  readonly without: ReadonlyMap<string, Float64Array>;
}

/** What a posterior is made from. */
export interface Told {
  readonly model: TraceModel;
  /** Use up to each time of the case. */
  readonly usages: readonly TraceUsage[];
  /** What ended this workshop's cases. */
  readonly earlier: FoundBefore | undefined;
  readonly maxFaults: number;
  readonly found: SortedFindings;
  readonly symptom: Symptom;
  /** Whether every finding is left out in turn as well. */
  readonly withEvidence: boolean;
}

/** Posterior over all sets. */
export function posterior({ model, usages, earlier, maxFaults, found, symptom, withEvidence }: Told): Posterior {
  const work = groundwork(model, usages, earlier, maxFaults, found, symptom);
  const { sets: faultSets, law, before, light, weighed, main, further, decision, other, lead, trail } = work;
  const { order, rows, count } = faultSets;
  const factors = factorsOf(model, found.outcomes, found.values, order);
  const F = factors.checks.length;
  const states = order.length;
  const weights = new Float64Array(count);
  const decided = new Float64Array(model.repairs.length + 2);
  // What each finding says of {a, b}, and with each state that shows.
  const said = factors.newRow();
  const { alone: factor, showing, isPlain } = said;
  const { plain, plainWith, places } = factors;
  const gaps = plainWith.map((withEach, f) => withEach.map((own) => 1 / own - 1 / plain[f]!));
  // Per finding: its marginal rate, and the states' weights with it left out, in their order, their total in the last place.
  const rate = new Float64Array(F);
  const without = Array.from({ length: withEvidence ? F : 0 }, () => new Float64Array(states + 1));
  const ofState = new Float64Array(states);
  weights[0] = plain.reduce((product, of) => product * of, light[0]!);
  decided[decision[0]!] = weights[0]!;
  let total = weights[0]!;
  const unrated = factors.names.flatMap((name, f) => {
    const known = work.rates.get(name);
    rate[f] = known ?? plain[f]!;
    return known === undefined ? [f] : [];
  });
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : order[i]!;
    const b = j < 0 ? -1 : order[j]!;
    factors.fillRow(a, b, from, said);
    // A row's sets stand one after the other, as the states that make them differ do.
    const start = at - from;
    const weight = weights.subarray(start, start + states);
    findRow(weight, from, factor, places, showing);
    let row = 0;
    for (let k = from; k < states; k++) {
      const n = start + k;
      const w = weights[n]! * weighed[n]!;
      weights[n] = w;
      const d = decision[n]!;
      const e = other[n]!;
      decided[d] = decided[d]! + w * lead[n]!;
      decided[e] = decided[e]! + w * trail[n]!;
      ofState[k] = ofState[k]! + w;
      row += w;
    }
    total += row;
    if (i >= 0) ofState[i] = ofState[i]! + row;
    if (j >= 0) ofState[j] = ofState[j]! + row;
    for (const f of unrated) rate[f] = rate[f]! + rateOf(before, start, states, from, factor[f]!, places[f]!, showing[f]!);
    const sharing = { weight, i, j, from };
    for (let f = 0; f < without.length; f++) {
      if (isPlain[f] === 1) leaveOutPlain(without[f]!, sharing, places[f]!, gaps[f]!);
      else leaveOut(without[f]!, sharing, places[f]!, showing[f]!, factor[f]!, plain[f]!);
    }
  }
  for (const f of unrated) work.rates.set(factors.names[f]!, rate[f]!);
  // Where nothing shows all is left out alike.
  without.forEach((rest, f) => {
    for (let k = 0; k < states; k++) rest[k] = rest[k]! + ofState[k]! / plain[f]!;
    rest[states] = rest[states]! + total / plain[f]!;
  });
  const { none, sound, noneWithout } = noneOf(work, plain, rate);
  const all = total + none;
  for (let n = 0; n < count; n++) weights[n] = weights[n]! / all;

  const left = new Map<string, Float64Array>();
  if (withEvidence) {
    factors.checks.forEach((check, f) => {
      const rest = new Float64Array(states + 1);
      without[f]!.forEach((w, k) => {
        rest[order[k] ?? states] = w;
      });
      left.set(check, byFault(rest, states, noneWithout(f)));
    });
    for (const [check, each] of lightLeft(
      work,
      found,
      { weights, none, all, noneOf: (c) => noneWithout(factors.checks.indexOf(c)) },
      model,
    ))
      left.set(check, each);
  }
  return {
    faultSets,
    sets: weights,
    none: none / all,
    noneSound: sound / none,
    losses: law.losses,
    main,
    further,
    decided: decisionsFrom(model, decided, all, none),
    without: left,
  };
}

/** "None of these" beside the sets: the light has its marginal rate, and the findings theirs, or those of a sound machine. */
function noneOf({ lightTotal, priorTotal }: Groundwork, plain: Float64Array, rate: Float64Array) {
  const light = (NONE_PRIOR / (1 - NONE_PRIOR)) * lightTotal;
  let sound = light * SHOWS_IN_NOTHING;
  let marginal = light - sound;
  for (let f = 0; f < plain.length; f++) {
    sound *= plain[f]!;
    marginal *= rate[f]! / priorTotal;
  }
  const noneWithout = (f: number): number => sound / plain[f]! + (marginal * priorTotal) / rate[f]!;
  return { none: sound + marginal, sound, noneWithout };
}

interface Believed {
  readonly weights: Float64Array;
  readonly none: number;
  readonly all: number;
  /** "None of these" with the findings of a check left out. */
  readonly noneOf: (check: string) => number;
}

/** Each reading of the light left out in turn: what is then believed of each fault, by check. */
function lightLeft(work: Groundwork, found: SortedFindings, believed: Believed, model: TraceModel): Map<string, Float64Array> {
  const { sets: faultSets, before, light, lightTotal, priorTotal } = work;
  const { weights, none, all } = believed;
  const checks = new Set([...found.losses.map((r) => r.check), ...found.cuts.map((c) => c.check.id)]);
  if (checks.size === 0) return new Map();
  const matters = mattering(weights, light, faultSets);
  return new Map(
    [...checks].map((check) => {
      // A look speaks twice: of its part, by a table, and of how much its dirt takes.
      const look = found.outcomes.find((o) => o.check.id === check);
      const said = look && { of: saidBy(model, look), rate: none / believed.noneOf(check) };
      const without = work.lightWithout(check);
      return [
        check,
        lightLeftOut({ faultSets, matters, before, light: without, none: none / all, lightRate: lightTotal / priorTotal, said }),
      ];
    }),
  );
}

/** What the findings say of a row's sets: of what they share, and apart where a state shows. */
function findRow(
  weight: Float64Array,
  from: number,
  factor: Float64Array,
  places: readonly Int16Array[],
  showing: readonly Float64Array[],
): void {
  let shared = 1;
  for (let f = 0; f < factor.length; f++) shared *= factor[f]!;
  weight.fill(shared, from);
  for (let f = 0; f < factor.length; f++) {
    const at = places[f]!;
    const own = showing[f]!;
    const inverse = 1 / factor[f]!;
    for (let t = at.length - 1; t >= 0 && at[t]! >= from; t--) weight[at[t]!] = weight[at[t]!]! * own[t]! * inverse;
  }
}

/** Prior rate of one finding over a row whose sets stand from `start + from` on. */
function rateOf(
  before: Float64Array,
  start: number,
  states: number,
  from: number,
  factor: number,
  places: Int16Array,
  showing: Float64Array,
): number {
  let total = 0;
  for (let n = start + from; n < start + states; n++) total += before[n]!;
  let rate = total * factor;
  for (let t = places.length - 1; t >= 0 && places[t]! >= from; t--) rate += before[start + places[t]!]! * (showing[t]! - factor);
  return rate;
}
