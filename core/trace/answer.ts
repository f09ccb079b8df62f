import { tabledNormalCdf } from "#core/normal";
import { decisions, likeliestRepair, SURE, straightMinutes } from "./decision";
import { sortFindings } from "./findings";
import { heaviest, rankChecks } from "./nextChecks";
import { type Posterior, posterior, type Weights } from "./posterior";
import { placeOf } from "./readings";
import { repairPlan, seenFaults, seenRepair, type Weighed } from "./seen";
import { enumerateSets, type FaultSets } from "./sets";
import type { LossPercent, Symptom, TraceAnswer, TraceInput, TraceModel } from "./types";

/** Sets that the loss per station is mixed from. */
const LOSS_SETS = 300;
/** Evidence weaker than this (decibans) is not worth a reader's time. */
const SHOWN_DECIBANS = 1;
/** Sets named in the answer. */
const PRINTED_SETS = 12;

/** Marginal probability per fault under given weights. */
function marginals(model: TraceModel, sets: FaultSets, weights: Weights): Float64Array {
  const states = new Float64Array(model.faults.length * 2);
  for (let n = 1; n < sets.count; n++) {
    const w = weights.sets[n]!;
    const a = sets.first[n]!;
    const b = sets.second[n]!;
    const c = sets.third[n]!;
    states[a] = states[a]! + w;
    if (b >= 0) states[b] = states[b]! + w;
    if (c >= 0) states[c] = states[c]! + w;
  }
  return states;
}

const faultTotal = (states: Float64Array, f: number): number => states[2 * f]! + states[2 * f + 1]!;

/** Log odds in decibans, held within ±120 so that certainty stays a number. */
function decibans(probability: number): number {
  const p = Math.min(1 - 1e-12, Math.max(1e-12, probability));
  return 10 * Math.log10(p / (1 - p));
}

/** The symptom the findings speak of: lost power if any cut, ladder or wattage is low, else that of the first odd finding. */
function inferSymptom(model: TraceModel, input: TraceInput): Symptom {
  if (input.symptom) return input.symptom;
  let other: Symptom | undefined;
  for (const finding of input.findings ?? []) {
    const check = model.checks.find((c) => c.id === finding.check);
    if (!check) continue;
    const odd = finding.value !== undefined || (finding.outcome !== undefined && check.outcomes.indexOf(finding.outcome) > 0);
    if (!odd) continue;
    if (check.kind === "loss") return "power";
    other ??= check.symptom;
  }
  return other ?? "power";
}

/**
 * The full answer for one machine and its findings. Deterministic, reads no clock. Throws RangeError when a finding names a
 * check or an outcome the machine does not have. Watts in W at `setPercent` (default the baseline's), ladders as a ratio to
 * the baseline, times in the units their names say.
 */
export function trace(model: TraceModel, input: TraceInput): TraceAnswer {
  const usage = input.usage ?? {};
  const sets = enumerateSets(model.faults.length, input.maxFaults ?? 2);
  const found = sortFindings(model, input);
  const post = posterior(model, usage, sets, found);
  const states = marginals(model, sets, post);
  const symptom = inferSymptom(model, input);

  const faults = model.faults
    .map((fault, f) => {
      const probability = Math.min(1, faultTotal(states, f));
      return { id: fault.id, probability, heavy: probability > 0 ? states[2 * f + 1]! / probability : 0 };
    })
    .sort((a, b) => b.probability - a.probability);

  const evidence: { check: string; fault: string; decibans: number }[] = [];
  for (const [check, weights] of post.without) {
    const before = marginals(model, sets, weights);
    model.faults.forEach((fault, f) => {
      const shift = decibans(faultTotal(states, f)) - decibans(faultTotal(before, f));
      if (Math.abs(shift) >= SHOWN_DECIBANS) evidence.push({ check, fault: fault.id, decibans: shift });
    });
  }
  evidence.sort((a, b) => Math.abs(b.decibans) - Math.abs(a.decibans));

  const decided = decisions(model, sets, post, symptom);
  const done = new Set([...(input.findings ?? []).map((f) => f.check), ...(input.declined ?? [])]);
  const ranking = rankChecks(model, sets, post, decided, done, input.opened ?? []);
  const straight = straightMinutes(model, decided.probability, 1);
  const best = likeliestRepair(model, decided.probability);
  const bestProbability = best < 0 ? 0 : decided.probability[best]!;
  const weighed: Weighed = {
    fault: model.faults.map((_, f) => faultTotal(states, f)),
    evidence,
  };
  const seen = seenFaults(model, input.findings ?? []);
  const seenFault = seenRepair(model, seen, symptom, weighed);
  const ofSeen = seenFault === undefined ? -1 : model.repairs.findIndex((r) => r.id === model.faults[seenFault]?.repair);
  const certain = bestProbability >= SURE;
  const unknown = decided.probability[decided.unknown]! + decided.probability[decided.nothing]!;
  const cheaper = !certain && straight <= ranking.withCheckMinutes && bestProbability > unknown;
  const idle = !certain && !cheaper && bestProbability > unknown && !ranking.checks.some((c) => c.helps);
  const main = ofSeen >= 0 ? ofSeen : best;
  const repair = main >= 0 && (ofSeen >= 0 || certain || cheaper || idle) ? (model.repairs[main]?.id ?? null) : null;

  // Faults that cannot cause the reported symptom are bystanders, however many there are.
  const bySize = [0, 0, 0, 0];
  const counts = Uint8Array.from(model.faults, (f) => ((f.symptoms[symptom] ?? 0) > 0 ? 1 : 0));
  for (let n = 1; n < sets.count; n++) {
    const b = sets.second[n]!;
    const c = sets.third[n]!;
    const size = counts[sets.first[n]! >> 1]! + (b < 0 ? 0 : counts[b >> 1]!) + (c < 0 ? 0 : counts[c >> 1]!);
    bySize[size] = bySize[size]! + post.sets[n]!;
  }
  const topSets = heaviest(post.sets, PRINTED_SETS);

  return {
    faults,
    stations: stationAnswers(model, sets, post),
    none: post.none,
    nothingWrong: post.sets[0]!,
    bySize: bySize.slice(1),
    sets: [...topSets].map((n) => ({
      faults: [sets.first[n]!, sets.second[n]!, sets.third[n]!].filter((s) => s >= 0).map((s) => model.faults[s >> 1]?.id as string),
      probability: post.sets[n]!,
    })),
    symptom,
    evidence,
    suspectReadings: found.suspect,
    nextChecks: ranking.checks,
    repairs: model.repairs
      .map((r, i) => ({ id: r.id, probability: decided.probability[i]! }))
      .filter((r) => r.probability > 0)
      .sort((a, b) => b.probability - a.probability),
    repair,
    plan: repairPlan(model, main, seen, symptom, weighed),
    seen: faults.filter((f) => seen.has(f.id) && (symptomOf(model, f.id)[symptom] ?? 0) > 0).map((f) => f.id),
    stop: {
      reason: stopReason({
        isSeen: ofSeen >= 0,
        certain,
        cheaper,
        idle,
        isUnknown: unknown > bestProbability && ranking.withCheckMinutes >= straight,
      }),
      straightMinutes: straight,
      withCheckMinutes: Number.isFinite(ranking.withCheckMinutes) ? ranking.withCheckMinutes : straight,
    },
    rankingMassLeftOut: ranking.massLeftOut,
  };
}

