/** A plan while it is searched: which task is done on which day, what each day takes, and how often each window is met. */
import type { Choice, Problem } from "./problem";

/** A window that holds no service counts as so many minutes: no plan would pay that for less work. */
export const LATE_MINUTES = 5000;
const NOTHING = 1e-9;

export class Board {
  private readonly has: Uint8Array;
  private readonly counts: Uint16Array[];
  private readonly panels: Uint16Array;
  private readonly onDay: Uint16Array;
  private readonly takes: Float64Array;
  private readonly span: number;
  /** First window of a task that ends on or after a day, and one past the last that begins on or before it. */
  private readonly first: Int16Array[];
  private readonly past: Int16Array[];
  /** Minutes of all rounds, and of windows that are missed. */
  cost: number;

  constructor(readonly problem: Problem) {
    const { tasks, limit, panels } = problem;
    this.span = limit.length;
    this.has = new Uint8Array(tasks.length * this.span);
    this.counts = tasks.map((t) => new Uint16Array(t.windows.length));
    this.panels = new Uint16Array(this.span * Math.max(1, panels.length));
    this.onDay = new Uint16Array(this.span);
    this.takes = new Float64Array(this.span);
    this.first = tasks.map((t) => Int16Array.from({ length: this.span }, (_, d) => firstFrom(t.windows, (w) => w.to >= d)));
    this.past = tasks.map((t) => Int16Array.from({ length: this.span }, (_, d) => firstFrom(t.windows, (w) => w.from > d)));
    this.cost = LATE_MINUTES * tasks.reduce((sum, t) => sum + t.windows.length, 0);
    for (const [i, t] of tasks.entries()) for (const d of t.fixed) this.add(i, d);
  }

  does(task: number, day: number): boolean {
    return this.has[task * this.span + day] === 1;
  }

  count(day: number): number {
    return this.onDay[day]!;
  }

  /** Minutes that a task more would take on a day. */
  adds(task: number, day: number): number {
    const { tasks, panels, frameMinutes } = this.problem;
    const { minutes, panels: own } = tasks[task]!;
    const frame = this.onDay[day] === 0 ? frameMinutes : 0;
    return own.reduce((sum, p) => sum + (this.panels[day * panels.length + p] === 0 ? panels[p]! : 0), minutes + frame);
  }

  fits(task: number, day: number): boolean {
    const { tasks, limit } = this.problem;
    return tasks[task]!.may[day]! && !this.does(task, day) && this.takes[day]! + this.adds(task, day) <= limit[day]! + NOTHING;
  }

  add(task: number, day: number): void {
    const minutes = this.adds(task, day);
    this.has[task * this.span + day] = 1;
    this.change(task, day, 1);
    this.takes[day] = this.takes[day]! + minutes;
    this.cost += minutes - LATE_MINUTES * this.windowsAt(task, day, 1);
  }

  remove(task: number, day: number): void {
    this.has[task * this.span + day] = 0;
    this.cost += LATE_MINUTES * this.windowsAt(task, day, -1);
    this.change(task, day, -1);
    const minutes = this.adds(task, day);
    this.takes[day] = this.takes[day]! - minutes;
    this.cost -= minutes;
  }

  private change(task: number, day: number, by: 1 | -1): void {
    const { tasks, panels } = this.problem;
    this.onDay[day] = this.onDay[day]! + by;
    for (const p of tasks[task]!.panels) this.panels[day * panels.length + p] = this.panels[day * panels.length + p]! + by;
  }

  /** Counts a service in its windows; how many of them it met alone. */
  private windowsAt(task: number, day: number, by: 1 | -1): number {
    const counts = this.counts[task]!;
    let alone = 0;
    for (let w = this.first[task]![day]!; w < this.past[task]![day]!; w++) {
      if (by > 0 ? counts[w] === 0 : counts[w] === 1) alone++;
      counts[w] = counts[w]! + by;
    }
    return alone;
  }

  /** Whether a service meets no window that others do not meet as well. */
  isSpare(task: number, day: number): boolean {
    const counts = this.counts[task]!;
    for (let w = this.first[task]![day]!; w < this.past[task]![day]!; w++) if (counts[w] === 1) return false;
    return !this.problem.tasks[task]!.fixed.includes(day);
  }

  /** Windows of a task that hold no service, by their places: all, or those a day lies in. */
  missed(task: number, day?: number): number[] {
    const counts = this.counts[task]!;
    const [from, past] = day === undefined ? [0, counts.length] : [this.first[task]![day]!, this.past[task]![day]!];
    const missed: number[] = [];
    for (let w = from; w < past; w++) if (counts[w] === 0) missed.push(w);
    return missed;
  }

  /** First and last day to which all of a round could go with every window met; none where the last is before the first. */
  reach(tasks: readonly number[], day: number): readonly [number, number] {
    let [low, high] = [0, this.span - 1];
    for (const t of tasks) {
      const counts = this.counts[t]!;
      const { windows } = this.problem.tasks[t]!;
      for (let w = this.first[t]![day]!; w < this.past[t]![day]!; w++) {
        if (counts[w] !== 1) continue;
        low = Math.max(low, windows[w]!.from);
        high = Math.min(high, windows[w]!.to);
      }
    }
    return [low, high];
  }

  isMissed(task: number, window: number): boolean {
    return this.counts[task]![window] === 0;
  }

  /** Tasks of a day that may be taken from it. */
  freeOn(day: number): number[] {
    const free: number[] = [];
    if (this.onDay[day] === 0) return free;
    const { tasks } = this.problem;
    for (let i = 0; i < tasks.length; i++) if (this.does(i, day) && !tasks[i]!.fixed.includes(day)) free.push(i);
    return free;
  }

  choice(): Choice {
    return this.problem.tasks.map((_, i) => Array.from({ length: this.span }, (__, d) => d).filter((d) => this.does(i, d)));
  }

  /** Where it stands, to come back to. */
  mark(): Uint8Array {
    return this.has.slice();
  }

  backTo(mark: Uint8Array): void {
    for (let i = 0; i < mark.length; i++) {
      if (mark[i] === this.has[i]) continue;
      const [task, day] = [Math.floor(i / this.span), i % this.span];
      if (mark[i] === 1) this.add(task, day);
      else this.remove(task, day);
    }
  }
}

function firstFrom<T>(list: readonly T[], holds: (item: T) => boolean): number {
  const at = list.findIndex(holds);
  return at < 0 ? list.length : at;
}
