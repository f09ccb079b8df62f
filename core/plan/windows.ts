/**
 * Runs of days that must hold a service of a task, or its use goes past an interval: between two services, from the start to the first, and
 * from the last to the end of the horizon. A service comes before the use of its day.
 */
import { type Calendar, type PlanInstance, type PlanTask, useOf } from "./instance";

/** Days `from` to `to`, both in: one of them holds a service. */
export interface Window {
  readonly from: number;
  readonly to: number;
}

export interface TaskWindows {
  /** Windows of which none holds another, by their days. */
  readonly windows: readonly Window[];
  /** Day from which it is late whatever is planned: over already, or no round can be in time. */
  readonly lateFrom: number | undefined;
}

/** Sums of use are compared to this. */
const EXACT = 1e-9;

export function windowsOf(instance: PlanInstance, calendar: Calendar, task: PlanTask): TaskWindows {
  const { days } = instance;
  const coordinates = Object.entries(task.interval).map(([name, interval]) => ({
    interval: interval as number,
    used: (task.used?.[name] as number | undefined) ?? 0,
    use: useOf(instance, calendar, name),
  }));
  /** Last day on which the next service may be, after one on a day (-1: from the start): `days` where none is needed any more. */
  const last = (since: number): number => {
    let latest = days;
    for (const { interval, used, use } of coordinates) {
      let sum = since < 0 ? used : 0;
      let day = Math.max(0, since);
      while (day < days && sum + use[day]! <= interval + EXACT) sum += use[day++]!;
      latest = Math.min(latest, since < 0 && used > interval + EXACT ? -1 : day);
    }
    return latest;
  };
  const nextOpen = (day: number) => calendar.open.findIndex((open, d) => d >= day && open);
  const windows: Window[] = [];
  let lateFrom: number | undefined;
  for (let since = -1; since < days; since++) {
    const to = last(since);
    if (to >= days) break;
    const from = since + 1;
    const hasOpen = calendar.open.slice(from, to + 1).some(Boolean);
    if (hasOpen) {
      windows.push({ from, to });
      continue;
    }
    // No round can be in time: the first that can be is late.
    const day = nextOpen(from);
    lateFrom ??= Math.max(0, to + 1);
    if (day < 0) break;
    windows.push({ from: day, to: day });
  }
  const isMinimal = (w: Window, i: number) =>
    !windows.some((o, k) => k !== i && o.from >= w.from && o.to <= w.to && (k < i || o.from > w.from || o.to < w.to));
  return { windows: windows.filter(isMinimal), lateFrom };
}
