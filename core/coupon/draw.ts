/** Parts of drawings that every form uses. */
import { shownFigure, shownUnit, type Units } from "#core/units";
import { textStrokes, textWidthMm } from "./strokes";
import type { CouponLayer, CouponShape, LayerUse, Point } from "./types";

/** Letters of a legend, mm high. */
export const LETTER_MM = 3;
/** From one line of a legend to the next. */
export const LINE_MM = 5;

export const LEGEND: CouponLayer = { id: "legend", name: "Legend: first, faint", use: "engrave" };

/** A figure as short as it is exact to a tenth or hundredth. */
export const figure = (value: number): string => String(Number(value.toFixed(2)));

/** A figure as it is, for what must tell two settings apart. */
const exact = (value: number): string => String(Number(value.toFixed(6))).replace(".", "-");

/** A speed, and a length, in the words of a legend. The drawing stays as it is, whatever it says of itself. */
export const speedIn = (units: Units, speedMmPerS: number): string => shownFigure(speedMmPerS, "mm/s", units, 2);
export const speedUnit = (units: Units): string => shownUnit("mm/s", units);
export const lengthIn = (units: Units, mm: number): string => shownFigure(mm, "mm", units, 2);
export const lengthWords = (units: Units, mm: number): string => `${lengthIn(units, mm)} ${shownUnit("mm", units)}`;

/** A layer of one setting. */
export const settingLayer = (units: Units, speedMmPerS: number, setPercent: number, use: LayerUse = "cut"): CouponLayer => ({
  id: `s${exact(speedMmPerS)}-p${exact(setPercent)}`,
  name: `${speedIn(units, speedMmPerS)} ${speedUnit(units)}, ${figure(setPercent)} %`,
  use,
  speedMmPerS,
  setPercent,
});

/** A legend's text with its top left corner at (x, y). */
export const legend = (text: string, x: number, y: number): CouponShape[] =>
  textStrokes(text, x, y, LETTER_MM).map((points) => ({ layer: LEGEND.id, form: "line", points }));

/** A legend's text under or beside something, by its middle. */
export const legendCentred = (text: string, x: number, y: number): CouponShape[] => legend(text, x - textWidthMm(text, LETTER_MM) / 2, y);

export const square = (layer: string, x: number, y: number, sizeMm: number): CouponShape => ({
  layer,
  form: "line",
  closed: true,
  points: [
    [x, y],
    [x + sizeMm, y],
    [x + sizeMm, y + sizeMm],
    [x, y + sizeMm],
  ],
});

export const line = (layer: string, a: Point, b: Point): CouponShape => ({ layer, form: "line", points: [a, b] });

/** Farthest right and lowest point of some shapes, in mm. */
export function extentMm(shapes: readonly CouponShape[]): Point {
  let [right, low] = [0, 0];
  for (const s of shapes) {
    const points: readonly Point[] = s.form === "circle" ? [[s.x + s.radiusMm, s.y + s.radiusMm]] : s.points;
    for (const [x, y] of points) {
      right = Math.max(right, x);
      low = Math.max(low, y);
    }
  }
  return [right, low];
}
