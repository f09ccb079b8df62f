/** View model of a case: the engine's answer turned into sentences, bars and cards. */
import { isPowerCheck, parseId } from "#core/machine";
import type { TraceAnswer } from "#core/trace";
import type { Finding, TraceCase } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { partsOfRepair, planOf, procedureOf } from "../machine/plans";
import { brokenOf } from "../machine/stop";
import { replacementOf, unmendedOf } from "../machine/unmended";
import { chance, lowerFirst, sinceDay, wholeMinutes } from "../words";
import { answered } from "./answered";
import { type BudgetLine, budgetOf } from "./budget";
import { type CaseFindings, caseFindings, declinedIn, type SourcedFinding, traceInput } from "./caseInput";
import { ableFaults, doneBefore, headline, isSound, isWear, lead, placeName, stuckWords, suspectPlaces } from "./headline";
import { broughtBack, proofDueWords } from "./mendedSince";
import { isDearRepair, nextChecksOf } from "./nextChecks";
import { behindPanels, PANELS_CLOSED } from "./panels";
import { seenBefore } from "./story";
import { type Tried, triedIn } from "./tried";
import { whyNot } from "./whyNot";
import { checkText, faultName, findingWords, repairName } from "./words";

/** Ranked faults shown; the rest is one line. */
const SHOWN_FAULTS = 5;

export type AnswerView = Awaited<ReturnType<typeof answerView>>;

export async function answerView(
  services: Partial<Pick<Services, "tracer" | "haste" | "store">>,
  g: Gathered,
  openCase: TraceCase,
  stored: readonly Finding[],
  earlier: readonly TraceCase[] = [],
) {
  const found = caseFindings(g, openCase, stored);
  const findings = found.now;
  const input = traceInput(g, openCase, found);
  const answer = await answered(services, g.trade.model, input, openCase.id);
  const budget = answer.symptom === "power" ? budgetOf(g, input.baseline ?? {}, findings, answer) : undefined;
  // What was seen bad is in every round, whatever is answered next.
  const seenBad = answer.plan.filter((r) => g.trade.model.faults.some((f) => f.repair === r && answer.seen.includes(f.id)));
  const relevant = ableFaults(g, answer);
  const tried: Tried | undefined = triedIn(g, findings, answer) ?? (await broughtBack(services, g, openCase, found, input, answer));
  const due = proofDueWords(g, found, answer);
  const suspects = suspectPlaces(g, answer, relevant);
  const isBehind = services.haste?.isBehind === true;
  const broken = openCase.closedMs === undefined ? brokenView(g) : undefined;
  return {
    /** A part must not be fired through: it comes before every question. Reports of before have none. */
    broken,
    /** What was told last is still being weighed: this is what was known before it. Reports have none. */
    isBehind: isBehind as boolean | undefined,
    /** So often it was not known that the round comes first, and the questions after it. */
    isTired: declinedIn(g, openCase).filter((id) => !g.declined.includes(id)).length >= PATIENCE,
    ...topOf(g, { answer, relevant, suspects, found, broken, tried, due }),
    suspicion: Object.fromEntries(
      suspects.map((s) => [
        s.id,
        {
          probability: s.probability,
          // Anything that may be wrong there, so it is more than any one fault of the list beside it.
          chance: chance(s.probability),
          words: `${placeName(g, s, relevant)} ${chance(s.probability)}`,
          ...lightAt(budget, s.id),
        },
      ]),
    ),
    faults: relevant.slice(0, SHOWN_FAULTS).map((f) => faultView(g, openCase, found, answer, earlier, f)),
    /** What is guessed first and is not it; reports of before have none. */
    whyNot: whyNot(g, answer, relevant, (e) => ({ words: evidenceWords(g, found, e), weight: weightWords(e.decibans) })) as
      | ReturnType<typeof whyNot>
      | undefined,
    /** What lies behind closed panels; reports have none of before. */
    panels: openCase.closedMs === undefined ? behindPanels(g, suspects) : undefined,
    none: chance(answer.none),
    nothingWrong: answer.nothingWrong >= 0.03 ? chance(answer.nothingWrong) : undefined,
    /** Reports of before have none. */
    budget: budget as readonly BudgetLine[] | undefined,
    suspect: [
      ...answer.suspectReadings.map((s) => ({
        check: s.check,
        text: `${checkText(g.trade, s.check).title}: ${stationWords(g, s.reason)}`,
      })),
      ...contradictions(g, stored, found.before.at(-1)?.done.endedMs ?? 0),
    ],
    next: nextChecksOf(g, answer, seenBad),
    /** Something was mended, and the first check is the test that failed; reports of before have none. */
    isProofDue: due !== undefined && tried === undefined,
    /** Nothing is to be repaired or asked: what is due is done, and measured. Reports of before have none. */
    isWear: isWear(answer, relevant) as boolean | undefined,
    others: answer.nextChecks
      .filter((c, i) => i >= 3 || !c.helps)
      .map((c) => ({ id: c.check, title: checkText(g.trade, c.check).title, minutes: wholeMinutes(c.minutes) })),
    /** What was mended in its course by other hands than its own rounds; reports of before have none. */
    mended: found.before
      .filter((b) => !b.done.isOwn)
      .map((b) => ({ words: b.done.repairs.map((r) => repairName(g.trade, r)).join(", "), atMs: b.done.endedMs })) as
      | readonly { readonly words: string; readonly atMs: number }[]
      | undefined,
    /** Reports of before have none. */
    tried,
    repair: repairView(g, answer, found),
    straight: straightView(g, answer),
    declined: [...new Set(declinedIn(g, openCase).map((id) => (isPowerCheck(id) ? "power@lens" : id)))].map((id) => ({
      id,
      title: id === PANELS_CLOSED ? "Closed panels stay closed" : isPowerCheck(id) ? "Watts: no meter here" : checkText(g.trade, id).title,
    })),
    history: historyOf(g, found),
    withdrawn: stored.filter((f) => f.withdrawn).map((f) => ({ id: f.id, words: findingWords(g.trade, f) })),
    lastAnswerId: stored.filter((f) => !f.withdrawn).at(-1)?.id,
    answered: findings.length + found.longAgo.length + found.before.reduce((sum, b) => sum + b.findings.length, 0),
  };
}

