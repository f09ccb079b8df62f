import type { StationRole } from "#core/beam";
import { idAt, parseId } from "./ids";
import { headMirrorOf, mirrorNumberOf, type Path, standing } from "./path";
import type { PathStation } from "./types";

/** How much smoke reaches a part: what its interval goes by. */
export const CARE_PLACES = ["lens", "nozzle", "window", "travellingWindow", "enclosed", "sideWindow", "headMirror", "backMirror"] as const;
export type CarePlace = (typeof CARE_PLACES)[number];

/** Where the lens moves inside its head to focus, the tube rides on the gantry with it. */
export const tubeTravels = (path: Path): boolean => standing(path).some((s) => s.role === "lens" && s.mount === "sliding-bore");

/** Where a station stands for its care; undefined for the tube, which is not cleaned. */
export function carePlaceOf(path: Path, station: PathStation): CarePlace | undefined {
  switch (station.role) {
    case "tube":
      return undefined;
    case "window":
      return tubeTravels(path) ? "travellingWindow" : "window";
    case "lens":
    case "nozzle":
      return station.role;
    case "side-window":
      return station.enclosed ? "enclosed" : "sideWindow";
    case "mirror":
      return station.enclosed ? "enclosed" : station.id === headMirrorOf(path)?.id ? "headMirror" : "backMirror";
    default:
      return station.role satisfies never;
  }
}

/** The check of a trace that a look at a station answers; undefined where looking tells no grade. */
export function lookCheckOf({ id, role }: { readonly id: string; readonly role: StationRole }): string | undefined {
  switch (role) {
    case "tube":
    case "nozzle":
      return undefined;
    case "mirror":
      return idAt("mirror-look", mirrorNumberOf(id) ?? 0);
    case "window":
    case "side-window":
    case "lens":
      return `${id}-look`;
    default:
      return role satisfies never;
  }
}

/** The station a check is made at: `power@lens`, `mirror-look@2`, `lens-look`; undefined for checks of the machine as a whole. */
export function stationOfCheck(check: string): string | undefined {
  const { base, at } = parseId(check);
  if (at !== undefined) return base === "power" ? at : at === "0" ? "tube" : `mirror-${at}`;
  return base.endsWith("-look") && base !== "water-look" && base !== "strip-look" ? base.replace(/-look$/, "") : undefined;
}
