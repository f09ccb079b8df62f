/** What to repair: the main fault of every set, what repairing would take, and what is done in one round. */
import type { Posterior } from "./posterior";
import type { FaultSets } from "./sets";
import type { RepairSpec, Symptom, TraceModel } from "./types";

/** Minutes charged when no repair in the list helped: someone has to think again. */
const LOST_MINUTES = 60;
/** Making safe, opening and closing for a round; its proof comes on top. */
const ROUND_MINUTES = 4;
/**
 * What a repair weighs in a plan: its minutes, and in minutes too what it costs where it was not needed: contact that wears a coating, a
 * part bought, somebody called.
 */
const weightOf = (r: RepairSpec): number => r.minutes + r.needlessMinutes;

/** Certainty at which the repair is simply done. */
export const SURE = 0.9;
/** Repairs rarer than this are no part of a way on. */
const RARE = 0.004;

/**
 * The state of a set that has the largest expected share of the reported symptom (for power: of the loss), -1 where none has one. `mean` are
 * the expected losses (ln power) of its first, second and third.
 */
export function mainOf(model: TraceModel, symptom: Symptom): (a: number, b: number, c: number, mean: Float64Array) => number {
  const states = model.faults.length * 2;
  const fixed = new Float64Array(states);
  const byLoss = new Float64Array(states);
  model.faults.forEach((fault, f) => {
    const declared = fault.symptoms[symptom] ?? 0;
    for (const severity of [0, 1] as const) {
      if (symptom === "power" && declared > 0) byLoss[2 * f + severity] = Math.max(fault.cutGain, fault.lossAt === undefined ? 0 : 1);
      else fixed[2 * f + severity] = declared * (severity === 1 ? 1 : 0.5);
    }
  });
  const share = (s: number, loss: number) => fixed[s]! + byLoss[s]! * Math.max(1e-4, loss);
  return (a, b, c, mean) => {
    if (a < 0) return -1;
    let best = share(a, mean[0]!);
    let main = best > 0 ? a : -1;
    if (b < 0) return main;
    const second = share(b, mean[1]!);
    if (second > best) {
      best = second;
      main = b;
    }
    return c >= 0 && share(c, mean[2]!) > best ? c : main;
  };
}

export interface Decisions {
  /** Decision of each set: a repair's index, or `nothing`. "None of these" has its own index, the last. */
  readonly ofSet: Int16Array;
  readonly nothing: number;
  readonly unknown: number;
  readonly count: number;
  /** Probability of each decision. */
  readonly probability: Float64Array;
}

/** The decision of a set is the repair of its main fault. */
export function decisions(model: TraceModel, sets: FaultSets, post: Posterior): Decisions {
  const repairIndex = new Map(model.repairs.map((r, i) => [r.id, i]));
  const nothing = model.repairs.length;
  const unknown = nothing + 1;
  const count = unknown + 1;
  const repairOf = Int16Array.from(model.faults, (f) => repairIndex.get(f.repair) ?? nothing);
  const ofSet = new Int16Array(sets.count);
  const probability = new Float64Array(count);
  for (let n = 0; n < sets.count; n++) {
    const main = post.main[n]!;
    const d = main < 0 ? nothing : repairOf[main >> 1]!;
    ofSet[n] = d;
    probability[d] = probability[d]! + post.sets[n]!;
  }
  probability[unknown] = post.none;
  return { ofSet, nothing, unknown, count, probability };
}

/** Entropy in bits of unnormalised weights with the given total. */
export function entropyBits(weights: ArrayLike<number>, total: number): number {
  let h = 0;
  for (let i = 0; i < weights.length; i++) {
    const p = weights[i]! / total;
    if (p > 0) h -= p * Math.log2(p);
  }
  return h;
}

/** Minutes of a round besides its repairs: make safe, open, close, prove. */
export const roundMinutes = (model: TraceModel): number => ROUND_MINUTES + (model.repairs[0]?.proofMinutes ?? 0);

/** Repairs that matter, by what a round for each alone would bring a minute. Kept between calls: a ranking asks thousands of times. */
interface Order {
  readonly index: Int32Array;
  readonly chance: Float64Array;
  readonly worth: Float64Array;
  readonly used: Uint8Array;
}
const orders = new WeakMap<TraceModel, Order>();

function order(model: TraceModel): Order {
  const n = model.repairs.length;
  const known = orders.get(model) ?? {
    index: new Int32Array(n),
    chance: new Float64Array(n),
    worth: new Float64Array(n),
    used: new Uint8Array(n),
  };
  orders.set(model, known);
  return known;
}

function sorted(model: TraceModel, weights: ArrayLike<number>, total: number): { order: Order; count: number } {
  const o = order(model);
  const overhead = roundMinutes(model);
  let count = 0;
  for (let i = 0; i < model.repairs.length; i++) {
    const p = weights[i]! / total;
    if (p <= RARE) continue;
    const worth = p / (weightOf(model.repairs[i]!) + overhead);
    let at = count++;
    for (; at > 0 && o.worth[at - 1]! < worth; at--) {
      o.worth[at] = o.worth[at - 1]!;
      o.index[at] = o.index[at - 1]!;
      o.chance[at] = o.chance[at - 1]!;
    }
    o.worth[at] = worth;
    o.index[at] = i;
    o.chance[at] = p;
  }
  return { order: o, count };
}

/**
 * Expected minutes of going on by repairs alone, in rounds: the most promising first, and with it whatever spares more by not coming back
 * than it takes. Weights per repair need not be normalised.
 */
export function planMinutes(model: TraceModel, weights: ArrayLike<number>, total: number): number {
  const { order: o, count } = sorted(model, weights, total);
  const overhead = roundMinutes(model);
  let left = 0;
  for (let i = 0; i < count; i++) left += o.chance[i]!;
  let expected = (1 - left) * LOST_MINUTES;
  o.used.fill(0, 0, count);
  for (let i = 0; i < count; i++) {
    if (o.used[i] === 1) continue;
    let minutes = overhead + weightOf(model.repairs[o.index[i]!]!);
    let chance = o.chance[i]!;
    for (let j = i + 1; j < count; j++) {
      if (o.used[j] === 1) continue;
      const more = weightOf(model.repairs[o.index[j]!]!);
      // Worth it when the chance to spare a round outweighs doing it for nothing.
      if (o.chance[j]! * overhead <= more * chance) continue;
      o.used[j] = 1;
      minutes += more;
      chance += o.chance[j]!;
    }
    expected += left * minutes;
    left -= chance;
  }
  return expected;
}

/** Repairs of the round that `planMinutes` begins with, the likeliest first; empty where none matters. */
export function firstRound(model: TraceModel, weights: ArrayLike<number>, total: number): number[] {
  const { order: o, count } = sorted(model, weights, total);
  if (count === 0) return [];
  const overhead = roundMinutes(model);
  const round = [0];
  let chance = o.chance[0]!;
  for (let j = 1; j < count; j++) {
    if (o.chance[j]! * overhead <= weightOf(model.repairs[o.index[j]!]!) * chance) continue;
    round.push(j);
    chance += o.chance[j]!;
  }
  return round.sort((p, q) => o.chance[q]! - o.chance[p]!).map((j) => o.index[j]!);
}
