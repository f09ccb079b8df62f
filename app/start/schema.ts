import type { FromSchema } from "json-schema-to-ts";

/** First start: one machine and one material. */
export const firstMachineSchema = {
  type: "object",
  properties: {
    name: { type: "string", minLength: 1, maxLength: 40 },
    layout: { enum: ["three-mirror", "moving-head", "periscope"] },
    ratedPowerW: { type: "number", minimum: 5, maximum: 500 },
    tubeHours: { type: "number", minimum: 0, maximum: 100000 },
    ratedTubeHours: { type: "number", minimum: 100, maximum: 100000 },
    materialName: { type: "string", minLength: 1, maxLength: 60 },
    materialKind: { type: "string", minLength: 1 },
    thicknessMm: { type: "number", exclusiveMinimum: 0, maximum: 60 },
    usualSpeedMmPerS: { type: "number", exclusiveMinimum: 0, maximum: 2000 },
    usualSetPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
    next: { enum: ["ladder", "weak", "today"] },
  },
  required: ["name", "layout", "ratedPowerW", "tubeHours", "ratedTubeHours", "materialName", "materialKind", "thicknessMm", "next"],
  additionalProperties: false,
} as const;
export type FirstMachine = FromSchema<typeof firstMachineSchema>;
