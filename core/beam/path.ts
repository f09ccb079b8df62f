import { type Grade, gradeLogLoss, gradeWord } from "./grades";
import { ROLE_TRAITS, type StationRole } from "./roles";

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
    const nominal = station.role === "window" ? 1 : (station.transmission ?? ROLE_TRAITS[station.role].nominalTransmission);
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
