/** Which check to ask next: what each would save and tell, and what its answers would lead to. */

import { type Decisions, entropyBits } from "../belief/decision";
import type { Posterior } from "../belief/posterior";
import type { FaultSets } from "../belief/sets";
import { presentOf } from "../model/atWork";
import { coversOf } from "../model/mending";
import type { NextCheck, TraceModel } from "../model/types";
import { BINS, type Candidate, type Compared, candidateOf, compared } from "./candidates";
import { isDear, type Planner, planner, type Ways, waysOf, weighed } from "./plan";

/** Sets the ranking looks at; the mass it leaves out is reported. */
export const RANKED_SETS = 1500;
/** Mass that is enough to rank by. */
const ENOUGH_MASS = 0.985;
/** Only this many of the best checks are explained. */
export const EXPLAINED = 3;

export interface Ranking {
  readonly checks: readonly NextCheck[];
  readonly massLeftOut: number;
}

/** What a ranking is made from. */
export interface Asking {
  readonly model: TraceModel;
  readonly sets: FaultSets;
  /** The heaviest sets, heaviest first. */
  readonly heaviest: Int32Array;
  readonly post: Posterior;
  /** Checks that were answered or cannot be made. */
  readonly done: ReadonlySet<string>;
  /** Stations that are open. */
  readonly opened: readonly string[];
  readonly hasWatts: boolean;
  /** Whether the case is still told rather than looked into. */
  readonly isFromMemory: boolean;
  /** So many of the best are explained. */
  readonly explained: number;
  /** A check that comes before all others. */
  readonly first: string | undefined;
  readonly barring: Barring;
}

/** The checks of a case that are not done, best first. */
export function rankChecks(asking: Asking): Ranking {
  const { model, sets, post, opened } = asking;
  const { top, kept } = enoughOf(asking);
  const over = compared(sets, top, post);
  // Asking is about the main fault: what a second one needs is seen soon enough, and asking for it as well takes longer than it spares.
  const ways = waysOf(model, top, { main: post.main });
  const plans = planner(model, ways, opened);
  const plansNow = plansBarring(model, ways, opened, plans, asking.barring);
  const now = weighed(ways, top, post);
  const bitsOf = entropyOver(ways, post.decided);
  const entropyNow = bitsOf(now, kept);
  const straightNow = plansNow().minutes(now, kept);
  const begunNow = plansNow().firstRound(now, kept);
  const roundNow = named(begunNow);
  const least = leastFor(begunNow.some((r) => isDear(model.repairs[r]!)));
  const perBit = (BIT_SHARE * Math.max(0, straightNow - plans.known(now, kept))) / Math.max(LEAST_BITS, entropyNow);

  const rated = candidatesOf(asking, over).map((candidate): Rated => {
    const answers = answersOf(candidate, over, ways, post, kept);
    const { joint, marginal } = answers;
    const W = ways.first.length;
    let after = 0;
    for (let j = 0; j < marginal.length; j++)
      after += (marginal[j]! / kept) * bitsOf(joint.subarray(j * W, (j + 1) * W), Math.max(1e-300, marginal[j]!));
    const bits = Math.max(0, entropyNow - after);
    const plansAfter = candidate.labels.map((label) => plansNow({ check: candidate.check.id, label }));
    const saved = straightNow - minutesAfter(plansAfter, answers, kept, candidate, tryOf(model, ways, candidate));
    const helps =
      Math.max(saved, bits * perBit) > Math.max(least.saved, candidate.minutes + least.beyond) &&
      changesPlan(plansAfter, answers, kept, roundNow, least.chance);
    return { candidate, bits, helps, saved, worth: worthOf(bits, candidate.minutes, asking.isFromMemory) };
  });
  const ranked = inOrder(rated, asking);
  const explains = meaningsOver(asking, top, kept, ways, plansNow);
  const checks: NextCheck[] = ranked.map(({ candidate, bits, saved, helps }, i) => ({
    check: candidate.check.id,
    bits,
    bitsPerMinute: bits / Math.max(candidate.minutes, 0.25),
    savedMinutes: saved,
    minutes: candidate.minutes,
    gated: candidate.check.gated,
    helps,
    meanings: i < asking.explained ? explains(candidate) : [],
  }));
  return { checks, massLeftOut: Math.max(0, 1 - kept) };
}

