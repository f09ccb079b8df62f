/**
 * A machine whose screws can be turned: its mirrors are planes through three points, each screw moves one of them along its thread, and
 * the beam is traced as a ray in space. Nothing of the aim solver is in it but the list of legs.
 */
import { type AimPath, type Direction, type Screw, type Spot, WORK } from "#core/aim";
import type { Random } from "#core/random";

type V = [number, number, number];

const AXIS: { readonly [D in Direction]: V } = {
  right: [1, 0, 0],
  left: [-1, 0, 0],
  rear: [0, 1, 0],
  front: [0, -1, 0],
  up: [0, 0, 1],
  down: [0, 0, -1],
};
const add = (a: V, b: V, s = 1): V => [a[0] + s * b[0], a[1] + s * b[1], a[2] + s * b[2]];
const dot = (a: V, b: V) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: V, b: V): V => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const unit = (a: V): V => add([0, 0, 0], a, 1 / Math.sqrt(dot(a, a)));

/** How far a machine is off before anybody turns a screw, standard deviations. */
export interface Misalignment {
  readonly tubePlaceMm: number;
  readonly tubeAngleMrad: number;
  readonly mirrorMrad: number;
  readonly mountMm: number;
}

export const USUAL_MISALIGNMENT: Misalignment = { tubePlaceMm: 0.7, tubeAngleMrad: 1.5, mirrorMrad: 2.5, mountMm: 0.5 };

/** A mirror's three feet: two or three of them are screws, each with its own sense. */
interface Mirror {
  readonly normal: V;
  readonly shift: V;
  readonly feet: { readonly at: V; readonly screw: Screw | undefined; readonly sense: number; advanceMm: number }[];
}

export interface AimMachine {
  /** Where the beam lands at a spot, mm from the station's middle in the frame of the arriving leg; read with an error where asked. */
  mark(spot: Spot, readingSdMm?: number): { right: number; up: number };
  /** Turns a screw, clockwise positive; the hand is a little off. */
  turn(element: string, screw: Screw, turns: number): void;
  /** Moves a station's middle (its mount with the aperture), or the tube, by mm in the frame of the arriving or leaving leg. */
  shim(station: string, mm: { right: number; up: number }): void;
  raiseTube(mm: { right: number; up: number }): void;
  /** Slides a mirror so that the beam it sends on moves by mm in the plane it turns the beam in. */
  slide(element: string, mm: number): void;
}

const HAND_SD_TURNS = 0.01;
const SKEW_RAD = 0.12;
const SHIM_SD_MM = 0.2;

