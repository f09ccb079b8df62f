import { type Posterior, shareOf } from "./posterior";
import type { FaultSets } from "./sets";
import type { Symptom, TraceModel } from "./types";

/** Minutes charged when no repair in the list helped: someone has to think again. */
const LOST_MINUTES = 60;
/** Certainty at which the repair is simply done. */
export const SURE = 0.9;

export interface Decisions {
  /** Decision of each set: a repair's index, or `nothing`. "None of these" has its own index, the last. */
  readonly ofSet: Int16Array;
  readonly nothing: number;
  readonly unknown: number;
  readonly count: number;
  /** Probability of each decision. */
  readonly probability: Float64Array;
}

/** The main fault of a set is the one with the largest expected share of the reported symptom; its repair is the decision. */
export function decisions(model: TraceModel, sets: FaultSets, post: Posterior, symptom: Symptom): Decisions {
  const repairIndex = new Map(model.repairs.map((r, i) => [r.id, i]));
  const nothing = model.repairs.length;
  const unknown = nothing + 1;
  const count = unknown + 1;
  const ofSet = new Int16Array(sets.count).fill(nothing);
  const probability = new Float64Array(count);
  const set = post.losses.newPosterior();
  const repairOf = Int16Array.from(model.faults, (f) => repairIndex.get(f.repair) ?? nothing);
  const columns = [sets.first, sets.second, sets.third] as const;
  for (let n = 0; n < sets.count; n++) {
    const a = sets.first[n]!;
    if (a >= 0) {
      if (sets.second[n]! >= 0) post.losses.evaluate(a, sets.second[n]!, sets.third[n]!, set);
      else set.mean[0] = 1;
      let best = 0;
      for (let i = 0; i < 3; i++) {
        const s = columns[i]?.[n] as number;
        if (s < 0) break;
        const share = shareOf(model, symptom, s >> 1, s & 1, set.mean[i]!);
        if (share > best) {
          best = share;
          ofSet[n] = repairOf[s >> 1]!;
        }
      }
    }
    const d = ofSet[n]!;
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

/**
 * Expected minutes of repairing straight away, best probability per minute first, each with its proof, until the right one
 * is reached. Weights need not be normalised.
 */
export function straightMinutes(model: TraceModel, weights: ArrayLike<number>, total: number): number {
  const order = model.repairs
    .map((repair, i) => ({ minutes: repair.minutes + repair.proofMinutes, p: weights[i]! / total }))
    .filter((r) => r.p > 0.002)
    .sort((a, b) => b.p / b.minutes - a.p / a.minutes);
  const fixable = order.reduce((sum, r) => sum + r.p, 0);
  let left = fixable;
  let expected = (1 - fixable) * LOST_MINUTES;
  for (const repair of order) {
    expected += left * repair.minutes;
    left -= repair.p;
  }
  return expected;
}

/** The repair that would be done first when going straight: the likeliest per minute, as `straightMinutes` orders them. */
export function likeliestRepair(model: TraceModel, probability: ArrayLike<number>): number {
  let best = -1;
  for (let i = 0; i < model.repairs.length; i++) {
    if (best < 0 || probability[i]! > probability[best]!) best = i;
  }
  return best;
}
