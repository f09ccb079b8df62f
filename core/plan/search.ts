/**
 * A plan at once: each window as late as it may be, grouped by pulling ahead what is cheap to pull, then made better by taking rounds out
 * and putting their tasks into the others.
 */
import type { Choice, Problem } from "./problem";

/** Tasks by the day they are done on. */
type ByDay = Map<number, Set<number>>;

const holds = (days: readonly number[], { from, to }: { from: number; to: number }) => days.some((d) => d >= from && d <= to);

export function searched(problem: Problem): Choice {
  let plan = byDeadline(problem);
  for (let round = 0; round < 6; round++) {
    const next = improved(problem, plan);
    if (costOf(problem, next) >= costOf(problem, plan) - 1e-9) break;
    plan = next;
  }
  return problem.tasks.map((_, i) => daysOf(plan, i));
}

const daysOf = (plan: ByDay, task: number): number[] => [...plan].flatMap(([d, set]) => (set.has(task) ? [d] : [])).sort((a, b) => a - b);
const costOf = (problem: Problem, plan: ByDay) => [...plan.values()].reduce((sum, set) => sum + problem.minutesOf([...set]), 0);

function put(plan: ByDay, day: number, task: number): void {
  const set = plan.get(day) ?? new Set<number>();
  set.add(task);
  plan.set(day, set);
}

const fits = (problem: Problem, plan: ByDay, day: number, task: number) =>
  problem.minutesOf([...(plan.get(day) ?? []), task]) <= problem.limit[day]! + 1e-9;

/** Windows by their last day: each is met by a round there is, if one fits, else by a new one as late as may be. */
function byDeadline(problem: Problem): ByDay {
  const plan: ByDay = new Map();
  const all = problem.tasks.flatMap((t, i) => t.windows.map((w) => ({ ...w, task: i }))).sort((a, b) => a.to - b.to || b.from - a.from);
  for (const w of all) {
    if (holds(daysOf(plan, w.task), w)) continue;
    const days = problem.days.filter((d) => d >= w.from && d <= w.to && fits(problem, plan, d, w.task));
    const added = (d: number) => problem.minutesOf([...(plan.get(d) ?? []), w.task]) - problem.minutesOf([...(plan.get(d) ?? [])]);
    // The latest of the cheapest: the later, the fewer in all.
    const best = days.reduce<number | undefined>((b, d) => (b === undefined || added(d) <= added(b) + 1e-9 ? d : b), undefined);
    const late = best ?? problem.days.find((d) => d > w.to && fits(problem, plan, d, w.task));
    if (late !== undefined) put(plan, late, w.task);
  }
  return plan;
}

/** The plan without what is not needed, and with each round moved into others where that is less. */
function improved(problem: Problem, plan: ByDay): ByDay {
  let best: ByDay = new Map([...plan].map(([d, set]) => [d, new Set(set)]));
  const isMet = (p: ByDay, task: number) => {
    const days = daysOf(p, task);
    const before = daysOf(best, task);
    return problem.tasks[task]!.windows.every((w) => holds(days, w) || !holds(before, w));
  };
  for (const day of [...best.keys()].sort((a, b) => a - b)) {
    for (const task of [...(best.get(day) ?? [])]) {
      const without = moved(best, day, [task]);
      if (isMet(without, task)) best = without;
    }
    const tasks = [...(best.get(day) ?? [])];
    if (tasks.length === 0) continue;
    // The whole round to another day; or each of its tasks to the nearest rounds that will have it.
    for (const other of problem.days.filter((d) => d !== day && Math.abs(d - day) <= 21)) {
      const to = moved(best, day, tasks);
      for (const t of tasks) put(to, other, t);
      const isLegal = problem.minutesOf([...(to.get(other) ?? [])]) <= problem.limit[other]! + 1e-9;
      if (isLegal && tasks.every((t) => isMet(to, t)) && costOf(problem, to) < costOf(problem, best) - 1e-9) best = to;
    }
    const spread = moved(best, day, tasks);
    let legal = true;
    for (const t of tasks) {
      const days = [...spread.keys()].filter((d) => fits(problem, spread, d, t)).sort((a, b) => Math.abs(a - day) - Math.abs(b - day));
      const found = days.find((d) => {
        const trial = moved(spread, -1, []);
        put(trial, d, t);
        return isMet(trial, t);
      });
      const pair = found ?? pairOf(spread, days, t, isMet);
      if (pair === undefined) legal = false;
      else for (const d of typeof pair === "number" ? [pair] : pair) put(spread, d, t);
    }
    if (legal && costOf(problem, spread) < costOf(problem, best) - 1e-9) best = spread;
  }
  return best;
}

/** Two rounds that together do what one did: before and after it. */
function pairOf(
  plan: ByDay,
  days: readonly number[],
  task: number,
  isMet: (p: ByDay, task: number) => boolean,
): readonly number[] | undefined {
  for (const a of days.slice(0, 6))
    for (const b of days.slice(0, 6)) {
      if (b <= a) continue;
      const trial = moved(plan, -1, []);
      put(trial, a, task);
      put(trial, b, task);
      if (isMet(trial, task)) return [a, b];
    }
  return undefined;
}

/** A copy of a plan without some tasks of a day. */
function moved(plan: ByDay, day: number, tasks: readonly number[]): ByDay {
  const next: ByDay = new Map();
  for (const [d, set] of plan) {
    const kept = d === day ? [...set].filter((t) => !tasks.includes(t)) : [...set];
    if (kept.length > 0) next.set(d, new Set(kept));
  }
  return next;
}
