import type { FromSchema } from "json-schema-to-ts";
import { type CouponSpec, couponSchema } from "#core/coupon";

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
    /** How deep it went where it was not through. */
    depthMm: { type: "number", exclusiveMinimum: 0, maximum: 100 },
    /** Width of the cut: what a square came out too small by. */
    kerfMm: { type: "number", exclusiveMinimum: 0, maximum: 5 },
    edge: { enum: ["clean", "brown", "charred"] },
    engraving: { enum: ["crisp", "blurred", "faint"] },
    photos,
    note,
  },
  required: ["materialId", "speedMmPerS", "setPercent", "result"],
  additionalProperties: false,
} as const;

const rungs = {
  type: "array",
  minItems: 1,
  maxItems: 24,
  items: {
    type: "object",
    properties: { speedMmPerS, end: { enum: ["dropped", "hangs", "stays"] } },
    required: ["speedMmPerS", "end"],
    additionalProperties: false,
  },
} as const;

/** A speed ladder: rungs of rising speed and how each ended. */
export const ladderSchema = {
  type: "object",
  properties: {
    materialId,
    setPercent,
    rungs,
    baseline: { type: "boolean" },
    note,
  },
  required: ["materialId", "setPercent", "rungs"],
  additionalProperties: false,
} as const;

/** Short ladders at places of the bed, by their middles from its left and from its back. */
export const bedMapSchema = {
  type: "object",
  properties: {
    materialId,
    setPercent,
    bedWidthMm: { type: "number", minimum: 80, maximum: 4000 },
    bedDepthMm: { type: "number", minimum: 80, maximum: 4000 },
    places: {
      type: "array",
      minItems: 3,
      maxItems: 9,
      items: {
        type: "object",
        properties: {
          place: { type: "string", pattern: "^[a-z][a-z-]*$", maxLength: 20 },
          xMm: { type: "number", minimum: 0, maximum: 4000 },
          yMm: { type: "number", minimum: 0, maximum: 4000 },
          rungs,
        },
        required: ["place", "xMm", "yMm", "rungs"],
        additionalProperties: false,
      },
    },
    note,
  },
  required: ["materialId", "setPercent", "bedWidthMm", "bedDepthMm", "places"],
  additionalProperties: false,
} as const;

/** An engraved block: how its face and its two sides look. */
export const engravingSchema = {
  type: "object",
  properties: {
    materialId,
    speedMmPerS,
    setPercent,
    look: { enum: ["crisp", "blurred", "faint"] },
    edges: { enum: ["straight", "wavy", "stepped"] },
    photos,
    note,
  },
  required: ["look"],
  additionalProperties: false,
} as const;

