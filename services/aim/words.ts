/** Marks, ways, screws and shifts put into words, in the machine's own directions. */
import {
  type Across,
  type AimPath,
  type AimStep,
  type Direction,
  type Frame,
  frameOf,
  type Shift,
  type Spot,
  turnWords,
  type Vector,
  WORK,
} from "#core/aim";
import type { Trade } from "../machine/trade";
import { fixedHere, unitHere, withUnit } from "../units";
import { theStation } from "../words";

const TOWARDS: { readonly [D in Direction]: string } = {
  left: "to the machine's left",
  right: "to the machine's right",
  front: "to the front",
  rear: "to the rear",
  up: "up",
  down: "down",
};
const SIDE: { readonly [D in Direction]: string } = {
  left: "machine's left",
  right: "machine's right",
  front: "front",
  rear: "rear",
  up: "up",
  down: "down",
};

const directionOf = (v: Vector): Direction =>
  v[0] > 0.5 ? "right" : v[0] < -0.5 ? "left" : v[1] > 0.5 ? "rear" : v[1] < -0.5 ? "front" : v[2] > 0 ? "up" : "down";
const against = (v: Vector): Vector => [-v[0], -v[1], -v[2]];

export const nameOf = (trade: Trade, id: string): string => trade.layout.names[id] ?? (id === WORK ? "the work" : id);

/** The frame a mark at a station is read in: that of the leg that arrives. */
export function frameAt(path: AimPath, station: string): Frame {
  const arriving = path.elements.find((e) => e.endsAt === station) ?? path.elements.at(-1);
  return frameOf(arriving?.beamTo ?? "down");
}

/** What the four sides of a mark's ring are on the machine. */
export function sidesAt(path: AimPath, station: string): { right: string; left: string; up: string; down: string } {
  const f = frameAt(path, station);
  return {
    right: SIDE[directionOf(f.right)],
    left: SIDE[directionOf(against(f.right))],
    up: SIDE[directionOf(f.up)],
    down: SIDE[directionOf(against(f.up))],
  };
}

/** "3.2 mm to the machine's left and 1.8 mm down"; what is too small to matter is left out. */
export function acrossWords(frame: Frame, { right, up }: Across, least = 0.25): string {
  const part = (mm: number, axis: Vector) =>
    Math.abs(mm) < least ? [] : [`${withUnit(Math.abs(mm), "mm")} ${TOWARDS[directionOf(mm < 0 ? against(axis) : axis)]}`];
  return [...part(right, frame.right), ...part(up, frame.up)].join(" and ") || `under ${withUnit(least, "mm", 2)}`;
}

/** What moves on a way: the head on the last one of a path, the gantry before it, the bed below. */
export function wayName(path: AimPath, way: string): string {
  if (way === WORK) return "bed";
  const moving = path.elements.filter((e) => e.travelMm > 0).map((e) => e.endsAt);
  return way === moving.at(-1) ? "head" : "gantry";
}

/** "M3, gantry far, head near". */
export function spotWords(trade: Trade, path: AimPath, spot: Spot): string {
  const ways = path.elements.filter((e) => e.travelMm > 0).map((e) => e.endsAt);
  const before = ways.slice(0, ways.indexOf(spot.at) + 1 || ways.length);
  const stand = (way: string) => `${wayName(path, way)} ${spot.far.includes(way) ? "far" : "near"}`;
  if (spot.at === WORK) return `the work, bed ${spot.far.includes(WORK) ? "down" : "up"}, lens out`;
  const out = trade.layout.stations.find((s) => s.id === spot.at)?.role === "lens" ? ", lens out" : "";
  const upstream = path.elements.findIndex((e) => e.endsAt === spot.at);
  const passed = upstream < 0 ? ways : before.filter((w) => path.elements.findIndex((e) => e.endsAt === w) <= upstream);
  const moved = [...new Set(passed.map(stand))];
  return `${theStation(nameOf(trade, spot.at))}${out}${moved.length > 0 ? `, ${moved.join(", ")}` : ""}`;
}

/** A shift as a sentence that says what to do. */
export function shiftWords(trade: Trade, path: AimPath, shift: Shift): string {
  const tube = frameOf(path.elements[0]?.beamTo ?? "left");
  switch (shift.of) {
    case "tube":
      return `Move the tube ${acrossWords(tube, shift.mm)}.`;
    case "mount":
      return `Move the mount of ${theStation(nameOf(trade, shift.station))} ${acrossWords(frameAt(path, shift.station), shift.mm)}.`;
    case "slide": {
      const i = path.elements.findIndex((e) => e.id === shift.element);
      const element = path.elements[i];
      const before = frameOf(path.elements[i - 1]?.beamTo ?? "left");
      if (!element?.inPlane) return "";
      // Moved along the beam that meets it, a mirror at 45° carries the beam it sends on along with it.
      const out = frameOf(element.beamTo)[element.inPlane];
      const along = out[0] * before.along[0] + out[1] * before.along[1] + out[2] * before.along[2];
      const mm = shift.mm * along;
      const way = directionOf(mm < 0 ? against(before.along) : before.along);
      return `Slide the mount of ${theStation(nameOf(trade, shift.element))} ${withUnit(Math.abs(mm), "mm")} ${TOWARDS[way]}, along its slots.`;
    }
  }
}

/** Behind a panel that is not for owners. */
export const isClosed = (trade: Trade, id: string): boolean => trade.layout.path.some((s) => s.id === id && s.warranty === true);

const sentence = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** The next step as the sentence on top. */
export function stepHeadline(trade: Trade, path: AimPath, step: AimStep): string {
  switch (step.kind) {
    case "mark":
      return `Make a mark at ${spotWords(trade, path, step.spot)}.`;
    case "turn":
      return `${nameOf(trade, step.element)}, screw ${step.screw}: ${turnWords(step.turns)}.`;
    case "shift":
      return shiftWords(trade, path, step.shift);
    case "seat":
      return step.element === "tube"
        ? "The tube points off: for a qualified person."
        : isClosed(trade, step.element)
          ? `${sentence(theStation(nameOf(trade, step.element)))} points off: for the maker's service.`
          : `Seat ${theStation(nameOf(trade, step.element))} again.`;
    case "vague":
      return "These marks cannot tell more.";
    case "good":
      return "Good enough: the marks lie on one spot.";
  }
}

const withSign = (value: number, figure: string) => `${value < -0.05 ? "−" : value > 0.05 ? "+" : ""}${figure}`;
/** A figure with its sign. */
export const signed = (value: number) => withSign(value, Math.abs(value).toFixed(1));
/** A length with its sign, without its unit. */
const signedLength = (mm: number) => withSign(mm, fixedHere(Math.abs(mm), "mm"));
/** A mark by its mm to the right and up. */
export const placeWords = (mark: { right: number; up: number }) =>
  `${signedLength(mark.right)}, ${signedLength(mark.up)} ${unitHere("mm")}`;
