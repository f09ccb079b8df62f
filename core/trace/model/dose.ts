/** How much smoke a station has seen, as it was told. */
import type { TraceUsage } from "./types";

/** Ply-hours since a station was cleaned, from the dose if known, else hours of plain birch; undefined when neither is. */
export function doseOf(usage: TraceUsage, station: string): number | undefined {
  return usage.smokeDoseSinceClean?.[station] ?? usage.hoursSinceClean?.[station];
}
