import { type Condition, type Fitted, holds } from "./condition";
import { headMirrorOf, movingMirrorsOf, type Path, standing } from "./path";
import { type CarePlace, carePlaceOf, tubeTravels } from "./places";
import type { Fittings, PathStation } from "./types";

/** A machine as the trace engine expands its catalog for it. */
export interface LayoutSpec {
  readonly id: string;
  readonly stations: readonly (Pick<PathStation, "id" | "role" | "apertureMm" | "distanceMm" | "travelMm"> & {
    readonly transmission?: number | undefined;
  })[];
  readonly systems: readonly string[];
  /** Mirrors (by number) whose distance to the one before changes with travel. */
  readonly movingMirrors: readonly number[];
  /** Ply-hours after which a station is due by the by-use school. */
  readonly intervalPlyHours: Readonly<Record<string, number>>;
  readonly beamRadiusMm: number;
  /** Whether what stands at a station, or in a system, is as a condition asks; where it is left out nothing is known of it, and it is. */
  readonly fits?: (when: Condition | undefined, station: string) => boolean;
}

/** Ply-hours after which an optic is due, by where it stands. */
export type IntervalRule = Readonly<Record<CarePlace, number>>;

/** Systems off the path, in display order: what a machine with these fittings has. */
export function systemsOf(fittings: Fittings): string[] {
  return [
    "supply",
    fittings.cooling === "air" ? "fins" : "coolant",
    "air",
    "exhaust",
    "focus",
    "bed",
    "material",
    "motion",
    ...(fittings.extras.includes("encoder") ? ["encoder"] : []),
    ...(fittings.extras.includes("camera") ? ["camera"] : []),
    "settings",
  ];
}

/** Interval of each optic that stands on the path, in ply-hours. */
export function intervalsOf(path: Path, rule: IntervalRule): Record<string, number> {
  return Object.fromEntries(
    standing(path).flatMap((s) => {
      const place = carePlaceOf(path, s);
      return place === undefined ? [] : [[s.id, rule[place]]];
    }),
  );
}

/** A machine as the trace engine takes it: standing stations only. */
export function traceSpec(
  machine: { readonly id: string; readonly path: Path; readonly fittings: Fittings; readonly beamRadiusMm: number },
  rule: IntervalRule,
): LayoutSpec {
  return {
    id: machine.id,
    stations: standing(machine.path).map(({ id, role, apertureMm, distanceMm, travelMm, transmission }) => ({
      id,
      role,
      apertureMm,
      distanceMm,
      travelMm,
      transmission,
    })),
    systems: systemsOf(machine.fittings),
    movingMirrors: movingMirrorsOf(machine.path),
    intervalPlyHours: intervalsOf(machine.path, rule),
    beamRadiusMm: machine.beamRadiusMm,
    fits: fitsOf(machine.path, machine.fittings),
  };
}

/** A machine as conditions are asked of it. */
export const fittedOf = (path: Path, fittings: Fittings): Fitted => ({
  fittings,
  movingHead: tubeTravels(path),
  boreMm: standing(path).find((s) => s.role === "nozzle")?.apertureMm ?? Number.POSITIVE_INFINITY,
});

function fitsOf(path: Path, fittings: Fittings): NonNullable<LayoutSpec["fits"]> {
  const stations = standing(path);
  const fitted = fittedOf(path, fittings);
  const head = headMirrorOf(path);
  return (when, id) => {
    const station = stations.find((s) => s.id === id);
    return holds(when, fitted, { station, isHead: station !== undefined && station === head });
  };
}
