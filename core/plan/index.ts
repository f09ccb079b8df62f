/**
 * # The plan of the days to come (M5)
 * Answers: on which days which tasks are done, so that no use goes past its interval and the minutes are least. A round costs its frame
 * once, each panel it opens once and its tasks' own minutes: a covering program (Nemhauser and Wolsey, "Integer and Combinatorial
 * Optimization", section I.1.5). A first plan comes from a search of our own at once; the least one from a solver that is handed in.
 */
import { type Calendar, calendarOf, type PlanInstance } from "./instance";
import { type Choice, type Problem, problemOf } from "./problem";
import { programOf, type Solver } from "./program";
import { searched } from "./search";
import { lastDayOf } from "./windows";

export { type PlanInstance, type PlanTask, planSchema } from "./instance";
export type { Solver } from "./program";

export interface PlannedRound {
  readonly date: string;
  readonly minutes: number;
  readonly tasks: readonly string[];
  /** Last day each of its tasks might have waited for, in their order; none where it might have waited past the end. */
  readonly latest: readonly (string | undefined)[];
}

export interface Plan {
  readonly rounds: readonly PlannedRound[];
  readonly totalMinutes: number;
  /** Windows without a service in them: each is a task over its interval for a while longer than it need be. */
  readonly missed: number;
  /** Tasks that are past their interval for a while, and from which day. */
  readonly late: readonly { readonly task: string; readonly from: string }[];
}

/** A plan at once. */
export function firstPlan(instance: PlanInstance): Plan {
  const calendar = calendarOf(instance);
  const problem = problemOf(instance, calendar);
  return planFrom(instance, calendar, problem, searched(problem, QUICK));
}

/** Weeks built anew for a plan at once, and for one that is looked for longer. */
const QUICK = 25;
const LONG = 1200;

/** The best plan of our own search, given time: some seconds. */
export function longPlan(instance: PlanInstance, tries = LONG): Plan {
  const calendar = calendarOf(instance);
  const problem = problemOf(instance, calendar);
  return planFrom(instance, calendar, problem, searched(problem, tries));
}

/** The least plan a solver finds, or that of our own long search where it finds none that is less. Throws what the solver throws. */
export async function leastPlan(instance: PlanInstance, solver: Solver, tries = LONG): Promise<Plan> {
  const own = longPlan(instance, tries);
  const solved = await solvedPlan(instance, solver);
  return solved ? betterOf(own, solved) : own;
}

/** What a solver makes of it alone; undefined where it finds nothing. Throws what the solver throws. */
export async function solvedPlan(instance: PlanInstance, solver: Solver): Promise<Plan | undefined> {
  const calendar = calendarOf(instance);
  const problem = problemOf(instance, calendar);
  const values = await solver(programOf(problem));
  return values && planFrom(instance, calendar, problem, choiceOf(problem, values));
}

/** A plan that was made before, as far as its rounds are still to come: with today's intervals and use. */
export function asBefore(instance: PlanInstance, before: Plan): Plan {
  const calendar = calendarOf(instance);
  const problem = problemOf(instance, calendar);
  const choice = problem.tasks.map((t, i) => {
    const { id } = instance.tasks[i]!;
    const days = before.rounds.flatMap((r) => (r.tasks.includes(id) ? calendar.dates.indexOf(r.date) : []));
    return [...new Set([...t.fixed, ...days.filter((d) => d >= 0 && t.may[d])])].sort((a, b) => a - b);
  });
  return planFrom(instance, calendar, problem, choice);
}

/** The better of two plans of one instance: fewer windows missed, then fewer minutes; the first where they are alike. */
export const betterOf = (a: Plan, b: Plan): Plan => (isBetter(b, a) ? b : a);

/** Whether a plan keeps to the minutes there are on each day. */
export function isWithinLimits(instance: PlanInstance, plan: Plan): boolean {
  const calendar = calendarOf(instance);
  const { limit } = problemOf(instance, calendar);
  return plan.rounds.every((r) => r.minutes <= limit[calendar.dates.indexOf(r.date)]! + 1e-6);
}

