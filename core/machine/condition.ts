/** Which machines and parts something of the catalog applies to: one language for procedures, faults, checks and repairs. */
import { staysInPlace } from "./path";
import type { Coating, Extra, Fittings, Mount, PathStation } from "./types";

/** When a step, a procedure, a fault, a check or a repair applies; all that is given must hold, a list means any of it. */
export interface Condition {
  readonly mount?: readonly Mount[];
  readonly coating?: readonly Coating[];
  readonly inPlace?: boolean;
  readonly enclosed?: boolean;
  readonly head?: boolean;
  readonly bearing?: readonly Fittings["bearing"][];
  readonly cooling?: readonly Fittings["cooling"][];
  readonly lid?: readonly Fittings["lid"][];
  readonly bed?: readonly Fittings["bed"][];
  readonly extra?: readonly Extra[];
  readonly without?: readonly Extra[];
  readonly movingHead?: boolean;
  readonly dusty?: boolean;
  /** A bore one can see the lens through. */
  readonly wideBore?: boolean;
  /** A window whose inner face is reached through the seat of the mirror before it. */
  readonly behindMirror?: boolean;
}

/** The machine a condition is asked of. */
export interface Fitted {
  readonly fittings: Fittings;
  /** The lens moves inside its head to focus. */
  readonly movingHead: boolean;
  /** Bore of the nozzle; endless where there is none. */
  readonly boreMm: number;
}

/** The part it is asked of: a station of the path, or nothing for systems. */
export interface Placed {
  readonly station?: PathStation | undefined;
  readonly isHead?: boolean;
  readonly behindMirror?: boolean;
}

/** A bore of this width (mm) shows the lens from below. */
const WIDE_BORE_MM = 6;

export function holds(
  when: Condition | undefined,
  { fittings, movingHead, boreMm }: Fitted,
  { station, isHead, behindMirror }: Placed,
): boolean {
  if (!when) return true;
  const among = <T>(list: readonly T[] | undefined, value: T | undefined) =>
    list === undefined || (value !== undefined && list.includes(value));
  const is = (wanted: boolean | undefined, value: boolean) => wanted === undefined || wanted === value;
  const bed = (b: Fittings["bed"]) => fittings.bed === b || fittings.bed === "both";
  return (
    among(when.mount, station?.mount) &&
    among(when.coating, station?.coating) &&
    is(when.inPlace, station !== undefined && staysInPlace(station)) &&
    is(when.enclosed, station?.enclosed === true) &&
    is(when.head, isHead === true) &&
    is(when.movingHead, movingHead) &&
    is(when.dusty, fittings.room === "dusty") &&
    is(when.wideBore, boreMm >= WIDE_BORE_MM) &&
    is(when.behindMirror, behindMirror === true) &&
    among(when.bearing, fittings.bearing) &&
    among(when.cooling, fittings.cooling) &&
    among(when.lid, fittings.lid) &&
    (when.bed === undefined || when.bed.some(bed)) &&
    (when.extra === undefined || when.extra.some((e) => fittings.extras.includes(e))) &&
    (when.without === undefined || !when.without.some((e) => fittings.extras.includes(e)))
  );
}
