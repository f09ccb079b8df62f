/** Watts however they were read: walks with a meter, and runs of the probe. */
import type { EventLog, EventOf, MachineEvent } from "#core/events";
import { eventsBetween } from "#core/events";
import { fitProbe, type ProbeResult } from "#core/probe";

const fits = new WeakMap<EventOf<"probe">, ProbeResult>();

/** What a run of the probe says, worked out once. */
export function probeResult(event: EventOf<"probe">): ProbeResult {
  const known = fits.get(event) ?? fitProbe(event.payload);
  fits.set(event, known);
  return known;
}

export interface WattWalk {
  readonly event: MachineEvent;
  readonly atMs: number;
  readonly setPercent: number;
  readonly isGood: boolean;
  readonly readings: readonly { readonly station: string; readonly powerW: number }[];
}

/** Every reading between two times (ms), oldest first; runs that could not be read are left out. */
export function wattWalks(log: EventLog, fromMs: number, toMs: number): WattWalk[] {
  return eventsBetween(log, ["power", "probe"], fromMs, toMs).flatMap((event): WattWalk[] => {
    const common = { event, atMs: event.atMs, setPercent: event.payload.setPercent, isGood: event.payload.baseline === true };
    if (event.kind === "power") return [{ ...common, readings: event.payload.readings }];
    const read = probeResult(event);
    return read.kind === "power" ? [{ ...common, readings: [{ station: event.payload.station, powerW: read.powerW }] }] : [];
  });
}
