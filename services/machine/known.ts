/** What a cut is weighed by: today's power with its uncertainty, the ladder or setting it is measured against, the weakest place of the bed. */

import { IN_HAND, type KnownPower, readBedMap } from "#core/cuts";
import type { EventOf } from "#core/events";
import { lossOf, readingNow, SHEET_SD } from "#core/wear";
import type { Material } from "#store/machines";
import { bedLadders } from "./bedMaps";
import { momentAt } from "./condition";
import type { Gathered } from "./gathered";
import { baselineFor, resultOf } from "./ladders";
import { usualSetPercent } from "./usual";

export interface CutBase {
  /** Speed at which half would drop, mm/s, as the ladder read it. */
  readonly v50: number;
  readonly setPercent: number;
  /** The ladder it is from; a usual setting stands in for one. */
  readonly ladder: EventOf<"ladder"> | undefined;
}

/** What a material's cuts are measured against: its baseline ladder, else its usual setting; undefined where neither is known. */
export function cutBase(g: Pick<Gathered, "log" | "nowMs">, material: Material): CutBase | undefined {
  const ladder = baselineFor(g.log, material.id, g.nowMs);
  const read = ladder && resultOf(ladder);
  if (ladder && read?.kind === "estimate") return { v50: read.v50, setPercent: ladder.payload.setPercent, ladder };
  if (material.usualSpeedMmPerS === undefined) return undefined;
  return { v50: material.usualSpeedMmPerS / IN_HAND, setPercent: usualSetPercent(material), ladder: undefined };
}

/** The drop curve may be wider than it is taken for, and the next sheet is not the last: what that adds, in ln power. */
const CUT_SD = 0.03;
/** How far a usual setting may lie off what a ladder would have shown, in ln power. */
const USUAL_SD = 0.1;

/** What a ladder of a material is set against, and what it shares with others: the one record of it that every place asks by. */
export function toldBy(g: Gathered, base: CutBase, material: Material): Parameters<typeof readingNow>[2] {
  const { baseline } = g;
  if (!base.ladder || !baseline) return {};
  const isOwn = base.ladder.id === baseline.id || base.ladder.atMs < baseline.atMs;
  return {
    sheet: String(material.id),
    ...(isOwn ? {} : { base: momentAt(g, baseline, base.ladder.atMs), way: `ladder ${base.ladder.id}` }),
  };
}

/** So many of its last ladders tell how a material hangs before it drops. */
const HANGING_LADDERS = 10;

/**
 * How far below the speed at which a ladder counts half (ln speed) a cut must stay to drop and not hang: half of what hangs in this
 * material's last ladders. Nought where nothing ever hangs.
 */
function hangingBelow(g: Pick<Gathered, "ladders">, material: Material): number {
  let [hung, ladders] = [0, 0];
  for (let i = g.ladders.length - 1; i >= 0 && ladders < HANGING_LADDERS; i--) {
    const rungs = g.ladders.at(i)?.event.payload.rungs ?? [];
    if (g.ladders.at(i)?.event.payload.materialId !== material.id || rungs.length < 2) continue;
    const speeds = rungs.map((r) => r.speedMmPerS);
    const step = Math.log(Math.max(...speeds) / Math.min(...speeds)) / (rungs.length - 1);
    hung += step * rungs.filter((r) => r.end === "hangs").length;
    ladders += 1;
  }
  return ladders === 0 ? 0 : hung / ladders / 2;
}

/**
 * Effective power today against what a material's cuts are measured by, as ladders of it would read on a middling sheet of the batch in the
 * shop: the error of its baseline drops out. Undefined while no baseline says what best is.
 */
export function powerToday(g: Gathered, base: CutBase, material: Material): KnownPower | undefined {
  const { condition } = g;
  if (!condition) return undefined;
  const { mean, sd } = readingNow(condition.fit, condition.moment, toldBy(g, base, material));
  return { lnRatio: mean - material.beta * hangingBelow(g, material), sd };
}

/** The same for one cut, with what its own sheet differs by. */
export function knownPower(g: Gathered, base: CutBase, material: Material): KnownPower | undefined {
  const known = powerToday(g, base, material);
  return known && { lnRatio: known.lnRatio, sd: Math.hypot(known.sd, SHEET_SD, CUT_SD, base.ladder ? 0 : USUAL_SD) };
}

/** What had worn between the reference baseline and a time, in ln power, by the fit. */
export function wornBy(g: Gathered, atMs: number): number {
  const { baseline, condition } = g;
  if (!baseline || !condition || atMs === baseline.atMs) return 0;
  return lossOf(condition.fit, momentAt(g, baseline, atMs)).mean;
}

export interface BedState {
  readonly event: EventOf<"bed-map">;
  readonly reading: Extract<ReturnType<typeof readBedMap>, { kind: "map" }>;
  /** ln power of each place against the middle, in the order of the record. */
  readonly lnPlaces: readonly number[];
}

/** The last bed map that can be read and that nothing has made old: the aim or a mirror's seat was not touched since. */
export function bedState(g: Pick<Gathered, "log" | "trade" | "materials" | "openCases">): BedState | undefined {
  const event = g.log.kinds["bed-map"].at(-1);
  if (!event) return undefined;
  const touched = g.log.kinds.service.findLast(
    (s) =>
      s.atMs > event.atMs && (s.payload.what === "aimed" || (s.payload.station.startsWith("mirror-") && s.payload.what === "seat-opened")),
  );
  const reading = readBedMap(bedLadders(event.payload), g.trade.layout.fittings.beamCorner);
  // Something sudden has happened to the light since: the case says where it is weak now.
  const overtaken = g.openCases.some((c) => c.symptom === "power" && c.onsetMs > event.atMs);
  if (touched || overtaken || reading.kind !== "map") return undefined;
  const beta = g.materials.find((m) => m.id === event.payload.materialId)?.beta ?? 1;
  const middle = event.payload.places.findIndex((p) => p.place === "middle");
  const from = reading.lnV50[middle] ?? Math.max(...reading.lnV50);
  return { event, reading, lnPlaces: reading.lnV50.map((v) => beta * (v - from)) };
}
