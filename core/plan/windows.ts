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
  /** Days it may be done on, and those it is done on in any case. */
  readonly may: readonly boolean[];
  readonly fixed: readonly number[];
  /** Windows of which none holds another, by their days. */
  readonly windows: readonly Window[];
  /** Day from which it is late whatever is planned: over already, or no round can be in time. */
  readonly lateFrom: number | undefined;
}

/** Sums of use are compared to this. */
const EXACT = 1e-9;

interface Coordinate {
  readonly interval: number;
  readonly used: number;
  readonly use: readonly number[];
}

const coordinatesOf = (instance: PlanInstance, calendar: Calendar, task: PlanTask): Coordinate[] =>
  Object.entries(task.interval).map(([name, interval]) => ({
    interval: interval as number,
    used: (task.used?.[name] as number | undefined) ?? 0,
    use: useOf(instance, calendar, name),
  }));

/** Last day on which the next service may be, after one on a day (-1: from the start): the number of days where none is needed any more. */
function lastAfter(coordinates: readonly Coordinate[], days: number, since: number): number {
  let latest = days;
  for (const { interval, used, use } of coordinates) {
    let sum = since < 0 ? used : 0;
    let day = Math.max(0, since);
    while (day < days && sum + use[day]! <= interval + EXACT) sum += use[day++]!;
    latest = Math.min(latest, since < 0 && used > interval + EXACT ? -1 : day);
  }
  return latest;
}

/** Last day on which a task's next service is in time: the first day where it is over already, the number of days where it lasts. */
export const lastDayOf = (instance: PlanInstance, calendar: Calendar, task: PlanTask): number =>
  Math.max(0, lastAfter(coordinatesOf(instance, calendar, task), instance.days, -1));

export function windowsOf(instance: PlanInstance, calendar: Calendar, task: PlanTask): TaskWindows {
  const { days } = instance;
  const coordinates = coordinatesOf(instance, calendar, task);
  const last = (since: number): number => lastAfter(coordinates, days, since);
  const fixed = calendar.dates.flatMap((date, d) => (task.on?.includes(date) ? [d] : []));
  const may = calendar.dates.map(
    (date, d) => fixed.includes(d) || (calendar.open[d]! && !task.notOn?.some((span) => date >= span.from && date <= span.to)),
  );
  const nextOpen = (day: number) => may.findIndex((open, d) => d >= day && open);
  const windows: Window[] = [];
  let lateFrom: number | undefined;
  for (let since = -1; since < days; since++) {
    const to = last(since);
    if (to >= days) break;
    const from = since + 1;
    const hasOpen = may.slice(from, to + 1).some(Boolean);
    if (hasOpen) {
      windows.push({ from, to });
      continue;
    }
    // No round can be in time: the first that can be is late.
    const day = nextOpen(from);
    // The use of that day goes past it.
    lateFrom ??= Math.max(0, to);
    if (day < 0) break;
    windows.push({ from: day, to: day });
  }
  const isMinimal = (w: Window, i: number) =>
    !windows.some((o, k) => k !== i && o.from >= w.from && o.to <= w.to && (k < i || o.from > w.from || o.to < w.to));
  return { windows: windows.filter(isMinimal), lateFrom, may, fixed };
}