/** A misaligned machine with screws of unknown sense. `path` gives its legs and mounts. */
export function aimMachine(random: Random, path: AimPath, off: Misalignment = USUAL_MISALIGNMENT): AimMachine {
  const frame = (direction: Direction) => {
    const along = AXIS[direction];
    const up: V = direction === "up" || direction === "down" ? AXIS.rear : AXIS.up;
    return { along, up, right: cross(along, up) };
  };
  const [tube] = path.elements;
  if (!tube) throw new RangeError("a path begins with its tube");
  const first = frame(tube.beamTo);
  const sideways = (sd: number, f: ReturnType<typeof frame>): V =>
    add(add([0, 0, 0], f.right, sd * random.normal()), f.up, sd * random.normal());
  let tubePlace = sideways(off.tubePlaceMm, first);
  const tubeWay = unit(add(first.along, sideways(off.tubeAngleMrad / 1000, first)));
  const middles = new Map(path.stations.map((s) => [s.id, { right: off.mountMm * random.normal(), up: off.mountMm * random.normal() }]));
  const below = (id: string) => id === "lens" || id === "nozzle";
  for (const s of path.stations) {
    if (below(s.id)) middles.set(s.id, { right: 0.2 * random.normal(), up: 0.2 * random.normal() });
    if (s.id === WORK) middles.set(s.id, { right: 5 * random.normal(), up: 5 * random.normal() });
  }
  const mirrors = path.elements.slice(1).map((element, i): Mirror => {
    const before = AXIS[path.elements[i]!.beamTo];
    const after = AXIS[element.beamTo];
    const normal = unit(add(after, before, -1));
    const across = cross(before, after);
    const inPlane = cross(across, normal);
    const skew = SKEW_RAD * random.normal();
    const e1 = add(add([0, 0, 0], inPlane, Math.cos(skew)), across, Math.sin(skew));
    const e2 = cross(normal, e1);
    const arm = element.mount?.armMm ?? 40;
    const place = (a: number, b: number): V => add(add([0, 0, 0], e1, a * arm), e2, b * arm);
    const sense = () => (random.uniform() < 0.5 ? -1 : 1) * (1 + 0.08 * random.normal());
    const circle = (degrees: number): V => place(Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180));
    const at120 = element.mount?.kind === "three-at-120";
    const feet = at120
      ? (["A", "B", "C"] as const).map((screw, k) => ({ at: circle(90 + 120 * k), screw, sense: sense(), advanceMm: 0 }))
      : [
          { at: place(-0.5, -0.5), screw: undefined, sense: 0, advanceMm: 0 },
          { at: place(0.5, -0.5), screw: "A" as const, sense: sense(), advanceMm: 0 },
          { at: place(-0.5, 0.5), screw: "B" as const, sense: sense(), advanceMm: 0 },
        ];
    // Misaligned: the feet stand a little in or out, whatever the screws did.
    for (const foot of feet) foot.advanceMm = (off.mirrorMrad / 1000) * arm * random.normal() * Math.SQRT1_2;
    return { normal, shift: add([0, 0, 0], normal, (off.mountMm / Math.SQRT2) * random.normal()), feet };
  });
  const slid = mirrors.map((): V => [0, 0, 0]);

  /** Plane through the three feet of a mirror whose middle stands at a place. */
  function planeOf(index: number, middle: V): { at: V; normal: V } {
    const m = mirrors[index]!;
    const points = m.feet.map((f) => add(add(add(add(middle, m.shift), slid[index]!), f.at), m.normal, f.advanceMm));
    const normal = unit(cross(add(points[1]!, points[0]!, -1), add(points[2]!, points[0]!, -1)));
    return { at: points[0]!, normal };
  }

  function land(spot: Spot): { right: number; up: number } {
    let at = tubePlace;
    let way = tubeWay;
    let middle: V = [0, 0, 0];
    for (const [i, element] of path.elements.entries()) {
      const f = frame(element.beamTo);
      middle = add(middle, f.along, element.lengthMm + (spot.far.includes(element.endsAt) ? element.travelMm : 0));
      // Where the ray meets the plane of the tape, square to the beam through the station's middle.
      const tape = add(at, way, dot(add(middle, at, -1), f.along) / dot(way, f.along));
      const from = add(tape, middle, -1);
      const seen = { right: dot(from, f.right), up: dot(from, f.up) };
      if (element.endsAt === spot.at) return minusMiddle(seen, spot.at);
      if (i === path.elements.length - 1) return belowLens(seen, way, f, spot);
      const plane = planeOf(i, middle);
      at = add(at, way, dot(add(plane.at, at, -1), plane.normal) / dot(way, plane.normal));
      way = unit(add(way, plane.normal, -2 * dot(way, plane.normal)));
    }
    throw new RangeError(`no tape at ${spot.at} on this path`);
  }

  const minusMiddle = (seen: { right: number; up: number }, id: string) => {
    const m = middles.get(id) ?? { right: 0, up: 0 };
    return { right: seen.right - m.right, up: seen.up - m.up };
  };

  /** At the nozzle through the lens, which bends a ray at a height over its axis by that over the focal length; on the work without it. */
  function belowLens(seen: { right: number; up: number }, way: V, f: ReturnType<typeof frame>, spot: Spot) {
    const lens = minusMiddle(seen, path.elements.at(-1)!.endsAt);
    const onWork = spot.at === WORK;
    const down = path.lensToNozzleMm + (onWork ? path.nozzleToWorkMm + (spot.far.includes(WORK) ? path.zTravelMm : 0) : 0);
    const slope = (axis: "right" | "up") => dot(way, f[axis]) / dot(way, f.along) - (onWork ? 0 : lens[axis] / path.focalMm);
    return minusMiddle({ right: seen.right + down * slope("right"), up: seen.up + down * slope("up") }, spot.at);
  }

  const indexOf = (element: string) => path.elements.findIndex((e) => e.id === element) - 1;
  return {
    mark(spot, readingSdMm = 0) {
      const { right, up } = land(spot);
      return { right: right + readingSdMm * random.normal(), up: up + readingSdMm * random.normal() };
    },
    turn(element, screw, turns) {
      const foot = mirrors[indexOf(element)]?.feet.find((x) => x.screw === screw);
      const pitch = path.elements.find((e) => e.id === element)?.mount?.pitchMm ?? 0.5;
      if (!foot) throw new RangeError(`no screw ${screw} on ${element}`);
      foot.advanceMm += foot.sense * pitch * (turns + HAND_SD_TURNS * random.normal());
    },
    shim(station, mm) {
      const m = middles.get(station);
      if (!m) throw new RangeError(`no station ${station}`);
      middles.set(station, { right: m.right + mm.right + SHIM_SD_MM * random.normal(), up: m.up + mm.up + SHIM_SD_MM * random.normal() });
    },
    raiseTube(mm) {
      const by = (v: V, axis: V, amount: number) => add(v, axis, amount + SHIM_SD_MM * random.normal());
      tubePlace = by(by(tubePlace, first.right, mm.right), first.up, mm.up);
    },
    slide(element, mm) {
      const i = indexOf(element);
      const m = mirrors[i];
      const leaving = path.elements[i + 1];
      if (!m || !leaving?.inPlane) throw new RangeError(`${element} cannot be slid`);
      // Along its normal by s the beam it sends on moves by √2 s; which way its axis counts, the frame says.
      const towards = Math.sign(dot(m.normal, frame(leaving.beamTo)[leaving.inPlane]));
      slid[i] = add(slid[i]!, m.normal, (towards * (mm + SHIM_SD_MM * random.normal())) / Math.SQRT2);
    },
  };
}
