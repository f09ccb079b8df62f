/** An instance as the search and the solver see it: open days, windows, and what a set of tasks takes together. */
import type { Calendar, PlanInstance } from "./instance";
import { type TaskWindows, windowsOf } from "./windows";

export interface ProblemTask extends TaskWindows {
  readonly minutes: number;
  /** Places of its panels among the problem's. */
  readonly panels: readonly number[];
}

export interface Problem {
  readonly tasks: readonly ProblemTask[];
  readonly panels: readonly number[];
  readonly frameMinutes: number;
  /** Days on which a round may be. */
  readonly days: readonly number[];
  readonly limit: readonly number[];
  /** Minutes of a round of these tasks; 0 for none. */
  readonly minutesOf: (tasks: readonly number[]) => number;
}

/** Days on which each task is done, in the order of the instance's tasks. */
export type Choice = readonly (readonly number[])[];

/** Throws RangeError for a panel that is not there. */
export function problemOf(instance: PlanInstance, calendar: Calendar): Problem {
  const panels = instance.panels ?? [];
  const placeOf = (id: string, task: string) => {
    const at = panels.findIndex((p) => p.id === id);
    if (at < 0) throw new RangeError(`task "${task}" opens panel "${id}", which is not among the panels`);
    return at;
  };
  const tasks = instance.tasks.map(
    (task): ProblemTask => ({
      ...windowsOf(instance, calendar, task),
      minutes: task.minutes,
      panels: (task.panels ?? []).map((id) => placeOf(id, task.id)),
    }),
  );
  const minutesOf = (list: readonly number[]) => {
    if (list.length === 0) return 0;
    const opened = new Set(list.flatMap((i) => tasks[i]!.panels));
    return (
      instance.frameMinutes +
      list.reduce((sum, i) => sum + tasks[i]!.minutes, 0) +
      [...opened].reduce((sum, p) => sum + panels[p]!.minutes, 0)
    );
  };
  const fixedOn = (d: number) => tasks.flatMap((t, i) => (t.fixed.includes(d) ? [i] : []));
  return {
    tasks,
    panels: panels.map((p) => p.minutes),
    frameMinutes: instance.frameMinutes,
    days: calendar.open.flatMap((open, d) => (open || fixedOn(d).length > 0 ? [d] : [])),
    // What its owner put on a day fits it.
    limit: calendar.limit.map((minutes, d) => Math.max(minutes, minutesOf(fixedOn(d)))),
    minutesOf,
  };
}
