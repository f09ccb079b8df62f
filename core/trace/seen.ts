import type { FaultSpec, Symptom, TraceFinding, TraceModel } from "./types";

/** How many times likelier an outcome must be under a fault than on a sound machine to count as that fault seen. */
const SEEN_RATIO = 8;
/** Where all findings that speak against a seen fault come to this (decibans), it leaves something unexplained. */
const AGAINST_DECIBANS = -3;
/** A seen fault this probable is repaired at once. */
const ENOUGH = 0.35;
/** Minutes of coming back for a repair that was left out: make safe, open, close, prove. */
const COMING_BACK_MINUTES = 15;

/** Probability of an outcome under the form of a fault that shows it most, over that on a sound machine. */
function ratioOf(fault: FaultSpec, check: TraceModel["checks"][number], outcome: number): number {
  const effect = fault.effects[check.id]?.find((e) => e.kind === "outcomes");
  if (effect?.kind !== "outcomes") return 0;
  return Math.max(effect.light[outcome] ?? 0, effect.heavy[outcome] ?? 0) / Math.max(1e-9, check.leak[outcome] ?? 1);
}

/** Faults that a look showed as such: the outcome of a check of the part itself, far likelier with the fault than without. */
export function seenFaults(model: TraceModel, findings: readonly TraceFinding[]): Set<string> {
  const last = new Map(findings.filter((f) => f.outcome !== undefined).map((f) => [f.check, f.outcome as string]));
  const seen = new Set<string>();
  for (const check of model.checks) {
    const outcome = check.sight ? check.outcomes.indexOf(last.get(check.id) ?? "") : -1;
    if (outcome <= 0) continue;
    for (const fault of model.faults) if (ratioOf(fault, check, outcome) >= SEEN_RATIO) seen.add(fault.id);
  }
  return seen;
}

export interface Weighed {
  /** Probability of each fault, by its place in the model. */
  readonly fault: readonly number[];
  readonly evidence: readonly { readonly check: string; readonly fault: string; readonly decibans: number }[];
}

/** The seen fault that is repaired at once: it can cause what was reported, leads, and no other finding speaks against it. */
export function seenRepair(model: TraceModel, seen: ReadonlySet<string>, symptom: Symptom, weighed: Weighed): number | undefined {
  let best: number | undefined;
  model.faults.forEach((fault, f) => {
    const p = weighed.fault[f] ?? 0;
    if (!seen.has(fault.id) || (fault.symptoms[symptom] ?? 0) === 0 || p < ENOUGH) return;
    const against = weighed.evidence.reduce((sum, e) => (e.fault === fault.id ? sum + Math.min(0, e.decibans) : sum), 0);
    if (against < AGAINST_DECIBANS) return;
    if (model.faults.some((other, o) => (other.symptoms[symptom] ?? 0) > 0 && (weighed.fault[o] ?? 0) > p)) return;
    best = f;
  });
  return best;
}

/**
 * Repairs of one round: the main one, then every further repair of a fault that was seen, or that is probable enough to be worth its
 * minutes against coming back for it.
 */
export function repairPlan(model: TraceModel, main: number, seen: ReadonlySet<string>, symptom: Symptom, weighed: Weighed): string[] {
  const worth = new Map<string, number>();
  const first = model.repairs[main]?.id;
  // Of one part only the likeliest is done: who replaces a lens does not clean it first.
  const likeliest = new Map<string, number>();
  model.faults.forEach((fault, f) => {
    const p = fault.repair === first ? 2 : (weighed.fault[f] ?? 0);
    likeliest.set(fault.station, Math.max(likeliest.get(fault.station) ?? 0, p));
  });
  model.faults.forEach((fault, f) => {
    const p = weighed.fault[f] ?? 0;
    if (p < (likeliest.get(fault.station) ?? 0)) return;
    const minutes = model.repairs.find((r) => r.id === fault.repair)?.minutes;
    if (minutes === undefined) return;
    const pays = (fault.symptoms[symptom] ?? 0) > 0 && p * COMING_BACK_MINUTES > minutes && p >= ENOUGH / 2;
    if (pays || (seen.has(fault.id) && p >= ENOUGH)) worth.set(fault.repair, Math.max(worth.get(fault.repair) ?? 0, p));
  });
  const others = [...worth].filter(([id]) => id !== first).sort((a, b) => b[1] - a[1]);
  return [...(first === undefined ? [] : [first]), ...others.map(([id]) => id)];
}
