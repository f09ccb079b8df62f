/** Case files: what the command line reads, and what a case is written out as. */
import type { FromSchema } from "json-schema-to-ts";
import { STATION_ROLES } from "#core/beam";
import { fittingsSchema, LAYOUT_IDS, pathStationSchema } from "#core/machine";
import { SYMPTOMS } from "./model/types";

const positive = { type: "number", exclusiveMinimum: 0 } as const;
const atLeastZero = { type: "number", minimum: 0 } as const;
const meanAndSd = {
  type: "object",
  properties: { mean: { type: "number" }, sd: atLeastZero },
  required: ["mean", "sd"],
  additionalProperties: false,
} as const;
const finding = {
  type: "object",
  properties: {
    check: { type: "string" },
    outcome: { type: "string" },
    value: { type: "number" },
    sd: positive,
    setPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
    /** Of a cut at a setting of its own: ln effective power it needs to drop, against the baseline. */
    neededLnRatio: { type: "number" },
    /** What the owner came with: seldom told of nothing. */
    complaint: { type: "boolean" },
  },
  required: ["check"],
  anyOf: [{ required: ["outcome"] }, { required: ["value"] }],
  additionalProperties: false,
} as const;
const findingList = { type: "array", maxItems: 200, items: finding } as const;
const perStation = { type: "object", additionalProperties: atLeastZero } as const;

const usage = {
  type: "object",
  properties: {
    tubeHours: atLeastZero,
    ratedTubeHours: positive,
    hoursSinceClean: perStation,
    smokeDoseSinceClean: perStation,
    seatsOpened: {
      type: "array",
      items: {
        type: "object",
        properties: { station: { type: "string" }, daysAgo: atLeastZero },
        required: ["station", "daysAgo"],
        additionalProperties: false,
      },
    },
    daysSinceCoolantChange: atLeastZero,
    /** What the machine's own readings say of wear: how much faster than usual each optic fouls, and what the tube has lost. */
    fitted: {
      type: "object",
      properties: { foulingFactors: { type: "object", additionalProperties: meanAndSd }, tubeLoss: meanAndSd },
      required: ["foulingFactors", "tubeLoss"],
      additionalProperties: false,
    },
  },
  additionalProperties: false,
} as const;

/** A case as a file, for scripts and for checking the engine without the interface. Every field but `machine` is optional. */
export const caseFileSchema = {
  type: "object",
  properties: {
    machine: {
      type: "object",
      properties: {
        preset: { enum: LAYOUT_IDS },
        /** A machine's own path and fittings in the preset's place, as a workshop's file has them. */
        path: { type: "array", minItems: 3, maxItems: 30, items: pathStationSchema },
        fittings: fittingsSchema,
        stations: {
          type: "array",
          minItems: 3,
          maxItems: 16,
          items: {
            type: "object",
            properties: {
              id: { type: "string", minLength: 1, maxLength: 40 },
              role: { enum: STATION_ROLES },
              apertureMm: positive,
              distanceMm: atLeastZero,
              travelMm: atLeastZero,
            },
            required: ["id", "role"],
            additionalProperties: false,
          },
        },
      },
      additionalProperties: false,
    },
    usage,
    opened: { type: "array", items: { type: "string" } },
    /** Stations of which a spare is at hand. */
    spares: { type: "array", items: { type: "string" } },
    findings: findingList,
    baseline: {
      type: "object",
      properties: {
        powerW: { type: "object", additionalProperties: positive },
        tubeCurrentMa: positive,
        coolantFlowLpm: positive,
        ductSpeedMps: positive,
        setPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
      },
      additionalProperties: false,
    },
    symptom: { enum: SYMPTOMS },
    maxFaults: { enum: [1, 2, 3] },
    /** Checks that cannot be made on this machine. */
    declined: { type: "array", items: { type: "string" } },
    /** Repairs done in this case that did not bring it back. */
    mended: { type: "array", items: { type: "string" } },
    /** Those repairs in their order, with what was found before each and holds no more after it, and the use up to it. */
    before: {
      type: "array",
      maxItems: 20,
      items: {
        type: "object",
        properties: { repairs: { type: "array", items: { type: "string" } }, findings: findingList, usage },
        required: ["repairs", "findings"],
        additionalProperties: false,
      },
    },
    /** How often each fault ended a case of the workshop, of how many. */
    found: {
      type: "object",
      properties: {
        cases: { type: "integer", minimum: 0 },
        faults: { type: "object", additionalProperties: { type: "integer", minimum: 0 } },
      },
      required: ["cases", "faults"],
      additionalProperties: false,
    },
  },
  required: ["machine"],
  additionalProperties: false,
} as const;

export type CaseFile = FromSchema<typeof caseFileSchema>;
