import { wheelIndexOf } from "./colours";
import type { Coupon, CouponShape, Point } from "./types";

type Pair = readonly [code: number, value: string | number];

const num = (value: number): string => {
  const fixed = value.toFixed(4);
  return fixed === "-0.0000" ? "0.0000" : fixed;
};
/** Release 12 knows capitals, figures, $, - and _ in names, at most 31 of them. */
const layerName = (id: string): string =>
  id
    .toUpperCase()
    .replace(/[^A-Z0-9$_-]/g, "_")
    .slice(0, 31);

/**
 * The drawing as a DXF file of release 12, in millimetres (which it says) with y upward: layers with their colours, closed and open polylines, circles.
 * Letters are lines as well, so no font is needed.
 */
export function couponDxf(coupon: Coupon): string {
  const flip = ([x, y]: Point): Point => [x, coupon.heightMm - y];
  const at = ([x, y]: Point): Pair[] => [
    [10, num(x)],
    [20, num(y)],
    [30, num(0)],
  ];
  const entity = (s: CouponShape): Pair[] => {
    const layer: Pair = [8, layerName(s.layer)];
    if (s.form === "circle") return [[0, "CIRCLE"], layer, ...at(flip([s.x, s.y])), [40, num(s.radiusMm)]];
    return [
      [0, "POLYLINE"],
      layer,
      [66, 1],
      ...at([0, 0]),
      [70, s.closed ? 1 : 0],
      ...s.points.flatMap((p): Pair[] => [[0, "VERTEX"], layer, ...at(flip(p))]),
      [0, "SEQEND"],
      layer,
    ];
  };
  const pairs: Pair[] = [
    [0, "SECTION"],
    [2, "HEADER"],
    [999, "Units: millimetres"],
    [9, "$ACADVER"],
    [1, "AC1009"],
    // Millimetres, for readers that ask.
    [9, "$INSUNITS"],
    [70, 4],
    [9, "$MEASUREMENT"],
    [70, 1],
    [9, "$EXTMIN"],
    ...at([0, 0]),
    [9, "$EXTMAX"],
    ...at([coupon.widthMm, coupon.heightMm]),
    [0, "ENDSEC"],
    [0, "SECTION"],
    [2, "TABLES"],
    [0, "TABLE"],
    [2, "LTYPE"],
    [70, 1],
    [0, "LTYPE"],
    [2, "CONTINUOUS"],
    [70, 0],
    [3, "Solid line"],
    [72, 65],
    [73, 0],
    [40, num(0)],
    [0, "ENDTAB"],
    [0, "TABLE"],
    [2, "LAYER"],
    [70, coupon.layers.length],
    ...coupon.layers.flatMap((l, i): Pair[] => [
      [0, "LAYER"],
      [2, layerName(l.id)],
      [70, 0],
      [62, wheelIndexOf(i)],
      [6, "CONTINUOUS"],
    ]),
    [0, "ENDTAB"],
    [0, "ENDSEC"],
    [0, "SECTION"],
    [2, "ENTITIES"],
    ...coupon.layers.flatMap((l) => coupon.shapes.filter((s) => s.layer === l.id).flatMap(entity)),
    [0, "ENDSEC"],
    [0, "EOF"],
  ];
  return `${pairs.map(([code, value]) => `${code}\r\n${value}`).join("\r\n")}\r\n`;
}
