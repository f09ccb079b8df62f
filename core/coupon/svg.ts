import { hexOf } from "./colours";
import type { Coupon, CouponShape } from "./types";

/** To the thousandth of a millimetre. */
const mm = (value: number): string => String(Number(value.toFixed(3)));
const text = (value: string): string =>
  value.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");

/** The lines of a shape as a path's data. */
export const pathData = (points: readonly (readonly [number, number])[], closed: boolean | undefined): string =>
  `${points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${mm(x)} ${mm(y)}`).join("")}${closed ? "Z" : ""}`;

const element = (s: CouponShape): string =>
  s.form === "circle" ? `<circle cx="${mm(s.x)}" cy="${mm(s.y)}" r="${mm(s.radiusMm)}"/>` : `<path d="${pathData(s.points, s.closed)}"/>`;

/** The drawing as SVG in millimetres: one group and one colour a layer, in the order they are done. */
export function couponSvg(coupon: Coupon): string {
  const groups = coupon.layers.map((layer, i) => {
    const lines = coupon.shapes.filter((s) => s.layer === layer.id).map(element);
    return `<g id="${layer.id}" stroke="${hexOf(i)}"><title>${text(layer.name)}</title>\n${lines.join("\n")}\n</g>`;
  });
  const [w, h] = [mm(coupon.widthMm), mm(coupon.heightMm)];
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}" fill="none" stroke-width="0.1">
<title>${text(coupon.title)}</title>
${groups.join("\n")}
</svg>
`;
}
