/** How much smoke a station has seen between its services. */
import { countUpTo, type EventLog } from "#core/events";
import { lastReplacedMs, lastServiceMs, servicesAt } from "./services";
import type { Usage } from "./usage";

/** Ply-hours of a station's last spans between cleans up to a time, oldest first, the one that goes on last; a new part begins anew. */
export function dosesBetweenCleans(usage: Usage, log: EventLog, station: string, nowMs: number, most: number): number[] {
  const { cleaned } = servicesAt(log, station);
  const end = countUpTo(cleaned, nowMs);
  const newMs = lastReplacedMs(log, station, nowMs) ?? Number.NEGATIVE_INFINITY;
  const doses: number[] = [];
  let toMs = nowMs;
  for (let i = end - 1; doses.length < most; i--) {
    const fromMs = cleaned[i] ?? Number.NEGATIVE_INFINITY;
    doses.unshift(usage.smokeDose(fromMs, toMs));
    if (i < 0 || fromMs <= newMs) break;
    toMs = fromMs;
  }
  return doses;
}

/** Ply-hours a station has seen since its last clean (or since the log began), >= 0. */
export function doseSinceClean(usage: Usage, log: EventLog, station: string, nowMs: number): number {
  const since = lastServiceMs(log, station, { untilMs: nowMs }) ?? Number.NEGATIVE_INFINITY;
  return usage.smokeDose(since, nowMs, station === "nozzle" ? "nozzle" : "optics");
}
