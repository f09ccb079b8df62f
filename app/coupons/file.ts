/** A test file to download: SVG or DXF. */
import { couponDxf, couponSvg } from "#core/coupon";
import { fileName, madeCoupon } from "#services/coupons/couponsView";
import { recordId } from "#services/forms/fields";
import { gatherOnce } from "#services/machine/gather";
import { reading } from "../server/reading";
import type { Route } from "./+types/file";

const FORMATS = {
  svg: { type: "image/svg+xml; charset=utf-8", write: couponSvg },
  dxf: { type: "application/dxf; charset=us-ascii", write: couponDxf },
} as const;

export const loader = reading(async ({ params, context }: Route.LoaderArgs) => {
  const g = await gatherOnce(context, params.machine);
  const { event, sheet, coupon } = madeCoupon(g, recordId(params.couponId));
  const format = params.format === "dxf" ? "dxf" : "svg";
  const { type, write } = FORMATS[format];
  return new Response(write(coupon), {
    headers: {
      "Content-Type": type,
      "Content-Disposition": `attachment; filename="${fileName(g, event, sheet)}.${format}"`,
      "Cache-Control": "no-store",
    },
  });
});
