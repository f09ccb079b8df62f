/** Directions of the beam in the machine, the frame a mark is read in, and what a mirror makes of both. */

import type { BEAM_DIRECTIONS } from "#core/machine";

/** Where a leg of the beam goes, seen from the front of the machine. */
export type Direction = (typeof BEAM_DIRECTIONS)[number];

/** Machine axes: x to the right, y to the rear, z up. */
export type Vector = readonly [number, number, number];

const AXES: { readonly [D in Direction]: Vector } = {
  right: [1, 0, 0],
  left: [-1, 0, 0],
  rear: [0, 1, 0],
  front: [0, -1, 0],
  up: [0, 0, 1],
  down: [0, 0, -1],
};

export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** The frame of a leg: `along` the beam; `up` the machine's vertical, or its rear where the beam itself is vertical; `right` = along × up. */
export interface Frame {
  readonly along: Vector;
  readonly right: Vector;
  readonly up: Vector;
}

export function frameOf(direction: Direction): Frame {
  const along = AXES[direction];
  const up = AXES[direction === "up" || direction === "down" ? "rear" : "up"];
  return { along, up, right: cross(along, up) };
}

/** True where a mirror can turn one leg into the other: at a right angle. */
export const isRightAngle = (before: Direction, after: Direction): boolean => dot(AXES[before], AXES[after]) === 0;

/** Outward normal of the mirror at 45° that turns one leg into the other. Throws RangeError where they are not at a right angle. */
export function normalOf(before: Direction, after: Direction): Vector {
  if (!isRightAngle(before, after)) throw new RangeError(`no mirror at 45° turns ${before} into ${after}`);
  const [a, b] = [AXES[before], AXES[after]];
  const half = Math.SQRT1_2;
  return [(b[0] - a[0]) * half, (b[1] - a[1]) * half, (b[2] - a[2]) * half];
}

/** v - 2 (v·n) n. */
export function reflect(v: Vector, n: Vector): Vector {
  const twice = 2 * dot(v, n);
  return [v[0] - twice * n[0], v[1] - twice * n[1], v[2] - twice * n[2]];
}

/** A 2 × 2 map, row by row. */
export type Map2 = readonly [number, number, number, number];

/** What (right, up) before a mirror becomes after it: the leg before is seen in the mirror. */
export function throughMirror(before: Direction, after: Direction): Map2 {
  const [from, to, n] = [frameOf(before), frameOf(after), normalOf(before, after)];
  const [right, up] = [reflect(from.right, n), reflect(from.up, n)];
  return [dot(right, to.right), dot(up, to.right), dot(right, to.up), dot(up, to.up)].map(Math.round) as unknown as Map2;
}

/** Which of (right, up) after a mirror lies in its plane of incidence. */
export function inPlaneAxis(before: Direction, after: Direction): "right" | "up" {
  const { right, up } = frameOf(after);
  return Math.abs(dot(right, AXES[before])) > Math.abs(dot(up, AXES[before])) ? "right" : "up";
}

/** Beam turned per rotation of a mirror at 45°: twice in its plane of incidence, √2 out of it. */
export const TURNED_IN_PLANE = 2;
export const TURNED_ACROSS = Math.SQRT2;

/** Sideways and upwards, mm or mrad, in the frame of a leg. */
export interface Across {
  readonly right: number;
  readonly up: number;
}

/**
 * The rotation (mrad) that takes a leg's deviation away: opposed to it, half of it in the plane of incidence, 1/√2 of it out of it.
 * correctionOf({ right: 5.33, up: -3 }, "right") // { inPlane: -2.67, across: 2.12 }
 */
export function correctionOf(deviation: Across, inPlane: "right" | "up"): { inPlane: number; across: number } {
  const other = inPlane === "right" ? "up" : "right";
  return { inPlane: -deviation[inPlane] / TURNED_IN_PLANE, across: -deviation[other] / TURNED_ACROSS };
}
