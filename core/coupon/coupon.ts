import { METRIC, type Units } from "#core/units";
import { bedMapCoupon } from "./bedMap";
import { ladderCoupon } from "./ladder";
import type { CouponForm, CouponSpec } from "./schema";
import { blockCoupon, type OneSetting, rampCoupon, ringsCoupon, shapesCoupon } from "./small";
import type { Coupon, CouponRefusal } from "./types";

/** What a form takes where its owner says nothing. Lengths in mm. */
export const COUPON_DEFAULTS: { readonly [F in CouponForm]: Partial<CouponSpec> } = {
  ladder: { sizeMm: 15, marginMm: 5 },
  shapes: { sizeMm: 20, marginMm: 5 },
  "bed-map": { sizeMm: 10, marginMm: 15 },
  ramp: { lengthMm: 120, riseMm: 12, marginMm: 5 },
  block: { sizeMm: 20, marginMm: 5, lineMm: 0.2 },
  rings: { sizeMm: 20, marginMm: 8 },
};

/** Fields each form asks for, in the order they are asked. */
export const COUPON_FIELDS: { readonly [F in CouponForm]: readonly (keyof CouponSpec)[] } = {
  ladder: ["materialId", "setPercent", "speedsMmPerS", "sizeMm", "marginMm"],
  shapes: ["materialId", "setPercent", "speedsMmPerS", "sizeMm", "marginMm"],
  "bed-map": ["materialId", "setPercent", "speedsMmPerS", "sizeMm", "marginMm", "bedWidthMm", "bedDepthMm"],
  ramp: ["materialId", "setPercent", "speedsMmPerS", "lengthMm", "riseMm", "marginMm"],
  block: ["materialId", "setPercent", "speedsMmPerS", "sizeMm", "lineMm", "marginMm"],
  rings: ["sizeMm", "marginMm"],
};

/** Speeds as a person writes a list of them: "9 10 11", "9, 10, 11", "9;10,5". `bad` is the first word that is no number. */
export function readSpeeds(text: string): { readonly speeds: readonly number[]; readonly bad: string | undefined } {
  const words = text.split(/[;\s]+|,(?=\s)/).filter(Boolean);
  const speeds = words.map((w) => Number(w.replace(",", ".")));
  return { speeds, bad: words.find((_, i) => !Number.isFinite(speeds[i])) };
}

/** Width of the cut (mm): what a square that fell is smaller by than it was drawn; undefined where that cannot be one. */
export function kerfOf(drawnMm: number, measuredMm: number): number | undefined {
  const kerf = drawnMm - measuredMm;
  return kerf > 0 && kerf < 5 ? Number(kerf.toFixed(3)) : undefined;
}

const missing = (field: keyof CouponSpec): CouponRefusal => ({ field, reason: "Still missing." });

/**
 * The drawing of a test file, or the field that keeps it from being made. `sheet` names the material in the legend ("3 mm birch ply"), `units` what its words say.
 * The same input gives the same drawing, to the last figure.
 *
 * @example couponOf({ form: "ladder", setPercent: 60, speedsMmPerS: [10, 11, 12] }, "3 mm birch ply")
 */
export function couponOf(spec: CouponSpec, sheet: string, units: Units = METRIC): Coupon | CouponRefusal {
  const s = { ...COUPON_DEFAULTS[spec.form], ...spec };
  for (const field of COUPON_FIELDS[spec.form]) if (field !== "materialId" && s[field] === undefined) return missing(field);
  const sizeMm = s.sizeMm ?? 15;
  const marginMm = s.marginMm ?? 5;
  if (spec.form === "rings") return ringsCoupon(units, sizeMm, marginMm);
  const setPercent = s.setPercent ?? 60;
  const speeds = [...new Set(s.speedsMmPerS ?? [])].sort((a, b) => a - b);
  const one: OneSetting = { units, sheet, setPercent, sizeMm, marginMm, speedMmPerS: speeds[0] ?? 10 };
  switch (spec.form) {
    case "ladder":
      return speeds.length < 2
        ? { field: "speedsMmPerS", reason: "Two speeds at least: some squares must drop and some stay." }
        : ladderCoupon(units, sheet, setPercent, speeds, sizeMm, marginMm);
    case "bed-map":
      return speeds.length < 2
        ? { field: "speedsMmPerS", reason: "Two speeds at least: some squares must drop and some stay." }
        : bedMapCoupon({
            units,
            sheet,
            setPercent,
            speeds,
            sizeMm,
            marginMm,
            bedWidthMm: s.bedWidthMm ?? 0,
            bedDepthMm: s.bedDepthMm ?? 0,
          });
    case "shapes":
      return shapesCoupon(one);
    case "ramp":
      return rampCoupon(one, s.lengthMm ?? 120, s.riseMm ?? 12);
    case "block":
      return blockCoupon(one, s.lineMm ?? 0.2);
    default:
      return spec.form satisfies never;
  }
}

export const isRefusal = (coupon: Coupon | CouponRefusal): coupon is CouponRefusal => "reason" in coupon;
