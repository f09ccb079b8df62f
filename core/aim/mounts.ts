/** Mounts of a mirror: what their screws do to the beam, and the turns a hand can make. */
import type { SCREW_MOUNTS } from "#core/machine";
import { type Across, TURNED_ACROSS, TURNED_IN_PLANE } from "./directions";

export type MountKind = (typeof SCREW_MOUNTS)[number];

/** How a mirror is turned. Pitch and arm in mm: the arm is from the pivot to a screw, at 120° from the middle to each screw. */
export interface ScrewMount {
  readonly kind: MountKind;
  readonly pitchMm: number;
  readonly armMm: number;
}

export const DEFAULT_MOUNT: ScrewMount = { kind: "right-angle", pitchMm: 0.5, armMm: 40 };

/** Screws by letter. Their effect is unknown until learned; which way they lie tells only its likely size. */
export const SCREWS = ["A", "B", "C"] as const;
export type Screw = (typeof SCREWS)[number];

/** What an owner who never turned it may expect of a screw: its place in words, and the beam's turn (mrad) of one turn, sign unknown. */
export interface ScrewPlace {
  readonly screw: Screw;
  readonly place: string;
  /** Size along each axis of the leg after the mirror, mrad a turn. Signs follow the drawing of the mount, not the thread. */
  readonly expected: Across;
}

/** Rotation of the mirror (mrad) of one turn: pitch over arm; at 120° the mirror turns about the line through the other two, 1.5 radii away. */
export function rotationPerTurnMrad(mount: ScrewMount): number {
  const armMm = mount.kind === "three-at-120" ? 1.5 * mount.armMm : mount.armMm;
  return (1000 * mount.pitchMm) / armMm;
}

/** Screws of a mount that are turned for the aim; the pivot of a right-angle mount is left alone. */
export function screwsOf(mount: ScrewMount, inPlane: "right" | "up"): ScrewPlace[] {
  const rotation = rotationPerTurnMrad(mount);
  const beam = (inPlaneShare: number, acrossShare: number): Across => {
    const along = TURNED_IN_PLANE * rotation * inPlaneShare;
    const across = TURNED_ACROSS * rotation * acrossShare;
    return inPlane === "right" ? { right: along, up: across } : { right: across, up: along };
  };
  if (mount.kind === "three-at-120") {
    const at = (degrees: number) => beam(Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180));
    return [
      { screw: "A", place: "the single one", expected: at(90) },
      { screw: "B", place: "one of the pair", expected: at(210) },
      { screw: "C", place: "the other of the pair", expected: at(330) },
    ];
  }
  const pivot = mount.kind === "right-angle" ? "the corner screw" : "the pivot";
  return [
    { screw: "A", place: `beside ${pivot}, level with it`, expected: beam(1, 0) },
    { screw: "B", place: `above or below ${pivot}`, expected: beam(0, 1) },
  ];
}

/** Finest turn a hand makes on purpose. */
export const FINEST_TURN = 1 / 16;
const QUARTER = 1 / 4;

/**
 * Turns as a hand makes them: eighths, and sixteenths below a quarter.
 * roundTurns(0.213) // 3/16
 */
export function roundTurns(turns: number): number {
  const step = Math.abs(turns) < QUARTER ? FINEST_TURN : 2 * FINEST_TURN;
  const rounded = Math.round(turns / step) * step;
  return rounded === 0 ? 0 : rounded;
}

/** Turns a hand can make on either side of what would be right. */
export function turnsAround(turns: number): number[] {
  const low = Math.floor(turns / FINEST_TURN) * FINEST_TURN;
  return [...new Set([low, low + FINEST_TURN, roundTurns(turns)].filter((t) => roundTurns(t) === t))];
}

/** Distance (mm) the mark moves by the finest turns of a mount at the end of a way: the longest a rounded pair of screws leaves, twice. */
export function finestStepMm(mount: ScrewMount, travelMm: number): number {
  const step = (rotationPerTurnMrad(mount) / 1000) * FINEST_TURN * travelMm;
  return Math.hypot(TURNED_IN_PLANE * step, TURNED_ACROSS * step);
}

/** A turn in words: "3/16 turn clockwise". */
export function turnWords(turns: number): string {
  const size = Math.abs(turns);
  const whole = Math.floor(size);
  const sixteenths = Math.round((size - whole) * 16);
  const divisor = [8, 4, 2, 1].find((d) => sixteenths % d === 0) ?? 1;
  const part = sixteenths === 0 ? "" : `${sixteenths / divisor}/${16 / divisor}`;
  const amount = [whole > 0 || part === "" ? String(whole) : "", part].filter(Boolean).join(" ");
  return `${amount} ${size > 1 ? "turns" : "turn"} ${turns < 0 ? "anticlockwise" : "clockwise"}`;
}
