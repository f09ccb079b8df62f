/** What a finding says by itself: the answer with it left out. Of tables it is divided out in the same pass, of the light weighed anew. */
import { factorsOf } from "./factors";
import type { OutcomeFinding } from "./findings";
import type { LightWithout } from "./groundwork";
import { type FaultSets, weightOfHeaviest } from "./sets";
import type { TraceModel } from "./types";

/** A reading of the light is left out over all singles and pairs, and over so many of three that matter most. */
const LEFT_OUT_SETS = 5000;

/**
 * Adds to a row of sets with one finding left out what it weighs more than with the finding's plain factor: to each state that makes them
 * differ, to the two they share, and to the total. `factor` is that of the two, `showing` that with each state which shows.
 */
export function leaveOut(
  without: Float64Array,
  weight: Float64Array,
  i: number,
  j: number,
  from: number,
  factor: number,
  plain: number,
  places: Int16Array,
  showing: Float64Array,
): void {
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
  if (i >= 0) without[i] = without[i]! + sum;
  if (j >= 0) without[j] = without[j]! + sum;
  without[weight.length] = without[weight.length]! + sum;
}

/** The same where neither of the two shows: all that differs are the states that do, by `gaps`. */
export function leaveOutPlain(
  without: Float64Array,
  weight: Float64Array,
  i: number,
  j: number,
  from: number,
  places: Int16Array,
  gaps: Float64Array,
): void {
  let sum = 0;
  for (let t = places.length - 1; t >= 0 && places[t]! >= from; t--) {
    const k = places[t]!;
    const rest = weight[k]! * gaps[t]!;
    without[k] = without[k]! + rest;
    sum += rest;
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
 * Which sets of three a reading of the light is left out over: those that are heavy, and those that would be without any such reading, between
 * which it comes to lie without one of them. By their numbers, in their order.
 */
export function mattering(weights: Float64Array, seen: Float64Array, { third }: FaultSets): Int32Array {
  const unseen = new Float64Array(weights.length);
  let total = 0;
  for (let n = 0; n < unseen.length; n++) {
    const w = weights[n]! / Math.max(1e-300, seen[n]!);
    unseen[n] = w;
    total += w;
  }
  const heavy = weightOfHeaviest(weights, LEFT_OUT_SETS);
  const heavyUnseen = weightOfHeaviest(unseen, LEFT_OUT_SETS, total);
  const matters: number[] = [];
  for (let n = 0; n < unseen.length; n++) if (third[n]! >= 0 && (weights[n]! >= heavy || unseen[n]! >= heavyUnseen)) matters.push(n);
  return Int32Array.from(matters);
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
  matters: Int32Array,
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
  const begun = [-2, -2];
  const lightOf = (n: number, a: number, b: number, s: number): number => {
    const known = light[n]!;
    if (!Number.isNaN(known)) return known;
    if (begun[0] !== a || begun[1] !== b) row.begin(a, b, best);
    begun[0] = a;
    begun[1] = b;
    const of = row.extend(s, lost);
    light[n] = of;
    return of;
  };
  for (const { i, j, from, at } of rows) {
    if (j >= 0) continue;
    const a = i < 0 ? -1 : order[i]!;
    let shared = 0;
    for (let k = from; k < states; k++) {
      const n = at + k - from;
      const s = order[k]!;
      const w = weighed(n, lightOf(n, a, -1, s));
      sums[s] = sums[s]! + w;
      shared += w;
    }
    if (a >= 0) sums[a] = sums[a]! + shared;
    sums[states] = sums[states]! + shared;
  }
  for (let m = 0; m < matters.length; m++) {
    const n = matters[m]!;
    const [a, b, c] = [first[n]!, second[n]!, third[n]!];
    const w = weighed(n, lightOf(n, a, b, c));
    sums[a] = sums[a]! + w;
    sums[b] = sums[b]! + w;
    sums[c] = sums[c]! + w;
    sums[states] = sums[states]! + w;
  }
  return byFault(sums, states, (none / (lightRate * (said?.rate ?? 1))) * (restRate / priorTotal));
}
