/** A drawing of a test file: plain data in mm, the origin at the top left, y downward. */

export type Point = readonly [x: number, y: number];

/** What is done with the lines of a layer. */
export type LayerUse = "cut" | "engrave" | "print";

export interface CouponLayer {
  /** Short, of letters, figures and dashes: it names the layer in every format. */
  readonly id: string;
  /** For people: "11 mm/s, 60 %". */
  readonly name: string;
  readonly use: LayerUse;
  readonly speedMmPerS?: number | undefined;
  readonly setPercent?: number | undefined;
}

export type CouponShape =
  | { readonly layer: string; readonly form: "line"; readonly points: readonly Point[]; readonly closed?: boolean }
  | { readonly layer: string; readonly form: "circle"; readonly x: number; readonly y: number; readonly radiusMm: number };

/** What its owner tells the result of: a square that fell, a line that is finest. */
export interface CouponTarget {
  readonly id: string;
  /** "11 mm/s". */
  readonly label: string;
  /** Place of a map it belongs to. */
  readonly place?: string;
  readonly speedMmPerS?: number;
  /** Height of the sheet there over the one focused on, in mm. */
  readonly heightMm?: number;
  readonly x: number;
  readonly y: number;
  readonly widthMm: number;
  readonly heightOnSheetMm: number;
  readonly round?: boolean;
}

/** A place of the bed, by its middle in mm from the left and from the back. */
export interface CouponPlace {
  readonly id: string;
  readonly name: string;
  readonly xMm: number;
  readonly yMm: number;
}

export interface Coupon {
  readonly title: string;
  readonly widthMm: number;
  readonly heightMm: number;
  /** In the order they are done. */
  readonly layers: readonly CouponLayer[];
  readonly shapes: readonly CouponShape[];
  readonly targets: readonly CouponTarget[];
  readonly places: readonly CouponPlace[];
}

/** Why a drawing cannot be made: the field that is missing or does not fit, and what would. */
export interface CouponRefusal {
  readonly field: string;
  readonly reason: string;
}
