/** What the log's forms offer: materials with the rungs to try, usual speeds, stations. */
import { materialKinds } from "#catalog/materials";
import { ROLE_TRAITS } from "#core/beam";
import { BED_PLACES, couponOf, isRefusal } from "#core/coupon";
import { IN_HAND } from "#core/cuts";
import type { EventOf, MachineEvent } from "#core/events";
import type { Gathered } from "../machine/gathered";
import { cutBase, powerToday } from "../machine/known";
import { baselineFor, resultOf } from "../machine/ladders";
import { usualSetPercent } from "../machine/usual";
import { materialName, number, shortDay } from "../words";
import { doneParts } from "./kinds/service";
import { keptText, rungsHere } from "./rungs";

/** A material a ladder can be cut in, with the speeds to try. */
export interface LadderMaterial {
  readonly id: number;
  readonly label: string;
  readonly setPercent: string;
  /** Speeds to try, mm/s. */
  readonly rungs: readonly string[];
  /** The test file they come from. */
  readonly file?: { readonly id: number; readonly day: string };
}

/** What a bed map is told on: where its coupons lay and the speeds of each. */
export interface BedMapStart {
  readonly bedWidthMm: string;
  readonly bedDepthMm: string;
  readonly places: readonly { readonly id: string; readonly name: string; readonly xMm: number; readonly yMm: number }[];
  /** Of every place, slowest first; as text, mm/s. */
  readonly speeds: readonly string[];
}

export interface EntryOptions {
  /** The map that was made last, or the one that is corrected. */
  readonly bedMap: BedMapStart | undefined;
  /** Simulated devices can fill fields. */
  readonly hasBench: boolean;
  /** As it is written after an amount. */
  readonly currency: string;
  readonly materials: readonly LadderMaterial[];
  readonly speeds: Readonly<Record<string, string>>;
  /** No ladder was ever cut here: what one is has to be said. */
  readonly firstLadder: boolean;
  /** Parts something can be done to. */
  readonly done: readonly { readonly value: string; readonly label: string }[];
  readonly stations: readonly { readonly id: string; readonly name: string; readonly powered: boolean }[];
}

const offered = (m: Gathered["materials"][number]) => !m.hidden;

/** The newest ladder file of a material of which no result was told yet. */
function uncutFile(g: Gathered, materialId: number): EventOf<"coupon"> | undefined {
  const { coupon, ladder } = g.log.kinds;
  const made = coupon.findLast((e) => e.payload.form === "ladder" && e.payload.materialId === materialId);
  const cut = ladder.findLast((e) => e.payload.materialId === materialId);
  return made && made.atMs > (cut?.atMs ?? 0) ? made : undefined;
}

/** ln power today against the ladder a material is measured by; nought while no baseline says. */
function todayOf(g: Gathered, m: Gathered["materials"][number]): number {
  const base = cutBase(g, m);
  return (base && powerToday(g, base, m)?.lnRatio) ?? 0;
}

/** Speeds to cut next: those of the file that was made for it; else around the last baseline, else around what this kind of sheet usually takes. */
export function ladderMaterials(g: Gathered): LadderMaterial[] {
  return g.materials
    .filter((m) => offered(m) && !materialKinds.find((k) => k.id === m.kind)?.engraved)
    .map((m) => {
      const base = baselineFor(g.log, m.id, g.nowMs);
      const read = base && resultOf(base);
      const kind = materialKinds.find((k) => k.id === m.kind);
      const typical = ((kind?.speedAt3mm ?? 12) * 3 * (g.machine.ratedPowerW / 80)) / m.thicknessMm;
      // Around where it should drop today, so that some rungs drop and some stay.
      const expected =
        read?.kind === "estimate" ? read.v50 * Math.min(1, Math.exp(todayOf(g, m) / m.beta)) : (m.usualSpeedMmPerS ?? typical) / IN_HAND;
      const made = uncutFile(g, m.id);
      const setPercent = made?.payload.setPercent ?? base?.payload.setPercent ?? usualSetPercent(m);
      const speeds = made?.payload.speedsMmPerS ?? rungsHere(expected);
      return {
        id: m.id,
        label: materialName(m),
        setPercent: number(setPercent, 0),
        rungs: speeds.map(keptText),
        ...(made ? { file: { id: made.id, day: shortDay(made.atMs, g.nowMs) } } : {}),
      };
    });
}

/** The drawing a bed map is told on, from the file it was cut by. */
export function bedMapStart(spec: EventOf<"coupon">["payload"]): BedMapStart | undefined {
  const drawn = couponOf(spec, "");
  if (isRefusal(drawn)) return undefined;
  return {
    bedWidthMm: number(drawn.widthMm, 2),
    bedDepthMm: number(drawn.heightMm, 2),
    places: drawn.places,
    speeds: [...(spec.speedsMmPerS ?? [])].sort((a, b) => a - b).map(keptText),
  };
}

/** The same from a map that was told. */
function bedMapTold({ bedWidthMm, bedDepthMm, places }: EventOf<"bed-map">["payload"]): BedMapStart {
  return {
    bedWidthMm: number(bedWidthMm, 2),
    bedDepthMm: number(bedDepthMm, 2),
    places: places.map((p) => ({ id: p.place, name: BED_PLACES.find((b) => b.id === p.place)?.name ?? p.place, xMm: p.xMm, yMm: p.yMm })),
    speeds: (places[0]?.rungs ?? []).map((r) => keptText(r.speedMmPerS)),
  };
}

export function entryOptions(g: Gathered, editing?: MachineEvent): EntryOptions {
  const mapFile = g.log.kinds.coupon.findLast((e) => e.payload.form === "bed-map");
  return {
    bedMap: editing?.kind === "bed-map" ? bedMapTold(editing.payload) : mapFile && bedMapStart(mapFile.payload),
    currency: g.currency,
    hasBench: g.hasBench,
    materials: ladderMaterials(g),
    speeds: Object.fromEntries(g.materials.map((m) => [String(m.id), m.usualSpeedMmPerS === undefined ? "" : number(m.usualSpeedMmPerS)])),
    firstLadder: g.log.kinds.ladder.length === 0,
    done: doneParts(g).map(({ id, name }) => ({ value: id, label: name })),
    stations: g.trade.layout.stations.map((s) => ({
      id: s.id,
      name: g.trade.layout.names[s.id] ?? s.id,
      powered: ROLE_TRAITS[s.role].isMetered,
    })),
  };
}
