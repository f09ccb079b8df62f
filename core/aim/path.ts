/** The beam path as the aim needs it: legs between mirrors with their directions, lengths and travels, and where tape can go. */
import { type Path, type PathStation, standing } from "#core/machine";
import { type Direction, inPlaneAxis, isRightAngle, type Map2, throughMirror } from "./directions";
import { DEFAULT_MOUNT, type ScrewMount } from "./mounts";

/** The tube or a mirror: where a leg of the beam begins. */
export interface AimElement {
  readonly id: string;
  /** Where the leg goes, how long it is at its shortest and how much longer it grows, mm. */
  readonly beamTo: Direction;
  readonly lengthMm: number;
  readonly travelMm: number;
  /** Station the leg ends at: the next mirror, or the lens. */
  readonly endsAt: string;
  /** Screws of a mirror that can be turned; undefined for the tube and for a mirror that is only seated. */
  readonly mount: ScrewMount | undefined;
  /** Of a mirror: what becomes of (right, up), and which of them lies in its plane of incidence afterwards. */
  readonly map: Map2 | undefined;
  readonly inPlane: "right" | "up" | undefined;
}

/** A place for tape: a mirror, the lens's seat with the lens out, the nozzle, or the work below it. */
export interface AimStation {
  readonly id: string;
  readonly apertureMm: number;
  /** A mirror at 45° looks narrower in its plane of incidence. */
  readonly narrow: "right" | "up" | undefined;
}

export interface AimPath {
  readonly elements: readonly AimElement[];
  readonly stations: readonly AimStation[];
  /** From the lens to the nozzle and on to the work, mm; the work can be lowered by `zTravelMm`. */
  readonly lensToNozzleMm: number;
  readonly nozzleToWorkMm: number;
  readonly zTravelMm: number;
  readonly focalMm: number;
}

/** Id of the work under the nozzle, as a place for marks down the Z travel. */
export const WORK = "work";
/** Focal length of the usual two-inch lens, mm. */
const DEFAULT_FOCAL_MM = 50.8;
/** The work shows a focused mark within this of the axis, mm. */
const WORK_MM = 4;

/** The path cannot be aimed as it stands; says what would be right. */
export class NoAimPath extends RangeError {
  override readonly name = "NoAimPath";
}

/** The screws of a mirror an owner may reach: as they say; otherwise a screw cell has the usual ones, and the others keep their aim in their seats. */
function mountOf(s: PathStation): ScrewMount | undefined {
  if (s.role !== "mirror" || s.warranty || s.screwKind === "none" || (s.screwKind === undefined && s.mount !== "screw-cell"))
    return undefined;
  return {
    kind: s.screwKind ?? DEFAULT_MOUNT.kind,
    pitchMm: s.screwPitchMm ?? DEFAULT_MOUNT.pitchMm,
    armMm: s.screwArmMm ?? (s.screwKind === "three-at-120" ? DEFAULT_RADIUS_MM : DEFAULT_MOUNT.armMm),
  };
}

/** From the middle of the mirror to each of three screws around it, mm. */
const DEFAULT_RADIUS_MM = 24;

const OPPOSITE: { readonly [D in Direction]: Direction } = {
  left: "right",
  right: "left",
  front: "rear",
  rear: "front",
  up: "down",
  down: "up",
};

/**
 * Directions of the legs where their owner has not said: the last goes down to the work, the one into the head along the gantry, away
 * from the corner the beam comes in at; the one before along the gantry's travel; a periscope goes up first.
 */
export function defaultDirections(mirrors: number, corner: "back-left" | "back-right" | "front-left" | "front-right"): Direction[] {
  const away: Direction = corner.endsWith("left") ? "right" : "left";
  const travel: Direction = corner.startsWith("back") ? "front" : "rear";
  const back: Direction[] = ["down", away, travel];
  // From the third mirror on: flat machines come in along the back, periscopes rise from a tube that lies low.
  const before: Direction[] = mirrors === 3 ? [OPPOSITE[away]] : ["up", OPPOSITE[away]];
  for (let i = 3; i <= mirrors; i++) back.push(before[(i - 3) % before.length] as Direction);
  return back.slice(0, mirrors + 1).reverse();
}

