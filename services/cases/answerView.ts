/** View model of a case: the engine's answer turned into sentences, bars and cards. */
import { isDear, type TraceAnswer } from "#core/trace";
import type { Finding, TraceCase } from "#store/cases";
import type { Services } from "../context";
import type { Gathered } from "../machine/gather";
import { partsOfRepair, planOf, procedureOf } from "../machine/plans";
import { unmendedOf } from "../machine/unmended";
import { chance, number, sinceDay, theStation } from "../words";
import { answered } from "./answered";
import { type BudgetLine, budgetOf } from "./budget";
import { type CaseFindings, caseFindings, declinedIn, type SourcedFinding, traceInput } from "./caseInput";
import { broughtBack, proofDueWords } from "./mendedSince";
import { lowerFirst, nextChecksOf } from "./nextChecks";
import { seenBefore } from "./story";
import { type Tried, triedIn } from "./tried";
import { checkText, faultName, faultSays, findingWords, repairName } from "./words";

/** Ranked faults shown; the rest is one line. */
const SHOWN_FAULTS = 5;
/** A fault this probable beside the leader belongs into the sentence. */
const SECOND = 0.25;

export type AnswerView = Awaited<ReturnType<typeof answerView>>;

export async function answerView(
  services: Pick<Services, "tracer">,
  g: Gathered,
  openCase: TraceCase,
  stored: readonly Finding[],
  earlier: readonly TraceCase[] = [],
) {
  const found = caseFindings(g, openCase, stored);
  const findings = found.now;
  const input = traceInput(g, openCase, found);
  const answer = await answered(services, g.trade.model, input);
  const budget = answer.symptom === "power" ? budgetOf(g, input.baseline ?? {}, findings, answer) : undefined;
  // What was seen bad is in every round, whatever is answered next.
  const seenBad = answer.plan.filter((r) => g.trade.model.faults.some((f) => f.repair === r && answer.seen.includes(f.id)));
  const relevant = ableFaults(g, answer);
  const tried: Tried | undefined = triedIn(g, findings, answer) ?? (await broughtBack(services, g, openCase, found, input, answer));
  const due = proofDueWords(g, found, answer);
  const suspects = suspectPlaces(g, answer, relevant);
  return {
    headline: tried ? tried.headline : due ? "See first whether it still fails." : headline(g, answer, relevant),
    lead: tried
      ? `It was this, as far as one test can tell: ${tried.says}.`
      : due
        ? [
            due,
            isWear(answer, relevant) || isSound(answer, relevant)
              ? ""
              : `Should it fail still: ${lowerFirst(headline(g, answer, relevant))}`,
          ]
            .filter(Boolean)
            .join(" ")
        : isWear(answer, relevant)
          ? "Walk the round that is due: its cleans take the dirt off. If the cut fails after it, a ladder says how much is missing."
          : [lead(g, answer, relevant, suspects), doneBefore(g, answer, relevant, found)].filter(Boolean).join(" "),
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
    faults: relevant.slice(0, SHOWN_FAULTS).map((f) => ({
      id: f.id,
      name: faultName(g.trade, f.id),
      chance: chance(f.probability),
      severity: f.heavy > 0.7 ? "heavy" : f.heavy < 0.3 ? "light" : "",
      reason: g.trade.model.faults.find((x) => x.id === f.id)?.reason ?? "",
      before: seenBefore(earlier, f.id, openCase),
      evidence: answer.evidence
        .filter((e) => e.fault === f.id)
        .sort((a, b) => b.decibans - a.decibans)
        .map((e) => ({
          check: e.check,
          words: evidenceWords(g, found, e),
          decibans: e.decibans,
          weight: weightWords(e.decibans),
        })),
    })),
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
      .map((c) => ({ id: c.check, title: checkText(g.trade, c.check).title, minutes: number(c.minutes) })),
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
    declined: [...new Set(declinedIn(g, openCase).map((id) => id.replace(/^power@.*/, "power@lens")))].map((id) => ({
      id,
      title: id.startsWith("power@") ? "Watts: no meter here" : checkText(g.trade, id).title,
    })),
    history: [...findings, ...found.before.flatMap((b) => b.findings), ...found.longAgo]
      .sort((a, b) => b.atMs - a.atMs)
      .map((f) => ({
        key: keyOf(f),
        words: findings.includes(f) ? findingWords(g.trade, f) : `${findingWords(g.trade, f)}, before the repair`,
        day: sinceDay(f.atMs, g.nowMs),
        atMs: f.atMs,
        findingId: f.source.kind === "answer" ? f.source.findingId : undefined,
      })),
    withdrawn: stored.filter((f) => f.withdrawn).map((f) => ({ id: f.id, words: findingWords(g.trade, f) })),
    lastAnswerId: stored.filter((f) => !f.withdrawn).at(-1)?.id,
    answered: findings.length + found.longAgo.length + found.before.reduce((sum, b) => sum + b.findings.length, 0),
  };
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
    words.length < 2
      ? []
      : { check, text: `Said one after the other: ${words.join(", then ")}. ${countsOf(check)}; take back what is wrong.` },
  );
}

