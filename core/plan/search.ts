/**
 * A plan of our own: each window met as late and as cheaply as may be, made better by emptying rounds into others, and by taking some weeks
 * apart and building them anew (ruin and recreate: Schrimpf et al., J. Comput. Phys. 159, 2000). The same problem has the same plan.
 */
import { seededRandom } from "#core/random";
import { Board } from "./board";
import type { Choice, Problem } from "./problem";

/** Less than this is no gain. */
const GAIN = 1e-6;
const NEAR_DAYS = 24;
/** So much of a round's frame the way there may be worse than the best. */
const WORSE = 0.4;
const SHORTEST = 3;
const LONGEST = 18;

/** `tries` times some weeks are built anew; none is a plan at once. */
export function searched(problem: Problem, tries: number, start?: Choice): Choice {
  const board = new Board(problem);
  if (start) for (const [i, days] of start.entries()) for (const d of days) if (!board.does(i, d) && board.fits(i, d)) board.add(i, d);
  meetAll(board);
  settle(board);
  const random = seededRandom(1);
  const { days } = problem;
  let [best, least] = [board.mark(), board.cost];
  let [here, cost] = [best, least];
  for (let k = 0; k < tries && days.length > 0; k++) {
    const worse = problem.frameMinutes * WORSE * (1 - k / tries);
    const from = days[Math.floor(random.uniform() * days.length)]!;
    const to = from + SHORTEST + Math.floor(random.uniform() * (LONGEST - SHORTEST));
    for (const d of days) if (d >= from && d <= to) for (const t of board.freeOn(d)) if (random.uniform() < 0.85) board.remove(t, d);
    meetAll(board, () => random.uniform());
    settle(board, from - NEAR_DAYS, to + NEAR_DAYS);
    // A little worse than the best is gone on with, the less the nearer the end (record to record travel: Dueck 1993).
    if (board.cost > least + worse + GAIN) {
      board.backTo(here);
      board.cost = cost;
      continue;
    }
    [here, cost] = [board.mark(), board.cost];
    if (cost < least - GAIN) [best, least] = [here, cost];
  }
  board.backTo(best);
  return board.choice();
}

/** Meets every window there is, by its last day: in a round there is if that is cheapest, else in a new one as late as may be. */
function meetAll(board: Board, noise?: () => number): void {
  const { tasks } = board.problem;
  const all = tasks.flatMap((t, task) => board.missed(task).map((w) => ({ task, w, to: t.windows[w]!.to, from: t.windows[w]!.from })));
  all.sort((a, b) => a.to - b.to || b.from - a.from);
  for (const { task, w } of all) if (board.isMissed(task, w)) meet(board, task, w, noise);
}

function meet(board: Board, task: number, window: number, noise?: () => number): void {
  const { tasks, days } = board.problem;
  const { from, to } = tasks[task]!.windows[window]!;
  let best: number | undefined;
  let least = Number.POSITIVE_INFINITY;
  for (const d of days) {
    if (d < from || d > to || !board.fits(task, d)) continue;
    const minutes = board.adds(task, d) * (noise ? 0.75 + 0.5 * noise() : 1);
    // The latest of the cheapest: the later, the fewer in all.
    if (minutes <= least + GAIN) [best, least] = [d, minutes];
  }
  const day = best ?? days.find((d) => d > to && board.fits(task, d));
  if (day !== undefined) board.add(task, day);
}

/** Better by small steps, until there is none, among some days. */
function settle(board: Board, from = Number.NEGATIVE_INFINITY, to = Number.POSITIVE_INFINITY): void {
  const days = board.problem.days.filter((d) => d >= from && d <= to);
  for (let pass = 0; pass < 5; pass++) {
    const before = board.cost;
    for (const d of days) dropSpare(board, d);
    for (const d of days) shift(board, d, days);
    for (const d of days) empty(board, d, board.freeOn(d));
    for (const d of days) for (const t of board.freeOn(d)) empty(board, d, [t]);
    if (board.cost > before - GAIN) return;
  }
}

function dropSpare(board: Board, day: number): void {
  for (const t of board.freeOn(day)) if (board.isSpare(t, day)) board.remove(t, day);
}

/** A whole round on another day. */
function shift(board: Board, day: number, days: readonly number[]): void {
  const tasks = board.freeOn(day);
  if (tasks.length === 0) return;
  const before = board.cost;
  const [low, high] = board.reach(tasks, day);
  for (const other of days) {
    if (other === day || other < low || other > high || board.count(other) === 0) continue;
    const put: number[] = [];
    for (const t of tasks) {
      board.remove(t, day);
      if (!board.fits(t, other)) continue;
      board.add(t, other);
      put.push(t);
    }
    if (board.cost < before - GAIN) return;
    for (const t of put) board.remove(t, other);
    for (const t of tasks) board.add(t, day);
  }
}

/** Some tasks of a round elsewhere, each where it costs least. */
function empty(board: Board, day: number, tasks: readonly number[]): void {
  if (tasks.length === 0) return;
  const before = board.cost;
  for (const t of tasks) board.remove(t, day);
  const put: (readonly [number, number])[] = [];
  for (const t of tasks)
    for (const w of board.missed(t, day)) {
      if (!board.isMissed(t, w)) continue;
      const to = cheapest(board, t, w, day);
      if (to === undefined) continue;
      board.add(t, to);
      put.push([t, to]);
    }
  if (board.cost < before - GAIN) return;
  for (const [t, d] of put) board.remove(t, d);
  for (const t of tasks) board.add(t, day);
}

function cheapest(board: Board, task: number, window: number, not: number): number | undefined {
  const { from, to } = board.problem.tasks[task]!.windows[window]!;
  let best: number | undefined;
  let least = Number.POSITIVE_INFINITY;
  for (const d of board.problem.days) {
    if (d < from || d > to || d === not || !board.fits(task, d)) continue;
    const minutes = board.adds(task, d);
    if (minutes <= least + GAIN) [best, least] = [d, minutes];
  }
  return best;
}
