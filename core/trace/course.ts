/** What is to be done by what is believed: the round to begin with, what is barred from it, and what is made again or asked before it. */

import { isDear, planner, waysOf, weighed } from "./asking/plan";
import { beforeDear, clearedFaults, hazedFaults, repairPlan, seenFaults, seenRepair, type Weighed } from "./asking/seen";
import type { Posterior } from "./belief/posterior";
import type { Symptom, TraceBefore, TraceFinding, TraceInput, TraceModel } from "./model/types";
import { speaksFor } from "./time/repaired";

/** What is asked, and what is believed of it. */
export interface Told {
  /** The machine as it is now, and with what was at work before its repairs. */
  readonly plain: TraceModel;
  readonly model: TraceModel;
  readonly input: TraceInput;
  readonly before: readonly TraceBefore[];
  readonly symptom: Symptom;
  readonly post: Posterior;
  /** The heaviest sets, heaviest first. */
  readonly heavy: Int32Array;
  readonly chances: Weighed;
  /** Checks that are answered, declined or cannot be made. */
  readonly done: ReadonlySet<string>;
}

/** What is to be done, and what has to be asked or made again before it. */
export interface Course {
  readonly barred: (repair: number) => boolean;
  /** Faults seen on the part itself. */
  readonly seen: ReadonlySet<string>;
  /** Repair of what was seen and explains it all. */
  readonly seenFirst: number | undefined;
  /** What the round is begun for. */
  readonly main: number | undefined;
  readonly plan: readonly number[];
  /** The plan is what is cheap, before what is dear. */
  readonly isBefore: boolean;
  /** The test to make again, and what is owed before something dear. */
  readonly proof: string | undefined;
  readonly owed: string | undefined;
}

export function courseOf({ plain, model, input, before, symptom, post, heavy, chances, done }: Told): Course {
  const findings = input.findings ?? [];
  const { probability } = post.decided;
  const barred = barredIn(plain, probability, input);
  const proof = proofDue(plain, before, findings, done);
  const seen = seenFaults(plain, findings);
  // What the owner came with is the trouble; a look for its cause comes before its repair.
  const looks = findings.filter((f) => f.complaint !== true);
  const looked = seenFaults(plain, looks);
  const seenMain = seenRepair(plain, looked, symptom, chances);
  const seenFirst = seenMain === undefined || barred(seenMain) ? undefined : seenMain;
  const round = roundOver(model, heavy, post, barred, input.opened ?? []);
  const planned = repairPlan(plain, round, seenFirst, seen, symptom, chances, barred);
  // What the round is begun for is the likeliest of what it holds, wherever the way led to it first.
  const likeliest = planned.reduce((best, r) => (probability[r]! > probability[best]! ? r : best), planned[0] ?? 0);
  const whole = seenFirst === undefined && planned.length > 0 ? [likeliest, ...planned.filter((r) => r !== likeliest)] : planned;
  const cheap = beforeDear(plain, whole, looked, symptom, chances, barred, hazedFaults(plain, looks));
  const plan = cheap.length > 0 ? cheap : whole;
  const owed = proof === undefined ? owedBeforeDear(plain, plan, looked, done, chances, input) : undefined;
  return { barred, seen, seenFirst, main: whole[0], plan, isBefore: cheap.length > 0, proof, owed };
}

/** A repair that was done in this case is named again only where something found since speaks for it, and with this probability. */
const AGAIN_FROM = 0.3;

/**
 * Nobody does what a look has just said is not needed, unless all else speaks for it with this probability, or what would be done instead is
 * dear: then a second look comes before it.
 */
const THOUGH_CLEAR_FROM = 0.6;

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