/** As many of the heaviest sets as are enough to rank by, and what they weigh with "none of these". */
function enoughOf({ heaviest, post }: Asking): { readonly top: Int32Array; readonly kept: number } {
  let kept = post.none;
  let enough = 0;
  while (enough < heaviest.length && kept < ENOUGH_MASS) kept += post.sets[heaviest[enough++]!]!;
  return { top: heaviest.subarray(0, enough), kept };
}

const candidatesOf = ({ model, post, done, opened, hasWatts }: Asking, over: Compared): Candidate[] =>
  model.checks
    .filter((check) => check.past === undefined && !done.has(check.id) && (hasWatts || check.measures?.kind !== "power"))
    .map((check) => candidateOf(model, check, post, over, opened))
    .filter((c): c is Candidate => c !== undefined);

interface Rated {
  readonly candidate: Candidate;
  readonly bits: number;
  readonly saved: number;
  readonly worth: number;
  helps: boolean;
}

/** What is asked first, what helps after it, what costs nothing while it is told; a check that does not help comes last, and is not asked. */
function inOrder(rated: Rated[], { model, post, first, barring, isFromMemory }: Asking): Rated[] {
  const { decided } = post;
  // Before it is said that nothing known explains it, all that would tell something is asked.
  const best = decided.probability.reduce((most, p, d) => (d === decided.unknown ? most : Math.max(most, p)), 0);
  // So it is where the likeliest was done in vain: a question that tells it from the rest comes before repairs that hardly anything speaks for.
  const isLeaderBarred = decided.probability.some((p, r) => r < model.repairs.length && p >= best && barring.now(r));
  if ((post.none >= best || isLeaderBarred) && !rated.some((r) => r.helps))
    for (const r of rated) r.helps = r.bits >= TELLS_BITS && r.candidate.minutes <= TELLS_MINUTES;
  const isFirst = (r: Rated) => Number(r.candidate.check.id === first);
  for (const r of rated) r.helps ||= isFirst(r) === 1;
  const isFree = (r: Rated) => Number(isFromMemory && r.candidate.minutes === 0);
  return rated.sort((p, q) => isFirst(q) - isFirst(p) || Number(q.helps) - Number(p.helps) || isFree(q) - isFree(p) || q.worth - p.worth);
}

/** How likely each answer is, and together with each way on: labels by ways, row by row. */
interface Answers {
  readonly joint: Float64Array;
  readonly marginal: Float64Array;
}

function answersOf(candidate: Candidate, over: Compared, ways: Ways, post: Posterior, kept: number): Answers {
  const { touched, labels } = candidate;
  const k = labels.length;
  const W = ways.first.length;
  const joint = new Float64Array(k * W);
  const marginal = new Float64Array(k);
  const out = new Float64Array(k);
  const add = (way: number, weight: number) => {
    for (let j = 0; j < k; j++) {
      const p = weight * out[j]!;
      joint[j * W + way] = joint[j * W + way]! + p;
      marginal[j] = marginal[j]! + p;
    }
  };
  // Sets in which nothing shows share one answer.
  const rest = new Float64Array(W);
  const shows = (state: number) => state >= 0 && touched?.[state] !== 0;
  for (let i = 0; i < over.weight.length; i++) {
    const way = ways.ofSet[i]!;
    if (touched && !shows(over.first[i]!) && !shows(over.second[i]!) && !shows(over.third[i]!)) {
      rest[way] = rest[way]! + over.weight[i]!;
      continue;
    }
    candidate.fill(i, out);
    add(way, over.weight[i]!);
  }
  if (touched) {
    candidate.fill(-1, out);
    for (let way = 0; way < W; way++) if (rest[way] !== 0) add(way, rest[way]!);
  }
  // Under "none of these" each outcome has its marginal rate, or that of a sound machine, which is what was filled last.
  const known = Math.max(1e-12, kept - post.none);
  const sound = touched && candidate.check.grades === undefined ? post.noneSound : 0;
  for (let j = 0; j < k; j++) {
    const none = post.none * (((1 - sound) * marginal[j]!) / known + sound * out[j]!);
    joint[j * W + W - 1] = none;
    marginal[j] = marginal[j]! + none;
  }
  return { joint, marginal };
}

/** What was mended in vain is not mended again before something speaks for it: what is barred now, and still is after an answer. */
export interface Barring {
  readonly now: (repair: number) => boolean;
  readonly after: (repair: number, check: string, label: string) => boolean;
}

/** Planners that leave out what is barred: now, or after an answer. */
type PlansNow = (answer?: { readonly check: string; readonly label: string }) => Planner;

