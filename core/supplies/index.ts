/**
 * # Supplies on the shelf
 * Answers: how much of a supply is left after what was used since it was counted, and on which day what is planned will have used it up.
 * Plain subtraction along a calendar; amounts in the supply's own unit.
 */
import type { FromSchema } from "json-schema-to-ts";

const amount = { type: "number", minimum: 0, maximum: 1_000_000 } as const;

/** What its owner said of one supply: how much there was and when, how it is bought, and when to buy again. */
export const stockSchema = {
  type: "object",
  properties: {
    amount,
    sinceMs: { type: "integer", minimum: 0 },
    pack: { type: "number", exclusiveMinimum: 0, maximum: 1_000_000 },
    price: amount,
    least: amount,
  },
  required: ["amount", "sinceMs"],
  additionalProperties: false,
} as const;

export const shelfSchema = { type: "object", additionalProperties: stockSchema, maxProperties: 200 } as const;

export type Stock = Readonly<FromSchema<typeof stockSchema>>;
export type Shelf = Readonly<Record<string, Stock>>;

/** A use of a supply: past or planned, by a number that rises with time (ms, days). */
export interface Use {
  readonly at: number;
  readonly amount: number;
}

/** Sums of uses are compared to this. */
const EXACT = 1e-6;

/** What is left (>= 0) of an amount after uses since it was counted. */
export function leftOf(stock: Pick<Stock, "amount" | "sinceMs">, uses: readonly Use[]): number {
  const used = uses.reduce((sum, u) => sum + (u.at > stock.sinceMs ? u.amount : 0), 0);
  return Math.max(0, stock.amount - used);
}

/** When planned uses, in order, have brought an amount below a level: the first such use's time; undefined where they do not. */
export function belowAt(left: number, level: number, planned: readonly Use[]): number | undefined {
  let rest = left;
  for (const use of [...planned].sort((a, b) => a.at - b.at)) {
    rest -= use.amount;
    if (rest < level - EXACT) return use.at;
  }
  return undefined;
}

/** Whole packs to buy so that what is planned leaves at least the level. 0 or more. */
export function packsToBuy(left: number, level: number, planned: readonly Use[], pack: number): number {
  const needed = planned.reduce((sum, u) => sum + u.amount, 0) + level - left;
  return needed <= EXACT ? 0 : Math.ceil((needed - EXACT) / pack);
}
