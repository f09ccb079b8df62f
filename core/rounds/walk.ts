/** The walk through a round: which of its steps are asked for, how far one may go, and whether the machine is apart. */
import type { RoundAnswer } from "./answers";
import { isAnswered, NOT_SEEN } from "./answers";
import { dryingMinutes, minutesOf } from "./minutes";
import { heldBack, isLeft } from "./state";
import type { Need, Step } from "./step";

export type Answers = ReadonlyMap<string, RoundAnswer>;

function isMet(need: Need, answers: Answers): boolean {
  const answer = answers.get(need.step);
  if (!answer) return false;
  const [first, last] = need.grades ?? [5, 5];
  const graded = answer.choice !== NOT_SEEN && answer.grade !== undefined && answer.grade >= first && answer.grade <= last;
  return graded || (answer.choice !== undefined && need.said?.includes(answer.choice) === true);
}

/** True where nothing has to ask for a step, or something did. One that was answered stays. */
function isAsked(step: Step, answers: Answers): boolean {
  if (isAnswered(answers.get(step.id))) return true;
  if (step.unless?.some((need) => isMet(need, answers))) return false;
  return step.when === undefined || step.when.some((need) => isMet(need, answers));
}

/** The steps that are asked for by the answers so far, in order: without those that a part left out, or broken, has put an end to. */
export function walkOf(steps: readonly Step[], answers: Answers): Step[] {
  const held = heldBack(steps, answers);
  return steps.filter((s) => isAsked(s, answers) && isLeft(s, held));
}

/** A step with a tick protects somebody: nothing stands in for it, and whoever will not do it ends the round. */
export const isGuard = (step: Step): boolean => step.tick !== undefined;

/** True for a step with a tick that was not ticked, or that asks what was seen and was not told: skipped counts as not. */
const isOpenGuard = (step: Step, answers: Answers): boolean => {
  const answer = answers.get(step.id);
  const isGiven = answer?.done === true && answer.skipped === undefined && (step.seen === undefined || answer.choice !== undefined);
  return isGuard(step) && !isGiven;
};

/** Ticks that are missing: until they are given nothing proves the round. */
export function heldBy(steps: readonly Step[], answers: Answers): Step[] {
  return walkOf(steps, answers).filter((s) => isOpenGuard(s, answers));
}

/** The furthest step of a walk one may go to: the first tick that is missing. Backwards is free. */
export function furthest(walk: readonly Step[], answers: Answers): number {
  const at = walk.findIndex((s) => isOpenGuard(s, answers));
  return at < 0 ? walk.length - 1 : at;
}

/**
 * True while covers are off or what was wetted dries: until the covers' tick is given, and again from when something is opened after it;
 * and while a part stays out or is broken. A round that opens nothing never is.
 */
export function isApart(steps: readonly Step[], answers: Answers): boolean {
  const opens = (s: Step) => s.opens === true || s.id === "make-safe";
  if (!steps.some(opens)) return false;
  const held = heldBack(steps, answers);
  if (held.out.size + held.broken.size > 0) return true;
  const closed = answers.get("power-on");
  if (!closed?.done || closed.skipped !== undefined) return true;
  return steps.some((s) => {
    const answer = answers.get(s.id);
    return opens(s) && answer?.done === true && answer.atMs > closed.atMs;
  });
}

/**
 * Minutes of the steps not yet answered, with those that are expected while nothing was said against them, and what must dry: also what is
 * drying at `nowMs`.
 */
export function minutesLeft(steps: readonly Step[], answers: Answers, nowMs: number): number {
  const open = (id: string) => !isAnswered(answers.get(id));
  const isExpected = (s: Step) => s.expected === true && s.when?.some((need) => open(need.step)) === true;
  const held = heldBack(steps, answers);
  const left = steps.filter((s) => open(s.id) && isLeft(s, held) && (isAsked(s, answers) || isExpected(s)));
  const dry = steps.find((s) => s.timer?.name === "drying");
  const endsMs = (dry && answers.get(dry.id)?.timerEndsMs) ?? nowMs;
  return minutesOf(left) + dryingMinutes(left, Math.max(0, endsMs - nowMs) / 60_000);
}
