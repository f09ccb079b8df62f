/** How strong the machine is now, and why: the ladders set against hours and smoke. */
import { ROLE_TRAITS } from "#core/beam";
import { type Chain, type EventLog, type EventOf, firstAt } from "#core/events";
import { doseSinceClean, type Usage } from "#core/schedule";
import { type Condition, estimateCondition, foulingOf, type WearReading } from "#core/wear";
import { type LadderReading, resultOf } from "./ladders";
import type { Trade } from "./trade";

/** What a condition is estimated from. */
export interface Evidence {
  readonly trade: Trade;
  readonly log: EventLog;
  readonly usage: Usage;
  readonly ladders: Chain<LadderReading>;
  readonly nowMs: number;
  /** Fouling at ladders that was worked out before; filled further. */
  readonly fouling: Map<EventOf<"ladder">, number>;
}

/** Expected fouling loss over the whole path at a time, in ln power, at default rates. */
export function foulingAt({ trade, usage, log }: Pick<Evidence, "trade" | "usage" | "log">, atMs: number): number {
  const { stations, intervalPlyHours } = trade.layout;
  return stations
    .filter((s) => ROLE_TRAITS[s.role].isOptic)
    .reduce((sum, { id }) => sum + foulingOf(doseSinceClean(usage, log, id, atMs), intervalPlyHours[id] ?? Number.POSITIVE_INFINITY), 0);
}

function foulingAtLadder(e: Evidence, ladder: EventOf<"ladder">): number {
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

/** Condition at the present, told by the ladders up to a time. */
export function conditionAt(e: Evidence, baseline: EventOf<"ladder">, untilMs: number, serviceMs: number): Condition {
  const read = resultOf(baseline);
  const baseHours = e.usage.tubeHoursAt(baseline.atMs) ?? 0;
  const hours = Math.max(0, (e.usage.tubeHoursAt(e.nowMs) ?? baseHours) - baseHours);
  const fouling = foulingAt(e, e.nowMs) - foulingAtLadder(e, baseline);
  const readings = wearReadings(e, baseline, untilMs, serviceMs);
  return estimateCondition(readings, hours, Math.max(0, fouling), read.kind === "estimate" ? read.seLn : undefined);
}