/** Where the focus was found: how much higher the sheet had to lie than the gauge sets it. */
export const focusSchema = {
  type: "object",
  properties: { offsetMm: { type: "number", minimum: -60, maximum: 60 }, note },
  required: ["offsetMm"],
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

/** A run of the power probe: the slug's temperature over time. The watts are worked out from it whenever they are asked for. */
export const probeSchema = {
  type: "object",
  properties: {
    station,
    setPercent,
    massG: { type: "number", exclusiveMinimum: 0, maximum: 5000 },
    heatS: { type: "number", exclusiveMinimum: 0, maximum: 600 },
    ambientC: { type: "number", minimum: -20, maximum: 60 },
    timeConstantS: { type: "number", exclusiveMinimum: 0, maximum: 5000 },
    samples: {
      type: "array",
      minItems: 3,
      maxItems: 1200,
      items: {
        type: "object",
        properties: { s: { type: "number", minimum: -60, maximum: 7200 }, c: { type: "number", minimum: -40, maximum: 500 } },
        required: ["s", "c"],
        additionalProperties: false,
      },
    },
    baseline: { type: "boolean" },
    note,
  },
  required: ["station", "setPercent", "massG", "heatS", "ambientC", "samples"],
  additionalProperties: false,
} as const;

/** Current of the tube at a set power, by the machine's own meter. */
export const currentSchema = {
  type: "object",
  properties: { currentMa: { type: "number", minimum: 0, maximum: 200 }, setPercent, baseline: { type: "boolean" }, note },
  required: ["currentMa", "setPercent"],
  additionalProperties: false,
} as const;

/** What was read or seen of the coolant, or topped up. A change is a service: it starts its interval again. */
export const coolantSchema = {
  type: "object",
  properties: {
    temperatureC: { type: "number", minimum: -40, maximum: 90 },
    flowLpm: { type: "number", minimum: 0, maximum: 60 },
    toppedUpL: { type: "number", exclusiveMinimum: 0, maximum: 500 },
    /** How what was topped up was lost: evaporation takes water, a leak takes mixture. Topped up with water unless a share says otherwise. */
    lost: { enum: ["evaporated", "leaked"] },
    /** Filled anew with so much, at the share below. */
    filledL: { type: "number", exclusiveMinimum: 0, maximum: 500 },
    /** Share of propylene glycol, by a tester or as it was filled; or where it freezes, by a tester. */
    glycolPercent: { type: "number", minimum: 0, maximum: 60 },
    freezingC: { type: "number", minimum: -50, maximum: 0 },
    /** Water that leaves the tube, while it fires at full power. */
    returnC: { type: "number", minimum: -40, maximum: 90 },
    look: { enum: ["clear", "cloudy", "coloured"] },
    baseline: { type: "boolean" },
    note,
  },
  anyOf: [
    { required: ["temperatureC"] },
    { required: ["flowLpm"] },
    { required: ["toppedUpL"] },
    { required: ["filledL"] },
    { required: ["glycolPercent"] },
    { required: ["freezingC"] },
    { required: ["look"] },
  ],
  additionalProperties: false,
} as const;

/** Speed of the air in the exhaust duct. */
export const airflowSchema = {
  type: "object",
  properties: {
    ductSpeedMps: { type: "number", minimum: 0, maximum: 60 },
    /** Where it was read: one in the middle (where left out), or the mean of some across the duct. */
    where: { enum: ["centre", "traverse"] },
    /** Suction at the fan, Pa below the room. */
    pressurePa: { type: "number", minimum: 0, maximum: 5000 },
    prefilter: { enum: ["in", "out"] },
    baseline: { type: "boolean" },
    note,
  },
  required: ["ductSpeedMps"],
  additionalProperties: false,
} as const;

/** Where the beam marked the tape over a part: right and up of its middle, seen along the beam. */
export const tapeSchema = {
  type: "object",
  properties: {
    station,
    travel: { enum: ["near", "far"] },
    rightMm: { type: "number", minimum: -200, maximum: 200 },
    upMm: { type: "number", minimum: -200, maximum: 200 },
    mark: { enum: ["round", "crescent", "double"] },
    photos,
    note,
  },
  required: ["station", "rightMm", "upMm"],
  additionalProperties: false,
} as const;

/** Money spent, or minutes lost, and what for. */
export const costSchema = {
  type: "object",
  properties: {
    what: { enum: ["part", "supplies", "service", "spoiled", "waiting", "other"] },
    money: { type: "number", minimum: 0, maximum: 1_000_000 },
    minutes: { type: "number", minimum: 0, maximum: 100_000 },
    note,
  },
  required: ["what"],
  anyOf: [{ required: ["money"] }, { required: ["minutes"] }],
  additionalProperties: false,
} as const;

/** A setting that works: what for, how fast, how strong. The newest of a material and purpose stands in the book. */
export const settingSchema = {
  type: "object",
  properties: {
    materialId,
    purpose: { enum: ["cut", "score", "engrave"] },
    speedMmPerS,
    setPercent,
    passes: { type: "integer", minimum: 1, maximum: 20 },
    air: { enum: ["full", "low", "off"] },
    /** Focus below the face of the sheet; above it with a minus. */
    focusMm: { type: "number", minimum: -30, maximum: 30 },
    lineMm: { type: "number", exclusiveMinimum: 0, maximum: 5 },
    note,
  },
  required: ["materialId", "purpose", "speedMmPerS", "setPercent"],
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
    /** The step of a round that asked, and the answer's own id: what follows from it goes by these, not by the words. */
    step: { type: "string", maxLength: 80 },
    choice: { type: "string", maxLength: 40 },
    /** Nothing is fired until the same was asked again and found good. */
    stops: { type: "boolean" },
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
    /** `taken-out`: the machine stays without it until one is put back or a new one is in. */
    what: { enum: ["cleaned", "replaced", "seat-opened", "aimed", "adjusted", "checked", "taken-out", "put-back"] },
    /** The task this was, where a station has several (wiping a rail, greasing it). */
    task: { type: "string", maxLength: 40 },
    /** Of a part that was put in: where it came from, what it is, what it cost, and how much of its life was gone already. */
    source: { type: "string", maxLength: 80 },
    serial: { type: "string", maxLength: 60 },
    focalMm: { type: "number", exclusiveMinimum: 0, maximum: 500 },
    price: { type: "number", minimum: 0, maximum: 1_000_000 },
    usedHours: { type: "number", minimum: 0, maximum: 100_000 },
    /** A spare was taken from the shelf for it. */
    fromShelf: { type: "boolean" },
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
  "bed-map": bedMapSchema,
  engraving: engravingSchema,
  focus: focusSchema,
  power: powerSchema,
  probe: probeSchema,
  current: currentSchema,
  coolant: coolantSchema,
  airflow: airflowSchema,
  tape: tapeSchema,
  grade: gradeSchema,
  service: serviceSchema,
  setting: settingSchema,
  cost: costSchema,
  coupon: couponSchema,
  note: noteSchema,
} as const;

export type EventKind = keyof typeof eventSchemas;
export interface EventPayload {
  hours: FromSchema<typeof hoursSchema>;
  job: FromSchema<typeof jobSchema>;
  cut: FromSchema<typeof cutSchema>;
  ladder: FromSchema<typeof ladderSchema>;
  "bed-map": FromSchema<typeof bedMapSchema>;
  engraving: FromSchema<typeof engravingSchema>;
  focus: FromSchema<typeof focusSchema>;
  power: FromSchema<typeof powerSchema>;
  probe: FromSchema<typeof probeSchema>;
  current: FromSchema<typeof currentSchema>;
  coolant: FromSchema<typeof coolantSchema>;
  airflow: FromSchema<typeof airflowSchema>;
  tape: FromSchema<typeof tapeSchema>;
  grade: FromSchema<typeof gradeSchema>;
  service: FromSchema<typeof serviceSchema>;
  cost: FromSchema<typeof costSchema>;
  setting: FromSchema<typeof settingSchema>;
  /** A test file that was made: what is cut next by it is known. */
  coupon: CouponSpec;
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