function stationWords(g: Gathered, text: string): string {
  return Object.entries(g.trade.layout.names).reduce((words, [id, name]) => words.replaceAll(`after ${id}`, `after ${name}`), text);
}

function wordsOfCheck(g: Gathered, findings: readonly SourcedFinding[], check: string): string {
  const last = findings.filter((f) => f.check === check).at(-1);
  return last ? findingWords(g.trade, last) : check;
}

/** Faults that can cause what was reported, likeliest first. */
export const ableFaults = (g: Gathered, answer: Pick<TraceAnswer, "faults" | "symptom">): TraceAnswer["faults"] =>
  answer.faults.filter((f) => (g.trade.model.faults.find((x) => x.id === f.id)?.symptoms[answer.symptom] ?? 0) > 0);

interface Suspect {
  readonly id: string;
  readonly probability: number;
}

/** How likely it is that something at each place causes what was reported; what may be wrong there besides is no suspicion of it. */
function suspectPlaces(g: Gathered, answer: TraceAnswer, able: TraceAnswer["faults"]): Suspect[] {
  return answer.stations.map(({ id, probability }) => {
    const here = g.trade.model.faults.filter((f) => f.station === id).map((f) => f.id);
    const suspected = able.filter((f) => here.includes(f.id));
    if (suspected.length === here.length) return { id, probability };
    return { id, probability: Math.min(probability, 1 - suspected.reduce((left, f) => left * (1 - f.probability), 1)) };
  });
}

/** A system of the machine holds all kinds of things: where one fault makes nearly all of what is suspected there, it has that fault's name. */
function placeName(g: Gathered, { id, probability }: Suspect, relevant: TraceAnswer["faults"]): string {
  const isOnPath = g.trade.layout.stations.some((s) => s.id === id);
  const only = isOnPath ? undefined : relevant.find((f) => stationOf(g, f.id) === id && f.probability > NEARLY_ALL * probability);
  return only ? faultName(g.trade, only.id) : (g.trade.layout.names[id] ?? id);
}
const NEARLY_ALL = 0.8;

const stationOf = (g: Gathered, fault: string) => g.trade.model.faults.find((f) => f.id === fault)?.station;

/** Whether nothing wrong is likelier than any fault. */
const isSound = ({ nothingWrong }: TraceAnswer, [first]: TraceAnswer["faults"]): boolean =>
  nothingWrong > (first?.probability ?? 0) && nothingWrong > 0.3;

/** Whether nothing that is left to be asked would find a fault: then it is what every machine gathers. */
const isWear = (answer: TraceAnswer, relevant: TraceAnswer["faults"]): boolean =>
  isSound(answer, relevant) && answer.repair === null && !answer.nextChecks.some((c) => c.helps);

/** Whether more speaks for something that is not in the catalog than for any fault in it. */
const isUnknown = ({ none }: TraceAnswer, [first]: TraceAnswer["faults"]): boolean => none > (first?.probability ?? 0);

