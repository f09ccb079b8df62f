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
  /** Tasks that are past their interval for a while, and from which day. */
  readonly late: readonly { readonly task: string; readonly from: string }[];
}

/** A plan at once. */
export function firstPlan(instance: PlanInstance): Plan {
  const calendar = calendarOf(instance);
  const problem = problemOf(instance, calendar);
  return planFrom(instance, calendar, problem, searched(problem));
}

/** The least plan a solver finds, or the first one where it finds none that is less. Throws what the solver throws. */
export async function leastPlan(instance: PlanInstance, solver: Solver): Promise<Plan> {
  const calendar = calendarOf(instance);
  const problem = problemOf(instance, calendar);
  const first = searched(problem);
  const solved = await solver(programOf(problem));
  const choice = solved && choiceOf(problem, solved);
  const [a, b] = [planFrom(instance, calendar, problem, first), choice && planFrom(instance, calendar, problem, choice)];
  return b && isBetter(b, a) ? b : a;
}

/** Every task by itself, each time as late as it may be: what the rounds would take without grouping. */
export function alonePlan(instance: PlanInstance): Plan {
  const rounds: PlannedRound[] = [];
  for (const task of instance.tasks) rounds.push(...firstPlan({ ...instance, tasks: [task] }).rounds);
  return { rounds, totalMinutes: rounds.reduce((sum, r) => sum + r.minutes, 0), late: [] };
}

const isBetter = (a: Plan, b: Plan): boolean =>
  a.late.length < b.late.length || (a.late.length === b.late.length && a.totalMinutes < b.totalMinutes - 1e-6);

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
  return { rounds, totalMinutes: rounds.reduce((sum, r) => sum + r.minutes, 0), late };
}

/** Last day of the windows that a service on a day is the only one in: it might have waited until then. */
function latestOf(windows: Problem["tasks"][number]["windows"], days: readonly number[], day: number): number | undefined {
  const own = windows.filter((w) => day >= w.from && day <= w.to && !days.some((d) => d < day && d >= w.from));
  return own.length === 0 ? undefined : Math.min(...own.map((w) => w.to));
}

/** First day after a window that holds no service; Infinity where each does. */
function firstMissed(windows: Problem["tasks"][number]["windows"], days: readonly number[]): number {
  const missed = windows.filter((w) => !days.some((d) => d >= w.from && d <= w.to));
  return missed.length === 0 ? Number.POSITIVE_INFINITY : Math.min(...missed.map((w) => w.to + 1));
}
