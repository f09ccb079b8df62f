import type { EventLog } from "#core/events";
import { DAY_MS } from "#core/time";
import { clearLookMs, lastDoneMs } from "./services";
import type { SmokePart, Usage } from "./usage";

/** When a task falls due: after an amount of smoke, of firing, or of days. */
export interface TaskRule {
  readonly id: string;
  readonly station: string;
  readonly every: {
    readonly plyHours?: number;
    readonly firingHours?: number;
    readonly days?: number;
    /** Also within the day after as many ply-hours on one day (UTC), until it was looked at or done. */
    readonly smokyDay?: number;
    /** Once a year, from four weeks before the first day of this month (1 to 12) on. */
    readonly beforeMonth?: number;
  };
  /** What its smoke is counted for; the optics where left out, the nozzle at the nozzle. */
  readonly counts?: SmokePart;
  readonly minutes: number;
  /** Opening this is what the task costs; tasks that share it are done together. */
  readonly access: string;
  /** Where several tasks share a station: records that name one of these count, those that name none do not, unless it is the plain one. */
  readonly tasks?: readonly string[];
  readonly plain?: boolean;
  /** Done by somebody who comes for it: booked, and in no round. */
  readonly byOthers?: boolean;
  /** Share of the interval that counts as used after a look that found the part clear: 0 where looking is the task, more where the dose goes on. */
  readonly clearLookLeaves?: number;
}

export type DueState = "due" | "soon" | "ahead";

export interface DueTask {
  readonly id: string;
  readonly station: string;
  readonly minutes: number;
  readonly access: string;
  /** Booked with somebody else: no round does it. */
  readonly byOthers: boolean;
  /** Share of the interval used up, 0..; 1 is due. */
  readonly used: number;
  readonly state: DueState;
  /** What is left (or over, negative), in the unit that governs; of a smoky day its ply-hours, negative. */
  readonly left: { readonly amount: number; readonly unit: "ply-hours" | "hours" | "days" | "smoky-day" };
  /** Day (ms) at which it falls due at the present pace; undefined when nothing is being used. */
  readonly dueMs: number | undefined;
}

/** A task this far used up is pulled into a round that opens its access anyway. */
export const PULLED_FORWARD = 0.6;

/** What is used up of one limit of a task. */
interface Spent {
  readonly unit: DueTask["left"]["unit"];
  readonly limit: number;
  readonly used: number;
  readonly perDay: number;
  /** Where that is not what the limit leaves. */
  readonly left?: number;
}

/** Due state of each task, most used up first. `sinceMs` is where the log begins, for stations never serviced in it. */
export function dueTasks(rules: readonly TaskRule[], log: EventLog, usage: Usage, sinceMs: number, nowMs: number): DueTask[] {
  const paceWindowMs = 28 * DAY_MS;
  const smokePerDay = usage.smokeDose(nowMs - paceWindowMs, nowMs) / 28;
  return rules
    .map((rule): DueTask => {
      const doneMs = lastDoneMs(log, rule);
      const from = doneMs ?? sinceMs;
      const lookMs = rule.clearLookLeaves === undefined ? undefined : clearLookMs(log, rule.station, nowMs);
      const looked = lookMs !== undefined && lookMs > from ? lookMs : undefined;
      const part = rule.counts ?? (rule.station === "nozzle" ? "nozzle" : "optics");
      const { beforeMonth } = rule.every;
      const daysLeft = beforeMonth === undefined ? undefined : daysToSeason(beforeMonth, doneMs, nowMs);
      const spent = [
        {
          unit: "ply-hours" as const,
          limit: rule.every.plyHours,
          spentSince: (ms: number) => usage.smokeDose(ms, nowMs, part),
          perDay: smokePerDay,
        },
        {
          unit: "hours" as const,
          limit: rule.every.firingHours,
          spentSince: (ms: number) => usage.firingHours(ms, nowMs),
          perDay: usage.hoursPerDay,
        },
        { unit: "days" as const, limit: rule.every.days, spentSince: (ms: number) => (nowMs - ms) / DAY_MS, perDay: 1 },
      ].flatMap(({ spentSince, limit, ...s }): Spent[] => {
        if (limit === undefined) return [];
        const used = spentSince(from);
        const afterLook = looked === undefined ? used : (rule.clearLookLeaves ?? 0) * limit + spentSince(looked);
        return [{ ...s, limit, used: Math.min(used, afterLook) }];
      });
      if (daysLeft !== undefined)
        spent.push({ unit: "days", limit: NEAR_DAYS, used: Math.max(0, NEAR_DAYS - daysLeft), perDay: 1, left: daysLeft });
      const smokiest = rule.every.smokyDay === undefined ? 0 : smokiestDay(usage, looked ?? from, nowMs, part);
      // It falls due at once, and nothing is used up of it before.
      if (rule.every.smokyDay !== undefined && smokiest >= rule.every.smokyDay)
        spent.push({ unit: "smoky-day", limit: rule.every.smokyDay, used: smokiest, perDay: Number.POSITIVE_INFINITY, left: -smokiest });
      const governing = spent.reduce((a, b) => (b.used / b.limit > a.used / a.limit ? b : a));
      const used = governing.used / governing.limit;
      const amount = governing.left ?? governing.limit - governing.used;
      return {
        id: rule.id,
        station: rule.station,
        minutes: rule.minutes,
        access: rule.access,
        byOthers: rule.byOthers === true,
        used,
        state: used >= 1 ? "due" : used >= PULLED_FORWARD ? "soon" : "ahead",
        left: { amount, unit: governing.unit },
        dueMs: governing.perDay > 0 ? nowMs + (amount / governing.perDay) * DAY_MS : undefined,
      };
    })
    .sort((a, b) => b.used - a.used);
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

export interface RoundOffer {
  /** Tasks in it: what is due, and what shares its access and is well used up. */
  readonly tasks: readonly DueTask[];
  readonly minutes: number;
  readonly anyDue: boolean;
}

/**
 * One round instead of a list of alarms: every due task, and with it the tasks behind the same access that are more than 60 % used
 * up. With nothing due the most used-up access is offered. `frameMinutes` pays for making safe, closing and the proof.
 */
export function offerRound(tasks: readonly DueTask[], frameMinutes: number): RoundOffer {
  const due = tasks.filter((t) => t.state === "due");
  const leading = due.length > 0 ? due : tasks.slice(0, 1);
  const accesses = new Set(leading.map((t) => t.access));
  const chosen = tasks.filter((t) => leading.includes(t) || (accesses.has(t.access) && t.used >= PULLED_FORWARD));
  return { tasks: chosen, minutes: frameMinutes + chosen.reduce((sum, t) => sum + t.minutes, 0), anyDue: due.length > 0 };
}
