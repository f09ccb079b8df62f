/** The engine's one question: a machine, its use and what was found in; how likely each fault is, what to ask next and what to repair out. */

import { isPowerCheck } from "#core/machine";
import { EXPLAINED, RANKED_SETS, rankChecks } from "./asking/nextChecks";
import { isDear, planner, waysOf, weighed } from "./asking/plan";
import { beforeDear, clearedFaults, hazedFaults, repairPlan, seenFaults, seenRepair, type Weighed } from "./asking/seen";
import { SURE } from "./belief/decision";
import { type Posterior, posterior } from "./belief/posterior";
import { heaviest } from "./belief/sets";
import { placesOf, stationAnswers } from "./belief/stations";
import { tally } from "./belief/tally";
import { sortFindings } from "./light/findings";
import { presentOf } from "./model/atWork";
import type { Symptom, TraceAnswer, TraceBefore, TraceFinding, TraceInput, TraceModel } from "./model/types";
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

  const faults = plain.faults
    .map((fault, f) => {
      const probability = Math.min(1, faultTotal(states, f));
      return { id: fault.id, probability, heavy: probability > 0 ? states[2 * f + 1]! / probability : 0 };
    })
    .sort((a, b) => b.probability - a.probability);

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
  evidence.sort((a, b) => Math.abs(b.decibans) - Math.abs(a.decibans));

  const { decided } = post;
  const done = new Set([...(input.findings ?? []).map((f) => f.check), ...(input.declined ?? []), ...withoutSpare(model, input)]);
  const heavy = heaviest(post.sets, RANKED_SETS);
  const barred = barredIn(plain, decided.probability, input);
  const proof = proofDue(plain, before, input.findings ?? [], done);
  const chances: Weighed = { fault: plain.faults.map((_, f) => faultTotal(states, f)), decided: decided.probability };
  const seen = seenFaults(plain, input.findings ?? []);
  const round = roundOver(model, heavy, post, barred, input.opened ?? []);
  // What the owner came with is the trouble; a look for its cause comes before its repair.
  const looks = (input.findings ?? []).filter((f) => f.complaint !== true);
  const looked = seenFaults(plain, looks);
  const seenMain = seenRepair(plain, looked, symptom, chances);
  const seenFirst = seenMain === undefined || barred(seenMain) ? undefined : seenMain;
  const planned = repairPlan(plain, round, seenFirst, seen, symptom, chances, barred);
  // What the round is begun for is the likeliest of what it holds, wherever the way led to it first.
  const likeliest = planned.reduce((best, r) => (decided.probability[r]! > decided.probability[best]! ? r : best), planned[0] ?? 0);
  const whole = seenFirst === undefined && planned.length > 0 ? [likeliest, ...planned.filter((r) => r !== likeliest)] : planned;
  const main = whole[0];
  const cheap = beforeDear(plain, whole, looked, symptom, chances, barred, hazedFaults(plain, looks));
  const plan = cheap.length > 0 ? cheap : whole;
  const isDue = proof !== undefined;
  const owed = isDue ? undefined : owedBeforeDear(plain, plan, looked, done, chances, input);
  const ranking = rankChecks({
    model,
    sets,
    heaviest: heavy,
    post,
    done,
    opened: input.opened ?? [],
    hasWatts: hasWatts({ ...input, findings }),
    isFromMemory: isFromMemory(model, input),
    explained: depth === "whole" ? EXPLAINED : 0,
    first: proof ?? owed,
    barring: {
      now: (r) => barred(r) && decided.probability[r]! >= RARE,
      after: (repair, check, label) => !speaksFor(plain, plain.repairs[repair]?.id ?? "", [answerAs(plain, check, label)]),
    },
  });
  const bestProbability = main === undefined ? 0 : decided.probability[main]!;
  const certain = bestProbability >= SURE;
  const unknown = decided.probability[decided.unknown]! + decided.probability[decided.nothing]!;
  const idle = !certain && seenFirst === undefined && bestProbability > unknown && !ranking.checks.some((c) => c.helps);
  const isReady = main !== undefined && (seenFirst !== undefined || (!isDue && owed === undefined && (certain || idle)));

  const topSets = heavy.subarray(0, PRINTED_SETS);
  const idOf = (state: number) => plain.faults[state < 0 ? -1 : present[state >> 1]!]?.id;

  return {
    faults,
    stations: depth === "whole" ? stationAnswers(model, present, sets, heavy.subarray(0, LOSS_SETS), post, sums.places) : [],
    none: post.none,
    nothingWrong: sums.nothingNow,
    bySize: [...sums.bySize.subarray(1)],
    sets: [...topSets].map((n) => ({
      faults: [sets.first[n]!, sets.second[n]!, sets.third[n]!].map(idOf).filter((id) => id !== undefined),
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
    repair: isReady ? (model.repairs[plan[0]!]?.id ?? null) : null,
    plan: plan.map((r) => model.repairs[r]?.id as string),
    seen: faults.filter((f) => seen.has(f.id) && (symptomOf(model, f.id)[symptom] ?? 0) > 0).map((f) => f.id),
    stop: {
      reason: stopReason({
        isSeen: seenFirst !== undefined && cheap.length === 0,
        isBefore: isReady && cheap.length > 0,
        certain,
        idle,
        isDue,
        isUnknown: unknown >= bestProbability && !ranking.checks.some((c) => c.helps),
      }),
    },
    rankingMassLeftOut: ranking.massLeftOut,
  };
}

/** Of repairs less likely than this it makes no difference whether they are barred. */
const RARE = 0.01;

/** A repair that was done in this case is named again only where something found since speaks for it, and with this probability. */
const AGAIN_FROM = 0.3;

/**
 * Nobody does what a look has just said is not needed, unless all else speaks for it with this probability, or what would be done instead is
 * dear: then a second look comes before it.
 */
const THOUGH_CLEAR_FROM = 0.6;

/** An answer that is only thought of: a figure stands in its bin. */
const answerAs = ({ checks }: TraceModel, check: string, label: string): TraceFinding =>
  checks.find((c) => c.id === check)?.outcomes.includes(label) ? { check, outcome: label } : { check, value: 0 };

/**
 * What is not named: what was done in this case and nothing speaks for again, and what was tried in vain and nothing has spoken for since. A
 * spare that was tried comes out again, so that what was seen of the old part holds on.
 */
function barredIn(model: TraceModel, probability: Float64Array, { mended = [], findings = [] }: TraceInput): (repair: number) => boolean {
  const seen = seenFaults(model, findings);
  const cleared = clearedFaults(model, findings);
  const isSeen = (id: string) => model.faults.some((f) => f.repair === id && seen.has(f.id));
  const isCleared = (id: string) => model.faults.every((f) => f.repair !== id || cleared.has(f.id));
  const instead = model.repairs.reduce((best, r, i) => (!isCleared(r.id) && probability[i]! > (probability[best] ?? 0) ? i : best), -1);
  const isBeforeDear = instead >= 0 && isDear(model.repairs[instead]!);
  const checkOf = (f: TraceFinding) => model.checks.find((c) => c.id === f.check);
  const isBarred = ({ id }: { readonly id: string }, repair: number): boolean => {
    if (mended.includes(id)) return probability[repair]! < AGAIN_FROM || !speaksFor(model, id, findings);
    if (!isBeforeDear && probability[repair]! < THOUGH_CLEAR_FROM && isCleared(id)) return true;
    const tried = findings.findLastIndex((f) => {
      const { tries, needsSpare } = checkOf(f) ?? {};
      return tries?.repair === id && f.outcome !== undefined && f.outcome !== tries.outcome && !(needsSpare !== undefined && isSeen(id));
    });
    return tried >= 0 && !speaksFor(model, id, findings.slice(tried + 1));
  };
  // Every set asks for its repairs.
  const barred = model.repairs.map(isBarred);
  return (repair) => barred[repair] ?? false;
}

/** The round to begin with, of the heaviest sets; a repair that is barred is no part of it. */
function roundOver(
  model: TraceModel,
  top: Int32Array,
  post: Posterior,
  barred: (repair: number) => boolean,
  opened: readonly string[],
): number[] {
  const ways = waysOf(model, top, post, barred);
  const weights = weighed(ways, top, post);
  return planner(model, ways, opened).firstRound(
    weights,
    weights.reduce((a, b) => a + b, 0),
  );
}

/**
 * The test to make again where something was mended: the shortest of those that failed when they were made last, before it. Whether anything is
 * wrong still comes before what it may be. Undefined where one failed since, or any cut no harder than the usual one, where a ladder says how
 * much light there is, or where none can be made.
 */
function proofDue(
  { checks, usualNeedLn }: TraceModel,
  before: readonly TraceBefore[],
  findings: readonly TraceFinding[],
  done: ReadonlySet<string>,
): string | undefined {
  const specOf = (f: TraceFinding) => checks.find((c) => c.id === f.check);
  const isLadder = (f: TraceFinding) => specOf(f)?.measures?.kind === "ladder";
  const isOdd = (f: TraceFinding) => isLadder(f) || specOf(f)?.outcomes[0] !== f.outcome;
  const isTest = (f: TraceFinding) => isLadder(f) || specOf(f)?.measures?.kind === "cut" || f.complaint === true;
  const told = before.flatMap((b) => b.findings).filter((f) => isTest(f) && specOf(f)?.speaksOf !== "history");
  const newest = [...new Map(told.map((f) => [f.check, f])).values()];
  const failed = newest.flatMap((f) => (isOdd(f) ? (specOf(f) ?? []) : []));
  const isUsualCut = (f: TraceFinding) => specOf(f)?.measures?.kind === "cut" && (f.neededLnRatio ?? usualNeedLn) <= usualNeedLn;
  if (findings.some((f) => isLadder(f) || (isOdd(f) && (isUsualCut(f) || failed.some((c) => c.id === f.check))))) return undefined;
  const due = failed.filter((c) => !done.has(c.id)).sort((a, b) => a.minutes - b.minutes);
  return due[0]?.id;
}

/** What is asked before anything dear is done: whatever takes next to no time, and the optics one can look at. */
const NEXT_TO_NOTHING_MINUTES = 0.5;
const LOOK_MINUTES = 8;
/** What a look may show has at least this chance. */
const WORTH_A_LOOK = 0.04;

/**
 * What is still to be asked before a dear repair that nobody has seen the need of: everything from memory and of half a minute, the sheet
 * tried, and every optic looked at. Undefined where the round holds nothing dear, or nothing is left to ask.
 */
function owedBeforeDear(
  { checks, repairs, faults }: TraceModel,
  plan: readonly number[],
  seen: ReadonlySet<string>,
  done: ReadonlySet<string>,
  { fault: chances }: Weighed,
  { symptom = "power" }: TraceInput,
): string | undefined {
  const dear = plan.filter((r) => isDear(repairs[r]!)).map((r) => repairs[r]!.id);
  if (symptom !== "power" || dear.length === 0 || faults.some((f) => seen.has(f.id) && dear.includes(f.repair))) return undefined;
  /** The chance that it shows something else that explains it. */
  const chanceOf = (id: string) =>
    faults.reduce((sum, f, i) => {
      const isOther = (f.symptoms.power ?? 0) > 0 && f.effects[id] !== undefined && !dear.includes(f.repair);
      return isOther ? sum + (chances[i] ?? 0) : sum;
    }, 0);
  const owed = checks.filter(
    (c) =>
      !done.has(c.id) &&
      c.measures?.kind !== "power" &&
      c.needsSpare === undefined &&
      c.minutes <= LOOK_MINUTES &&
      (c.minutes <= NEXT_TO_NOTHING_MINUTES || c.tries !== undefined || c.sight === true) &&
      chanceOf(c.id) >= (c.minutes <= NEXT_TO_NOTHING_MINUTES ? 0.005 : WORTH_A_LOOK),
  );
  return owed.sort((p, q) => p.minutes - q.minutes)[0]?.id;
}

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
