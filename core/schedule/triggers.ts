/** What makes a task due: each trigger by how much of it is used up. */
import { type EventLog, type EventOf, firstAt } from "#core/events";
import { DAY_MS } from "#core/time";
import type { TaskRule } from "./rules";
import { lastReplacedMs, timesDone } from "./services";
import type { SmokePart, Usage } from "./usage";

/** What a limit is counted in; the last four are events, which are over at once. */
export type DueUnit = "ply-hours" | "hours" | "days" | "jobs" | "times" | "smoky-day" | "airflow" | "new-part" | "opened";

/** What is used up of one limit of a task. */
export interface Spent {
  readonly unit: DueUnit;
  /** > 0. */
  readonly limit: number;
  /** >= 0. */
  readonly used: number;
  readonly perDay: number;
  /** Where that is not what the limit leaves. */
  readonly left?: number;
}

/** A task's moment: since when it counts, and when its part was last found clear since then. */
export interface Since {
  readonly fromMs: number;
  /** Undefined where it was never done. */
  readonly doneMs: number | undefined;
  readonly clearMs: number | undefined;
  readonly nowMs: number;
}

const PACE_DAYS = 28;
export const partOf = (rule: Pick<TaskRule, "counts" | "station">): SmokePart =>
  rule.counts ?? (rule.station === "nozzle" ? "nozzle" : "optics");

/** Every limit of a task with what is used up of it; of what only happens, nothing until it did. */
export function spentOf(rule: TaskRule, log: EventLog, usage: Usage, since: Since): Spent[] {
  const counted = countedOf(rule, log, usage, since).flatMap((s) => s ?? []);
  return [...counted, ...happened(rule, log, usage, since)];
}

function countedOf(rule: TaskRule, log: EventLog, usage: Usage, { fromMs, doneMs, clearMs, nowMs }: Since): (Spent | undefined)[] {
  const { every } = rule;
  const part = partOf(rule);
  const counted = (unit: DueUnit, limit: number | undefined, spentSince: (ms: number) => number, perDay: number): Spent | undefined => {
    if (limit === undefined) return undefined;
    const used = spentSince(fromMs);
    // A clear look starts the interval again, all of it or a part.
    const afterLook = clearMs === undefined ? used : (rule.clearLookLeaves ?? 0) * limit + spentSince(clearMs);
    return { unit, limit, used: Math.min(used, afterLook), perDay };
  };
  const jobs = log.kinds.job;
  const jobsSince = (ms: number) => firstAt(jobs, nowMs + 1) - firstAt(jobs, ms + 1);
  const season = every.beforeMonth === undefined ? undefined : daysToSeason(every.beforeMonth, doneMs, nowMs);
  const ofOther = every.nth && { ...every.nth, done: timesDone(log, { station: every.nth.station, task: every.nth.task }, fromMs, nowMs) };
  return [
    counted(
      "ply-hours",
      every.plyHours,
      (ms) => usage.smokeDose(ms, nowMs, part),
      usage.smokeDose(nowMs - PACE_DAYS * DAY_MS, nowMs) / PACE_DAYS,
    ),
    counted("hours", every.firingHours, (ms) => usage.firingHours(ms, nowMs), usage.hoursPerDay),
    counted("days", every.days, (ms) => (nowMs - ms) / DAY_MS, 1),
    counted("jobs", every.jobs, jobsSince, jobsSince(nowMs - PACE_DAYS * DAY_MS) / PACE_DAYS),
    season === undefined ? undefined : { unit: "days", limit: NEAR_DAYS, used: Math.max(0, NEAR_DAYS - season), perDay: 1, left: season },
    ofOther && { unit: "times", limit: ofOther.times, used: ofOther.done, perDay: 0 },
  ];
}

/** What falls due at once when it happens, and of which nothing is used up before. */
function happened(rule: TaskRule, log: EventLog, usage: Usage, { fromMs, clearMs, nowMs }: Since): Spent[] {
  const { smokyDay, airflowLoss, afterNew, afterOpened } = rule.every;
  const at = (unit: DueUnit, limit: number, used: number): Spent => ({ unit, limit, used, perDay: Number.POSITIVE_INFINITY, left: -used });
  const sinceMs = Math.max(fromMs, clearMs ?? Number.NEGATIVE_INFINITY);
  const spent: Spent[] = [];
  if (smokyDay !== undefined) {
    const most = smokiestDay(usage, sinceMs, nowMs, partOf(rule));
    if (most >= smokyDay) spent.push(at("smoky-day", smokyDay, most));
  }
  if (airflowLoss !== undefined) {
    const lost = airLost(log, fromMs, nowMs);
    if (lost !== undefined && lost >= airflowLoss) spent.push(at("airflow", airflowLoss, lost));
  }
  if (afterNew?.some((station) => (lastReplacedMs(log, station, nowMs) ?? Number.NEGATIVE_INFINITY) > sinceMs))
    spent.push(at("new-part", 1, 1));
  const looked = lookedMs(log, rule.id);
  const isOpened = (e: EventOf<"service">) => e.payload.what === "seat-opened" && e.atMs > Math.max(fromMs, looked) && e.atMs <= nowMs;
  if (afterOpened && log.kinds.service.findLast(isOpened)) spent.push(at("opened", 1, 1));
  return spent;
}

const lookedMs = (log: EventLog, station: string): number =>
  log.kinds.grade.findLast((e) => e.payload.station === station)?.atMs ?? Number.NEGATIVE_INFINITY;

/** Share (0..1) of the clean duct's speed that is lost, by the last reading since a time; undefined without a baseline or a newer reading. */
function airLost({ kinds: { airflow } }: EventLog, sinceMs: number, nowMs: number): number | undefined {
  const whole = (e: EventOf<"airflow">) => e.payload.prefilter !== "out" && e.atMs <= nowMs;
  const last = airflow.findLast(whole);
  const clean = airflow.findLast((e) => e.payload.baseline === true && whole(e));
  if (!last || !clean || last.atMs <= sinceMs || last.id === clean.id || clean.payload.ductSpeedMps <= 0) return undefined;
  return Math.max(0, 1 - last.payload.ductSpeedMps / clean.payload.ductSpeedMps);
}

/** Most ply-hours on one day (UTC) since a time. */
function smokiestDay(usage: Usage, sinceMs: number, nowMs: number, part: SmokePart): number {
  let most = 0;
  for (let from = sinceMs; from < nowMs; ) {
    const end = Math.min(nowMs, (Math.floor(from / DAY_MS) + 1) * DAY_MS);
    most = Math.max(most, usage.smokeDose(from, end, part));
    from = end;
  }
  return most;
}

const LEAD_MS = 28 * DAY_MS;
/** As long after its start a season still asks for what was never done. */
const SEASON_MS = 150 * DAY_MS;
/** What is done long before its season does not count for it, so it only uses itself up in these days. */
const NEAR_DAYS = 60;

/** Days left to the next start of a yearly season; negative, since its start, where the last one was missed. */
function daysToSeason(month: number, doneMs: number | undefined, nowMs: number): number {
  const year = new Date(nowMs).getUTCFullYear();
  const starts = [year - 1, year, year + 1].map((y) => Date.UTC(y, month - 1, 1) - LEAD_MS);
  const last = starts.findLast((ms) => ms <= nowMs) as number;
  const next = starts.find((ms) => ms > nowMs) as number;
  const isMissed = doneMs === undefined ? nowMs - last < SEASON_MS : doneMs < last;
  return ((isMissed ? last : next) - nowMs) / DAY_MS;
}
