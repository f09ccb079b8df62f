import type { EventLog } from "#core/events";
import { DAY_MS } from "#core/time";
import type { TaskRule } from "./rules";
import { clearLookMs, lastDoneMs } from "./services";
import { type DueUnit, type Spent, spentOf } from "./triggers";
import type { Usage } from "./usage";

export type { DueUnit, Spent } from "./triggers";

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
  /** What is left (or over, negative), in the unit that governs; of what happened its amount, negative. Infinity where nothing counts. */
  readonly left: { readonly amount: number; readonly unit: DueUnit };
  /** Each of its limits. */
  readonly spent: readonly Spent[];
  /** Day (ms) at which it falls due at the present pace; undefined when nothing is being used. */
  readonly dueMs: number | undefined;
}

/** A task this far used up is pulled into a round that opens its access anyway. */
export const PULLED_FORWARD = 0.6;

/** Of what only happens nothing is used up. */
const NOTHING: Spent = { unit: "days", limit: 1, used: 0, perDay: 0, left: Number.POSITIVE_INFINITY };

/** Due state of each task, most used up first. `sinceMs` is where the log begins, for stations never serviced in it. */
export function dueTasks(rules: readonly TaskRule[], log: EventLog, usage: Usage, sinceMs: number, nowMs: number): DueTask[] {
  return rules
    .map((rule): DueTask => {
      const doneMs = lastDoneMs(log, rule);
      const fromMs = doneMs ?? sinceMs;
      const lookMs = rule.clearLookLeaves === undefined ? undefined : clearLookMs(log, rule.station, nowMs);
      const clearMs = lookMs !== undefined && lookMs > fromMs ? lookMs : undefined;
      const spent = spentOf(rule, log, usage, { fromMs, doneMs, clearMs, nowMs });
      const governing = spent.reduce((a, b) => (b.used / b.limit > a.used / a.limit ? b : a), spent[0] ?? NOTHING);
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
        spent,
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
