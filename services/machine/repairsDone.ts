/** Which repairs a round carried out: a part that was passed over in it is as it was. */
import type { EventPayload } from "#core/events";
import { heldBack, isRefused, isServed, type Step, walkOf } from "#core/rounds";
import { mends } from "#core/schedule";
import type { Round } from "#store/rounds";
import { partsOfRepair, planOfRound, procedureOf } from "./plans";
import type { Trade } from "./trade";

type Answers = Round["answers"];

/**
 * Whether a part of a round is right since: a step that cleans, changes or sets it was done, or it was looked at and needed none. Taking it
 * out of its seat is none of these; what was skipped, or asked for and not done, leaves it as it was.
 */
function isRight(part: string, steps: readonly Step[], answers: Answers): boolean {
  const own = steps.filter((s) => s.id.startsWith(`${part}.`));
  // What was left out of the machine is not mended, however clean it is.
  const { out } = heldBack(steps, answers);
  if (own.some((s) => s.station !== undefined && out.has(s.station))) return false;
  const walked = new Set(walkOf(steps, answers));
  const serving = own.filter((s) => s.service !== undefined && s.service.what !== "seat-opened");
  if (serving.some((s) => isServed(s, answers.get(s.id)))) return true;
  const isLeft = (s: Step) => answers.get(s.id)?.skipped !== undefined || isRefused(s, answers.get(s.id));
  return !own.some(isLeft) && !serving.some((s) => walked.has(s));
}

/** Whether all that was asked of a part was done: a round that ended early reached only some of its steps. */
const isWalked = (part: string, steps: readonly Step[], answers: Answers): boolean =>
  walkOf(steps, answers).every((s) => !s.id.startsWith(`${part}.`) || answers.get(s.id)?.done === true);

/** Repairs of this machine that a round carried out, by their ids; one that was given up counts for the parts it was done with. */
export function repairsDone(trade: Trade, round: Pick<Round, "plan" | "parts" | "answers" | "status">): string[] {
  const { steps } = planOfRound(trade, round);
  const isDone = (part: string) =>
    round.parts.includes(part) &&
    isRight(part, steps, round.answers) &&
    (round.status !== "abandoned" || isWalked(part, steps, round.answers));
  return trade.model.repairs.filter((r) => partsOfRepair(trade, r.id).some(isDone)).map((r) => r.id);
}

/**
 * Repairs that a service in the log carried out: those whose parts do just that, at that place. What is new is clean. Something that was
 * adjusted where several repairs adjust is none of them for certain; nor is what mends nothing.
 */
export function repairsOfService(trade: Trade, { station, what }: Pick<EventPayload["service"], "station" | "what">): string[] {
  if (!mends(what)) return [];
  const doing = (w: typeof what) => {
    const does = (part: string) => {
      const procedure = procedureOf(trade, part);
      // What a repair cleans along the way, since it was in the hand, is not what it is for.
      if (!procedure || (w === "cleaned" && procedure.isRepair)) return false;
      return procedure.steps.some((s) => s.station === station && s.service?.what === w);
    };
    return trade.model.repairs.filter((r) => partsOfRepair(trade, r.id).some(does)).map((r) => r.id);
  };
  if (what === "replaced") return [...new Set([...doing("replaced"), ...doing("cleaned")])];
  const repairs = doing(what);
  return what === "adjusted" && repairs.length > 1 ? [] : repairs;
}
