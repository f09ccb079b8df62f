/** What a finding says by itself: the answer with it left out. Of tables it is divided out in the same pass, of the light weighed anew. */
import { factorsOf } from "./factors";
import type { OutcomeFinding } from "./findings";
import type { LightWithout } from "./groundwork";
import { type FaultSets, weightOfHeaviest } from "./sets";
import type { TraceModel } from "./types";

/** A reading of the light is left out over all singles and pairs, and over so many of three that matter most. */
const LEFT_OUT_SETS = 5000;

/** Adds a row of sets with one finding left out: to each state that makes them differ, to the two they share, and to the total. */
export function leaveOut(
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
export function byFault(weights: Float64Array, states: number, none: number): Float64Array {
  const total = weights[states]! + none;
  return Float64Array.from({ length: states / 2 }, (_, f) => (weights[2 * f]! + weights[2 * f + 1]!) / total);
}

/**
 * Which sets a reading of the light is left out over, besides singles and pairs: those that are heavy, and those that would be without any
 * such reading, between which it comes to lie without one of them.
 */
export function mattering(weights: Float64Array, seen: Float64Array): Uint8Array {
  const unseen = new Float64Array(weights.length);
  const matters = new Uint8Array(weights.length);
  let total = 0;
  for (let n = 0; n < unseen.length; n++) {
    const w = weights[n]! / Math.max(1e-300, seen[n]!);
    unseen[n] = w;
    total += w;
  }
  for (let n = 0; n < unseen.length; n++) unseen[n] = unseen[n]! / total;
  const heavy = weightOfHeaviest(weights, LEFT_OUT_SETS);
  const heavyUnseen = weightOfHeaviest(unseen, LEFT_OUT_SETS);
  for (let n = 0; n < unseen.length; n++) matters[n] = weights[n]! >= heavy || unseen[n]! >= heavyUnseen ? 1 : 0;
  return matters;
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

/**
 * Probability of each fault with a reading of the light left out: `rest` is the light without it, `before` and `seen` the prior of each set and
 * what all of it says of it, `none` and `lightRate` that of "none of these"; `said` what a look says besides by its table.
 */
export function lightLeftOut(
  sets: FaultSets,
  weights: Float64Array,
  matters: Uint8Array,
  seen: Float64Array,
  before: Float64Array,
  { row, best, light }: LightWithout,
  none: number,
  lightRate: number,
  said: Said | undefined,
): Float64Array {
  const { first, second, third, order, rows } = sets;
  const states = order.length;
  const lost = row.newPosterior();
  const sums = new Float64Array(states + 1);
  let restRate = 0;
  let priorTotal = 0;
  const weighed = (n: number, of: number): number => {
    const p = before[n]!;
    restRate += p * of;
    priorTotal += p;
    return (weights[n]! / Math.max(1e-300, seen[n]! * (said?.of(first[n]!, second[n]!, third[n]!) ?? 1))) * of;
  };
  sums[states] = weighed(0, light[0]!);
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : order[i]!;
    const b = j < 0 ? -1 : order[j]!;
    let shared = 0;
    let begun = false;
    for (let k = from; k < states; k++) {
      const n = at + k - from;
      if (b >= 0 && matters[n] === 0) continue;
      const s = order[k]!;
      let of = light[n]!;
      // Not a number: not worked out yet.
      if (Number.isNaN(of)) {
        if (!begun) row.begin(a, b, best);
        begun = true;
        of = row.extend(s, lost);
        light[n] = of;
      }
      const w = weighed(n, of);
      sums[s] = sums[s]! + w;
      shared += w;
    }
    if (a >= 0) sums[a] = sums[a]! + shared;
    if (b >= 0) sums[b] = sums[b]! + shared;
    sums[states] = sums[states]! + shared;
  }
  return byFault(sums, states, (none / (lightRate * (said?.rate ?? 1))) * (restRate / priorTotal));
}
