/**
 * # The workshop as a file
 * Answers: what does the one file hold that carries a whole workshop from one place to another. Every record has a key of its own, by which
 * it is known again wherever it is read; materials are named by a number that holds within the file. Times in ms since 1970.
 */

import type { FromSchema } from "json-schema-to-ts";
import { aimEntrySchema } from "#core/aim";
import { EVENT_KINDS } from "#core/events";
import { fittingsSchema, pathStationSchema } from "#core/machine";
import { roundAnswerSchema } from "#core/rounds";
import { shelfSchema } from "#core/supplies";
import { unitsSchema } from "#core/units";

export const WORKSHOP_FORMAT = "clenor-workshop";
export const WORKSHOP_VERSION = 1;

const key = { type: "string", minLength: 1, maxLength: 400 } as const;
const timeMs = { type: "integer", minimum: 0, maximum: 8.64e15 } as const;
const text = (maxLength: number) => ({ type: "string", maxLength }) as const;

const material = {
  type: "object",
  properties: {
    id: { type: "integer", minimum: 1 },
    name: { type: "string", minLength: 1, maxLength: 80 },
    kind: text(40),
    thicknessMm: { type: "number", exclusiveMinimum: 0, maximum: 1000 },
    beta: { type: "number", exclusiveMinimum: 0, maximum: 10 },
    usualSpeedMmPerS: { type: "number", exclusiveMinimum: 0, maximum: 2000 },
    usualSetPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
    smokeOptics: { type: "number", minimum: 0, maximum: 100 },
    smokeNozzle: { type: "number", minimum: 0, maximum: 100 },
    hidden: { type: "boolean" },
  },
  required: ["id", "name", "kind", "thicknessMm", "beta"],
  additionalProperties: false,
} as const;

const finding = {
  type: "object",
  properties: {
    key,
    check: text(60),
    outcome: text(60),
    value: { type: "number" },
    setPercent: { type: "number" },
    atMs: timeMs,
    withdrawnMs: timeMs,
  },
  required: ["key", "check", "atMs"],
  anyOf: [{ required: ["outcome"] }, { required: ["value"] }],
  additionalProperties: false,
} as const;

const traceCase = {
  type: "object",
  properties: {
    key,
    number: { type: "integer", minimum: 1 },
    title: text(200),
    sign: text(200),
    symptom: text(60),
    onsetMs: timeMs,
    openedMs: timeMs,
    closedMs: timeMs,
    closing: {
      type: "object",
      properties: {
        repair: { anyOf: [text(200), { type: "null" }] },
        faults: { type: "array", items: text(60) },
        proof: text(400),
        /** The case as it stood at its closing. */
        report: { type: "object" },
      },
      required: ["faults"],
    },
    findings: { type: "array", items: finding },
    /** Checks nobody knows the answer of. */
    unknown: { type: "array", items: text(60) },
  },
  required: ["key", "number", "title", "sign", "symptom", "onsetMs", "openedMs", "findings"],
  additionalProperties: false,
} as const;

const round = {
  type: "object",
  properties: {
    key,
    title: text(200),
    parts: { type: "array", items: text(60) },
    /** What it is walked by; the steps in their order. */
    plan: {
      type: "object",
      properties: {
        minutes: { type: "number", minimum: 0 },
        apart: { type: "boolean" },
        steps: {
          type: "array",
          items: {
            type: "object",
            properties: {
              id: text(120),
              part: text(120),
              kind: { enum: ["do", "grade", "confirm", "choice", "proof"] },
              title: text(400),
              text: text(4000),
              minutes: { type: "number", minimum: 0 },
            },
            required: ["id", "part", "kind", "title", "text", "minutes"],
          },
        },
        fetch: { type: "object" },
      },
      required: ["minutes", "apart", "steps", "fetch"],
    },
    status: { enum: ["open", "closed", "abandoned"] },
    startedMs: timeMs,
    endedMs: timeMs,
    case: key,
    answers: {
      type: "array",
      items: {
        type: "object",
        properties: { key, stepId: text(120), answer: roundAnswerSchema, atMs: timeMs },
        required: ["key", "stepId", "answer", "atMs"],
        additionalProperties: false,
      },
    },
  },
  required: ["key", "title", "parts", "status", "startedMs", "answers"],
  additionalProperties: false,
} as const;

const aim = {
  type: "object",
  properties: {
    key,
    case: key,
    startedMs: timeMs,
    endedMs: timeMs,
    ending: {
      type: "object",
      properties: { good: { type: "boolean" }, words: text(400) },
      required: ["good", "words"],
    },
    entries: {
      type: "array",
      items: {
        type: "object",
        properties: { key, entry: aimEntrySchema, atMs: timeMs, withdrawnMs: timeMs },
        required: ["key", "entry", "atMs"],
        additionalProperties: false,
      },
    },
  },
  required: ["key", "startedMs", "entries"],
  additionalProperties: false,
} as const;

const event = {
  type: "object",
  properties: {
    key,
    kind: { enum: EVENT_KINDS },
    atMs: timeMs,
    recordedMs: timeMs,
    /** By its kind's own schema. */
    payload: { type: "object" },
    corrects: key,
    voids: { type: "boolean" },
    round: key,
    case: key,
  },
  required: ["key", "kind", "atMs", "recordedMs", "payload"],
  additionalProperties: false,
} as const;

export const workshopSchema = {
  $schema: "http://json-schema.org/draft-07/schema#",
  title: "A workshop of Clenor: its machines with everything that was ever written down about them",
  type: "object",
  properties: {
    format: { const: WORKSHOP_FORMAT },
    version: { type: "integer", minimum: 1, maximum: WORKSHOP_VERSION },
    currency: text(8),
    /** How the workshop reads its figures; every figure in the file is in the unit of its name. */
    units: unitsSchema,
    /** What lies on the shelf, by supply. */
    supplies: shelfSchema,
    machines: {
      type: "array",
      items: {
        type: "object",
        properties: {
          key,
          slug: { type: "string", pattern: "^[a-z0-9-]+$", maxLength: 80 },
          name: { type: "string", minLength: 1, maxLength: 80 },
          layout: text(40),
          ratedPowerW: { type: "number", exclusiveMinimum: 0, maximum: 10_000 },
          ratedTubeHours: { type: "number", exclusiveMinimum: 0, maximum: 1_000_000 },
          path: { type: "array", items: pathStationSchema },
          fittings: fittingsSchema,
          createdMs: timeMs,
          /** Checks its owner cannot make. */
          declined: { type: "array", items: text(60) },
          materials: { type: "array", items: material },
          cases: { type: "array", items: traceCase },
          rounds: { type: "array", items: round },
          events: { type: "array", items: event },
          /** Sittings at the mirrors; files of before have none. */
          aims: { type: "array", items: aim },
        },
        required: ["key", "slug", "name", "layout", "ratedPowerW", "ratedTubeHours", "createdMs", "materials", "cases", "rounds", "events"],
        additionalProperties: false,
      },
    },
  },
  required: ["format", "version", "machines"],
  additionalProperties: false,
} as const;

export type WorkshopFile = Readonly<FromSchema<typeof workshopSchema>>;
export type MachineInFile = WorkshopFile["machines"][number];
