/** Which repairs a round carried out: a part that was passed over in it is as it was. */
import { isAsked, isRefused, isServed, type Step } from "#core/rounds";
import type { Round } from "#store/rounds";
import { partsOfRepair, planOfRound } from "./plans";
import type { Trade } from "./trade";

type Answers = Round["answers"];

/**
 * Whether a part of a round is right since: a step that cleans, changes or sets it was done, or it was looked at and needed none. Taking it
 * out of its seat is none of these; what was skipped, or asked for and not done, leaves it as it was.
 */
function isRight(part: string, steps: readonly Step[], answers: Answers): boolean {
  const own = steps.filter((s) => s.id.startsWith(`${part}.`));
  const serving = own.filter((s) => s.service !== undefined && s.service.what !== "seat-opened");
  if (serving.some((s) => isServed(s, answers.get(s.id)))) return true;
  const isLeft = (s: Step) => answers.get(s.id)?.skipped !== undefined || isRefused(s, answers.get(s.id));
  return !own.some(isLeft) && !serving.some((s) => isAsked(s, answers));
}

/** Repairs of this machine that a round carried out, by their ids. */
export function repairsDone(trade: Trade, round: Pick<Round, "plan" | "parts" | "answers">): string[] {
  const { steps } = planOfRound(trade, round);
  return trade.model.repairs
    .filter((r) => partsOfRepair(trade, r.id).some((p) => round.parts.includes(p) && isRight(p, steps, round.answers)))
    .map((r) => r.id);
}
