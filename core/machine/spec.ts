import type { LayoutSpec } from "#core/trace";
import { headMirrorOf, movingMirrorsOf, type Path, standing } from "./path";
import type { Fittings } from "./types";

/** Ply-hours after which an optic is due, by where it stands. */
export interface IntervalRule {
  readonly lens: number;
  readonly nozzle: number;
  readonly headMirror: number;
  readonly backMirror: number;
  readonly sideWindow: number;
  /** Mirrors and windows in a housing of their own. */
  readonly enclosed: number;
  readonly window: number;
}

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
  const head = headMirrorOf(path);
  const of = (s: Path[number]): number => {
    if (s.role === "lens") return rule.lens;
    if (s.role === "nozzle") return rule.nozzle;
    if (s.role === "window") return rule.window;
    if (s.enclosed) return rule.enclosed;
    if (s.role === "side-window") return rule.sideWindow;
    return s === head ? rule.headMirror : rule.backMirror;
  };
  return Object.fromEntries(
    standing(path)
      .filter((s) => s.role !== "tube")
      .map((s) => [s.id, of(s)]),
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
  };
}
