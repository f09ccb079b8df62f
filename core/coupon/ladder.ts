/** A speed ladder: squares in rows, one speed each, its figure under it. */
import type { Units } from "#core/units";
import { extentMm, figure, LEGEND, LETTER_MM, LINE_MM, legend, legendCentred, settingLayer, speedIn, speedUnit, square } from "./draw";
import type { Coupon, CouponLayer, CouponShape, CouponTarget } from "./types";

const MOST_IN_A_ROW = 5;

export interface RungGrid {
  readonly shapes: readonly CouponShape[];
  readonly targets: readonly CouponTarget[];
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Squares of rising speed from (x, y) on, slowest first, in rows of even length. */
export function rungGrid(
  units: Units,
  layers: readonly CouponLayer[],
  x: number,
  y: number,
  sizeMm: number,
  place = "",
  inRow = MOST_IN_A_ROW,
): RungGrid {
  const rows = Math.ceil(layers.length / inRow);
  const columns = Math.ceil(layers.length / rows);
  const gap = Math.max(4, sizeMm / 3);
  const high = sizeMm + LETTER_MM + 5;
  const shapes: CouponShape[] = [];
  const targets = layers.map((layer, i): CouponTarget => {
    const [left, top] = [x + (i % columns) * (sizeMm + gap), y + Math.floor(i / columns) * high];
    const speedMmPerS = layer.speedMmPerS ?? 0;
    shapes.push(square(layer.id, left, top, sizeMm), ...legendCentred(speedIn(units, speedMmPerS), left + sizeMm / 2, top + sizeMm + 1.5));
    return {
      id: place === "" ? `${i}` : `${place}-${i}`,
      label: `${speedIn(units, speedMmPerS)} ${speedUnit(units)}`,
      ...(place === "" ? {} : { place }),
      speedMmPerS,
      x: left,
      y: top,
      widthMm: sizeMm,
      heightOnSheetMm: sizeMm,
    };
  });
  return { shapes, targets, widthMm: columns * (sizeMm + gap) - gap, heightMm: rows * high };
}

/** A ladder of one material and power; `sheet` names the material in the legend. */
export function ladderCoupon(
  units: Units,
  sheet: string,
  setPercent: number,
  speeds: readonly number[],
  sizeMm: number,
  marginMm: number,
): Coupon {
  const layers = speeds.map((v) => settingLayer(units, v, setPercent));
  const top = marginMm + 2 * LINE_MM + 1;
  const grid = rungGrid(units, layers, marginMm, top, sizeMm);
  const words = [
    ...legend(sheet, marginMm, marginMm),
    ...legend(`${figure(setPercent)} % - ${speedUnit(units)}`, marginMm, marginMm + LINE_MM),
  ];
  const shapes = [...words, ...grid.shapes];
  return {
    title: `Ladder, ${sheet}`,
    widthMm: extentMm(shapes)[0] + marginMm,
    heightMm: top + grid.heightMm + marginMm,
    layers: [LEGEND, ...layers],
    shapes,
    targets: grid.targets,
    places: [],
  };
}
