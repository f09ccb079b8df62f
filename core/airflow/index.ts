/**
 * # Airflow (M10)
 * Answers: how much air a duct carries, against the clean baseline and the cabinet's need, what filter and fan take of it, and what flow and
 * pressure together tell of a weak exhaust. Flow is mean speed times area; in a duct the pressure grows with the square of the flow.
 */

/** A centre reading is so much more than the mean of a round duct. */
export const CENTRE_TO_MEAN = 0.82;
const SECONDS = 3600;

/** Mean speed (m/s) of readings across a duct, or of one in its middle. Throws RangeError for none. */
export function meanSpeed(readings: readonly number[], where: "traverse" | "centre"): number {
  if (readings.length === 0) throw new RangeError("an airflow needs a reading");
  const mean = readings.reduce((a, b) => a + b, 0) / readings.length;
  return where === "centre" ? CENTRE_TO_MEAN * mean : mean;
}

/** Flow (m³/h) of a mean speed (m/s) through a round duct. @example flowOf(4.5, 100) // 127 */
export const flowOf = (meanMps: number, diameterMm: number): number => meanMps * Math.PI * (diameterMm / 2000) ** 2 * SECONDS;

/** Speed through an open area: half a metre a second keeps smoke in. */
export const FACE_MPS = 0.5;

/** Flow (m³/h) that the open area (m²) of a cabinet needs. @example neededFlow(0.02) // 36 */
export const neededFlow = (openM2: number, faceMps = FACE_MPS): number => openM2 * faceMps * SECONDS;

/** How often a minute a cabinet's air is changed. */
export const changesAMinute = (flowM3h: number, cabinetM3: number): number => flowM3h / 60 / cabinetM3;

/** What of a lost flow the pre-filter takes: from readings with it and without, against the clean baseline; undefined where nothing is lost. */
export function filterShare(withIt: number, without: number, clean: number): number | undefined {
  const lost = clean - withIt;
  return lost <= 0 ? undefined : Math.min(1, Math.max(0, (without - withIt) / lost));
}

export type AirVerdict = "good" | "blocked" | "tired-fan" | "weak" | "leak";

/** Less than this share of the clean flow is weak; a pressure is the same within this share. */
export const WEAK_SHARE = 0.85;
const SAME = 0.1;

/**
 * What flow and the suction at the fan tell, both against the clean baseline (ratios, > 0; no pressure where it was not read): a blocked duct
 * or filter lets less air through at more suction, a tired fan makes less of both; as much air at less suction leaks in behind the cabinet.
 */
export function airVerdict(flowRatio: number, pressureRatio: number | undefined): AirVerdict {
  if (flowRatio >= WEAK_SHARE) return pressureRatio !== undefined && pressureRatio < flowRatio ** 2 * (1 - 2 * SAME) ? "leak" : "good";
  if (pressureRatio === undefined) return "weak";
  return pressureRatio >= 1 - SAME ? "blocked" : "tired-fan";
}
