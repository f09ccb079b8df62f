/** What the log says of a part between its cleans: how long it was good, and at what use it was found bad. */
import { type EventLog, type EventOf, firstAt } from "#core/events";
import { doneTimes, type Run, type TaskRule, type Usage } from "#core/schedule";
import { DAY_MS } from "#core/time";

/** What an interval that learns is counted in. */
export type Counted = "plyHours" | "firingHours" | "days";

/** What lies further back says little of a shop of today. */
const MOST_RUNS = 60;

/** As found at least as bad as this asks for more than a wipe: film. */
const BAD = 2;

/** One look at a part, for the drawing: how much use it had seen since its clean, and whether it was bad. */
export interface Found {
  readonly atMs: number;
  readonly dose: number;
  readonly isBad: boolean;
}

export interface History {
  readonly runs: readonly Run[];
  readonly found: readonly Found[];
}

/** A look that was taken outside a round, for a case: as good as one in it. */
export interface Look {
  readonly station: string;
  readonly atMs: number;
  readonly grade: number;
}

type Rule = Pick<TaskRule, "id" | "station" | "tasks" | "plain" | "counts">;

/** Use of a span by what is counted. */
export function usedBetween(usage: Usage, rule: Pick<TaskRule, "counts" | "station">, by: Counted, fromMs: number, toMs: number): number {
  if (by === "days") return Math.max(0, (toMs - fromMs) / DAY_MS);
  if (by === "firingHours") return usage.firingHours(fromMs, toMs);
  return usage.smokeDose(fromMs, toMs, rule.counts ?? (rule.station === "nozzle" ? "nozzle" : "optics"));
}

/** Whether a look speaks of a task: at its station, and where several tasks share that, in one of its own steps. */
function speaksOf(rule: Rule, { payload }: EventOf<"grade">): boolean {
  if (payload.station !== rule.station || payload.phase !== "as-found") return false;
  if (!rule.tasks) return true;
  const part = payload.step?.includes(".") ? payload.step.slice(0, payload.step.indexOf(".")) : undefined;
  return part === undefined ? rule.plain === true : rule.tasks.includes(part);
}

/**
 * Runs from clean to clean since a time (ms). What lies before the first clean is left out, since nobody knows what it had seen; of what was
 * seen bad the first counts, since it stays bad until it is cleaned. A bad look right after a clean says the clean left it.
 */
export function historyOf(
  rule: Rule,
  { log, usage, looks: others = [], nowMs }: { log: EventLog; usage: Usage; looks?: readonly Look[]; nowMs: number },
  by: Counted,
  sinceMs: number,
): History {
  const cleans = doneTimes(log, rule)
    .filter((ms) => ms >= sinceMs && ms <= nowMs)
    .slice(-MOST_RUNS);
  const first = cleans[0];
  if (first === undefined) return { runs: [], found: [] };
  const grades = log.kinds.grade;
  const inLog = grades
    .slice(firstAt(grades, first))
    .filter((e) => e.atMs <= nowMs && speaksOf(rule, e))
    .map((e): Look => ({ station: rule.station, atMs: e.atMs, grade: e.payload.grade }));
  const own = rule.tasks ? [] : others.filter((l) => l.station === rule.station && l.atMs >= first && l.atMs <= nowMs);
  const looks = [...inLog, ...own].sort((a, b) => a.atMs - b.atMs);
  const runs: Run[] = [];
  const found: Found[] = [];
  let at = 0;
  for (const [i, fromMs] of cleans.entries()) {
    const toMs = cleans[i + 1] ?? nowMs;
    const start = at;
    while (at < looks.length && (looks[at] as Look).atMs <= toMs) at++;
    const within = looks
      .slice(start, at)
      .filter((e) => e.atMs > fromMs)
      .map((e) => ({ atMs: e.atMs, dose: usedBetween(usage, rule, by, fromMs, e.atMs), isBad: e.grade >= BAD }))
      .filter((f) => f.dose > 1e-6);
    found.push(...within);
    const bad = within.findIndex((f) => f.isBad);
    const goodTo = within[bad < 0 ? within.length - 1 : bad - 1]?.dose;
    const badAt = bad < 0 ? undefined : within[bad]?.dose;
    if (badAt !== undefined && goodTo !== undefined && badAt <= goodTo) continue;
    if (goodTo !== undefined || badAt !== undefined) runs.push({ goodTo: goodTo ?? 0, badAt });
  }
  return { runs, found };
}
