/** What a plan is made from: days, tasks with their intervals, panels that open once for all of them, and the time there is. */
import type { FromSchema } from "json-schema-to-ts";

const minutes = { type: "number", minimum: 0, maximum: 10_000 } as const;
const id = { type: "string", minLength: 1, maxLength: 80 } as const;
const date = { type: "string", pattern: "^\\d{4}-\\d{2}-\\d{2}$" } as const;
const figures = { type: "object", additionalProperties: { type: "number", minimum: 0 } } as const;

const dates = { type: "array", maxItems: 400, items: date } as const;
const spans = {
  type: "array",
  maxItems: 400,
  items: { type: "object", properties: { from: date, to: date }, required: ["from", "to"], additionalProperties: false },
} as const;

export const planSchema = {
  type: "object",
  properties: {
    days: { type: "integer", minimum: 1, maximum: 400 },
    /** The first day. */
    start: date,
    /** What every round takes besides: make safe, hands, covers, power, the final test. */
    frameMinutes: minutes,
    panels: {
      type: "array",
      maxItems: 100,
      items: { type: "object", properties: { id, minutes }, required: ["id", "minutes"], additionalProperties: false },
    },
    /** Days without rounds and without use. */
    closed: { type: "array", items: date },
    /** Minutes there are on a weekday, "0" Monday to "6" Sunday; without them a day holds any length. */
    limits: { type: "object", patternProperties: { "^[0-6]$": minutes }, additionalProperties: false },
    /** Use of a day by its weekday, Monday first, of each coordinate; `days` needs none. */
    pace: {
      type: "object",
      additionalProperties: { type: "array", items: { type: "number", minimum: 0 }, minItems: 7, maxItems: 7 },
    },
    tasks: {
      type: "array",
      maxItems: 200,
      items: {
        type: "object",
        properties: {
          id,
          minutes,
          panels: { type: "array", items: id },
          interval: figures,
          used: figures,
          /** Days on which its owner wants it done, whatever a day holds; and spans, both ends in, in which he does not. */
          on: dates,
          notOn: spans,
        },
        required: ["id", "minutes", "interval"],
        additionalProperties: false,
      },
    },
  },
  required: ["days", "start", "frameMinutes", "tasks"],
  additionalProperties: false,
} as const;

export type PlanInstance = FromSchema<typeof planSchema>;
export type PlanTask = PlanInstance["tasks"][number];

/** A weekday's number, Monday 0, and the days of an instance as dates. */
export interface Calendar {
  readonly dates: readonly string[];
  readonly weekdays: readonly number[];
  /** Days on which a round may be: not closed, and with some time. */
  readonly open: readonly boolean[];
  readonly closed: readonly boolean[];
  /** Minutes there are on each day; Infinity where nothing limits it. */
  readonly limit: readonly number[];
}

const DAY_MS = 86_400_000;

export function calendarOf({ days, start, closed = [], limits }: PlanInstance): Calendar {
  const from = Date.parse(`${start}T00:00:00Z`);
  const dates = Array.from({ length: days }, (_, d) => new Date(from + d * DAY_MS).toISOString().slice(0, 10));
  const weekdays = dates.map((_, d) => (new Date(from + d * DAY_MS).getUTCDay() + 6) % 7);
  const shut = new Set(closed);
  const limit = weekdays.map((w) => (limits ? (limits[String(w)] ?? 0) : Number.POSITIVE_INFINITY));
  const isClosed = dates.map((d) => shut.has(d));
  return { dates, weekdays, closed: isClosed, open: dates.map((_, d) => !isClosed[d] && limit[d]! > 0), limit };
}

/** Use of one coordinate on each day. Closed days have none, but for the days themselves. */
export function useOf({ pace = {} }: PlanInstance, { weekdays, closed }: Calendar, coordinate: string): number[] {
  if (coordinate === "days") return weekdays.map(() => 1);
  const week = pace[coordinate];
  return weekdays.map((w, d) => (closed[d] ? 0 : (week?.[w] ?? 0)));
}
