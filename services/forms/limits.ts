/** What a field of a machine or a material may hold, wherever it is asked for. */
export const LIMITS = {
  machineName: { type: "string", minLength: 1, maxLength: 40 },
  ratedPowerW: { type: "number", minimum: 5, maximum: 500 },
  ratedTubeHours: { type: "number", minimum: 100, maximum: 100000 },
  tubeHours: { type: "number", minimum: 0, maximum: 100000 },
  materialName: { type: "string", minLength: 1, maxLength: 60 },
  thicknessMm: { type: "number", exclusiveMinimum: 0, maximum: 60 },
  usualSpeedMmPerS: { type: "number", exclusiveMinimum: 0, maximum: 2000 },
  usualSetPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
  smoke: { type: "number", minimum: 0, maximum: 20 },
} as const;
