/** The engine's one question: a machine, its use and what was found in; how likely each fault is, what to ask next and what to repair out. */

import { isPowerCheck } from "#core/machine";
import { EXPLAINED, RANKED_SETS, rankChecks } from "./asking/nextChecks";
import { SURE } from "./belief/decision";
import { type Posterior, posterior } from "./belief/posterior";
import { heaviest } from "./belief/sets";
import { placesOf, stationAnswers } from "./belief/stations";
import { tally } from "./belief/tally";
import { type Course, courseOf, type Told } from "./course";
import { sortFindings } from "./light/findings";
import { presentOf } from "./model/atWork";
import type { Symptom, TraceAnswer, TraceFinding, TraceInput, TraceModel } from "./model/types";
import { withPast } from "./time/past";
import { speaksFor } from "./time/repaired";

/** Sets that the loss per station is mixed from. */
const LOSS_SETS = 300;
/** Evidence weaker than this (decibans) is not worth a reader's time. */
const SHOWN_DECIBANS = 1;
/** Sets named in the answer. */
const PRINTED_SETS = 12;

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

/** How much of an answer is worked out: all of it, or what to do next alone. */
export type TraceDepth = "whole" | "next";

/**
 * The full answer for one machine and its findings. Deterministic, reads no clock. Throws RangeError when a finding names a
 * check or an outcome the machine does not have. Watts in W at `setPercent` (default the baseline's), ladders as a ratio to
 * the baseline, times in the units their names say. With depth "next" evidence and losses by station are left empty.
 */
export function trace(plain: TraceModel, input: TraceInput, depth: TraceDepth = "whole"): TraceAnswer {
  const { model, findings, before } = withPast(plain, input);
  const { usage = {} } = input;
  const usages = [...before.map((b) => b.usage ?? usage), usage];
  const found = sortFindings(model, { findings, baseline: input.baseline }, before.length);
  const symptom = inferSymptom(model, { ...input, findings });
  const post = posterior({
    model,
    usages,
    earlier: input.found,
    maxFaults: input.maxFaults ?? 2,
    found,
    symptom,
    withEvidence: depth === "whole",
  });
  const { faultSets: sets } = post;
  const present = presentOf(model, before.length);
  const places = placesOf(model);
  // Faults that cannot cause the reported symptom are bystanders, however many there are.
  const isCause = (f: number) => (model.faults[f]?.symptoms[symptom] ?? 0) > 0;
  const sums = tally(sets, post, present, places.of, places.ids.length, isCause);
  const { states } = sums;
  const { decided } = post;
  const faults = plain.faults
    .map((fault, f) => {
      const probability = Math.min(1, faultTotal(states, f));
      return { id: fault.id, probability, heavy: probability > 0 ? states[2 * f + 1]! / probability : 0 };
    })
    .sort((a, b) => b.probability - a.probability);
  const told: Told = {
    plain,
    model,
    input,
    before,
    symptom,
    post,
    heavy: heaviest(post.sets, RANKED_SETS),
    chances: { fault: plain.faults.map((_, f) => faultTotal(states, f)), decided: decided.probability },
    done: new Set([...(input.findings ?? []).map((f) => f.check), ...(input.declined ?? []), ...withoutSpare(model, input)]),
  };
  const course = courseOf(told);
  const ranking = rankChecks({
    model,
    sets,
    heaviest: told.heavy,
    post,
    done: told.done,
    opened: input.opened ?? [],
    hasWatts: hasWatts({ ...input, findings }),
    isFromMemory: isFromMemory(model, input),
    explained: depth === "whole" ? EXPLAINED : 0,
    first: course.proof ?? course.owed,
    barring: {
      now: (r) => course.barred(r) && decided.probability[r]! >= RARE,
      after: (repair, check, label) => !speaksFor(plain, plain.repairs[repair]?.id ?? "", [answerAs(plain, check, label)]),
    },
  });
  const stop = stopOf(
    course,
    post,
    ranking.checks.some((c) => c.helps),
  );
  const idOf = (state: number) => plain.faults[state < 0 ? -1 : present[state >> 1]!]?.id;
  return {
    faults,
    stations: depth === "whole" ? stationAnswers(model, present, sets, told.heavy.subarray(0, LOSS_SETS), post, sums.places) : [],
    none: post.none,
    nothingWrong: sums.nothingNow,
    bySize: [...sums.bySize.subarray(1)],
    sets: [...told.heavy.subarray(0, PRINTED_SETS)].map((n) => ({
      faults: [sets.first[n]!, sets.second[n]!, sets.third[n]!].map(idOf).filter((id) => id !== undefined),
      probability: post.sets[n]!,
    })),
    symptom,
    evidence: evidenceOf(told, present, states),
    suspectReadings: found.suspect,
    nextChecks: ranking.checks,
    repairs: model.repairs
      .map((r, i) => ({ id: r.id, probability: decided.probability[i]! }))
      .filter((r) => r.probability > 0)
      .sort((a, b) => b.probability - a.probability),
    repair: stop.isReady ? (model.repairs[course.plan[0]!]?.id ?? null) : null,
    plan: course.plan.map((r) => model.repairs[r]?.id as string),
    seen: faults.filter((f) => course.seen.has(f.id) && (symptomOf(model, f.id)[symptom] ?? 0) > 0).map((f) => f.id),
    stop: { reason: stop.reason },
    rankingMassLeftOut: ranking.massLeftOut,
  };
}