/** Last day on which the next service of each task is in time, if use is `factor` times its pace; none where it lasts beyond the horizon. */
export function nextDue(instance: PlanInstance, factor = 1): ReadonlyMap<string, string | undefined> {
  const pace = Object.fromEntries(Object.entries(instance.pace ?? {}).map(([c, week]) => [c, (week as number[]).map((v) => v * factor)]));
  const calendar = calendarOf({ ...instance, pace });
  return new Map(instance.tasks.map((t) => [t.id, calendar.dates[lastDayOf({ ...instance, pace }, calendar, t)]]));
}

/** Every task by itself, each time as late as it may be: what the rounds would take without grouping. */
export function alonePlan(instance: PlanInstance): Plan {
  const rounds: PlannedRound[] = [];
  for (const task of instance.tasks) rounds.push(...firstPlan({ ...instance, tasks: [task] }).rounds);
  return { rounds, totalMinutes: rounds.reduce((sum, r) => sum + r.minutes, 0), missed: 0, late: [] };
}

const isBetter = (a: Plan, b: Plan): boolean => a.missed < b.missed || (a.missed === b.missed && a.totalMinutes < b.totalMinutes - 1e-6);

const holdsAny = (days: readonly number[], w: { readonly from: number; readonly to: number }) => days.some((d) => d >= w.from && d <= w.to);

function choiceOf(problem: Problem, values: ReadonlyMap<string, number>): Choice {
  return problem.tasks.map((_, i) => problem.days.flatMap((d) => ((values.get(`y${i}_${d}`) ?? 0) > 0.5 ? [d] : [])));
}

/** The rounds that a choice of days makes, and what is late in them. */
function planFrom(instance: PlanInstance, calendar: Calendar, problem: Problem, choice: Choice): Plan {
  const byDay = new Map<number, number[]>();
  for (const [i, days] of choice.entries()) for (const d of days) byDay.set(d, [...(byDay.get(d) ?? []), i]);
  const rounds = [...byDay]
    .sort(([a], [b]) => a - b)
    .map(([d, tasks]) => ({
      date: calendar.dates[d]!,
      minutes: problem.minutesOf(tasks),
      tasks: tasks.map((i) => instance.tasks[i]!.id),
      latest: tasks.map((i) => calendar.dates[latestOf(problem.tasks[i]!.windows, choice[i] ?? [], d) ?? -1]),
    }));
  const late = problem.tasks.flatMap((task, i) => {
    const from = Math.min(task.lateFrom ?? Number.POSITIVE_INFINITY, firstMissed(task.windows, choice[i] ?? []));
    return Number.isFinite(from) ? [{ task: instance.tasks[i]!.id, from: calendar.dates[Math.min(from, instance.days - 1)]! }] : [];
  });
  const missed = problem.tasks.reduce((sum, t, i) => sum + t.windows.filter((w) => !holdsAny(choice[i] ?? [], w)).length, 0);
  return { rounds, totalMinutes: rounds.reduce((sum, r) => sum + r.minutes, 0), missed, late };
}

/** Last day of the windows that a service on a day is the only one in: it might have waited until then. */
function latestOf(windows: Problem["tasks"][number]["windows"], days: readonly number[], day: number): number | undefined {
  const own = windows.filter((w) => day >= w.from && day <= w.to && !days.some((d) => d < day && d >= w.from));
  return own.length === 0 ? undefined : Math.min(...own.map((w) => w.to));
}

/** First day whose use goes past an interval, since its window holds no service; Infinity where each does. */
function firstMissed(windows: Problem["tasks"][number]["windows"], days: readonly number[]): number {
  const missed = windows.filter((w) => !holdsAny(days, w));
  return missed.length === 0 ? Number.POSITIVE_INFINITY : Math.min(...missed.map((w) => w.to));
}