/** What a case's first sentences are written from. */
interface Standing {
  readonly answer: TraceAnswer;
  readonly relevant: TraceAnswer["faults"];
  readonly suspects: ReturnType<typeof suspectPlaces>;
  readonly found: CaseFindings;
  readonly broken: ReturnType<typeof brokenView>;
  readonly tried: Tried | undefined;
  readonly due: string | undefined;
}

/** What comes first: a part that must not be fired through, what was tried and cut, the test that is due, and only then what it may be. */
function topOf(g: Gathered, { answer, relevant, suspects, found, broken, tried, due }: Standing): { headline: string; lead: string } {
  const diagnosis = headline(g, answer, relevant);
  const only = isWear(answer, relevant);
  const together = (...sentences: readonly string[]) => sentences.filter(Boolean).join(" ");
  if (broken)
    return {
      headline: `Do not fire: ${broken.words}.`,
      lead: "It is seen to first: nothing else is asked until another is in. What was found so far stays.",
    };
  if (tried) return { headline: tried.headline, lead: `It was this, as far as one test can tell: ${tried.says}.` };
  if (due)
    return {
      headline: "First repeat the test that failed.",
      lead: together(due, only || isSound(answer, relevant) ? "" : `If it still fails: ${lowerFirst(diagnosis)}`),
    };
  if (only)
    return {
      headline: diagnosis,
      lead: "Do the round that is due: it takes the dirt off. If the cut still fails after it, a ladder shows how much is missing.",
    };
  return {
    headline: diagnosis,
    lead: together(
      lead(g, answer, relevant, suspects),
      doneBefore(g, answer, relevant, found),
      stuckWords(g, answer, relevant, suspects, found),
    ),
  };
}

/** A fault with its chance, and what speaks for and against it. */
function faultView(
  g: Gathered,
  openCase: TraceCase,
  found: CaseFindings,
  answer: TraceAnswer,
  earlier: readonly TraceCase[],
  fault: TraceAnswer["faults"][number],
) {
  return {
    id: fault.id,
    name: faultName(g.trade, fault.id),
    chance: chance(fault.probability),
    severity: fault.heavy > 0.7 ? "heavy" : fault.heavy < 0.3 ? "light" : "",
    reason: g.trade.model.faults.find((f) => f.id === fault.id)?.reason ?? "",
    before: seenBefore(earlier, fault.id, openCase),
    evidence: answer.evidence
      .filter((e) => e.fault === fault.id)
      .sort((a, b) => b.decibans - a.decibans)
      .map((e) => ({
        check: e.check,
        words: evidenceWords(g, found, e),
        decibans: e.decibans,
        weight: weightWords(e.decibans),
      })),
  };
}

/** All that was found in it, newest first. */
const historyOf = (g: Gathered, { now, before, longAgo }: CaseFindings) =>
  [...now, ...before.flatMap((b) => b.findings), ...longAgo]
    .sort((a, b) => b.atMs - a.atMs)
    .map((f) => ({
      key: keyOf(f),
      words: now.includes(f) ? findingWords(g.trade, f) : `${findingWords(g.trade, f)}, before the repair`,
      day: sinceDay(f.atMs, g.nowMs),
      atMs: f.atMs,
      findingId: f.source.kind === "answer" ? f.source.findingId : undefined,
    }));

