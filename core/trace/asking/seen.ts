/** What a look showed as such, and what goes into the round for it. */
import { repairsOf } from "../belief/decision";
import { coversOf } from "../model/mending";
import type { FaultSpec, RepairSpec, Symptom, TraceFinding, TraceModel } from "../model/types";
import { isDear, roundMinutes } from "./plan";

/** How many times likelier an outcome must be under a fault than on a sound machine to count as that fault seen. */
const SEEN_RATIO = 8;
/** A seen fault this probable is in every plan. */
const ENOUGH = 0.1;

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

/** Dirt that a look hinted at: its mildest grade, which a mild eye gives to more than that. */
export function hazedFaults(model: TraceModel, findings: readonly TraceFinding[]): Set<string> {
  const last = new Map(findings.filter((f) => f.outcome !== undefined).map((f) => [f.check, f.outcome as string]));
  const hazed = model.checks.filter((c) => c.sight && c.outcomes.indexOf(last.get(c.id) ?? "") === 1).map((c) => c.id);
  const isDirt = (fault: FaultSpec) => fault.usage?.kind === "dose" && hazed.some((id) => fault.effects[id] !== undefined);
  return new Set(model.faults.filter(isDirt).map((f) => f.id));
}

/** Faults that a look cleared, and none showed: what is usual in a check of the part itself, far rarer with the fault than without. */
export function clearedFaults(model: TraceModel, findings: readonly TraceFinding[]): Set<string> {
  const last = new Map(findings.filter((f) => f.outcome !== undefined).map((f) => [f.check, f.outcome as string]));
  const looked = model.checks.filter((c) => c.sight === true && c.outcomes.indexOf(last.get(c.id) ?? "") === 0);
  const isCleared = (fault: FaultSpec) =>
    looked.some((c) => fault.effects[c.id]?.some((e) => e.kind === "outcomes") === true && ratioOf(fault, c, 0) <= 1 / SEEN_RATIO);
  const seen = seenFaults(model, findings);
  return new Set(model.faults.filter((f) => !seen.has(f.id) && isCleared(f)).map((f) => f.id));
}

export interface Weighed {
  /** Probability of each fault, by its place in the model. */
  readonly fault: readonly number[];
  /** Probability of each repair to be that of the main fault. */
  readonly decided: Float64Array;
}

/** A seen fault whose repair is as probable as this, and so many times likelier than any other, is repaired at once. */
const EXPLAINS = 0.5;
const CLEAR_LEAD = 2.5;
/** What takes so few minutes (a setting, a limit) is done at once though it is less likely. */
const SOON_DONE_MINUTES = 3;
const EXPLAINS_IF_SOON_DONE = 0.3;

/** The repair of a fault that was seen, can cause what was reported, and is far likelier than all else to be what takes most. */
export function seenRepair(model: TraceModel, seen: ReadonlySet<string>, symptom: Symptom, { decided }: Weighed): number | undefined {
  const able = model.faults.filter((f) => seen.has(f.id) && (f.symptoms[symptom] ?? 0) > 0).map((f) => f.repair);
  let best = 0;
  let second = 0;
  let main = -1;
  for (let r = 0; r < model.repairs.length; r++) {
    const p = decided[r]!;
    if (p > best) {
      second = best;
      best = p;
      main = r;
    } else second = Math.max(second, p);
  }
  const needed = (model.repairs[main]?.minutes ?? 0) <= SOON_DONE_MINUTES ? EXPLAINS_IF_SOON_DONE : EXPLAINS;
  return best >= needed && best >= CLEAR_LEAD * second && able.includes(model.repairs[main]?.id ?? "") ? main : undefined;
}

/**
 * Repairs of one round, by their places in the model: the main one, then every further repair of a fault that was seen, or that is probable
 * enough to be worth its minutes against coming back for it. What is `barred` was done in vain already.
 */
export function repairPlan(
  model: TraceModel,
  round: readonly number[],
  main: number | undefined,
  seen: ReadonlySet<string>,
  symptom: Symptom,
  weighed: Weighed,
  barred: (repair: number) => boolean,
): number[] {
  const plan = main === undefined ? [...round] : [main, ...round.filter((r) => r !== main && !isDear(model.repairs[r]!))];
  const overhead = roundMinutes(model);
  const covers = coversOf(model);
  const isCovered = (repair: number) => plan.some((p) => covers[p]?.includes(repair));
  // Of one part only the likeliest is done: who replaces a lens does not clean it first.
  const likeliest = new Map<string, number>();
  const repairs = new Map(model.repairs.map((r, i) => [r.id, i]));
  model.faults.forEach((fault, f) => {
    const p = plan.includes(repairs.get(fault.repair) as number) ? 2 : (weighed.fault[f] ?? 0);
    likeliest.set(fault.station, Math.max(likeliest.get(fault.station) ?? 0, p));
  });
  const worth = new Map<number, number>();
  model.faults.forEach((fault, f) => {
    const p = weighed.fault[f] ?? 0;
    const repair = repairs.get(fault.repair);
    if (repair === undefined || isCovered(repair) || barred(repair) || p < (likeliest.get(fault.station) ?? 0)) return;
    const { minutes, needlessMinutes } = model.repairs[repair] as RepairSpec;
    const pays = (fault.symptoms[symptom] ?? 0) > 0 && p * overhead > minutes + (1 - p) * needlessMinutes;
    if (pays || (seen.has(fault.id) && p >= ENOUGH)) worth.set(repair, Math.max(worth.get(repair) ?? 0, p));
  });
  const all = [...plan, ...[...worth].sort((a, b) => b[1] - a[1]).map(([r]) => r)];
  // What another puts right on the way is no work of its own: nobody cleans a mirror that a spare takes the place of.
  return all.filter((r, i) => i === 0 || !all.some((other) => other !== r && covers[other]?.includes(r)));
}

/**
 * What of a round that holds a dear repair is done before it, and proven: whatever was seen bad and is cheap, however little it explains.
 * Nobody needs a new tube for a mirror with film on it. Empty where the round holds nothing dear, where what is dear was seen itself, since
 * nothing is proven with a damaged window in, or where nothing was seen.
 */
export function beforeDear(
  model: TraceModel,
  plan: readonly number[],
  seen: ReadonlySet<string>,
  symptom: Symptom,
  { fault: chances }: Weighed,
  barred: (repair: number) => boolean,
  hazed: ReadonlySet<string> = new Set(),
): number[] {
  const dear = plan.filter((r) => isDear(model.repairs[r]!)).map((r) => model.repairs[r]!.id);
  if (dear.length === 0 || model.faults.some((f) => seen.has(f.id) && dear.includes(f.repair))) return [];
  const worth = new Map<number, number>();
  const repairOf = repairsOf(model);
  model.faults.forEach((fault, f) => {
    const repair = repairOf[f]!;
    if (!(seen.has(fault.id) || (hazed.has(fault.id) && (chances[f] ?? 0) >= ENOUGH)) || !((fault.symptoms[symptom] ?? 0) > 0)) return;
    if (!isDear(model.repairs[repair]!) && !barred(repair)) worth.set(repair, Math.max(worth.get(repair) ?? 0, chances[f] ?? 0));
  });
  const covers = coversOf(model);
  const repairs = [...worth.keys()].filter((r) => ![...worth.keys()].some((o) => o !== r && covers[o]?.includes(r)));
  return repairs.sort((a, b) => worth.get(b)! - worth.get(a)!);
}
