/** View model of Plan: the rounds of the next sixty days, grouped so that they take the fewest minutes, with why each is then. */
import dayjs from "dayjs";
import { alonePlan, firstPlan, type PlanInstance, type PlannedRound } from "#core/plan";
import { isSure } from "#core/rounds";
import type { DueTask } from "#core/schedule";
import { DAY_MS } from "#core/time";
import type { Gathered } from "../machine/gather";
import { planOf } from "../machine/plans";
import { shortDay, wholeMinutes } from "../words";

const DAYS = 60;
/** The pace of a weekday is that of so many weeks. */
const PACE_WEEKS = 8;

/** What its owner does by himself, with an interval that is counted. */
const plannable = (g: Gathered): DueTask[] => g.due.filter((d) => !d.byOthers && coordinatesOf(g, d).length > 0);

/** The intervals of a task by what they count, and how much of each is used. */
function coordinatesOf(g: Gathered, task: DueTask): { name: string; interval: number; used: number }[] {
  const every = g.trade.tasks.find((t) => t.id === task.id)?.every ?? {};
  const smoke = task.station === "nozzle" ? "smoke at the nozzle" : "smoke";
  const of = (unit: DueTask["left"]["unit"], name: string, interval: number | undefined) => {
    if (interval === undefined) return [];
    const governs = task.left.unit === unit || (unit === "ply-hours" && task.left.unit === "smoky-day");
    return [{ name, interval, used: governs ? Math.max(0, interval - task.left.amount) : Math.min(interval, task.used * interval) }];
  };
  return [...of("ply-hours", smoke, every.plyHours), ...of("hours", "hours", every.firingHours), ...of("days", "days", every.days)];
}

/** What a task takes by itself: its own steps, and what it opens or brings along, which others that do the same share. */
function minutesOf(g: Gathered, task: DueTask, frame: number): { own: number; shared: number } {
  const plan = planOf(g.trade, [task.id], { grades: g.grades, out: g.out });
  const own = plan.steps.filter((s) => isSure(s) && s.id.startsWith(`${task.id}.`)).reduce((sum, s) => sum + s.minutes, 0);
  return { own, shared: Math.max(0, plan.minutes - own - frame) };
}

/** Make safe, fetch, hands, power and the final test: in every round, whatever it does. */
function frameMinutes(g: Gathered, tasks: readonly DueTask[]): number {
  const frames = tasks.map((t) =>
    planOf(g.trade, [t.id], { grades: g.grades, out: g.out })
      .steps.filter((s) => isSure(s) && FRAME.has(s.id))
      .reduce((sum, s) => sum + s.minutes, 0),
  );
  return Math.max(0, ...frames);
}
const FRAME = new Set(["make-safe", "fetch", "hands", "power-on", "flow-seen", "pointer", "piece", "proof"]);

/** Mean use of each weekday over the last weeks, Monday first. */
function weekOf(g: Gathered, use: (fromMs: number, toMs: number) => number): number[] {
  const today = dayjs(g.nowMs).startOf("day");
  const weeks = Math.max(1, Math.min(PACE_WEEKS, Math.floor((g.nowMs - g.logStartMs) / (7 * DAY_MS))));
  const sums = [0, 0, 0, 0, 0, 0, 0];
  for (let d = 1; d <= 7 * weeks; d++) {
    const day = today.subtract(d, "day");
    const weekday = (day.day() + 6) % 7;
    sums[weekday] = (sums[weekday] ?? 0) + use(day.valueOf(), day.add(1, "day").valueOf()) / weeks;
  }
  return sums;
}

/** A machine as the planner sees it. */
export function instanceOf(g: Gathered): PlanInstance {
  const tasks = plannable(g);
  const frame = frameMinutes(g, tasks);
  const taken = tasks.map((t) => ({ task: t, ...minutesOf(g, t, frame) }));
  const panels = new Map<string, number>();
  for (const { task, shared } of taken) if (shared > 0) panels.set(task.access, Math.max(panels.get(task.access) ?? 0, shared));
  return {
    days: DAYS,
    start: dayjs(g.nowMs).format("YYYY-MM-DD"),
    frameMinutes: frame,
    panels: [...panels].map(([id, minutes]) => ({ id, minutes })),
    pace: {
      smoke: weekOf(g, (a, b) => g.usage.smokeDose(a, b)),
      "smoke at the nozzle": weekOf(g, (a, b) => g.usage.smokeDose(a, b, "nozzle")),
      hours: weekOf(g, (a, b) => g.usage.firingHours(a, b)),
    },
    tasks: taken.map(({ task, own, shared }) => {
      const coordinates = coordinatesOf(g, task);
      return {
        id: task.id,
        minutes: own,
        panels: shared > 0 ? [task.access] : [],
        interval: Object.fromEntries(coordinates.map((c) => [c.name, c.interval])),
        used: Object.fromEntries(coordinates.map((c) => [c.name, c.used])),
      };
    }),
  };
}

export function planView(g: Gathered) {
  const instance = instanceOf(g);
  const plan = firstPlan(instance);
  const alone = alonePlan(instance);
  const rounds = plan.rounds.map((r) => roundView(g, r));
  const total = rounds.reduce((sum, r) => sum + r.minutes, 0);
  return {
    slug: g.machine.slug,
    machine: g.machine.name,
    hasPace: g.usage.hoursPerDay > 0,
    headline:
      rounds.length === 0
        ? "Nothing falls due in the next sixty days."
        : `${rounds.length} rounds in the next sixty days, about ${wholeMinutes(total)} minutes.`,
    lead:
      rounds.length === 0
        ? "No use was logged lately, and nothing is due by its days."
        : `Each task by itself, as late as it may be, would take about ${wholeMinutes(alone.totalMinutes)} minutes in ${alone.rounds.length} rounds.`,
    rounds: rounds.map((r) => ({ ...r, minutes: wholeMinutes(r.minutes) })),
    late: plan.late.map((l) => ({ id: l.task, name: nameOf(g, l.task), from: shortDay(dayjs(l.from).valueOf(), g.nowMs) })),
    byOthers: g.due
      .filter((d) => d.byOthers && d.dueMs !== undefined && d.dueMs < g.nowMs + DAYS * DAY_MS)
      .map((d) => ({ id: d.id, name: nameOf(g, d.id), day: shortDay(Math.max(g.nowMs, d.dueMs ?? 0), g.nowMs) })),
  };
}

const nameOf = (g: Gathered, id: string): string => g.trade.tasks.find((t) => t.id === id)?.name ?? id;

/** A round in words: what the machine's own procedures take for it, and why each task is in it. */
function roundView(g: Gathered, round: PlannedRound) {
  const date = dayjs(round.date);
  const minutes = planOf(g.trade, round.tasks, { grades: g.grades, out: g.out }).minutes;
  return {
    date: round.date,
    day: date.isSame(dayjs(g.nowMs), "day") ? "Today" : shortDay(date.valueOf(), g.nowMs),
    minutes,
    tasks: round.tasks.map((id, k) => {
      const rule = g.trade.tasks.find((t) => t.id === id);
      const latest = round.latest[k];
      const ahead = latest === undefined ? undefined : dayjs(latest).diff(date, "day");
      return {
        id,
        name: rule?.name ?? id,
        does: rule?.does ?? "",
        why:
          ahead === undefined
            ? "done along with the rest"
            : ahead <= 0
              ? "due by then"
              : `${ahead} ${ahead === 1 ? "day" : "days"} early, to save a round`,
      };
    }),
    parts: round.tasks,
  };
}