/** The path to aim. Throws NoAimPath where a direction cannot be or a mirror is missing. */
export function aimPathOf(path: Path, options: { readonly corner?: Parameters<typeof defaultDirections>[1] | undefined } = {}): AimPath {
  const stations = standing(path);
  const mirrors = stations.filter((s) => s.role === "mirror");
  const tube = stations.find((s) => s.role === "tube");
  const lens = stations.find((s) => s.role === "lens");
  if (!tube || !lens || mirrors.length === 0) throw new NoAimPath("To aim it takes a tube, at least one mirror and a lens on the path.");
  const usual = defaultDirections(mirrors.length, options.corner ?? "back-left");
  const starts = [tube, ...mirrors];
  const to = starts.map((s, i) => s.beamTo ?? (usual[i] as Direction));
  const elements = starts.map((s, i): AimElement => {
    const next = mirrors[i] ?? lens;
    const [from, end] = [stations.indexOf(s), stations.indexOf(next)];
    const leg = stations.slice(from, end);
    const [before, after] = [to[i - 1], to[i] as Direction];
    if (before !== undefined && !isRightAngle(before, after))
      throw new NoAimPath(`${s.name} gets the beam going ${before} and cannot send it ${after}: a mirror turns it by a right angle.`);
    return {
      id: s.id,
      beamTo: after,
      lengthMm: leg.reduce((sum, x) => sum + x.distanceMm, 0),
      travelMm: leg.reduce((sum, x) => sum + x.travelMm, 0),
      endsAt: next.id,
      mount: mountOf(s),
      map: before && throughMirror(before, after),
      inPlane: before && inPlaneAxis(before, after),
    };
  });
  const nozzle = stations.find((s) => s.role === "nozzle");
  return {
    elements,
    stations: [
      ...mirrors.flatMap((m, i) =>
        // Behind a panel that is not for owners no tape goes.
        m.warranty
          ? []
          : {
              id: m.id,
              apertureMm: m.apertureMm,
              // What is read on its frame is read before it turns the beam.
              narrow: narrowAxis(to[i] as Direction, to[i + 1] as Direction),
            },
      ),
      { id: lens.id, apertureMm: lens.apertureMm, narrow: undefined },
      ...(nozzle
        ? [
            { id: nozzle.id, apertureMm: nozzle.apertureMm, narrow: undefined },
            ...(nozzle.travelMm > 0 ? [{ id: WORK, apertureMm: WORK_MM, narrow: undefined }] : []),
          ]
        : []),
    ],
    lensToNozzleMm: lens.distanceMm,
    nozzleToWorkMm: nozzle?.distanceMm ?? 0,
    zTravelMm: nozzle?.travelMm ?? 0,
    focalMm: DEFAULT_FOCAL_MM,
  };
}

/** Which of (right, up) of the arriving leg lies in the plane of incidence: that of the leaving leg, seen from before. */
function narrowAxis(before: Direction, after: Direction): "right" | "up" {
  return inPlaneAxis(OPPOSITE[after], OPPOSITE[before]);
}

/** Where tape goes, and which ways are at their long end: by the station each ends at. */
export interface Spot {
  readonly at: string;
  readonly far: readonly string[];
}

/** Name of a spot in files and forms: "mirror-3+mirror-2" is M3 with the gantry far and the head near. */
export const spotId = (spot: Spot): string => [spot.at, ...spot.far].join("+");

/** Ways that grow on the way to a station, by the station each ends at. */
export function waysTo(path: AimPath, at: string): string[] {
  const ways: string[] = [];
  for (const e of path.elements) {
    if (e.travelMm > 0) ways.push(e.endsAt);
    if (e.endsAt === at) return ways;
  }
  return at === WORK ? [...ways, WORK] : ways;
}

/**
 * All spots of a path in the order they are walked: near before far, the head's way before the gantry's; below the lens the near corner
 * and the farthest only.
 */
export function spotsOf(path: AimPath): Spot[] {
  const lens = path.elements.at(-1)?.endsAt;
  return path.stations.flatMap(({ id }) => {
    const ways = waysTo(path, id);
    const mirror = path.elements.some((e) => e.id === id);
    if (mirror) return subsets(ways).map((far) => ({ at: id, far }));
    if (id === lens) return [{ at: id, far: [] }, ...(ways.length > 0 ? [{ at: id, far: ways }] : [])];
    return id === WORK
      ? [
          { at: id, far: [] },
          { at: id, far: [WORK] },
        ]
      : [{ at: id, far: [] }];
  });
}

/** The lens and the nozzle send the beam nowhere: where they sit is seen by the mark at the nozzle alone. */
export const isOfHead = (path: AimPath, id: string): boolean =>
  path.stations.some((s) => s.id === "nozzle") && (id === "nozzle" || id === path.elements.at(-1)?.endsAt);

/** Subsets of the ways, the last way counting fastest: near near, near far, far near, far far. */
function subsets(ways: readonly string[]): string[][] {
  const [first, ...rest] = ways;
  if (first === undefined) return [[]];
  const others = subsets(rest);
  return [...others, ...others.map((o) => [first, ...o])];
}

/** Half the width of a station's aperture, mm: a common mirror's where it is not on the path. */
export const halfWidthMm = (path: AimPath, at: string): number => (path.stations.find((s) => s.id === at)?.apertureMm ?? 20) / 2;
