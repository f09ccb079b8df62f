/** Where the beam lands at a spot, as a linear function of everything that may be off: the ray algebra of the whole path. */
import type { Across, Map2 } from "./directions";
import { type AimElement, type AimPath, type Spot, spotId, WORK } from "./path";

/**
 * Unknowns of a path, two numbers each unless said: the tube's place (mm) and angle (mrad), each mirror's turn of the beam (mrad) and its
 * sideways shift (mm, one number, in its plane), and by how much each station's middle lies beside the ideal axis (mm).
 */
export interface Unknowns {
  readonly count: number;
  readonly tubePlace: number;
  /** Turn of the beam by the element: the tube's angle first, then the mirrors'. */
  readonly turn: (element: number) => number;
  readonly shift: (element: number) => number;
  readonly middle: (station: string) => number;
}

/** Positions of the unknowns in a state vector. Throws RangeError for a station that is not on the path. */
export function unknownsOf(path: AimPath): Unknowns {
  const n = path.elements.length;
  const middles = 2 + 2 * n + (n - 1);
  return {
    count: middles + 2 * path.stations.length,
    tubePlace: 0,
    turn: (element) => 2 + 2 * element,
    shift: (element) => 2 + 2 * n + element - 1,
    middle: (station) => {
      const i = path.stations.findIndex((s) => s.id === station);
      if (i < 0) throw new RangeError(`no tape at ${station} on this path`);
      return middles + 2 * i;
    },
  };
}

/** Rows of a linear map from the unknowns to (right, up), mm at the spot. */
export interface Rows {
  readonly right: Float64Array;
  readonly up: Float64Array;
}

interface Ray {
  x: Rows;
  angle: Rows;
}

const zero = (n: number): Rows => ({ right: new Float64Array(n), up: new Float64Array(n) });
const mix = (a: Rows, b: Rows, share: number): Rows => ({
  right: a.right.map((v, i) => v + share * b.right[i]!),
  up: a.up.map((v, i) => v + share * b.up[i]!),
});
const mapped = (m: Map2, { right, up }: Rows): Rows => ({
  right: right.map((v, i) => m[0] * v + m[1] * up[i]!),
  up: right.map((v, i) => m[2] * v + m[3] * up[i]!),
});
function plus(rows: Rows, index: number, amount = 1): Rows {
  const sum = { right: rows.right.slice(), up: rows.up.slice() };
  sum.right[index]! += amount;
  sum.up[index + 1]! += amount;
  return sum;
}

/** The ray after element `i` has turned it. */
function turned(ray: Ray, element: AimElement, i: number, u: Unknowns): Ray {
  if (!element.map) return { x: ray.x, angle: plus(ray.angle, u.turn(i)) };
  const x = mapped(element.map, ray.x);
  const shifted = { right: x.right.slice(), up: x.up.slice() };
  shifted[element.inPlane ?? "right"][u.shift(i)]! += 1;
  return { x: shifted, angle: plus(mapped(element.map, ray.angle), u.turn(i)) };
}

/** mrad over mm give µm. */
const MRAD = 1e-3;

/**
 * Rows that give the mark at a spot, seen from the station's own middle: offset + angle × length along every leg, turned at every mirror,
 * at the nozzle bent by the lens above it (thin lens, its middle an unknown like any other). Marks on the work are made with the lens out:
 * a focused beam shows where the lens is, the raw one where the mirror points.
 */
export function rowsAt(path: AimPath, spot: Spot): Rows {
  const known = rowsKnown.get(path) ?? new Map<string, Rows>();
  rowsKnown.set(path, known);
  const rows = known.get(spotId(spot)) ?? traced(path, spot);
  known.set(spotId(spot), rows);
  return rows;
}

/** Rows of a path never change; a sitting asks for the same few of them again and again. */
const rowsKnown = new WeakMap<AimPath, Map<string, Rows>>();

function traced(path: AimPath, spot: Spot): Rows {
  const u = unknownsOf(path);
  let ray: Ray = { x: plus(zero(u.count), u.tubePlace), angle: zero(u.count) };
  for (const [i, element] of path.elements.entries()) {
    ray = turned(ray, element, i, u);
    const far = spot.far.includes(element.endsAt) ? element.travelMm : 0;
    ray = { x: mix(ray.x, ray.angle, MRAD * (element.lengthMm + far)), angle: ray.angle };
    if (element.endsAt === spot.at) return plus(ray.x, u.middle(spot.at), -1);
  }
  const rawMm = path.lensToNozzleMm + path.nozzleToWorkMm + (spot.far.includes(WORK) ? path.zTravelMm : 0);
  if (spot.at === WORK) return plus(mix(ray.x, ray.angle, MRAD * rawMm), u.middle(spot.at), -1);
  // Through the lens: bent towards its axis by its own offset over its focal length.
  const lens = path.elements.at(-1)?.endsAt ?? "lens";
  const fromLens = plus(ray.x, u.middle(lens), -1);
  const bent = mix(ray.angle, fromLens, -1 / (MRAD * path.focalMm));
  return plus(mix(ray.x, bent, MRAD * path.lensToNozzleMm), u.middle(spot.at), -1);
}

/** Rows that give the angle (mrad) of the leg that leaves an element. */
export function anglesAfter(path: AimPath, element: number): Rows {
  const u = unknownsOf(path);
  let ray: Ray = { x: zero(u.count), angle: zero(u.count) };
  for (let i = 0; i <= element; i++) ray = turned(ray, path.elements[i] as AimElement, i, u);
  return ray.angle;
}

/** Applies rows to a state. */
export function at(rows: Rows, state: ArrayLike<number>): Across {
  let right = 0;
  let up = 0;
  for (let i = 0; i < rows.right.length; i++) {
    right += rows.right[i]! * state[i]!;
    up += rows.up[i]! * state[i]!;
  }
  return { right, up };
}
