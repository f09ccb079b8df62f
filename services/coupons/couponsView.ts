/** View models of the place Coupons: a test file to make, and one that was made. */

import { COUPON_DEFAULTS, COUPON_FIELDS, COUPON_FORMS, type Coupon, type CouponForm, couponOf, isRefusal } from "#core/coupon";
import { type EventOf, newestBefore } from "#core/events";
import { describeEvent } from "../log/describeEvent";
import { bedMapStart, ladderMaterials } from "../log/options";
import { keptText } from "../log/rungs";
import { COUPON_WORDS } from "../log/words";
import type { Gathered } from "../machine/gathered";
import { startingLayout } from "../machine/trade";
import { usualSetPercent } from "../machine/usual";
import { NotHere } from "../refusal";
import { unitsInForce } from "../units";
import { materialName, number, shortDay } from "../words";

const MADE_SHOWN = 8;
/** Squares of each place of a map: five of them are cut. */
const MAP_SQUARES = 6;
/** Lines of a ramp and of a block are engraved, not cut. */
const ENGRAVED = { ramp: { speed: 100, setPercent: 20 }, block: { speed: 300, setPercent: 20 } } as const;

/** The fields of a form as a page fills them: text, by the form they are of and the material they are for. */
export type CouponStart = Readonly<Record<string, string>>;

function startOf(g: Gathered, form: CouponForm, materialId: number | undefined): CouponStart {
  const { fittings } = g.trade.layout;
  const layout = startingLayout(g.machine.layout).fittings;
  const material = g.materials.find((m) => !m.hidden && m.id === materialId) ?? g.materials.find((m) => !m.hidden);
  const ladder = ladderMaterials(g).find((m) => m.id === material?.id);
  const rungs = ladder?.rungs ?? [];
  const from = Math.floor((rungs.length - MAP_SQUARES) / 2);
  const speeds: { readonly [F in CouponForm]: readonly string[] } = {
    ladder: rungs,
    "bed-map": rungs.slice(Math.max(0, from), Math.max(0, from) + MAP_SQUARES),
    shapes: [material?.usualSpeedMmPerS === undefined ? (rungs[0] ?? "10") : number(material.usualSpeedMmPerS)],
    ramp: [String(ENGRAVED.ramp.speed)],
    block: [String(ENGRAVED.block.speed)],
    rings: [],
  };
  const setPercent =
    form === "ramp" || form === "block"
      ? ENGRAVED[form].setPercent
      : ladder
        ? Number(ladder.setPercent)
        : material
          ? usualSetPercent(material)
          : 60;
  const all: Record<string, number | string | undefined> = {
    ...COUPON_DEFAULTS[form],
    materialId: material?.id,
    setPercent,
    speedsMmPerS: speeds[form].join(" "),
    bedWidthMm: fittings.bedWidthMm ?? layout.bedWidthMm,
    bedDepthMm: fittings.bedDepthMm ?? layout.bedDepthMm,
    ...(form === "rings" ? { sizeMm: g.trade.layout.stations.find((s) => s.role === "mirror")?.apertureMm } : {}),
  };
  return Object.fromEntries(COUPON_FIELDS[form].map((f) => [f, String(all[f] ?? "")]));
}

/** `search` of the page: the form, and the material it is for. */
export function couponsView(g: Gathered, search: URLSearchParams) {
  const form = COUPON_FORMS.find((f) => f === search.get("form")) ?? "ladder";
  const materials = g.materials.filter((m) => !m.hidden);
  return {
    slug: g.machine.slug,
    form,
    forms: COUPON_FORMS.map((id) => ({ id, ...COUPON_WORDS[id] })),
    materials: materials.map((m) => ({ value: String(m.id), label: materialName(m) })),
    /** Starting fields for each material; without one where the form needs none. */
    starts: Object.fromEntries(materials.map((m) => [String(m.id), startOf(g, form, m.id)])),
    materialId: search.get("material") ?? String(materials[0]?.id ?? ""),
    made: newestBefore(g.log, ["coupon"], MADE_SHOWN).map((e) => ({
      id: e.id,
      day: shortDay(e.atMs, g.nowMs),
      text: describeEvent(e, g).text,
    })),
  };
}

/** The drawing of a file that was made. Throws NotHere. */
export function madeCoupon(g: Gathered, id: number | undefined): { event: EventOf<"coupon">; sheet: string; coupon: Coupon } {
  const event = g.log.kinds.coupon.findLast((e) => e.id === id);
  if (!event) throw new NotHere("This test file is not in the log.");
  const sheet = event.payload.materialId === undefined ? "" : materialName(g.materials.find((m) => m.id === event.payload.materialId));
  const coupon = couponOf(event.payload, sheet, unitsInForce());
  if (isRefusal(coupon)) throw new NotHere(`This test file cannot be drawn: ${coupon.reason}`);
  return { event, sheet, coupon };
}

export function madeView(g: Gathered, id: number | undefined) {
  const { event, sheet, coupon } = madeCoupon(g, id);
  const { payload } = event;
  return {
    id: event.id,
    slug: g.machine.slug,
    machine: g.machine.name,
    day: shortDay(event.atMs, g.nowMs),
    sheet,
    ...COUPON_WORDS[payload.form],
    form: payload.form,
    coupon,
    materialId: payload.materialId === undefined ? undefined : String(payload.materialId),
    setPercent: payload.setPercent === undefined ? undefined : number(payload.setPercent, 0),
    speeds: [...(payload.speedsMmPerS ?? [])].sort((a, b) => a - b).map(keptText),
    bedMap: payload.form === "bed-map" ? bedMapStart(payload) : undefined,
    size: payload.sizeMm ?? COUPON_DEFAULTS[payload.form].sizeMm,
    stations: g.trade.layout.stations
      .filter((s) => s.role !== "tube")
      .map((s) => ({ value: s.id, label: g.trade.layout.names[s.id] ?? s.id })),
    hasBaseline: g.baseline !== undefined,
  };
}

/** Name of a download: machine, form and sheet, as file systems like it. */
export function fileName(g: Gathered, event: EventOf<"coupon">, sheet: string): string {
  return [g.machine.slug, event.payload.form, sheet, String(event.id)]
    .join("-")
    .normalize("NFD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
}
