/** What is believed before anything is found: base rates, and how the machine was used. */
import { doseOf } from "../model/dose";
import type { FaultSpec, FoundBefore, Symptom, TraceModel, TraceUsage } from "../model/types";

/**
 * Factor on a fault's prior odds from use: (dose / interval)² in 0.2..8 for dirt, (hours / rated)³ in 0.005..8 for the tube,
 * 1 + 5 exp(-days/7) after a seat was opened, (days / interval)² in 0.2..8 for coolant. 1 where use is not known.
 */
export function usageFactor(fault: FaultSpec, usage: TraceUsage): number {
  const driver = fault.usage;
  if (!driver) return 1;
  const squared = (share: number) => Math.min(8, Math.max(0.2, share * share));
  switch (driver.kind) {
    case "dose": {
      const dose = doseOf(usage, driver.station);
      return dose === undefined ? 1 : squared(dose / driver.intervalPlyHours);
    }
    case "tube-hours": {
      if (usage.tubeHours === undefined) return 0.3;
      const share = usage.tubeHours / (usage.ratedTubeHours ?? 3000);
      return Math.min(8, Math.max(0.005, share ** 3));
    }
    case "seat": {
      const days = (usage.seatsOpened ?? []).filter((s) => s.station === driver.station).map((s) => s.daysAgo);
      return days.reduce((factor, d) => Math.max(factor, 1 + 5 * Math.exp(-Math.max(0, d) / 7)), 1);
    }
    case "coolant-age":
      return usage.daysSinceCoolantChange === undefined ? 1 : squared(usage.daysSinceCoolantChange / driver.intervalDays);
  }
}

/** The authored rates weigh as much as this many cases of the workshop's own. */
const AUTHORED_CASES = 30;

/** A fault's base rate with what this workshop's closed cases say of it: Beta pseudo-counts. */
export function baseRateOf(fault: Pick<FaultSpec, "id" | "baseRate">, found?: FoundBefore): number {
  if (!found || found.cases === 0) return fault.baseRate;
  return (AUTHORED_CASES * fault.baseRate + (found.faults[fault.id] ?? 0)) / (AUTHORED_CASES + found.cases);
}

/**
 * Ln prior weight of each fault state against the fault being absent; state 2f is light, 2f + 1 heavy. `found` is what ended earlier cases.
 */
export function logPriorWeights(model: TraceModel, usage: TraceUsage, found?: FoundBefore): Float64Array {
  const weights = new Float64Array(model.faults.length * 2);
  model.faults.forEach((fault, f) => {
    const rate = baseRateOf({ ...fault, id: model.faults[fault.span?.of ?? f]?.id ?? fault.id }, found);
    const odds = (rate / (1 - rate)) * usageFactor(fault, usage) * (fault.oddsFactor ?? 1);
    weights[2 * f] = Math.log(odds * (1 - fault.heavyShare));
    weights[2 * f + 1] = Math.log(odds * fault.heavyShare);
  });
  return weights;
}

/**
 * Factor on the prior of a set for each cause beyond the first. Base rates are shares of the machines in trouble, which mostly are in one:
 * taken as chances of each by itself, they would make two at once likelier than one. Dirt gathers everywhere, whatever else is wrong.
 */
const TOGETHER = 0.2;
const DIRT_TOGETHER = 0.4;

/** Whether a fault can have brought the machine here: one that was mended since too, but not one that a repair brought. */
function isCause({ faults }: TraceModel, f: number, symptom: Symptom): boolean {
  const { span } = faults[f] as FaultSpec;
  return (span?.from ?? 0) === 0 && (faults[span?.of ?? f]?.symptoms[symptom] ?? 0) > 0;
}

/** Prior weight of a set of up to three states against the empty one; -1 stands for no state. */
export type SetPrior = (a: number, b: number, c: number) => number;

/** What sets weigh before anything is found, on a machine that was brought here by one symptom. */
export function setPrior(model: TraceModel, usage: TraceUsage, symptom: Symptom, found?: FoundBefore): SetPrior {
  const weights = logPriorWeights(model, usage, found).map(Math.exp);
  // What did not bring the machine here stands beside it as it may.
  const rarer = Float64Array.from(weights, (_, s) =>
    isCause(model, s >> 1, symptom) ? (model.faults[s >> 1]?.usage?.kind === "dose" ? DIRT_TOGETHER : TOGETHER) : 1,
  );
  return (a, b, c) => {
    if (a < 0) return 1;
    if (b < 0) return weights[a]!;
    if (c < 0) return weights[a]! * weights[b]! * Math.max(rarer[a]!, rarer[b]!);
    const all = rarer[a]! * rarer[b]! * rarer[c]!;
    return weights[a]! * weights[b]! * weights[c]! * (all / Math.min(rarer[a]!, rarer[b]!, rarer[c]!));
  };
}
