/** The first sentences of a case: what it most likely is, where it points, and what is said of a repair that was done or tried already. */
import { idAt } from "#core/machine";
import { clearedFaults, type TraceAnswer } from "#core/trace";
import type { Gathered } from "../machine/gathered";
import { chance, theStation } from "../words";
import type { CaseFindings } from "./caseInput";
import { faultName, faultSays, repairName } from "./words";

/** A fault this probable beside the leader belongs into the sentence. */
const SECOND = 0.25;

/** Faults that can cause what was reported, likeliest first. */
export const ableFaults = (g: Gathered, answer: Pick<TraceAnswer, "faults" | "symptom">): TraceAnswer["faults"] =>
  answer.faults.filter((f) => (g.trade.model.faults.find((x) => x.id === f.id)?.symptoms[answer.symptom] ?? 0) > 0);

interface Suspect {
  readonly id: string;
  readonly probability: number;
}

/** How likely it is that something at each place causes what was reported; what may be wrong there besides is no suspicion of it. */
export function suspectPlaces(g: Gathered, answer: TraceAnswer, able: TraceAnswer["faults"]): Suspect[] {
  return answer.stations.map(({ id, probability }) => {
    const here = g.trade.model.faults.filter((f) => f.station === id).map((f) => f.id);
    const suspected = able.filter((f) => here.includes(f.id));
    if (suspected.length === here.length) return { id, probability };
    return { id, probability: Math.min(probability, 1 - suspected.reduce((left, f) => left * (1 - f.probability), 1)) };
  });
}

/** A system of the machine holds all kinds of things: where one fault makes nearly all of what is suspected there, it has that fault's name. */
export function placeName(g: Gathered, { id, probability }: Suspect, relevant: TraceAnswer["faults"]): string {
  const isOnPath = g.trade.layout.stations.some((s) => s.id === id);
  const only = isOnPath ? undefined : relevant.find((f) => stationOf(g, f.id) === id && f.probability > NEARLY_ALL * probability);
  return only ? faultName(g.trade, only.id) : (g.trade.layout.names[id] ?? id);
}
const NEARLY_ALL = 0.8;

const stationOf = (g: Gathered, fault: string) => g.trade.model.faults.find((f) => f.id === fault)?.station;

/** Whether nothing wrong is likelier than any fault. */
export const isSound = ({ nothingWrong }: TraceAnswer, [first]: TraceAnswer["faults"]): boolean =>
  nothingWrong > (first?.probability ?? 0) && nothingWrong > 0.3;

/** Whether nothing that is left to be asked would find a fault: then it is what every machine gathers. */
export const isWear = (answer: TraceAnswer, relevant: TraceAnswer["faults"]): boolean =>
  isSound(answer, relevant) && answer.repair === null && !answer.nextChecks.some((c) => c.helps);

/** Whether more speaks for something that is not in the catalog than for any fault in it. */
const isUnknown = ({ none }: TraceAnswer, [first]: TraceAnswer["faults"]): boolean => none > (first?.probability ?? 0);

/** From which probability on a fault is said how. */
const HOW_SURE = [
  [0.95, "Almost certainly"],
  [0.75, "Very likely"],
  [0.5, "Probably"],
] as const;

