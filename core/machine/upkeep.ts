/** How often a machine is cared for and when: what its owner chose for each task, his days, and the rounds he moved. */
import type { FromSchema } from "json-schema-to-ts";

/** What a task's interval may follow: a school, its own history, least minutes, or its owner's figure. */
export const FOLLOWS = ["careful", "by-use", "minimal", "learned", "cheapest", "own"] as const;
export type Follows = (typeof FOLLOWS)[number];

const amount = (maximum: number) => ({ type: "number", minimum: 0.1, maximum }) as const;
const date = { type: "string", pattern: "^[0-9]{4}-[0-9]{2}-[0-9]{2}$" } as const;
const task = { type: "string", pattern: "^[a-z][a-z0-9-]*$", maxLength: 40 } as const;

/** The owner's own figures, or the cheapest as it was when he chose it. */
export const ownEverySchema = {
  type: "object",
  properties: { days: amount(1100), firingHours: amount(10_000), plyHours: amount(10_000), jobs: amount(10_000) },
  additionalProperties: false,
} as const;

export const upkeepSchema = {
  type: "object",
  properties: {
    /** Chance of finding a part bad that is accepted, of every learned interval. */
    target: { type: "number", minimum: 0.02, maximum: 0.3 },
    /** What an hour of the workshop is worth, in its currency. */
    hourValue: { type: "number", minimum: 0, maximum: 10_000 },
    /** What a visit of a qualified person costs. */
    visitCost: { type: "number", minimum: 0, maximum: 1_000_000 },
    tasks: {
      type: "object",
      additionalProperties: {
        type: "object",
        properties: { follows: { enum: FOLLOWS }, every: ownEverySchema },
        required: ["follows"],
        additionalProperties: false,
      },
    },
    /** Minutes there are for a round on each weekday, Monday first; any where left out. */
    minutes: { type: "array", minItems: 7, maxItems: 7, items: { type: "integer", minimum: 0, maximum: 1440 } },
    /** Days the workshop is closed, both ends in. */
    closed: {
      type: "array",
      maxItems: 60,
      items: { type: "object", properties: { from: date, to: date }, required: ["from", "to"], additionalProperties: false },
    },
    /** Tasks whose round was moved to another day, when (ms), and the round with them before it. */
    moved: {
      type: "array",
      maxItems: 300,
      items: {
        type: "object",
        properties: { task, from: date, to: date, after: date, madeMs: { type: "integer", minimum: 0 } },
        required: ["task", "from", "to", "madeMs"],
        additionalProperties: false,
      },
    },
    /** Hour of the day (0 to 23) of a round in a calendar; a whole day where left out. */
    serviceHour: { type: "integer", minimum: 0, maximum: 23 },
    /** Since when (ms) the room or the exhaust is another: what was found before says little. */
    shop: {
      type: "object",
      properties: { sinceMs: { type: "integer", minimum: 0 }, what: { enum: ["room", "exhaust"] } },
      required: ["sinceMs", "what"],
      additionalProperties: false,
    },
  },
  additionalProperties: false,
} as const;

export type Upkeep = Readonly<FromSchema<typeof upkeepSchema>>;
export type OwnEvery = Readonly<FromSchema<typeof ownEverySchema>>;
