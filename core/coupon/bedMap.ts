/** Five short ladders, at the corners of the bed and in its middle, in one file as large as the bed. */
import type { Units } from "#core/units";
import { LEGEND, LINE_MM, legend, lengthIn, lengthWords, settingLayer } from "./draw";
import { rungGrid } from "./ladder";
import type { Coupon, CouponPlace, CouponRefusal } from "./types";

/** Its places as the drawing lies on the bed: its top is the back of the machine. */
const PLACES = [
  { id: "back-left", name: "back left", across: 0, down: 0 },
  { id: "back-right", name: "back right", across: 1, down: 0 },
  { id: "middle", name: "middle", across: 0.5, down: 0.5 },
  { id: "front-left", name: "front left", across: 0, down: 1 },
  { id: "front-right", name: "front right", across: 1, down: 1 },
] as const;
export type BedPlaceId = (typeof PLACES)[number]["id"];
export const BED_PLACES: readonly { readonly id: BedPlaceId; readonly name: string }[] = PLACES;

export interface BedMapWishes {
  /** Of its words. */
  readonly units: Units;
  readonly sheet: string;
  readonly setPercent: number;
  readonly speeds: readonly number[];
  readonly sizeMm: number;
  readonly marginMm: number;
  readonly bedWidthMm: number;
  readonly bedDepthMm: number;
}

export function bedMapCoupon(wishes: BedMapWishes): Coupon | CouponRefusal {
  const { units, sheet, setPercent, speeds, sizeMm, marginMm, bedWidthMm, bedDepthMm } = wishes;
  const layers = speeds.map((v) => settingLayer(units, v, setPercent));
  const one = rungGrid(units, layers, 0, 0, sizeMm);
  const high = one.heightMm + LINE_MM;
  if (one.widthMm > (bedWidthMm - 2 * marginMm) / 2.2 || high > (bedDepthMm - 2 * marginMm) / 3.2)
    return {
      field: "sizeMm",
      reason: `Five ladders of ${lengthIn(units, one.widthMm)} by ${lengthWords(units, high)} do not fit this bed. Take smaller squares, fewer speeds or less margin.`,
    };
  const places: CouponPlace[] = [];
  const drawn = PLACES.map(({ id, name, across, down }) => {
    const left = marginMm + across * (bedWidthMm - 2 * marginMm - one.widthMm);
    const top = marginMm + down * (bedDepthMm - 2 * marginMm - high);
    places.push({ id, name, xMm: left + one.widthMm / 2, yMm: top + high / 2 });
    const grid = rungGrid(units, layers, left, top + LINE_MM, sizeMm, id);
    return { shapes: [...legend(name, left, top), ...grid.shapes], targets: grid.targets };
  });
  return {
    title: `Bed map, ${sheet}`,
    widthMm: bedWidthMm,
    heightMm: bedDepthMm,
    layers: [LEGEND, ...layers],
    shapes: drawn.flatMap((d) => d.shapes),
    targets: drawn.flatMap((d) => d.targets),
    places,
  };
}