function headline(g: Gathered, answer: TraceAnswer, relevant: TraceAnswer["faults"]): string {
  const [first, second] = relevant;
  if (!first) return "Nothing in the catalog explains this.";
  if (isWear(answer, relevant)) return "Nothing but the dirt and the wear that were to be expected.";
  if (isSound(answer, relevant)) return "Perhaps nothing is wrong: one more check will tell.";
  if (isUnknown(answer, relevant)) return "None of the known faults explains this well. Look with someone else's eyes.";
  const how = first.probability >= 0.9 ? "Almost surely" : first.probability >= 0.45 ? "Most likely" : "Perhaps";
  const says = faultSays(g.trade, first.id);
  const other = besides(answer, first.id, relevant);
  if (other) return `${how} ${says}, and ${faultSays(g.trade, other)} as well.`;
  if (second && first.probability < 0.45 && second.probability > 0.6 * first.probability)
    return `${how} ${says}, or ${faultSays(g.trade, second.id)}${sizes(answer).words === "one" ? "" : ", or both"}.`;
  return `${how} ${says}.`;
}

/** The fault that is likely to be there besides the first, where two explain it better than one and these two go together. */
function besides(answer: TraceAnswer, first: string, relevant: TraceAnswer["faults"]): string | undefined {
  if (sizes(answer).words !== "more") return undefined;
  const both = (id: string) =>
    answer.sets.filter((s) => s.faults.includes(first) && s.faults.includes(id)).reduce((sum, s) => sum + s.probability, 0);
  const [second, ...others] = relevant.slice(1);
  if (second === undefined) return undefined;
  const most = others.reduce((a, b) => (both(b.id) > both(a.id) ? b : a), second);
  return most.probability >= SECOND && both(most.id) > TOGETHER * most.probability ? most.id : undefined;
}

/** Share of a second fault's probability that must be in the few sets that are named, with the first. */
const TOGETHER = 0.2;

/** Shares of a hundred up to here are no lead. */
const ALIKE_PERCENT = 54;

/** Whether one thing explains it or more do, and by how much: the share of a hundred that leads. */
function sizes(answer: TraceAnswer): { readonly words: "one" | "more" | "alike"; readonly share: number; readonly sum: number } {
  const one = answer.bySize[0] ?? 0;
  const more = (answer.bySize[1] ?? 0) + (answer.bySize[2] ?? 0);
  const sum = one + more;
  const share = Math.round((100 * Math.max(one, more)) / sum);
  return { words: share < ALIKE_PERCENT ? "alike" : more > one ? "more" : "one", share, sum };
}

function lead(g: Gathered, answer: TraceAnswer, relevant: TraceAnswer["faults"], suspects: readonly Suspect[]): string {
  const path = g.trade.layout.stations.map((s) => s.id);
  const names = g.trade.layout.names;
  const top = [...suspects].sort((a, b) => b.probability - a.probability);
  const words: string[] = [];
  const lead1 = top[0];
  // What explains it badly is not told apart any finer.
  if (lead1 && isUnknown(answer, relevant)) {
    const { id, probability } = lead1;
    return probability < STANDS_OUT ? "" : `Of what is known it points to ${theStation(names[id] ?? id)}: ${chance(probability)}.`;
  }
  if (lead1) {
    const i = path.indexOf(lead1.id);
    const neighbour =
      i < 0
        ? undefined
        : [suspects.find((s) => s.id === path[i - 1]), suspects.find((s) => s.id === path[i + 1])]
            .filter((s) => s !== undefined)
            .sort((a, b) => b.probability - a.probability)[0];
    if (neighbour && neighbour.probability > 0.15) {
      const [from, to] = path.indexOf(neighbour.id) < i ? [neighbour.id, lead1.id] : [lead1.id, neighbour.id];
      words.push(`Look between ${theStation(names[from] ?? from)} and ${theStation(names[to] ?? to)}.`);
    } else if (lead1.probability >= STANDS_OUT) {
      const [first] = relevant;
      // Of one fault alone the headline says it.
      const isOneFault =
        first !== undefined && stationOf(g, first.id) === lead1.id && lead1.probability - first.probability < MORE_THAN_ONE;
      if (!isOneFault) words.push(`It points to ${theStation(names[lead1.id] ?? lead1.id)}: ${chance(lead1.probability)}.`);
    } else words.push("No place stands out yet.");
  }
  const { words: explain, share, sum } = sizes(answer);
  // How many are at fault is no matter while perhaps none is.
  if (sum > 0.2 && !isSound(answer, relevant) && !(explain === "one" && share >= PLAINLY_ONE)) {
    const alike = "One thing alone explains it about as well as two together.";
    const [better, than] = explain === "more" ? ["Two things together explain", "one"] : ["One thing alone explains", "two"];
    words.push(explain === "alike" ? alike : `${better} it better than ${than} (${share} to ${100 - share}).`);
  }
  return words.join(" ");
}

