import { ROLE_TRAITS, STATION_ROLES, type StationRole } from "#core/beam";
import type { PathStation } from "./types";

export type Path = readonly PathStation[];

/** Stations light passes through today, in order; hidden ones are history only. */
export function standing(path: Path): PathStation[] {
  return path.filter((s) => !s.hidden);
}

/** Number in a mirror's id: its own for life, whatever stands before it. */
export function mirrorNumberOf(id: string): number | undefined {
  const found = /^mirror-(\d+)$/.exec(id);
  return found ? Number(found[1]) : undefined;
}

/** The mirror nearest to the lens; undefined on a path without mirrors. */
export function headMirrorOf(path: Path): PathStation | undefined {
  return standing(path)
    .filter((s) => s.role === "mirror")
    .at(-1);
}

/**
 * What keeps a path from being one, worded for its owner; empty when light gets through. A path begins with tube and exit window, has
 * one lens after its last mirror, and at most one nozzle, after the lens.
 */
export function pathProblems(path: Path): string[] {
  const stations = standing(path);
  const problems: string[] = [];
  const places = (role: StationRole) => stations.flatMap((s, i) => (s.role === role ? [i] : []));
  const names: { readonly [R in StationRole]: string } = {
    tube: "tube",
    window: "exit window",
    mirror: "mirrors",
    "side-window": "window",
    lens: "lens",
    nozzle: "nozzle",
  };
  for (const role of ["tube", "window", "lens"] as const) {
    if (places(role).length === 0) problems.push(`The path has no ${names[role]}: add one.`);
  }
  for (const role of STATION_ROLES.filter((r) => !ROLE_TRAITS[r].isRepeated)) {
    if (places(role).length > 1) problems.push(`The path has ${places(role).length} of the ${names[role]}: one is enough.`);
  }
  const [tube] = places("tube");
  const [window] = places("window");
  const [lens] = places("lens");
  const [nozzle] = places("nozzle");
  const lastMirror = places("mirror").at(-1);
  if (tube !== undefined && tube !== 0) problems.push("Light starts at the tube: move it to the top.");
  if (window !== undefined && tube === 0 && window !== 1) problems.push("The exit window is the tube's own: move it right after the tube.");
  if (lens !== undefined && lastMirror !== undefined && lens < lastMirror)
    problems.push("A mirror after the lens cannot be: the focused beam goes straight to the work.");
  if (lens !== undefined && nozzle !== undefined && nozzle < lens) problems.push("The nozzle sits after the lens: move it to the end.");
  const ids = new Set<string>();
  for (const s of path) {
    if (ids.has(s.id)) problems.push(`Two stations are called ${s.id} inside.`);
    ids.add(s.id);
  }
  return problems;
}

/** What a station is until its owner says better. */
const DEFAULTS: Readonly<Record<StationRole, Omit<PathStation, "id" | "role">>> = {
  tube: { name: "Tube", coating: "unknown", mount: "fixed", apertureMm: 20, distanceMm: 0, travelMm: 0 },
  window: { name: "Exit window", coating: "znse", mount: "fixed", apertureMm: 20, distanceMm: 150, travelMm: 0 },
  mirror: { name: "Mirror", coating: "unknown", mount: "screw-cell", apertureMm: 20, distanceMm: 100, travelMm: 0 },
  "side-window": { name: "Window", coating: "znse", mount: "fixed", apertureMm: 18, distanceMm: 50, travelMm: 0 },
  lens: { name: "Lens", coating: "znse", mount: "ring", apertureMm: 18, distanceMm: 50, travelMm: 0 },
  nozzle: { name: "Nozzle", coating: "metal", mount: "thread", apertureMm: 2.5, distanceMm: 4, travelMm: 0 },
};

/** Where a new station of a role belongs: right before what must come after it. */
function placeFor(stations: Path, role: StationRole): number {
  const first = (...roles: StationRole[]) => {
    const i = stations.findIndex((s) => roles.includes(s.role));
    return i < 0 ? stations.length : i;
  };
  switch (role) {
    case "tube":
      return 0;
    case "window":
      return stations[0]?.role === "tube" ? 1 : 0;
    case "lens":
      return first("nozzle");
    case "nozzle":
      return stations.length;
    case "mirror":
    case "side-window":
      return first("lens", "nozzle");
  }
}

/**
 * The path with one more station of a role. A hidden one of that role comes back with all it had; a new mirror gets the next number
 * never used. Throws RangeError when the path has its one tube, window, lens or nozzle already.
 */
export function addStation(path: Path, role: StationRole, name?: string): Path {
  const { isRepeated } = ROLE_TRAITS[role];
  const back = path.find((s) => s.hidden && s.role === role && !isRepeated);
  if (!isRepeated && path.some((s) => !s.hidden && s.role === role)) throw new RangeError(`the path has its ${role}`);
  const numbers = path.map((s) => mirrorNumberOf(s.id) ?? 0);
  const { hidden: _, ...kept } = back ?? {
    ...DEFAULTS[role],
    id: role === "mirror" ? `mirror-${Math.max(0, ...numbers) + 1}` : role,
    role,
    hidden: false,
  };
  const added = { ...kept, ...(name ? { name } : {}) } as PathStation;
  const rest = path.filter((s) => s.id !== added.id);
  const at = placeFor(rest, role);
  return [...rest.slice(0, at), added, ...rest.slice(at)];
}

/** Takes a station off the path. It stays hidden in its place: the log speaks of it, and it can be brought back. */
export function removeStation(path: Path, id: string): Path {
  return path.map((s) => (s.id === id ? { ...s, hidden: true } : s));
}

/** Shows a hidden station again, where it was. */
export function restoreStation(path: Path, id: string): Path {
  return path.map((s) => {
    if (s.id !== id) return s;
    const { hidden: _, ...shown } = s;
    return shown as PathStation;
  });
}

/** Stations in the order given by id; those not named keep their places at the end. Never loses one. */
export function orderStations(path: Path, ids: readonly string[]): Path {
  const named = ids.flatMap((id) => path.filter((s) => s.id === id));
  const unique = [...new Map(named.map((s) => [s.id, s])).values()];
  return [...unique, ...path.filter((s) => !unique.includes(s))];
}

/** Changes what is known of a station; its id and role stay. */
export function changeStation(path: Path, id: string, change: Partial<PathStation>): Path {
  return path.map((s) => (s.id === id ? ({ ...s, ...change, id: s.id, role: s.role } as PathStation) : s));
}

/** Mirrors (by number) whose distance from the one before, or from the tube, changes with travel. */
export function movingMirrorsOf(path: Path): number[] {
  const moving: number[] = [];
  let travel = 0;
  for (const s of standing(path)) {
    if (s.role === "mirror") {
      const k = mirrorNumberOf(s.id);
      if (travel > 0 && k !== undefined) moving.push(k);
      travel = 0;
    }
    travel += s.travelMm;
  }
  return moving;
}

/** True where a mirror is cleaned without taking it out: opening its cell would lose the aim. */
export function staysInPlace(station: PathStation): boolean {
  return !["twist-lock", "captive", "magnet"].includes(station.mount);
}