/** How far each finding speaks for each fault, strongest first. */
function evidenceOf({ plain, model, post }: Told, present: Int16Array, states: Float64Array): TraceAnswer["evidence"] {
  const evidence: { check: string; fault: string; decibans: number; before?: number }[] = [];
  for (const [id, each] of post.without) {
    const { past } = model.checks.find((c) => c.id === id) ?? {};
    const without = new Float64Array(plain.faults.length);
    each.forEach((p, f) => {
      const now = present[f]!;
      if (now >= 0) without[now] = without[now]! + p;
    });
    plain.faults.forEach((fault, f) => {
      const shift = decibans(faultTotal(states, f)) - decibans(without[f]!);
      if (Math.abs(shift) < SHOWN_DECIBANS) return;
      evidence.push({ check: past?.id ?? id, fault: fault.id, decibans: shift, ...(past === undefined ? {} : { before: past.time }) });
    });
  }
  return evidence.sort((a, b) => Math.abs(b.decibans) - Math.abs(a.decibans));
}

/** Whether it is time to repair, and why or why not. */
function stopOf({ main, seenFirst, isBefore, proof, owed }: Course, { decided }: Posterior, isHelped: boolean) {
  const best = main === undefined ? 0 : decided.probability[main]!;
  const certain = best >= SURE;
  const unknown = decided.probability[decided.unknown]! + decided.probability[decided.nothing]!;
  const idle = !certain && seenFirst === undefined && best > unknown && !isHelped;
  const isDue = proof !== undefined;
  const isReady = main !== undefined && (seenFirst !== undefined || (!isDue && owed === undefined && (certain || idle)));
  const reason = stopReason({
    isSeen: seenFirst !== undefined && !isBefore,
    isBefore: isReady && isBefore,
    certain,
    idle,
    isDue,
    isUnknown: unknown >= best && !isHelped,
  });
  return { isReady, reason };
}

/** Of repairs less likely than this it makes no difference whether they are barred. */
const RARE = 0.01;

/** An answer that is only thought of: a figure stands in its bin. */
const answerAs = ({ checks }: TraceModel, check: string, label: string): TraceFinding =>
  checks.find((c) => c.id === check)?.outcomes.includes(label) ? { check, outcome: label } : { check, value: 0 };

/** At most so many questions from memory in a row. */
const FREE_IN_A_ROW = 3;

/** Whether the case is still told rather than looked into: nothing was looked at yet, and memory is not tired. */
function isFromMemory(model: TraceModel, { findings = [] }: TraceInput): boolean {
  const checkOf = (f: TraceFinding) => model.checks.find((c) => c.id === f.check);
  const takesHands = (f: TraceFinding) => f.complaint !== true && checkOf(f)?.kind !== "loss" && (checkOf(f)?.minutes ?? 0) > 0;
  const last = findings.slice(-FREE_IN_A_ROW);
  const isTired = last.length === FREE_IN_A_ROW && last.every((f) => checkOf(f)?.minutes === 0);
  return !isTired && !findings.some(takesHands);
}

const withoutSpare = ({ checks }: TraceModel, { spares = [] }: TraceInput): string[] =>
  checks.filter((c) => c.needsSpare !== undefined && !spares.includes(c.needsSpare)).map((c) => c.id);

/** Whether watts were ever read on this machine: without a baseline nobody has a meter to ask of. */
const hasWatts = ({ baseline, findings }: TraceInput): boolean =>
  Object.keys(baseline?.powerW ?? {}).length > 0 || (findings ?? []).some((f) => isPowerCheck(f.check));

const symptomOf = (model: TraceModel, fault: string) => model.faults.find((f) => f.id === fault)?.symptoms ?? {};

function stopReason(
  is: Readonly<Record<"isSeen" | "isBefore" | "certain" | "idle" | "isDue" | "isUnknown", boolean>>,
): TraceAnswer["stop"]["reason"] {
  if (is.isSeen) return "seen";
  if (is.isBefore) return "before";
  if (is.isDue) return "proof";
  if (is.certain) return "sure";
  if (is.idle) return "idle";
  return is.isUnknown ? "unknown" : "check";
}