/** What a place must be suspected of beyond its likeliest fault to be named besides it. */
const MORE_THAN_ONE = 0.05;

/** Of so many of a hundred it goes without saying that one thing explains it. */
const PLAINLY_ONE = 95;

/** A place that is less likely at fault than this does not stand out. */
const STANDS_OUT = 0.25;

/** From here on it is said of what leads that it was mended in this case already. */
const DOUBTED = 0.3;

/** What leads although it was mended, or tried: what was found since speaks for it, or that it is looked at again comes before all else. */
function doneBefore(g: Gathered, answer: TraceAnswer, [leading]: TraceAnswer["faults"], { now, before }: CaseFindings): string {
  const repair = g.trade.model.faults.find((f) => f.id === leading?.id)?.repair;
  if (leading === undefined || repair === undefined || leading.probability < DOUBTED) return "";
  const name = repairName(g.trade, repair);
  if (!before.some((b) => b.done.repairs.includes(repair))) {
    const isTried = g.trade.model.checks.some((c) => c.tries?.repair === repair && now.some((f) => f.check === c.id));
    return isTried && !answer.plan.includes(repair)
      ? `“${name}” was tried already, and it was the same: it is not named again for nothing.`
      : "";
  }
  return answer.plan.includes(repair)
    ? `“${name}” was done in this case already; what was found since speaks for doing it once more.`
    : `“${name}” was done already and ${leading.probability >= 0.5 ? "most likely" : "perhaps"} did not take: look again before anything else.`;
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
  const plan = planOf(g.trade, parts, { isRepair: true, grades: g.grades });
  return {
    id: answer.repair,
    name: repairName(g.trade, answer.repair),
    parts,
    alongWith: alongWith(g, answer),
    minutes: number(plan.minutes),
    booked: isBooked(g, partsOfRepair(g.trade, answer.repair)),
    /** A mirror's aim is in it: Aim works the turns out. */
    aims: parts.some((p) => /^aim@[1-9]/.test(p) && !isBooked(g, [p])),
    because: because(g, answer, findings),
  };
}

function because(g: Gathered, answer: TraceAnswer, findings: CaseFindings): string {
  const p = answer.repairs.find((r) => r.id === answer.repair)?.probability ?? 0;
  switch (answer.stop.reason) {
    case "seen":
      return `Seen: ${seenWords(g, answer, findings)}. It explains what went wrong.`;
    case "sure":
      return `It is the right one with ${chance(p)}.`;
    case "idle":
      if (g.trade.model.repairs.some((r) => r.id === answer.repair && isDear(r)))
        return `It is the right one with ${chance(p)}, and dear where it is not: nothing short is left to ask that would tell much.`;
      return `It is the right one with ${chance(p)}: no question that is left would save more time than it takes.`;
    default:
      return `It is the right one with ${chance(p)}.`;
  }
}

/** The look that showed the fault which is repaired. */
function seenWords(g: Gathered, answer: TraceAnswer, findings: CaseFindings): string {
  const mended = new Set(g.trade.model.faults.filter((f) => f.repair === answer.repair).map((f) => f.id));
  const [strongest] = answer.evidence.filter((e) => mended.has(e.fault)).sort((a, b) => b.decibans - a.decibans);
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
    chance: chance(probability),
    parts: [...new Set([...partsOfRepair(g.trade, id), ...roundParts(g, answer)])],
  };
}

/** How much an answer weighs either way, in words: ten decibans are ten to one. */
function weightWords(decibans: number): string {
  const size = Math.abs(decibans);
  const how = size >= 10 ? "strongly" : size >= 5 ? "clearly" : size >= 2.5 ? "somewhat" : "a little";
  return how;
}
