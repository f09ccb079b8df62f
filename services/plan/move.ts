/** A planned round put on another day: the rest follows, and what that costs is said. */
import dayjs from "dayjs";
import type { Upkeep } from "#core/machine";
import { asBefore, betterOf, firstPlan, type Plan, type PlanInstance } from "#core/plan";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { changeUpkeep } from "../upkeep/change";
import { closedDays, PLAN_DAYS, standingMoves, withMoves } from "./instance";
import { dayWords, nameOf, totalMinutes } from "./rounds";

export type Moved = NonNullable<Upkeep["moved"]>[number];

export interface MoveCost {
  /** Minutes more (or less) over the days of the plan, as they are shown. */
  readonly minutes: number;
  /** Tasks that are late then and were not before. */
  readonly late: readonly string[];
}

/** Why a round cannot be put on a day; undefined where it can. */
export function refusedDay(g: Gathered, from: string, to: string): string | undefined {
  const round = g.plan.rounds.find((r) => r.date === from);
  if (!round) return "There is no such round any more: the plan has changed. Reload the page.";
  if (!/^\d{4}-\d{2}-\d{2}$/.test(to) || !dayjs(to).isValid()) return "Choose a day.";
  const days = dayjs(to).diff(dayjs(g.nowMs).startOf("day"), "day");
  if (days < 0) return "That day is over. Choose today or a later one.";
  if (days >= PLAN_DAYS) return `The plan ends in ${PLAN_DAYS} days. Choose an earlier one.`;
  if (closedDays(g.upkeep.upkeep, g.nowMs).includes(to)) return "The workshop is closed that day. Choose another.";
  return undefined;
}

/** The tasks of a round as they are moved. */
function movesFor(g: Gathered, from: string, to: string, madeMs: number): Moved[] {
  const round = g.plan.rounds.find((r) => r.date === from);
  return (round?.tasks ?? []).map((task) => {
    const after = g.plan.rounds.findLast((r) => r.date < from && r.tasks.includes(task))?.date;
    return { task, from, to, madeMs, ...(after === undefined ? {} : { after }) };
  });
}

/** What stands after a move: a task that is moved on takes its earlier move with it. */
function movesAfter(g: Gathered, made: readonly Moved[]): Moved[] {
  const tasks = new Set(made.map((m) => m.task));
  const from = made[0]?.from;
  return [...standingMoves(g).filter((m) => !(tasks.has(m.task) && m.to === from)), ...made];
}

/** The plan with a round of another day, found from the one that stands. */
function planWith(g: Gathered, instance: PlanInstance, from: string, to: string): Plan {
  const shifted: Plan = { ...g.plan, rounds: g.plan.rounds.map((r) => (r.date === from ? { ...r, date: to } : r)) };
  const kept = asBefore(instance, shifted);
  return betterOf(kept, firstPlan(instance));
}

export function moveCost(g: Gathered, from: string, to: string): MoveCost {
  const instance = withMoves(g, movesAfter(g, movesFor(g, from, to, g.nowMs)));
  const plan = planWith(g, instance, from, to);
  const before = new Set(g.plan.late.map((l) => l.task));
  return {
    minutes: totalMinutes(g, plan.rounds) - totalMinutes(g),
    late: plan.late.filter((l) => !before.has(l.task)).map((l) => nameOf(g, l.task)),
  };
}

export const costWords = ({ minutes, late }: MoveCost): string => {
  const takes =
    minutes === 0
      ? "costs no extra minutes"
      : minutes > 0
        ? `costs ${minutes} min more in these ${PLAN_DAYS} days`
        : `saves ${-minutes} min in these ${PLAN_DAYS} days`;
  if (late.length === 0) return takes;
  const named = late.length > 3 ? `${late.slice(0, 2).join(", ")} and ${late.length - 2} more` : late.join(", ");
  return `${takes}; late then: ${named}`;
};

export type MoveAnswer = { readonly said: string } | { readonly problem: string };

/** Puts a round on another day. */
export async function moveRound(services: Services, g: Gathered, from: string, to: string): Promise<MoveAnswer> {
  const problem = refusedDay(g, from, to);
  if (problem !== undefined) return { problem };
  if (from === to) return { said: "It is on that day already." };
  const cost = moveCost(g, from, to);
  const moved = movesAfter(g, movesFor(g, from, to, services.nowMs()));
  await changeUpkeep(services, g.machine.id, (now) => ({ ...now, moved }));
  return { said: `Moved to ${dayWords(to, g)}: it ${costWords(cost)}.` };
}

/** Lets a round that was moved fall where the plan would have it. */
export async function letGo(services: Services, g: Gathered, date: string): Promise<MoveAnswer> {
  const moved = standingMoves(g).filter((m) => m.to !== date);
  await changeUpkeep(services, g.machine.id, (now) => ({ ...now, moved }));
  return { said: "The plan decides its day again." };
}