/** Such planners, made once each. */
function plansBarring(model: TraceModel, ways: Ways, opened: readonly string[], free: Planner, { now, after }: Barring): PlansNow {
  const barred = model.repairs.map((_, r) => r).filter(now);
  const made = new Map([["", free]]);
  return (answer) => {
    const still = answer === undefined ? barred : barred.filter((r) => after(r, answer.check, answer.label));
    const key = still.join();
    const known = made.get(key);
    if (known) return known;
    const fresh = planner(model, { first: ways.first.map((r) => (still.includes(r) ? -1 : r)), second: ways.second }, opened);
    made.set(key, fresh);
    return fresh;
  };
}

/** Bits about the decision, from weights over ways. */
function entropyOver(ways: Ways, { count, nothing, unknown }: Decisions): (weights: Float64Array, total: number) => number {
  const sums = new Float64Array(count);
  const last = ways.first.length - 1;
  return (weights, total) => {
    sums.fill(0);
    for (let w = 0; w <= last; w++) {
      const d = w === last ? unknown : ways.first[w]! < 0 ? nothing : ways.first[w]!;
      sums[d] = sums[d]! + weights[w]!;
    }
    return entropyBits(sums, total);
  };
}

/** The repairs of a round, as a word to compare. */
const named = (round: readonly number[]): string => [...round].sort((a, b) => a - b).join();

/** Answers rarer than this are left out of the minutes that are expected. */
const NEVER = 1e-6;
/** An answer rarer than this is not looked at. */
const RARE = 0.0005;

/** Whether answers as likely as `least` together would lead to another round than the one that would be begun now. */
function changesPlan(plans: readonly Planner[], { joint, marginal }: Answers, kept: number, now: string, least: number): boolean {
  let mass = 0;
  for (const [j, p] of plans.entries()) {
    const m = marginal[j]!;
    if (m <= RARE * kept || named(p.firstRound(joint.subarray(j * p.ways, (j + 1) * p.ways), m)) === now) continue;
    mass += m / kept;
    if (mass > least) return true;
  }
  return false;
}

/** Expected minutes of the repairs once the answer is known; what was opened for it is open for them, what it tried is done. */
function minutesAfter(
  plansAfter: readonly Planner[],
  { joint, marginal }: Answers,
  kept: number,
  { check }: Candidate,
  tried: Tried,
): number {
  let minutes = 0;
  for (let j = 0; j < marginal.length; j++) {
    const m = marginal[j]!;
    if (m <= NEVER * kept) continue;
    const plans = plansAfter[j]!;
    const row = joint.subarray(j * plans.ways, (j + 1) * plans.ways);
    if (j !== tried.outcome) {
      minutes += (m / kept) * plans.minutes(row, m, check.needsOpen);
      continue;
    }
    const left = row.map((p, w) => (tried.ends(w) ? 0 : p));
    const rest = left.reduce((sum, p) => sum + p, 0);
    if (rest > 1e-9) minutes += (rest / kept) * plans.minutes(left, rest, check.needsOpen);
  }
  return minutes;
}

/** The outcome of a check that is a repair and its proof in one, and the ways on that it ends; -1 where there is none. */
interface Tried {
  readonly outcome: number;
  readonly ends: (way: number) => boolean;
}

function tryOf(model: TraceModel, ways: Ways, { check, labels }: Candidate): Tried {
  const { tries } = check;
  const repair = model.repairs.findIndex((r) => r.id === tries?.repair);
  if (tries === undefined || repair < 0) return NOT_TRIED;
  const mended = coversOf(model)[repair]!;
  return { outcome: labels.indexOf(tries.outcome), ends: (way) => mended.includes(ways.first[way]!) };
}
const NOT_TRIED: Tried = { outcome: -1, ends: () => false };

/**
 * What any check must save, however short it is, what it must save beyond its own minutes to be worth the interruption, and how likely its
 * answers must change what is done. Before a repair that is dear where it is wrong hardly anything: what it may be instead is ruled out
 * first, each of it a little.
 */
export const leastFor = (isBeforeDear: boolean): { readonly saved: number; readonly beyond: number; readonly chance: number } =>
  isBeforeDear ? { saved: 1, beyond: 1, chance: 0.003 } : { saved: 5, beyond: 3, chance: 0.01 };
/**
 * What a bit is worth: this share of what knowing everything would save, for each bit that is missing. One answer alone often changes no
 * plan where several do, above all before a repair that is dear where it is wrong.
 */