const symptomOf = (model: TraceModel, fault: string) => model.faults.find((f) => f.id === fault)?.symptoms ?? {};

function stopReason(is: Readonly<Record<"isSeen" | "certain" | "cheaper" | "idle" | "isUnknown", boolean>>): TraceAnswer["stop"]["reason"] {
  if (is.isSeen) return "seen";
  if (is.certain) return "sure";
  if (is.cheaper) return "cheaper";
  if (is.idle) return "idle";
  return is.isUnknown ? "unknown" : "check";
}

/** Probability that a station or system is at fault, and its loss against the baseline as a mixture over the heaviest sets. */
function stationAnswers(model: TraceModel, sets: FaultSets, post: Posterior): TraceAnswer["stations"] {
  const ids = [...model.stations.map((s) => s.id), ...model.systems];
  const stationOf = model.faults.map((f) => ids.indexOf(f.station));
  const lossOf = model.faults.map((f) =>
    f.lossAt === undefined ? ids.indexOf(f.station) : ids.indexOf(model.stations[placeOf(model, f.lossAt)]?.id as string),
  );
  const probability = new Float64Array(ids.length);
  for (let n = 1; n < sets.count; n++) {
    const w = post.sets[n]!;
    const a = stationOf[sets.first[n]! >> 1]!;
    const second = sets.second[n]!;
    const third = sets.third[n]!;
    const b = second < 0 ? -1 : stationOf[second >> 1]!;
    const c = third < 0 ? -1 : stationOf[third >> 1]!;
    probability[a] = probability[a]! + w;
    if (b >= 0 && b !== a) probability[b] = probability[b]! + w;
    if (c >= 0 && c !== a && c !== b) probability[c] = probability[c]! + w;
  }

  const top = heaviest(post.sets, LOSS_SETS);
  const kept = [...top].reduce((sum, n) => sum + post.sets[n]!, 0);
  const mean = new Float64Array(ids.length * top.length);
  const sd = new Float64Array(ids.length * top.length);
  const weight = new Float64Array(top.length);
  const set = post.losses.newPosterior();
  top.forEach((n, t) => {
    weight[t] = post.sets[n]! / kept;
    const s = [sets.first[n]!, sets.second[n]!, sets.third[n]!];
    post.losses.evaluate(s[0]!, s[1]!, s[2]!, set);
    ids.forEach((_, j) => {
      const base = j < model.stations.length ? post.losses.background(j, s[0]!, s[1]!, s[2]!, set) : { mean: 0, variance: 1e-9 };
      let m = base.mean;
      let v = base.variance;
      for (let i = 0; i < 3 && s[i]! >= 0; i++) {
        if (lossOf[s[i]! >> 1] !== j) continue;
        m += set.mean[i]!;
        v += set.cov[4 * i]!;
      }
      mean[j * top.length + t] = m;
      sd[j * top.length + t] = Math.sqrt(v);
    });
  });
  const quantile = (j: number, share: number): number => {
    let low = -0.5;
    let high = 2;
    for (let step = 0; step < 16; step++) {
      const middle = (low + high) / 2;
      let below = 0;
      for (let t = 0; t < top.length; t++) {
        below += weight[t]! * tabledNormalCdf((middle - mean[j * top.length + t]!) / sd[j * top.length + t]!);
      }
      if (below < share) low = middle;
      else high = middle;
    }
    return Math.max(0, 100 * (1 - Math.exp(-(low + high) / 2)));
  };
  return ids.map((id, j) => {
    const lossPercent: LossPercent = { mid: quantile(j, 0.5), low: quantile(j, 0.05), high: quantile(j, 0.95) };
    return { id, probability: Math.min(1, probability[j]!), lossPercent };
  });
}