/** After so many answers of “I do not know” in a case nobody is asked on first. */
const PATIENCE = 3;

/** The part that must not be fired through, with the round that puts a new one in where that is an owner's. */
function brokenView(g: Gathered): { readonly words: string; readonly part: string | undefined; readonly name: string } | undefined {
  const broken = brokenOf(g);
  if (!broken) return undefined;
  const name = g.trade.layout.names[broken.station] ?? broken.station;
  return { words: broken.words, part: replacementOf(g, broken.station), name };
}

function keyOf({ source, check }: SourcedFinding): string {
  if (source.kind === "round") return `r${source.key}`;
  return source.kind === "answer" ? `a${source.findingId}` : `e${source.eventId}-${check}`;
}

/** What the budget says leaves a station, for the beam line beside it. */
function lightAt(budget: readonly BudgetLine[] | undefined, id: string): { watts?: string; light?: number } {
  const line = budget?.find((l) => l.id === id);
  return line?.watts === undefined ? {} : { watts: line.watts, light: line.now };
}

/** The same question answered twice since a repair (ms), and not the same: both are kept, the later counts, and it is said. */
function contradictions(g: Gathered, stored: readonly Finding[], sinceMs: number): { check: string; text: string }[] {
  const said = new Map<string, string[]>();
  for (const f of stored) {
    if (f.withdrawn || f.outcome === undefined || f.atMs <= sinceMs) continue;
    const before = said.get(f.check) ?? [];
    const words = findingWords(g.trade, f);
    if (before.at(-1) !== words) said.set(f.check, [...before, words]);
  }
  const isCut = (check: string) => g.trade.model.checks.some((c) => c.id === check && c.measures?.kind === "cut");
  const countsOf = (check: string) => (isCut(check) ? "Every cut counts" : "The later counts");
  return [...said].flatMap(([check, words]) =>
    words.length < 2 ? [] : { check, text: `Results disagree: ${words.join(", then ")}. ${countsOf(check)}; undo the wrong one.` },
  );
}

function stationWords(g: Gathered, text: string): string {
  return Object.entries(g.trade.layout.names).reduce((words, [id, name]) => words.replaceAll(`after ${id}`, `after ${name}`), text);
}

function wordsOfCheck(g: Gathered, findings: readonly SourcedFinding[], check: string): string {
  const last = findings.filter((f) => f.check === check).at(-1);
  return last ? findingWords(g.trade, last) : checkText(g.trade, check).title;
}

/** All that one round should do: the plan of the trace, and what was seen bad and nobody mended since. */
function roundParts(g: Gathered, answer: TraceAnswer): string[] {
  const bad = unmendedOf(g).flatMap((u) => (u.clean === undefined ? [] : [u.clean]));
  return [...new Set([...answer.plan.flatMap((id) => partsOfRepair(g.trade, id)), ...bad])];
}

/** What is done in the same round besides its main repair, in words. */
function alongWith(g: Gathered, answer: TraceAnswer): string[] {
  const main = new Set(answer.plan.slice(0, 1).flatMap((id) => partsOfRepair(g.trade, id)));
  const repairs = answer.plan
    .slice(1)
    .map((id) => `${repairName(g.trade, id)}${isBooked(g, partsOfRepair(g.trade, id)) ? " (for the maker's service)" : ""}`);
  const covered = new Set(answer.plan.flatMap((id) => partsOfRepair(g.trade, id)));
  const bad = unmendedOf(g).flatMap((u) =>
    u.clean === undefined || covered.has(u.clean) || main.has(u.clean) ? [] : [`${u.name}, seen with ${u.word}`],
  );
  return [...repairs, ...bad];
}

/** Whether a repair lies behind a panel that is not for owners. */
const isBooked = (g: Gathered, parts: readonly string[]) => parts.some((p) => procedureOf(g.trade, p)?.byOthers === true);

function repairView(g: Gathered, answer: TraceAnswer, findings: CaseFindings) {
  if (answer.repair === null) return undefined;
  const parts = roundParts(g, answer);
  const plan = planOf(g.trade, parts, { isRepair: true, grades: g.grades, out: g.out });
  return {
    id: answer.repair,
    name: repairName(g.trade, answer.repair),
    parts,
    alongWith: alongWith(g, answer),
    minutes: wholeMinutes(plan.minutes),
    booked: isBooked(g, partsOfRepair(g.trade, answer.repair)),
    /** A mirror's aim is in it: Aim works the turns out. */
    aims: parts.some((p) => parseId(p).base === "aim" && (parseId(p).mirror ?? 0) > 0 && !isBooked(g, [p])),
    because: because(g, answer, findings),
  };
}