export const BIT_SHARE = 0.5;
/** What a check must tell, and may take, to be asked before a trace gives up. */
const TELLS_BITS = 0.03;
const TELLS_MINUTES = 8;
export const LEAST_BITS = 0.3;
/** A question counts as this long at least: one has to be read and thought about. */
export const LEAST_MINUTES = 0.5;
/** And one from memory as this long, once the hands are at the machine: it breaks off what they do. */
const BREAK_OFF_MINUTES = 3;

/**
 * What orders checks that help: how much nearer each minute brings the decision. Minutes saved say whether a check is worth asking, not
 * which is first: they count only what repairs alone would do with its answer, and most answers are put to use by the next question.
 */
const worthOf = (bits: number, minutes: number, isFromMemory: boolean): number =>
  bits / (minutes === 0 && !isFromMemory ? BREAK_OFF_MINUTES + 1 : Math.max(minutes, LEAST_MINUTES) + 1);

/** Says of a check what each outcome would lead to; numbers are grouped into a low, a middle and a high third of what is expected. */
function meaningsOver(
  { model, sets, post }: Asking,
  top: Int32Array,
  kept: number,
  ways: Ways,
  plansNow: PlansNow,
): (candidate: Candidate) => NextCheck["meanings"] {
  const present = presentOf(model, post.losses.now);
  return (candidate) => {
    const { groups, groupOf, answers } = groupedAnswers(candidate, top, post, kept);
    const k = candidate.labels.length;
    const mass = new Float64Array(groups.length);
    const faults = groups.map(() => new Float64Array(model.faults.length));
    const needs = groups.map(() => new Float64Array(ways.first.length));
    const add = (row: Float64Array, state: number, p: number) => {
      const f = state < 0 ? -1 : present[state >> 1]!;
      if (f >= 0) row[f] = row[f]! + p;
    };
    const grouped = new Float64Array(groups.length);
    for (let i = 0; i < top.length; i++) {
      const n = top[i]!;
      grouped.fill(0);
      for (let j = 0; j < k; j++) grouped[groupOf[j]!] = grouped[groupOf[j]!]! + post.sets[n]! * answers[i * k + j]!;
      for (let group = 0; group < groups.length; group++) {
        const p = grouped[group]!;
        mass[group] = mass[group]! + p;
        const of = needs[group]!;
        of[ways.ofSet[i]!] = of[ways.ofSet[i]!]! + p;
        for (const state of [sets.first[n]!, sets.second[n]!, sets.third[n]!]) add(faults[group]!, state, p);
      }
    }
    return groups.map((outcome, group) => {
      const row = faults[group]!;
      let best = 0;
      for (let f = 1; f < row.length; f++) if (row[f]! > row[best]!) best = f;
      const label = candidate.labels[groupOf.indexOf(group)] ?? outcome;
      const plan = plansNow({ check: candidate.check.id, label }).firstRound(needs[group]!, Math.max(1e-300, mass[group]!));
      const m = mass[group]! * (kept / Math.max(1e-9, kept - post.none));
      const isSaid = m > 1e-6;
      return {
        outcome,
        probability: m / kept,
        fault: isSaid ? (model.faults[best]?.id ?? null) : null,
        faultProbability: isSaid ? row[best]! / m : 0,
        plan: isSaid ? plan.map((r) => model.repairs[r]?.id as string) : [],
      };
    });
  };
}

/** How likely each answer is under each set, and which of a few words each belongs to. */
function groupedAnswers(candidate: Candidate, top: Int32Array, post: Posterior, kept: number) {
  const isNumeric = candidate.labels.length === BINS;
  const k = candidate.labels.length;
  const answers = new Float64Array(k * top.length);
  const perOutcome = new Float64Array(k);
  for (let i = 0; i < top.length; i++) {
    const out = answers.subarray(i * k, (i + 1) * k);
    candidate.fill(i, out);
    for (let j = 0; j < k; j++) perOutcome[j] = perOutcome[j]! + post.sets[top[i]!]! * out[j]!;
  }
  let cumulative = 0;
  const groupOf = candidate.labels.map((_, j) => {
    if (!isNumeric) return j;
    const middle = cumulative + perOutcome[j]! / 2;
    cumulative += perOutcome[j]!;
    return Math.min(2, Math.floor((3 * middle) / kept));
  });
  return { groups: isNumeric ? ["low", "middle", "high"] : candidate.labels, groupOf, answers };
}
