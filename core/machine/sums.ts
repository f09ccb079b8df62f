/** What the sums of a machine need and its owner says once: its loop, its duct and cabinet, its bed. */
import type { FromSchema } from "json-schema-to-ts";

const positive = (maximum: number) => ({ type: "number", exclusiveMinimum: 0, maximum }) as const;

export const sumsSchema = {
  type: "object",
  properties: {
    /** Litres that fill the coolant's loop, and the coldest night where the machine stands. */
    loopL: positive(500),
    nightC: { type: "number", minimum: -60, maximum: 40 },
    /** Round duct, open area of the cabinet, its volume, and what its maker asks for. */
    ductMm: { type: "number", minimum: 20, maximum: 1000 },
    openCm2: positive(100_000),
    cabinetL: positive(20_000),
    makerM3h: positive(20_000),
    /** Width of the bed's cells (or gap of its slats), how deep they are, and what the sprayer holds. */
    cellMm: positive(200),
    bedHeightMm: positive(200),
    sprayerL: positive(50),
  },
  additionalProperties: false,
} as const;

export type Sums = Readonly<FromSchema<typeof sumsSchema>>;
