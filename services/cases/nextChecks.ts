/** The checks that a case asks next: the card, its minutes, and what each answer would lead to. */
import { isDear, SURE, type TraceAnswer } from "#core/trace";
import type { Gathered } from "../machine/gathered";
import { lowerFirst, wholeMinutes } from "../words";
import { baselineOf } from "./caseInput";
import { checkText, repairName } from "./words";

/** So many are offered; the first is the large card. */
const OFFERED = 3;
/** An answer rarer than this is not explained. */
const RARE = 0.01;

/** `seenBad` are the repairs that every round has, whatever is answered. */
export function nextChecksOf(g: Gathered, { nextChecks }: Pick<TraceAnswer, "nextChecks">, seenBad: readonly string[]) {
  return nextChecks
    .slice(0, OFFERED)
    .filter((c) => c.helps)
    .map((c) => {
      const meanings = c.meanings
        .filter((m) => m.probability > RARE)
        .map((m) => ({ outcome: outcomeLabel(g, c.check, m.outcome), means: afterwards(g, c.check, m, seenBad) }))
        .filter((m) => m.means !== "");
      // Where all lead to the same, as after one answer of several that it takes, that is nothing to choose by.
      const isOneWay = meanings.length > 1 && meanings.every((m) => m.means === meanings[0]?.means);
      return {
        ...cardText(g, c.check),
        minutes: wholeMinutes(c.minutes),
        gated: c.gated,
        meanings: isOneWay ? [] : meanings,
        /** What follows whatever is answered. */
        anyway: isOneWay ? meanings[0]?.means : undefined,
      };
    });
}

/** A check as its card asks it: no figure where words do and the machine has nothing to compare it with, since it would say nothing. */
export function cardText(g: Gathered, check: string) {
  const text = checkText(g.trade, check);
  const usual = g.trade.model.checks.find((c) => c.id === check)?.value?.usual;
  const isCompared = typeof usual !== "object" || (baselineOf(g)[usual.baseline] ?? usual.fallback) !== undefined;
  return isCompared || text.outcomes.length === 0 ? text : { ...text, value: undefined };
}

/** Whether a repair of this machine is dear where it is not needed. */
export const isDearRepair = (g: Gathered, id: string): boolean => g.trade.model.repairs.some((r) => r.id === id && isDear(r));

/** Lower-cased for the middle of a sentence; M1 and M2 stay what they are. */

type Meaning = TraceAnswer["nextChecks"][number]["meanings"][number];

const NUMBER_WORDS: Readonly<Record<string, string>> = { low: "a low number", middle: "a middling one", high: "a high number" };

function outcomeLabel(g: Gathered, check: string, outcome: string): string {
  const { outcomes } = checkText(g.trade, check);
  return (outcomes.length === 0 ? NUMBER_WORDS[outcome] : outcomes.find((o) => o.id === outcome)?.label) ?? outcome;
}

/**
 * What would be done after an answer: a round's repairs, with what was seen bad; nothing where the answer is the repair and its proof. Before
 * what is dear and not sure more would be asked.
 */
function afterwards(g: Gathered, check: string, { outcome, plan, faultProbability }: Meaning, seenBad: readonly string[]): string {
  const tries = g.trade.model.checks.find((c) => c.id === check)?.tries;
  if (tries?.outcome === outcome) return `${lowerFirst(repairName(g.trade, tries.repair))}: done, and proven`;
  if (plan.length === 0) return "";
  const words = (ids: readonly string[]) => [...new Set(ids)].map((r) => lowerFirst(repairName(g.trade, r))).join(", ");
  if (!plan.some((r) => isDearRepair(g, r))) return words([...plan, ...seenBad]);
  // What was seen and is cheap comes before it.
  if (seenBad.length > 0 && !seenBad.some((r) => isDearRepair(g, r))) return words(seenBad);
  return faultProbability < SURE ? `ask on, then perhaps ${words(plan)}` : words(plan);
}