export function headline(g: Gathered, answer: TraceAnswer, relevant: TraceAnswer["faults"]): string {
  const [first, second] = relevant;
  if (!first) return "Nothing in the catalog explains this.";
  if (isWear(answer, relevant)) return "Only normal dirt and wear.";
  if (isSound(answer, relevant)) return "Possibly nothing is wrong: one more check will show.";
  if (isUnknown(answer, relevant)) return "None of the known faults explains this well. Ask someone else to look.";
  const how = HOW_SURE.find(([least]) => first.probability >= least)?.[1] ?? "Possibly";
  const says = faultSays(g.trade, first.id);
  const other = besides(answer, first.id, relevant);
  if (other) return `${how} ${says}, and ${isAsSure(g, answer, how, other) ? "" : "possibly "}${faultSays(g.trade, other)} as well.`;
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

/** Whether the second may stand beside the first without a perhaps of its own: as likely as not, or mended in the same round. */
const isAsSure = ({ trade }: Gathered, { faults, plan }: TraceAnswer, how: string, id: string): boolean =>
  how === "Possibly" ||
  (faults.find((f) => f.id === id)?.probability ?? 0) >= 0.5 ||
  plan.includes(trade.model.faults.find((f) => f.id === id)?.repair ?? "");

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

export function lead(g: Gathered, answer: TraceAnswer, relevant: TraceAnswer["faults"], suspects: readonly Suspect[]): string {
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
      const isElsewhere = first !== undefined && stationOf(g, first.id) !== lead1.id;
      if (!isOneFault)
        words.push(
          `${isElsewhere ? "By place it points" : "It points"} to ${theStation(names[lead1.id] ?? lead1.id)}: ${chance(lead1.probability)}.`,
        );
    } else words.push("No place stands out yet.");
  }
  const { words: explain, share, sum } = sizes(answer);
  // How many are at fault is no matter while perhaps none is.
  if (sum > 0.2 && !isSound(answer, relevant) && !(explain === "one" && share >= PLAINLY_ONE)) {
    const alike = "One fault alone explains it about as well as two together.";
    const [better, than] = explain === "more" ? ["Two faults are likelier than", "one"] : ["One fault is likelier than", "two"];
    words.push(explain === "alike" ? alike : `${better} ${than} (${share} to ${100 - share} %).`);
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

/**
 * What is named although a look showed nothing: a second look comes first. And what leads although it was mended, or tried: what was found
 * since speaks for it, or that it is looked at again comes before all else.
 */
export function doneBefore(g: Gathered, answer: TraceAnswer, [leading]: TraceAnswer["faults"], { now, before }: CaseFindings): string {
  const cleared = clearedFaults(g.trade.model, now);
  const mends = g.trade.model.faults.filter((f) => f.repair === answer.plan[0]);
  if (answer.repair !== null && mends.length > 0 && mends.every((f) => cleared.has(f.id)))
    return "You inspected it and found nothing. Inspect it again before you do it.";
  const repair = g.trade.model.faults.find((f) => f.id === leading?.id)?.repair;
  if (leading === undefined || repair === undefined || leading.probability < DOUBTED) return "";
  const name = repairName(g.trade, repair);
  if (!before.some((b) => b.done.repairs.includes(repair))) {
    const isTried = g.trade.model.checks.some((c) => c.tries?.repair === repair && now.some((f) => f.check === c.id));
    if (answer.plan.includes(repair)) return "";
    if (isTried) return `“${name}” was tried already and changed nothing, so it is not suggested again.`;
    return cleared.has(leading.id)
      ? `“${name}” is not suggested: your inspection found nothing. If you doubt it, take it back and inspect again.`
      : "";
  }
  return answer.plan.includes(repair)
    ? `“${name}” was done in this case already; what was found since speaks for doing it once more.`
    : `“${name}” was done already and ${leading.probability >= 0.5 ? "probably" : "possibly"} did not work: check it again first.`;
}

/** From so many rounds on that did not bring it back, another guess is not all that is said. */
const STUCK_ROUNDS = 2;
/** What is as likely as this is no guess. */
const NO_GUESS = 0.75;
const COUNTS = ["", "", "Two", "Three", "Four", "Five"];

/**
 * Where rounds did not bring the light back and what is left is a guess: the reading that would halve what is left, which takes a meter or
 * somebody who has one.
 */
export function stuckWords(
  g: Gathered,
  answer: TraceAnswer,
  [leading]: TraceAnswer["faults"],
  suspects: readonly Suspect[],
  { now, before }: Pick<CaseFindings, "now" | "before">,
): string {
  const rounds = before.filter((b) => b.done.repairs.length > 0).length;
  if (rounds < STUCK_ROUNDS || answer.symptom !== "power" || (leading?.probability ?? 0) >= NO_GUESS) return "";
  const along = g.trade.layout.stations.map((s) => ({ id: s.id, chance: suspects.find((x) => x.id === s.id)?.probability ?? 0 }));
  const all = along.reduce((sum, s) => sum + s.chance, 0);
  const read = (id: string) => now.some((f) => f.check === idAt("power", id));
  let upTo = 0;
  const places = along.map(({ id, chance: here }) => {
    upTo += here;
    return { id, unlike: Math.abs(upTo - all / 2) };
  });
  const [place] = places
    .filter(({ id }) => g.trade.model.checks.some((c) => c.id === idAt("power", id)) && !read(id))
    .sort((p, q) => p.unlike - q.unlike);
  const count = COUNTS[rounds] ?? "Several";
  if (!place) return `${count} rounds did not bring it back: have somebody else look before another guess.`;
  const where = theStation(g.trade.layout.names[place.id] ?? place.id);
  return `${count} rounds did not bring it back. More than another guess, watts after ${where} would tell: whoever has a meter for it can read them, else a technician.`;
}
