/** One schema for what is written down at the mirrors: forms, store and files read it. */
import type { FromSchema } from "json-schema-to-ts";

const lengthMm = { type: "number", minimum: -200, maximum: 200 } as const;
const across = {
  type: "object",
  properties: { right: lengthMm, up: lengthMm },
  required: ["right", "up"],
  additionalProperties: false,
} as const;
const place = { type: "string", pattern: "^(work|lens|nozzle|tube|mirror-[1-9][0-9]?)$" } as const;
const spot = {
  type: "object",
  properties: { at: place, far: { type: "array", items: place, uniqueItems: true, maxItems: 20 } },
  required: ["at", "far"],
  additionalProperties: false,
} as const;

export const aimEntrySchema = {
  type: "object",
  oneOf: [
    {
      type: "object",
      properties: {
        kind: { const: "mark" },
        spot,
        mark: across,
        sdMm: { type: "number", exclusiveMinimum: 0, maximum: 20 },
      },
      required: ["kind", "spot", "mark"],
      additionalProperties: false,
    },
    {
      type: "object",
      properties: { kind: { const: "miss" }, spot, side: { enum: ["right", "left", "up", "down"] } },
      required: ["kind", "spot"],
      additionalProperties: false,
    },
    {
      type: "object",
      properties: {
        kind: { const: "turn" },
        element: place,
        screw: { enum: ["A", "B", "C"] },
        turns: { type: "number", minimum: -3, maximum: 3 },
      },
      required: ["kind", "element", "screw", "turns"],
      additionalProperties: false,
    },
    {
      type: "object",
      properties: {
        kind: { const: "shift" },
        shift: {
          type: "object",
          oneOf: [
            {
              type: "object",
              properties: { of: { const: "tube" }, mm: across },
              required: ["of", "mm"],
              additionalProperties: false,
            },
            {
              type: "object",
              properties: { of: { const: "mount" }, station: place, mm: across },
              required: ["of", "station", "mm"],
              additionalProperties: false,
            },
            {
              type: "object",
              properties: { of: { const: "slide" }, element: place, mm: lengthMm },
              required: ["of", "element", "mm"],
              additionalProperties: false,
            },
          ],
        },
      },
      required: ["kind", "shift"],
      additionalProperties: false,
    },
    {
      type: "object",
      properties: { kind: { const: "forget" }, element: place },
      required: ["kind", "element"],
      additionalProperties: false,
    },
  ],
} as const;

/**
 * A mark read on tape (mm from the station's middle, seen along the beam), a pulse that left none there and, if seen, the side it went by, a screw turned (turns, clockwise positive), something shifted,
 * or word that a mirror's screws are not those that were learned any more.
 */
export type AimEntry = Frozen<FromSchema<typeof aimEntrySchema>>;

type Frozen<T> = T extends readonly (infer U)[] ? readonly Frozen<U>[] : T extends object ? { readonly [K in keyof T]: Frozen<T[K]> } : T;

/** The tube, a mirror or a part of the head was out and put back, or changed: where it sends the beam, or sits in it, is not known from before. */
export interface Opened {
  readonly kind: "opened";
  readonly element: string;
}

/** What happens in a sitting: what its owner did at the mirrors, and what was done to them besides. */
export type AimEvent = AimEntry | Opened;
