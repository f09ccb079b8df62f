/** A machine as the planner sees it: its tasks with what is used of each, its week, its closed days and what its owner moved. */
import dayjs from "dayjs";
import type { Upkeep } from "#core/machine";
import type { PlanInstance, PlanTask } from "#core/plan";
import { isSure, type Step } from "#core/rounds";
import { type DueTask, doneTimes, type Every, lastServiceMs, type Spent } from "#core/schedule";
import { DAY_MS } from "#core/time";
import type { Gathered } from "../machine/gathered";
import { headParts, isOwners, planOf } from "../machine/plans";
import { unmendedOf } from "../machine/unmended";

export const PLAN_DAYS = 60;
/** The pace of a weekday is that of so many weeks. */
const PACE_WEEKS = 8;
/** What never falls due by itself, and is due now. */
const NEVER_DAYS = 3650;

/** What must be in the next round whatever is used of it: what was seen bad, and every optic where nothing was ever looked at. */
export function wantedNow(g: Gathered): ReadonlySet<string> {
  const bad = unmendedOf(g).flatMap((u) => (u.clean === undefined ? [] : [u.clean]));
  if (!neverLooked(g)) return new Set(bad);
  const path = g.trade.layout.stations.map((s) => s.id).filter((id) => g.trade.tasks.some((t) => t.id === id) && isOwners(g.trade, id));
  // What was cleaned in the log is known, though nobody wrote down how it looked.
  return new Set([...bad, ...[...headParts(g.trade), ...path].filter((id) => lastServiceMs(g.log, id) === undefined)]);
}

/** Nobody ever graded anything on this machine. */
export const neverLooked = (g: Gathered): boolean => g.log.kinds.grade.length === 0 && g.grades.size === 0;

/** Names of what is counted, as the planner has them. */
function coordinateOf(unit: Spent["unit"], smoke: string): string | undefined {
  switch (unit) {
    case "ply-hours":
      return smoke;
    case "hours":
    case "days":
    case "jobs":
      return unit;
    default:
      return undefined;
  }
}

const smokeOf = (g: Gathered, task: DueTask): string => {
  const part = g.tasks.find((t) => t.id === task.id)?.counts ?? (task.station === "nozzle" ? "nozzle" : "optics");
  return part === "optics" ? "smoke" : `smoke at the ${part}`;
};

/** Used figures are told apart no finer than this share of an interval: a plan does not change with every minute. */
const STEP = 0.02;

/** The intervals of a task by what they count, and how much of each is used; over at once where it is due now. */
function countedOf(g: Gathered, task: DueTask, isWanted: boolean): Pick<PlanTask, "interval" | "used"> {
  const interval: Record<string, number> = {};
  const used: Record<string, number> = {};
  for (const s of task.spent) {
    const name = coordinateOf(s.unit, smokeOf(g, task));
    if (name === undefined || !Number.isFinite(s.limit)) continue;
    // A season is days to a date; of two that count days the nearer one holds.
    const [limit, left] = s.left === undefined ? [s.limit, s.limit - s.used] : [365, s.left];
    if (interval[name] !== undefined && interval[name] - (used[name] ?? 0) <= left) continue;
    interval[name] = limit;
    const exact = Math.max(0, limit - left);
    used[name] = name === "days" ? Math.floor(exact) : Math.floor(exact / (STEP * limit)) * STEP * limit;
  }
  if (task.state !== "due" && !isWanted) return { interval, used };
  const [first] = Object.keys(interval);
  if (first === undefined) return { interval: { days: NEVER_DAYS }, used: { days: NEVER_DAYS + 1 } };
  return { interval, used: { ...used, [first]: Math.max(used[first] ?? 0, (interval[first] as number) * 1.01 + 1) } };
}

/** What its owner does by himself, and that falls due by something. */
const plannable = (g: Gathered): DueTask[] =>
  g.due.filter((d) => !d.byOthers && (d.state === "due" || d.spent.some((s) => coordinateOf(s.unit, "smoke") !== undefined)));

