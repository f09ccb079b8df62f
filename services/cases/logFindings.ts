/** What the readings and marks of a log say to a trace, kind by kind. */

import { readBedMap } from "#core/cuts";
import { type EventKind, type EventOf, eventsBetween } from "#core/events";
import { idAt, mirrorNumberOf } from "#core/machine";
import type { TraceFinding } from "#core/trace";
import { bedLadders } from "../machine/bedMaps";
import type { Gathered } from "../machine/gathered";
import { probeResult } from "../machine/watts";

type Said = Pick<TraceFinding, "check" | "outcome" | "value" | "sd" | "setPercent">;

/** A map of the bed speaks for its pattern only where that clearly leads. */
const CLEARLY = 0.5;
/** Marks nearer to the middle than this are as good as centred. */
const CENTRED_MM = 1;

/** Kinds that are measured or seen apart from a case, and what each is to one; a record flagged as good is what the others are set against. */
const KINDS: { readonly [K in EventKind]?: (event: EventOf<K>, g: Gathered) => readonly Said[] } = {
  probe: (event) => {
    const read = probeResult(event);
    return read.kind === "power" && !event.payload.baseline
      ? [{ check: idAt("power", event.payload.station), value: read.powerW, sd: read.seW, setPercent: event.payload.setPercent }]
      : [];
  },
  current: ({ payload: p }) => [{ check: "tube-current", value: p.currentMa, setPercent: p.setPercent }],
  coolant: ({ payload: p }) => [
    ...(p.temperatureC === undefined ? [] : [{ check: "coolant-temp", value: p.temperatureC }]),
    ...(p.flowLpm === undefined ? [] : [{ check: "coolant-flow", value: p.flowLpm }]),
    ...(p.look === undefined ? [] : [{ check: "water-look", outcome: p.look }]),
  ],
  airflow: ({ payload: p }) => (p.prefilter === "out" ? [] : [{ check: "duct-speed", value: p.ductSpeedMps }]),
  engraving: ({ payload: p }) => [
    { check: "engraving", outcome: p.look },
    ...(p.edges === undefined ? [] : [{ check: "raster-edge", outcome: p.edges }]),
  ],
  focus: ({ payload: p }) => [{ check: "focus-ramp", outcome: Math.abs(p.offsetMm) < 0.5 ? "at-setting" : "shifted", value: p.offsetMm }],
  tape: ({ payload: p }) => {
    const k = mirrorNumberOf(p.station);
    const off = Math.hypot(p.rightMm, p.upMm);
    if (k !== undefined)
      return [
        p.mark === "crescent" || p.mark === "double"
          ? { check: idAt("tape", k), outcome: "misshapen" }
          : { check: idAt("tape", k), outcome: off < CENTRED_MM ? "centred" : "off", value: off },
      ];
    if (p.station !== "nozzle") return [];
    return [
      { check: "nozzle-mark", outcome: p.mark === "crescent" || p.mark === "double" ? p.mark : off < CENTRED_MM / 2 ? "centred" : "off" },
    ];
  },
  "bed-map": ({ payload }, g) => {
    const read = readBedMap(bedLadders(payload), g.trade.layout.fittings.beamCorner);
    return read.kind === "map" && read.weights[read.leading] >= CLEARLY ? [{ check: "bed-map", outcome: read.leading }] : [];
  },
};

export interface LoggedFinding extends Said {
  readonly eventId: number;
  readonly atMs: number;
}

/** Findings of these kinds between two times (ms). */
export function loggedFindings(g: Gathered, fromMs: number, toMs: number): LoggedFinding[] {
  const kinds = Object.keys(KINDS) as EventKind[];
  return eventsBetween(g.log, kinds, fromMs, toMs).flatMap((event) => {
    const say = KINDS[event.kind] as ((event: unknown, g: Gathered) => readonly Said[]) | undefined;
    return (say?.(event, g) ?? []).map((said) => ({ ...said, eventId: event.id, atMs: event.atMs }));
  });
}

/** Readings that were flagged as good: what later ones are set against. */
export function goodReadings(g: Gathered): { tubeCurrentMa?: number; coolantFlowLpm?: number; ductSpeedMps?: number } {
  const { current, coolant, airflow } = g.log.kinds;
  const mA = current.findLast((e) => e.payload.baseline === true)?.payload.currentMa;
  const flow = coolant.findLast((e) => e.payload.baseline === true && e.payload.flowLpm !== undefined)?.payload.flowLpm;
  const duct = airflow.findLast((e) => e.payload.baseline === true)?.payload.ductSpeedMps;
  return {
    ...(mA === undefined ? {} : { tubeCurrentMa: mA }),
    ...(flow === undefined ? {} : { coolantFlowLpm: flow }),
    ...(duct === undefined ? {} : { ductSpeedMps: duct }),
  };
}
