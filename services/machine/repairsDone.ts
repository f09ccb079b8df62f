/** Which repairs a round carried out: a part that was passed over, or needed nothing, was not mended by it. */
import type { Step } from "#core/rounds";
import type { Round } from "#store/rounds";
import { partsOfRepair, planOfRound } from "./plans";
import type { Trade } from "./trade";

type Answers = Round["answers"];

/**
 * Whether a part of a round was worked on: a step that cleans, changes or sets it was done. Taking it out of its seat is none; where a part
 * has no such step, none of its own was skipped.
 */
function isServed(part: string, steps: readonly Step[], answers: Answers): boolean {
  const own = steps.filter((s) => s.id.startsWith(`${part}.`));
  const serving = own.filter((s) => s.service !== undefined && s.service.what !== "seat-opened");
  if (serving.length === 0) return own.every((s) => answers.get(s.id)?.skipped === undefined);
  return serving.some((s) => {
    const answer = answers.get(s.id);
    const said = s.seen?.find((o) => o.id === answer?.choice);
    return answer?.done === true && answer.skipped === undefined && said?.served !== false;
  });
}

/** Repairs of this machine that a round carried out, by their ids. */
export function repairsDone(trade: Trade, round: Pick<Round, "plan" | "parts" | "answers">): string[] {
  const { steps } = planOfRound(trade, round);
  return trade.model.repairs
    .filter((r) => partsOfRepair(trade, r.id).some((p) => round.parts.includes(p) && isServed(p, steps, round.answers)))
    .map((r) => r.id);
}
