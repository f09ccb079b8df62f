/**
 * Test files: speed ladder, square and circle, bed map, focus ramp, engraved block and rings for tape, drawn in millimetres and written as
 * SVG or DXF of release 12. Plain geometry; the same input gives the same file to the last byte. The formats by their published
 * descriptions (SVG 1.1; DXF release 12).
 */
export { BED_PLACES, type BedPlaceId } from "./bedMap";
export { hexOf } from "./colours";
export { COUPON_DEFAULTS, COUPON_FIELDS, couponOf, isRefusal, kerfOf, readSpeeds } from "./coupon";
export { couponDxf } from "./dxf";
export { COUPON_FORMS, type CouponForm, type CouponSpec, couponSchema } from "./schema";
export { couponSvg, pathData } from "./svg";
export type { Coupon, CouponLayer, CouponPlace, CouponRefusal, CouponShape, CouponTarget } from "./types";
