/**
 * The covering program as text (CPLEX's LP format, which solvers read): y a task on a day, z a panel on a day, f a round on a day; every
 * window holds one y. Where a day's minutes are limited a window may be missed at a price that no plan would pay for minutes.
 */
import type { Problem } from "./problem";

/** Solves a program in LP format; the values of its variables by name, undefined where it found none. */
export type Solver = (program: string) => Promise<ReadonlyMap<string, number> | undefined>;

const LATE_MINUTES = 5000;

export function programOf(problem: Problem): string {
  const { tasks, days, panels, limit, frameMinutes } = problem;
  const goal: string[] = [];
  const rows: string[] = [];
  const whole: string[] = [];
  const isLimited = days.some((d) => Number.isFinite(limit[d]!));
  const inWindow = tasks.map(
    (t) => new Set(days.filter((d) => t.fixed.includes(d) || (t.may[d] && t.windows.some((w) => d >= w.from && d <= w.to)))),
  );
  const term = (minutes: number, name: string) => goal.push(`${minutes} ${name}`);
  const used = new Map<number, number[]>();
  for (const [i, t] of tasks.entries())
    for (const d of inWindow[i]!) {
      term(t.minutes, `y${i}_${d}`);
      whole.push(`y${i}_${d}`);
      used.set(d, [...(used.get(d) ?? []), i]);
    }
  for (const [d, list] of used) {
    term(frameMinutes, `f${d}`);
    whole.push(`f${d}`);
    const opened = new Set(list.flatMap((i) => tasks[i]!.panels));
    for (const p of opened) {
      term(panels[p]!, `z${p}_${d}`);
      whole.push(`z${p}_${d}`);
    }
    for (const i of list) {
      rows.push(`f${d} - y${i}_${d} >= 0`);
      for (const p of tasks[i]!.panels) rows.push(`z${p}_${d} - y${i}_${d} >= 0`);
    }
    if (Number.isFinite(limit[d]!)) {
      const sum = [
        ...list.map((i) => `${tasks[i]!.minutes} y${i}_${d}`),
        ...[...opened].map((p) => `${panels[p]!} z${p}_${d}`),
        `${frameMinutes} f${d}`,
      ];
      rows.push(`${sum.join(" + ")} <= ${limit[d]!}`);
    }
  }
  for (const [i, t] of tasks.entries()) {
    for (const d of t.fixed) rows.push(`y${i}_${d} >= 1`);
    for (const [k, w] of t.windows.entries()) {
      const inside = days.filter((d) => d >= w.from && d <= w.to && t.may[d]).map((d) => `y${i}_${d}`);
      if (isLimited) {
        term(LATE_MINUTES, `s${i}_${k}`);
        whole.push(`s${i}_${k}`);
        inside.push(`s${i}_${k}`);
      }
      rows.push(`${inside.join(" + ")} >= 1`);
    }
  }
  if (goal.length === 0) return "";
  return `Minimize\n obj: ${goal.join(" + ")}\nSubject To\n${rows.map((r, k) => ` c${k}: ${r}`).join("\n")}\nBinary\n ${whole.join(" ")}\nEnd\n`;
}
