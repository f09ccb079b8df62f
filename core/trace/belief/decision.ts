/** What to repair: the main fault of every set, and what else has to be mended for a proof to hold. */
import { tabledNormalCdf } from "#core/normal";
import type { Symptom, TraceModel } from "../model/types";

/** Certainty at which the repair is simply done. */
export const SURE = 0.9;
/** What a fault takes (ln power, as a cut sees it) for its proof to fail because of it, and its share of another complaint. */
const NEEDED_LOSS = 0.08;
const NEEDED_SHARE = 0.3;

/** Losses this near each other (ln power) are alike: whichever of the two is mended first, it was right. */
const ALIKE = 0.02;

/** What a set needs: states by their place in it, -1 for none. */
export interface Needs {
  /** The one that takes most, and the next after it. */
  main: number;
  second: number;
  /** Whether the next has to be mended as well for a proof to hold. */
  both: boolean;
  /** Chance that the main takes most, give or take what is alike, and that the next does. */
  lead: number;
  trail: number;
}

/**
 * The states of a set that have to be mended: the one with the largest expected share of the reported symptom (for power: of the loss),
 * then the next. `mean` and `cov` are the losses (ln power) of the set's first, second and third: where two are near each other, either may
 * be the larger.
 */
export function needsOf(
  model: TraceModel,
  symptom: Symptom,
): (a: number, b: number, c: number, mean: Float64Array, cov: Float64Array, out: Needs) => void {
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
  const needed = symptom === "power" ? NEEDED_LOSS : NEEDED_SHARE;
  const share = (s: number, loss: number) => (s < 0 ? 0 : fixed[s]! + byLoss[s]! * Math.max(1e-4, loss));
  return (a, b, c, mean, cov, out) => {
    const ofA = share(a, mean[0]!);
    const ofB = share(b, mean[1]!);
    const ofC = share(c, mean[2]!);
    let most = ofA;
    let next = ofB;
    let at = 0;
    let nextAt = 1;
    if (ofB > ofA) {
      most = ofB;
      next = ofA;
      at = 1;
      nextAt = 0;
    }
    if (ofC > most) {
      next = most;
      nextAt = at;
      most = ofC;
      at = 2;
    } else if (ofC > next) {
      next = ofC;
      nextAt = 2;
    }
    const main = most > 0 ? (at === 0 ? a : at === 1 ? b : c) : -1;
    const second = next > 0 ? (nextAt === 0 ? a : nextAt === 1 ? b : c) : -1;
    out.main = main;
    out.second = second;
    out.both = next > needed;
    out.lead = 1;
    out.trail = 0;
    if (second < 0) return;
    const p = byLoss[main]!;
    const q = byLoss[second]!;
    const variance = p * p * cov[4 * at]! + q * q * cov[4 * nextAt]! - 2 * p * q * cov[3 * at + nextAt]!;
    if (!(variance > 1e-9)) return;
    const perSd = 1 / Math.sqrt(variance);
    out.lead = tabledNormalCdf((most - next + ALIKE) * perSd);
    out.trail = tabledNormalCdf((next - most + ALIKE) * perSd);
  };
}

export interface Decisions {
  /** Decisions are repairs by their index, then `nothing`, then `unknown`: "none of these". */
  readonly nothing: number;
  readonly unknown: number;
  readonly count: number;
  /** Probability of each decision to be right; where two faults take alike either is, so that they may sum to more than one. */
  readonly probability: Float64Array;
}

/** Decision of each state: the repair of its fault; `nothing` for no state at all (-1). */
export function decisionsOf(model: TraceModel): (state: number) => number {
  const repairOf = repairsOf(model);
  return (state) => (state < 0 ? model.repairs.length : repairOf[state >> 1]!);
}

/** The decisions, from the weight of each but "none of these", that of all sets and that of none. */
export function decisionsFrom(model: TraceModel, weights: Float64Array, all: number, none: number): Decisions {
  const nothing = model.repairs.length;
  const unknown = nothing + 1;
  return { nothing, unknown, count: nothing + 2, probability: weights.map((w, d) => (d === unknown ? none : w) / all) };
}

/** Index of each fault's repair. */
export function repairsOf(model: TraceModel): Int16Array {
  const index = new Map(model.repairs.map((r, i) => [r.id, i]));
  return Int16Array.from(model.faults, (f) => index.get(f.repair) ?? model.repairs.length);
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