function because(g: Gathered, answer: TraceAnswer, findings: CaseFindings): string {
  const right = rightWords(g, answer);
  switch (answer.stop.reason) {
    case "seen":
      return `Seen: ${seenWords(g, answer, findings)}. It explains what went wrong.`;
    case "before":
      return `Seen: ${seenWords(g, answer, findings)}. It is cheap, so it comes before the likelier “${repairName(g.trade, dearest(g, answer))}”, and is proven by itself.`;
    case "idle":
      if (isDearRepair(g, answer.repair ?? ""))
        return `${right}, and dear where it is not: nothing short is left to ask that would tell much.`;
      return `${right}: no question that is left would save more time than it takes.`;
    default:
      return `${right}.`;
  }
}

/**
 * How likely what the repair mends is there: the same figure as beside the faults and the stations. Whether it is what takes the most, which
 * decides, is said in words.
 */
export function rightWords(g: Gathered, answer: TraceAnswer): string {
  const { repair, repairs } = answer;
  const main = repairs.find((r) => r.id === repair)?.probability ?? 0;
  const there = thereOf(g, answer, repair ?? "");
  const takes =
    there - main < MORE_THAN_MAIN ? "" : main >= 0.5 * there ? ", and probably takes the most" : ", though more may be missing elsewhere";
  return `What it mends is there with ${chance(there)}${takes}`;
}
const MORE_THAN_MAIN = 0.08;

/** How likely anything is there that a repair mends. */
function thereOf(g: Gathered, { faults, repairs }: TraceAnswer, repair: string): number {
  const mends = new Set(g.trade.model.faults.filter((f) => f.repair === repair).map((f) => f.id));
  const apart = 1 - faults.filter((f) => mends.has(f.id)).reduce((left, f) => left * (1 - f.probability), 1);
  return Math.max(apart, repairs.find((r) => r.id === repair)?.probability ?? 0);
}

/** The likeliest repair, which is dear. */
const dearest = (g: Gathered, { repairs }: TraceAnswer): string => repairs.find((r) => isDearRepair(g, r.id))?.id ?? "";

/** The look that showed the fault which is repaired. */
function seenWords(g: Gathered, answer: TraceAnswer, findings: CaseFindings): string {
  const mended = new Set(g.trade.model.faults.filter((f) => f.repair === answer.repair).map((f) => f.id));
  const speaking = answer.evidence.filter((e) => mended.has(e.fault)).sort((a, b) => b.decibans - a.decibans);
  // What the owner came with is no look for its cause.
  const isLook = (id: string) =>
    g.trade.model.checks.find((c) => c.id === id)?.sight === true && !findings.now.some((f) => f.check === id && f.complaint === true);
  const strongest = speaking.find((e) => isLook(e.check) && e.decibans > 0) ?? speaking[0];
  return strongest ? evidenceWords(g, findings, strongest) : "the fault itself";
}

/** What was found, and that it speaks of the machine before a repair where it does. */
function evidenceWords(g: Gathered, { now, before }: CaseFindings, { check, before: round }: TraceAnswer["evidence"][number]): string {
  if (round === undefined) return wordsOfCheck(g, now, check);
  return `${wordsOfCheck(g, before[round]?.findings ?? [], check)} (before)`;
}

/** A repair less likely than this is not offered to one who will not ask on; nor, where there is nothing else to do, one less likely than that. */
const WORTH_TRYING = 0.15;
const FAINT = 0.02;

/** The likeliest repair, for an owner who will not ask on. */
function straightView(g: Gathered, answer: TraceAnswer) {
  const id = answer.plan[0] ?? answer.repairs[0]?.id;
  const probability = answer.repairs.find((r) => r.id === id)?.probability ?? 0;
  // Where no question is left, the likeliest is all there is to try.
  const isStuck = answer.repair === null && !answer.nextChecks.some((c) => c.helps);
  if (id === undefined || probability <= (isStuck ? FAINT : WORTH_TRYING)) return undefined;
  return {
    id,
    name: repairName(g.trade, id),
    chance: chance(thereOf(g, answer, id)),
    parts: [...new Set([...partsOfRepair(g.trade, id), ...roundParts(g, answer)])],
  };
}

/** How much an answer weighs either way, in words: ten decibans are ten to one. */
function weightWords(decibans: number): string {
  const size = Math.abs(decibans);
  const how = size >= 10 ? "strongly" : size >= 5 ? "clearly" : size >= 2.5 ? "somewhat" : "slightly";
  return how;
}
