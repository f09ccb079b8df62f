import type { FromSchema } from "json-schema-to-ts";
import { LAYOUT_IDS, TUBES } from "#core/machine";
import { LIMITS } from "../forms/limits";

/** First start: one machine and one material. */
export const firstMachineSchema = {
  type: "object",
  properties: {
    name: LIMITS.machineName,
    layout: { enum: LAYOUT_IDS },
    ratedPowerW: LIMITS.ratedPowerW,
    tube: { enum: TUBES },
    tubeHours: LIMITS.tubeHours,
    ratedTubeHours: LIMITS.ratedTubeHours,
    materialName: LIMITS.materialName,
    materialKind: { type: "string", minLength: 1 },
    thicknessMm: LIMITS.thicknessMm,
    usualSpeedMmPerS: LIMITS.usualSpeedMmPerS,
    usualSetPercent: LIMITS.usualSetPercent,
    next: { enum: ["ladder", "weak", "today"] },
  },
  required: ["name", "layout", "ratedPowerW", "tubeHours", "ratedTubeHours", "materialName", "materialKind", "thicknessMm", "next"],
  additionalProperties: false,
} as const;
export type FirstMachine = FromSchema<typeof firstMachineSchema>;
