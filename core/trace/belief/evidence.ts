/** What a finding says by itself: the answer with it left out. Of tables it is divided out in the same pass, of the light weighed anew. */

import type { OutcomeFinding } from "../light/findings";
import type { TraceModel } from "../model/types";
import { factorsOf } from "./factors";
import type { LightWithout } from "./groundwork";
import { type FaultSets, weightOfHeaviest } from "./sets";

/** A reading of the light is left out over all singles and pairs, and over so many of three that matter most. */
const LEFT_OUT_SETS = 5000;

/** A row of sets: their weights, the places of the two states they share (-1 for none), and where those that make them differ begin. */
interface Sharing {
  readonly weight: Float64Array;
  readonly i: number;
  readonly j: number;
  readonly from: number;
}

/**
 * Adds to a row of sets with one finding left out what it weighs more than with the finding's plain factor: to each state that makes them
 * differ, to the two they share, and to the total. `factor` is that of the two, `showing` that with each state which shows.
 */
export function leaveOut(
  without: Float64Array,
  row: Sharing,
  places: Int16Array,
  showing: Float64Array,
  factor: number,
  plain: number,
): void {
  const { weight, from } = row;
  const inverse = 1 / factor;
  const more = inverse - 1 / plain;
  let sum = 0;
  if (more !== 0) {
    for (let k = from; k < weight.length; k++) {
      const rest = weight[k]! * more;
      without[k] = without[k]! + rest;
      sum += rest;
    }
  }
  for (let t = places.length - 1; t >= 0 && places[t]! >= from; t--) {
    const k = places[t]!;
    const rest = weight[k]! * (1 / showing[t]! - inverse);
    without[k] = without[k]! + rest;
    sum += rest;
  }
  addShared(without, row, sum);
}

/** The same where neither of the two shows: all that differs are the states that do, by `gaps`. */
export function leaveOutPlain(without: Float64Array, row: Sharing, places: Int16Array, gaps: Float64Array): void {
  const { weight, from } = row;
  let sum = 0;
  for (let t = places.length - 1; t >= 0 && places[t]! >= from; t--) {
    const k = places[t]!;
    const rest = weight[k]! * gaps[t]!;
    without[k] = without[k]! + rest;
    sum += rest;
  }
  addShared(without, row, sum);
}

/** What a row weighs more goes to the two its sets share, and to the total, which stands last. */
function addShared(without: Float64Array, { weight, i, j }: Sharing, sum: number): void {
  if (i >= 0) without[i] = without[i]! + sum;
  if (j >= 0) without[j] = without[j]! + sum;
  without[weight.length] = without[weight.length]! + sum;
}

/** Probability of each fault from its two states' weights, the total of all sets standing after them. */
export function byFault(weights: Float64Array, states: number, none: number): Float64Array {
  const total = weights[states]! + none;
  return Float64Array.from({ length: states / 2 }, (_, f) => (weights[2 * f]! + weights[2 * f + 1]!) / total);
}

/** The sets that a reading of the light is left out over, in their order, with what all but the light says of each. */
export interface Mattering {
  readonly sets: Int32Array;
  readonly rest: Float64Array;
}

/**
 * Singles, pairs, and of three those that are heavy, or would be without any reading of the light, between which a set comes to lie without
 * one of them.
 */
export function mattering(weights: Float64Array, seen: Float64Array, { threes }: FaultSets): Mattering {
  const unseen = new Float64Array(weights.length);
  let total = 0;
  for (let n = 0; n < unseen.length; n++) {
    const w = weights[n]! / Math.max(1e-300, seen[n]!);
    unseen[n] = w;
    total += w;
  }
  const heavy = weightOfHeaviest(weights, LEFT_OUT_SETS);
  const heavyUnseen = weightOfHeaviest(unseen, LEFT_OUT_SETS, total);
  const chosen = new Int32Array(weights.length);
  let count = threes;
  for (let n = 0; n < threes; n++) chosen[n] = n;
  for (let n = threes; n < unseen.length; n++) if (weights[n]! >= heavy || unseen[n]! >= heavyUnseen) chosen[count++] = n;
  const sets = chosen.slice(0, count);
  const rest = new Float64Array(count);
  for (let m = 0; m < count; m++) rest[m] = unseen[sets[m]!]!;
  return { sets, rest };
}

/** What a check says of a set by its table, and at what rate it says it of all. */
interface Said {
  readonly of: (a: number, b: number, c: number) => number;
  readonly rate: number;
}

/** What a look says of a set by its table. */
export function saidBy(model: TraceModel, look: OutcomeFinding): Said["of"] {
  const factors = factorsOf(model, [look], []);
  const out = new Float64Array(1);
  return (a, b, c) => {
    factors.fill(a, b, c, out);
    return out[0]!;
  };
}

/** A reading of the light that is left out. */
interface LeftOut {
  readonly faultSets: FaultSets;
  readonly matters: Mattering;
  /** Prior of each set. */
  readonly before: Float64Array;
  readonly light: LightWithout;
  /** Probability of "none of these", and the rate of the light under it. */
  readonly none: number;
  readonly lightRate: number;
  /** What a look says besides by its table. */
  readonly said: Said | undefined;
}

/** Probability of each fault with a reading of the light left out. */
export function lightLeftOut({ faultSets, matters, before, light: { row, best, light }, none, lightRate, said }: LeftOut): Float64Array {
  const { first, second, third, order } = faultSets;
  const states = order.length;
  const lost = row.newPosterior();
  const sums = new Float64Array(states + 1);
  let restRate = 0;
  let priorTotal = 0;
  let begun = -1;
  for (let m = 0; m < matters.sets.length; m++) {
    const n = matters.sets[m]!;
    const a = first[n]!;
    const b = second[n]!;
    const c = third[n]!;
    let of = light[n]!;
    // Not worked out yet. Sets that differ by their last state stand together, and what they share is begun once.
    if (Number.isNaN(of)) {
      const shared = c >= 0 ? (a + 1) * (states + 1) + b + 1 : b >= 0 ? (a + 1) * (states + 1) : 0;
      if (begun !== shared) row.begin(b < 0 ? -1 : a, c < 0 ? -1 : b, best);
      begun = shared;
      of = row.extend(c >= 0 ? c : b >= 0 ? b : a, lost);
      light[n] = of;
    }
    const p = before[n]!;
    restRate += p * of;
    priorTotal += p;
    const w = (said === undefined ? matters.rest[m]! : matters.rest[m]! / said.of(a, b, c)) * of;
    if (a >= 0) sums[a] = sums[a]! + w;
    if (b >= 0) sums[b] = sums[b]! + w;
    if (c >= 0) sums[c] = sums[c]! + w;
    sums[states] = sums[states]! + w;
  }
  return byFault(sums, states, (none / (lightRate * (said?.rate ?? 1))) * (restRate / priorTotal));
}
