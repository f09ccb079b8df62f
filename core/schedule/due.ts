import type { EventLog } from "#core/events";
import { DAY_MS } from "#core/time";
import { clearLookMs, lastDoneMs } from "./services";
import type { Usage } from "./usage";

/** When a task falls due: after an amount of smoke, of firing, or of days. */
export interface TaskRule {
  readonly id: string;
  readonly station: string;
  readonly every: { readonly plyHours?: number; readonly firingHours?: number; readonly days?: number };
  readonly minutes: number;
  /** Opening this is what the task costs; tasks that share it are done together. */
  readonly access: string;
  /** Where several tasks share a station: records that name one of these count, those that name none do not, unless it is the plain one. */
  readonly tasks?: readonly string[];
  readonly plain?: boolean;
  /** Share of the interval that counts as used after a look that found the part clear: 0 where looking is the task, more where the dose goes on. */
  readonly clearLookLeaves?: number;
}

export type DueState = "due" | "soon" | "ahead";

export interface DueTask {
  readonly id: string;
  readonly station: string;
  readonly minutes: number;
  readonly access: string;
  /** Share of the interval used up, 0..; 1 is due. */
  readonly used: number;
  readonly state: DueState;
  /** What is left (or over, negative), in the unit that governs. */
  readonly left: { readonly amount: number; readonly unit: "ply-hours" | "hours" | "days" };
  /** Day (ms) at which it falls due at the present pace; undefined when nothing is being used. */
  readonly dueMs: number | undefined;
}

/** A task this far used up is pulled into a round that opens its access anyway. */
export const PULLED_FORWARD = 0.6;

/** Due state of each task, most used up first. `sinceMs` is where the log begins, for stations never serviced in it. */
export function dueTasks(rules: readonly TaskRule[], log: EventLog, usage: Usage, sinceMs: number, nowMs: number): DueTask[] {
  const paceWindowMs = 28 * DAY_MS;
  const smokePerDay = usage.smokeDose(nowMs - paceWindowMs, nowMs) / 28;
  return rules
    .map((rule): DueTask => {
      const from = lastDoneMs(log, rule) ?? sinceMs;
      const lookMs = rule.clearLookLeaves === undefined ? undefined : clearLookMs(log, rule.station, nowMs);
      const looked = lookMs !== undefined && lookMs > from ? lookMs : undefined;
      const part = rule.station === "nozzle" ? "nozzle" : "optics";
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
      ].flatMap(({ spentSince, limit, ...s }) => {
        if (limit === undefined) return [];
        const used = spentSince(from);
        const afterLook = looked === undefined ? used : (rule.clearLookLeaves ?? 0) * limit + spentSince(looked);
        return [{ ...s, limit, used: Math.min(used, afterLook) }];
      });
      const governing = spent.reduce((a, b) => (b.used / b.limit > a.used / a.limit ? b : a));
      const used = governing.used / governing.limit;
      const amount = governing.limit - governing.used;
      return {
        id: rule.id,
        station: rule.station,
        minutes: rule.minutes,
        access: rule.access,
        used,
        state: used >= 1 ? "due" : used >= PULLED_FORWARD ? "soon" : "ahead",
        left: { amount, unit: governing.unit },
        dueMs: governing.perDay > 0 ? nowMs + (amount / governing.perDay) * DAY_MS : undefined,
      };
    })
    .sort((a, b) => b.used - a.used);
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
