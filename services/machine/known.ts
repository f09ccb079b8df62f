/** What a cut is weighed by: today's power with its uncertainty, the ladder or setting it is measured against, the weakest place of the bed. */

import { IN_HAND, type KnownPower, readBedMap } from "#core/cuts";
import type { EventOf } from "#core/events";
import { Z90 } from "#core/normal";
import { lossAt } from "#core/wear";
import type { Material } from "#store/machines";
import { bedLadders } from "./bedMaps";
import { foulingAt } from "./condition";
import type { Gathered } from "./gather";
import { baselineFor, resultOf } from "./ladders";
import { usualSetPercent } from "./usual";

/** Undefined while no baseline says what best is. */
export function knownPower(g: Gathered): KnownPower | undefined {
  const { condition } = g;
  return condition && { lnRatio: Math.log(condition.ratio), sd: Math.log(condition.high / condition.low) / (2 * Z90) };
}

export interface CutBase {
  /** Speed at which half would drop on the machine at its best, mm/s. */
  readonly v50: number;
  readonly setPercent: number;
  /** The ladder it is from; a usual setting stands in for one. */
  readonly ladder: EventOf<"ladder"> | undefined;
}

/** What a material's cuts are measured against: its baseline ladder, else its usual setting; undefined where neither is known. */
export function cutBase(
  g: Pick<Gathered, "log" | "nowMs" | "baseline" | "condition" | "trade" | "usage">,
  material: Material,
): CutBase | undefined {
  const ladder = baselineFor(g.log, material.id, g.nowMs);
  const read = ladder && resultOf(ladder);
  // Where its own baseline was cut later, the machine had worn since the one that best means.
  if (ladder && read?.kind === "estimate")
    return { v50: read.v50 * Math.exp(wornBy(g, ladder.atMs) / material.beta), setPercent: ladder.payload.setPercent, ladder };
  if (material.usualSpeedMmPerS === undefined) return undefined;
  return { v50: material.usualSpeedMmPerS / IN_HAND, setPercent: usualSetPercent(material), ladder: undefined };
}

/** What had worn between the reference baseline and a time, in ln power, by the fit. */
export function wornBy(g: Pick<Gathered, "log" | "baseline" | "condition" | "trade" | "usage">, atMs: number): number {
  const { baseline, condition } = g;
  if (!baseline || !condition || atMs === baseline.atMs) return 0;
  const hours = g.usage.tubeHoursBetween(baseline.atMs, atMs);
  const then = foulingAt(g, baseline.atMs);
  return lossAt(condition.fit, { hours, fouling: foulingAt(g, atMs).map((f, i) => f - (then[i] ?? 0)) }).mean;
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
