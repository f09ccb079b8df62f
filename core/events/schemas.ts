import type { FromSchema } from "json-schema-to-ts";

const setPercent = { type: "number", exclusiveMinimum: 0, maximum: 100 } as const;
const speedMmPerS = { type: "number", exclusiveMinimum: 0, maximum: 2000 } as const;
const materialId = { type: "integer", minimum: 1 } as const;
const note = { type: "string", maxLength: 500 } as const;
const photos = { type: "array", maxItems: 8, items: { type: "string", pattern: "^[0-9a-f]{64}$" } } as const;
const station = { type: "string", pattern: "^[a-z][a-z0-9-]*$", maxLength: 40 } as const;

/** Reading of the panel's hour counter. A lower one than the last must say why. */
export const hoursSchema = {
  type: "object",
  properties: {
    counterHours: { type: "number", minimum: 0, maximum: 100000 },
    because: { enum: ["tube-changed", "counter-changed"] },
    note,
  },
  required: ["counterHours"],
  additionalProperties: false,
} as const;

/** A job run: what was cut and how long the beam fired. */
export const jobSchema = {
  type: "object",
  properties: {
    materialId,
    minutes: { type: "number", exclusiveMinimum: 0, maximum: 1440 },
    flame: { enum: ["usual", "more"] },
    note,
  },
  required: ["materialId", "minutes"],
  additionalProperties: false,
} as const;

/** One cut at a known setting. */
export const cutSchema = {
  type: "object",
  properties: {
    materialId,
    speedMmPerS,
    setPercent,
    result: { enum: ["through", "hangs", "part-through", "surface-only"] },
    passes: { type: "integer", minimum: 1, maximum: 20 },
    edge: { enum: ["clean", "brown", "charred"] },
    engraving: { enum: ["crisp", "blurred", "faint"] },
    photos,
    note,
  },
  required: ["materialId", "speedMmPerS", "setPercent", "result"],
  additionalProperties: false,
} as const;

/** A speed ladder: rungs of rising speed and how each ended. */
export const ladderSchema = {
  type: "object",
  properties: {
    materialId,
    setPercent,
    rungs: {
      type: "array",
      minItems: 1,
      maxItems: 24,
      items: {
        type: "object",
        properties: { speedMmPerS, end: { enum: ["dropped", "hangs", "stays"] } },
        required: ["speedMmPerS", "end"],
        additionalProperties: false,
      },
    },
    baseline: { type: "boolean" },
    note,
  },
  required: ["materialId", "setPercent", "rungs"],
  additionalProperties: false,
} as const;

/** Watts after any subset of the stations. */
export const powerSchema = {
  type: "object",
  properties: {
    setPercent,
    readings: {
      type: "array",
      minItems: 1,
      maxItems: 16,
      items: {
        type: "object",
        properties: { station, powerW: { type: "number", exclusiveMinimum: 0, maximum: 2000 } },
        required: ["station", "powerW"],
        additionalProperties: false,
      },
    },
    baseline: { type: "boolean" },
    note,
  },
  required: ["setPercent", "readings"],
  additionalProperties: false,
} as const;

/** Condition of a station, 0 clear to 4 damaged, as found or as left. */
export const gradeSchema = {
  type: "object",
  properties: {
    station,
    phase: { enum: ["as-found", "as-left"] },
    grade: { type: "integer", minimum: 0, maximum: 4 },
    /** What was seen in the words it was asked in ("weak", "slack"), where it was no grade that was picked. */
    seen: { type: "string", maxLength: 60 },
    photos,
    note,
  },
  required: ["station", "phase", "grade"],
  additionalProperties: false,
} as const;

/** A station or system was cleaned or otherwise serviced: its dose starts again. */
export const serviceSchema = {
  type: "object",
  properties: {
    station,
    what: { enum: ["cleaned", "replaced", "seat-opened", "aimed", "adjusted", "checked"] },
    /** The task this was, where a station has several (wiping a rail, greasing it). */
    task: { type: "string", maxLength: 40 },
    photos,
    note,
  },
  required: ["station", "what"],
  additionalProperties: false,
} as const;

export const noteSchema = {
  type: "object",
  properties: { note: { type: "string", minLength: 1, maxLength: 500 }, photos },
  required: ["note"],
  additionalProperties: false,
} as const;

export const eventSchemas = {
  hours: hoursSchema,
  job: jobSchema,
  cut: cutSchema,
  ladder: ladderSchema,
  power: powerSchema,
  grade: gradeSchema,
  service: serviceSchema,
  note: noteSchema,
} as const;

export type EventKind = keyof typeof eventSchemas;
export interface EventPayload {
  hours: FromSchema<typeof hoursSchema>;
  job: FromSchema<typeof jobSchema>;
  cut: FromSchema<typeof cutSchema>;
  ladder: FromSchema<typeof ladderSchema>;
  power: FromSchema<typeof powerSchema>;
  grade: FromSchema<typeof gradeSchema>;
  service: FromSchema<typeof serviceSchema>;
  note: FromSchema<typeof noteSchema>;
}
export const EVENT_KINDS = Object.keys(eventSchemas) as EventKind[];

/** A record as it stands in the log. Times in ms since 1970. */
export type MachineEvent = {
  [K in EventKind]: {
    readonly id: number;
    readonly kind: K;
    /** When it happened. */
    readonly atMs: number;
    readonly payload: EventPayload[K];
    /** The record this one replaces. */
    readonly corrects?: number | undefined;
    /** True on a correction that says "this never happened". */
    readonly voids?: boolean | undefined;
    /** The round it was taken in. */
    readonly roundId?: number | undefined;
    /** The case it was taken for. */
    readonly caseId?: number | undefined;
  };
}[EventKind];

export type EventOf<K extends EventKind> = Extract<MachineEvent, { kind: K }>;
