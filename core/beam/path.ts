import { type Grade, gradeLogLoss, gradeWord } from "./grades";

export const STATION_ROLES = ["tube", "window", "mirror", "side-window", "lens", "nozzle"] as const;
export type StationRole = (typeof STATION_ROLES)[number];

/** One thing on the beam path, in order from the tube. Lengths in mm. */
export interface Station {
  /** Stable public id: `tube`, `window`, `mirror-1`, `side-window`, `lens`, `nozzle`. */
  readonly id: string;
  readonly role: StationRole;
  /** Clear aperture, diameter. */
  readonly apertureMm: number;
  /** Shortest way from this station to the next one. */
  readonly distanceMm: number;
  /** How much longer that way becomes with the gantry or head at its far end; 0 where nothing moves. */
  readonly travelMm: number;
  /** Share (0.5..1) a clean one passes, where its owner knows it; its role's nominal otherwise. */
  readonly transmission?: number | undefined;
}

/** Nominal transmission by role: the share (0..1) a clean part passes. The tube and the nozzle pass everything. */
export const NOMINAL_TRANSMISSION: Readonly<Record<StationRole, number>> = {
  tube: 1,
  window: 0.99,
  mirror: 0.985,
  "side-window": 0.985,
  lens: 0.975,
  nozzle: 1,
};

export interface PowerAfter {
  readonly station: string;
  readonly powerW: number;
}

/**
 * Watts after each station. `tubePowerW` is the power just outside a *clean* exit window: the window's nominal loss
 * belongs to the tube's own figure, so only its fouling counts here. P_k = P_tube · Π T_j (1 - loss_j).
 * `lossOf` gives a station's extra loss in ln power (>= 0).
 */
export function powerAlong(stations: readonly Station[], tubePowerW: number, lossOf: (station: Station) => number = () => 0): PowerAfter[] {
  let logPower = Math.log(tubePowerW);
  return stations.map((station) => {
    const nominal = station.role === "window" ? 1 : (station.transmission ?? NOMINAL_TRANSMISSION[station.role]);
    logPower += Math.log(nominal) - lossOf(station);
    return { station: station.id, powerW: Math.exp(logPower) };
  });
}

/** Extra loss of a station in ln power from its grade; stations never graded count as clear. */
export function lossFromGrades(grades: ReadonlyMap<string, Grade>): (station: Station) => number {
  return (station) => {
    const grade = grades.get(station.id);
    return grade === undefined ? 0 : gradeLogLoss(gradeWord(grade)).mean;
  };
}

/** Ln of the nominal transmission between two stations of a path (from after `from` to after `to`). */
export function nominalLogTransmission(stations: readonly Station[], from: string, to: string): number {
  const clean = powerAlong(stations, 1);
  const at = (id: string) => {
    const found = clean.find((p) => p.station === id);
    if (!found) throw new RangeError(`no station ${id} on this path`);
    return Math.log(found.powerW);
  };
  return at(to) - at(from);
}
