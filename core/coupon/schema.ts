import type { FromSchema } from "json-schema-to-ts";

/** What a test file can be: squares of rising speed, one square and one circle, a sheet on a slope, five places of the bed, rings for tape, a filled block. */
export const COUPON_FORMS = ["ladder", "shapes", "bed-map", "ramp", "block", "rings"] as const;
export type CouponForm = (typeof COUPON_FORMS)[number];

/** What a test file is made from. Which fields it needs is up to its form; lengths in mm. */
export const couponSchema = {
  type: "object",
  properties: {
    form: { enum: COUPON_FORMS },
    materialId: { type: "integer", minimum: 1 },
    setPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
    /** Slowest first; one square or line for each. */
    speedsMmPerS: { type: "array", minItems: 1, maxItems: 24, items: { type: "number", exclusiveMinimum: 0, maximum: 2000 } },
    /** Side of a square, diameter of a circle or of the part the rings lie over. */
    sizeMm: { type: "number", minimum: 3, maximum: 100 },
    /** Left free all round; on the bed map the way from its edge. */
    marginMm: { type: "number", minimum: 0, maximum: 200 },
    bedWidthMm: { type: "number", minimum: 80, maximum: 4000 },
    bedDepthMm: { type: "number", minimum: 80, maximum: 4000 },
    /** Length of the slope, and how much higher its far end lies. */
    lengthMm: { type: "number", minimum: 40, maximum: 600 },
    riseMm: { type: "number", minimum: 1, maximum: 60 },
    /** From line to line of a block. */
    lineMm: { type: "number", minimum: 0.03, maximum: 2 },
    note: { type: "string", maxLength: 500 },
  },
  required: ["form"],
  additionalProperties: false,
} as const;
export type CouponSpec = Readonly<FromSchema<typeof couponSchema>>;
