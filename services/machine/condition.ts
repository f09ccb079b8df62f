/** How strong the machine is now, and why: the ladders set against hours and smoke. */
import { ROLE_TRAITS } from "#core/beam";
import { censoredRatio, LADDER_SLOPE } from "#core/cuts";
import { type Chain, type EventLog, type EventOf, firstAt, type MachineEvent } from "#core/events";
import { doseSinceClean, type Usage } from "#core/schedule";
import { type Condition, estimateCondition, foulingOf, type WearBound, type WearReading } from "#core/wear";
import { baselineFor, type LadderReading, resultOf } from "./ladders";
import type { Trade } from "./trade";

/** What a condition is estimated from. */
export interface Evidence {
  readonly trade: Trade;
  readonly log: EventLog;
  readonly usage: Usage;
  readonly ladders: Chain<LadderReading>;
  readonly nowMs: number;
  /** Exponent of a material, by its id. */
  readonly betaOf: (materialId: number) => number;
  /** Fouling at ladders and cuts that was worked out before; filled further. */
  readonly fouling: Map<MachineEvent, number>;
}

/** Expected fouling loss over the whole path at a time, in ln power, at default rates. */
export function foulingAt({ trade, usage, log }: Pick<Evidence, "trade" | "usage" | "log">, atMs: number): number {
  const { stations, intervalPlyHours } = trade.layout;
  return stations
    .filter((s) => ROLE_TRAITS[s.role].isOptic)
    .reduce((sum, { id }) => sum + foulingOf(doseSinceClean(usage, log, id, atMs), intervalPlyHours[id] ?? Number.POSITIVE_INFINITY), 0);
}

function foulingAtLadder(e: Evidence, ladder: MachineEvent): number {
  const known = e.fouling.get(ladder) ?? foulingAt(e, ladder.atMs);
  e.fouling.set(ladder, known);
  return known;
}

/** What the ladders between two times say, each with the use behind it, for the estimate of wear. */
function wearReadings(e: Evidence, baseline: EventOf<"ladder">, untilMs: number, serviceMs: number): WearReading[] {
  const baseHours = e.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const baseFouling = foulingAtLadder(e, baseline);
  const since = e.ladders.slice(firstAt(e.log.kinds.ladder, baseline.atMs));
  return since.flatMap(({ event, effective, material }) => {
    if (event.atMs > untilMs || event.id === baseline.id) return [];
    const read = resultOf(event);
    if (effective.kind !== "ratio" || read.kind !== "estimate") return [];
    return [
      {
        lnRatio: Math.log(effective.ratio),
        se: (material?.beta ?? 1) * read.seLn,
        hoursSinceBaseline: Math.max(0, (e.usage.tubeHoursAt(event.atMs) ?? baseHours) - baseHours),
        fouling: Math.max(0, foulingAtLadder(e, event) - baseFouling),
        sinceService: event.atMs >= serviceMs,
      },
    ];
  });
}

/** As many of the latest bounds as can still say something. */
const MOST_BOUNDS = 40;

/** Ladders of which every rung ended alike, and single cuts: each says that there was enough power for something, or not. */
function wearBounds(e: Evidence, baseline: EventOf<"ladder">, untilMs: number, serviceMs: number): WearBound[] {
  const baseHours = e.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const baseFouling = foulingAtLadder(e, baseline);
  const within = (atMs: number) => atMs > baseline.atMs && atMs <= untilMs;
  const ladders = e.ladders.slice(firstAt(e.log.kinds.ladder, baseline.atMs)).flatMap(({ event, effective }) => {
    if (!within(event.atMs) || (effective.kind !== "at-least" && effective.kind !== "at-most")) return [];
    const side = effective.kind === "at-least" ? ("above" as const) : ("below" as const);
    return [{ event, side, lnRatio: Math.log(effective.ratio), sd: LADDER_SLOPE }];
  });
  const cuts = e.log.kinds.cut.slice(firstAt(e.log.kinds.cut, baseline.atMs)).flatMap((event) => {
    const base = within(event.atMs) ? baselineFor(e.log, event.payload.materialId, event.atMs) : undefined;
    const beta = e.betaOf(event.payload.materialId);
    const said = base && censoredRatio(event.payload, { result: resultOf(base), setPercent: base.payload.setPercent }, beta);
    // One that hangs says as much from either side.
    if (!said) return [];
    const sides = said.side === "about" ? (["above", "below"] as const) : [said.side];
    return sides.map((side) => ({ event, side, lnRatio: said.lnRatio, sd: said.sd }));
  });
  const all = [...ladders, ...cuts].sort((a, b) => a.event.atMs - b.event.atMs).slice(-MOST_BOUNDS);
  const lastLadderMs = e.log.kinds.ladder.findLast((l) => l.atMs <= untilMs)?.atMs ?? 0;
  return all.map(({ event, side, lnRatio, sd }) => ({
    side,
    lnRatio,
    sd,
    hoursSinceBaseline: Math.max(0, (e.usage.tubeHoursAt(event.atMs) ?? baseHours) - baseHours),
    fouling: Math.max(0, foulingAtLadder(e, event) - baseFouling),
    sinceService: event.atMs >= serviceMs,
    isLast: event.kind === "ladder" && event.atMs === lastLadderMs && event.atMs >= serviceMs,
  }));
}

/** Condition at the present, told by the ladders and cuts up to a time. */
export function conditionAt(e: Evidence, baseline: EventOf<"ladder">, untilMs: number, serviceMs: number): Condition {
  const read = resultOf(baseline);
  const baseHours = e.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const hours = Math.max(0, (e.usage.tubeHoursAt(e.nowMs) ?? baseHours) - baseHours);
  const fouling = foulingAt(e, e.nowMs) - foulingAtLadder(e, baseline);
  const readings = wearReadings(e, baseline, untilMs, serviceMs);
  const bounds = wearBounds(e, baseline, untilMs, serviceMs);
  return estimateCondition(readings, hours, Math.max(0, fouling), read.kind === "estimate" ? read.seLn : undefined, bounds);
}
