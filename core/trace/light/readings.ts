/** Readings of the lost light: where on the path each belongs, and how it stands against the baseline. */
import { type GradeWord, lookLogLoss, nominalLogTransmission } from "#core/beam";
import type { TraceBaseline, TraceModel } from "../model/types";

/** One reading of the lost light: ln of power (or of effective power) against the baseline, or ln of what one optic lets through by its look. */
export interface LossReading {
  readonly check: string;
  readonly kind: "power" | "ladder" | "look";
  /** Index on the path of the station it was taken after, or looked at; the ladder counts as after the last one. */
  readonly at: number;
  readonly y: number;
  readonly sd: number;
  /** True when there is no baseline for it and only steps between readings can be told. */
  readonly floating: boolean;
  /** Time of the case it was taken at; the last is now. */
  readonly time: number;
}

/** What spots take (ln power): there is no grade of dirt above them. */
const SPOTS = { mean: 0.24, sd: 0.12 } as const;

/** A grade of dirt as a reading of its own optic. */
export function gradeReading(check: string, at: number, grade: Exclude<GradeWord, "damaged">, time: number): LossReading {
  const { mean, sd } = grade === "spots" ? SPOTS : lookLogLoss(grade);
  return { check, kind: "look", at, y: -mean, sd, floating: false, time };
}

/** Which path index a power reading belongs to: `power@tube` and `power@window` are one place, outside the exit window. */
export function placeOf(model: TraceModel, station: string): number {
  const at = model.stations.findIndex((s) => s.id === station);
  const window = model.stations.findIndex((s) => s.role === "window");
  return model.stations[at]?.role === "tube" && window >= 0 ? window : at;
}

/**
 * Ln of a power reading against the baseline after the same station. Watts are scaled to full set power first. A station
 * with no baseline of its own borrows the nearest one through the nominal transmissions; with none at all the reading floats.
 */
export function logAgainstBaseline(
  model: TraceModel,
  station: string,
  valueW: number,
  setPercent: number | undefined,
  baseline: TraceBaseline | undefined,
): { y: number; floating: boolean } {
  const baselineSet = baseline?.setPercent ?? 100;
  const full = Math.log(valueW) + Math.log(100 / (setPercent ?? baselineSet));
  const at = placeOf(model, station);
  let best: { distance: number; lnW: number } | undefined;
  for (const [id, watts] of Object.entries(baseline?.powerW ?? {})) {
    const from = placeOf(model, id);
    const distance = Math.abs(from - at);
    if (best && best.distance <= distance) continue;
    const path = model.stations;
    const step = nominalLogTransmission(path, (path[from] as (typeof path)[0]).id, (path[at] as (typeof path)[0]).id);
    best = { distance, lnW: Math.log(watts) + Math.log(100 / baselineSet) + step };
  }
  if (best) return { y: full - best.lnW, floating: false };
  const tube = (model.stations[0] as (typeof model.stations)[0]).id;
  return { y: full - nominalLogTransmission(model.stations, tube, model.stations[at]?.id as string), floating: true };
}