/** What a round of one task takes: in all, for its own steps, and for what is in every round whatever it does. */
function roundOfOne(g: Gathered, id: string): { readonly all: number; readonly own: number; readonly frame: number } {
  const { steps, minutes } = planOf(g.trade, [id], { grades: g.grades, out: g.out });
  const sum = (counts: (step: Step) => boolean) => steps.filter((s) => isSure(s) && counts(s)).reduce((all, s) => all + s.minutes, 0);
  return { all: minutes, own: sum((s) => s.id.startsWith(`${id}.`)), frame: sum((s) => FRAME.has(s.id)) };
}
/** Make safe, fetch, hands, power and the final test. */
const FRAME = new Set(["make-safe", "fetch", "hands", "power-on", "flow-seen", "pointer", "piece", "proof"]);

/** Use of each weekday, Monday first, as it mostly is: the busiest and the quietest of its weeks count as the next to them. */
function weekOf(g: Gathered, use: (fromMs: number, toMs: number) => number): number[] {
  const today = dayjs(g.nowMs).startOf("day");
  const weeks = Math.max(1, Math.min(PACE_WEEKS, Math.floor((g.nowMs - g.logStartMs) / (7 * DAY_MS))));
  const days: number[][] = [[], [], [], [], [], [], []];
  for (let d = 1; d <= 7 * weeks; d++) {
    const day = today.subtract(d, "day");
    days[(day.day() + 6) % 7]?.push(use(day.valueOf(), day.add(1, "day").valueOf()));
  }
  return days.map((list) => Math.round(1000 * robustMean(list)) / 1000);
}

function robustMean(list: readonly number[]): number {
  const sorted = [...list].sort((a, b) => a - b);
  if (sorted.length >= 5) {
    sorted[0] = sorted[1] as number;
    sorted[sorted.length - 1] = sorted[sorted.length - 2] as number;
  }
  return sorted.reduce((a, b) => a + b, 0) / Math.max(1, sorted.length);
}

const dateOf = (ms: number): string => dayjs(ms).format("YYYY-MM-DD");

/** Closed days of the horizon, one by one. */
export function closedDays(upkeep: Upkeep | undefined, nowMs: number): string[] {
  const dates = Array.from({ length: PLAN_DAYS }, (_, d) => dayjs(nowMs).add(d, "day").format("YYYY-MM-DD"));
  return dates.filter((date) => upkeep?.closed?.some((c) => date >= c.from && date <= c.to));
}

type Moved = NonNullable<Upkeep["moved"]>[number];

/** What was moved and still stands: until its day is over, or the task was done since. */
export function standingMoves(g: Gathered): Moved[] {
  const today = dateOf(g.nowMs);
  return (g.upkeep.upkeep?.moved ?? []).filter((m) => {
    const rule = g.tasks.find((t) => t.id === m.task);
    const doneMs = rule ? doneTimes(g.log, rule).at(-1) : undefined;
    return m.to >= today && !(doneMs !== undefined && doneMs >= m.madeMs);
  });
}

function movesOf(moves: readonly Moved[], id: string): Pick<PlanTask, "on" | "notOn"> {
  const own = moves.filter((m) => m.task === id);
  if (own.length === 0) return {};
  const before = (date: string) => dayjs(date).subtract(1, "day").format("YYYY-MM-DD");
  const after = (date: string) => dayjs(date).add(1, "day").format("YYYY-MM-DD");
  return {
    on: own.map((m) => m.to),
    // Put off: not before. Pulled ahead: not again where it was.
    notOn: own.map((m) =>
      m.to > m.from ? { from: m.after ? after(m.after) : "0000-01-01", to: before(m.to) } : { from: after(m.to), to: m.from },
    ),
  };
}

/** Over its interval by so much of it. */
const OVER = 1.02;

const gathered = new WeakMap<Gathered, PlanInstance>();

/** A machine as the planner sees it. `everyOf` says another interval for a task than the one that holds: to compare with. */
export function instanceOf(g: Gathered): PlanInstance {
  const known = gathered.get(g);
  if (known) return known;
  const wanted = wantedNow(g);
  const due = plannable(g);
  const alone = [...wanted].filter((id) => !due.some((d) => d.id === id));
  const ids = [...due.map((d) => d.id), ...alone];
  const alones = ids.map((id) => ({ id, ...roundOfOne(g, id) }));
  const frame = Math.max(0, ...alones.map((one) => one.frame));
  // What a task opens or brings along is shared by others that do the same.
  const taken = new Map(alones.map(({ id, all, own }) => [id, { own, shared: Math.max(0, all - own - frame) }]));
  const accessOf = (id: string) => due.find((d) => d.id === id)?.access ?? id;
  const panels = new Map<string, number>();
  for (const [id, { shared }] of taken) if (shared > 0) panels.set(accessOf(id), Math.max(panels.get(accessOf(id)) ?? 0, shared));
  const moves = standingMoves(g);
  const upkeep = g.upkeep.upkeep;
  const taskOf = (id: string, counted: Pick<PlanTask, "interval" | "used">): PlanTask => {
    const { own = 0, shared = 0 } = taken.get(id) ?? {};
    return { id, minutes: own, panels: shared > 0 ? [accessOf(id)] : [], ...counted, ...movesOf(moves, id) };
  };
  const jobs = g.log.kinds.job;
  const instance: PlanInstance = {
    days: PLAN_DAYS,
    start: dateOf(g.nowMs),
    frameMinutes: frame,
    panels: [...panels].map(([id, minutes]) => ({ id, minutes })),
    closed: closedDays(upkeep, g.nowMs),
    ...(upkeep?.minutes ? { limits: Object.fromEntries(upkeep.minutes.map((m, d) => [String(d), m])) } : {}),
    pace: {
      smoke: weekOf(g, (a, b) => g.usage.smokeDose(a, b)),
      "smoke at the nozzle": weekOf(g, (a, b) => g.usage.smokeDose(a, b, "nozzle")),
      "smoke at the filter": weekOf(g, (a, b) => g.usage.smokeDose(a, b, "filter")),
      hours: weekOf(g, (a, b) => g.usage.firingHours(a, b)),
      jobs: weekOf(g, (a, b) => jobs.firstIndex((e) => e.atMs >= b) - jobs.firstIndex((e) => e.atMs >= a)),
    },
    tasks: [
      ...due.map((d) => taskOf(d.id, countedOf(g, d, wanted.has(d.id)))),
      ...alone.map((id) => taskOf(id, { interval: { days: NEVER_DAYS }, used: { days: NEVER_DAYS + 1 } })),
    ],
  };
  gathered.set(g, instance);
  return instance;
}

/** The same machine with other rounds moved. */
export function withMoves(g: Gathered, moves: readonly Moved[]): PlanInstance {
  const instance = instanceOf(g);
  return { ...instance, tasks: instance.tasks.map(({ on: _, notOn: __, ...t }) => ({ ...t, ...movesOf(moves, t.id) })) };
}

/** The same machine with other intervals: to compare schools. Of each as much is used as of the one that holds; what nothing counts is left out. */
export function withIntervals(g: Gathered, everyOf: (id: string) => Every | undefined): PlanInstance {
  const instance = instanceOf(g);
  const wanted = wantedNow(g);
  return {
    ...instance,
    tasks: instance.tasks.flatMap((t): PlanTask[] => {
      const task = g.due.find((d) => d.id === t.id);
      const every = everyOf(t.id);
      if (!task) return [t];
      if (!every) return [];
      const smoke = smokeOf(g, task);
      const interval = Object.fromEntries(
        [
          [smoke, every.plyHours],
          ["hours", every.firingHours],
          ["days", every.days],
          ["jobs", every.jobs],
        ].filter((e): e is [string, number] => e[1] !== undefined),
      );
      if (Object.keys(interval).length === 0) return task.state === "due" ? [t] : [];
      const share = task.state === "due" || wanted.has(t.id) ? OVER : Math.min(1, task.used);
      const used = Object.fromEntries(Object.entries(interval).map(([c, v]) => [c, v * share]));
      return [{ id: t.id, minutes: t.minutes, panels: t.panels ?? [], interval, used }];
    }),
  };
}
