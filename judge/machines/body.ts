/**
 * The body of a machine with something wrong in it: continuous physical quantities, and what follows from them. Path losses are in ln
 * power, offsets in mm, tilts in mrad. Clipping and the beam are those of M1 (`core/beam`); the rest are the simulator's own laws.
 */
import { clipLogLoss, ROLE_TRAITS, type Station } from "#core/beam";

/** What a practice machine is built of. */
export interface TroubleSpec {
  readonly stations: readonly Station[];
  readonly systems: readonly string[];
  /** Ply-hours after which an optic is due. */
  readonly intervalPlyHours: Readonly<Record<string, number>>;
  readonly beamRadiusMm: number;
  /** How many times as often as here each fault comes, by its public id. */
  readonly rateFactor?: (fault: string) => number;
}

/** Everything about a machine that a fault can change. */
export interface Body {
  /** Dirt and lasting harm of each optic, in ln power. */
  readonly dirt: Record<string, number>;
  readonly harm: Record<string, number>;
  /** Deviation the beam gets at the tube and at each mirror, (right, up) in mrad. */
  readonly tilt: Record<string, readonly [number, number]>;
  readonly turned: Record<string, boolean>;
  lensFlipped: boolean;
  lensLoose: number;
  /** How far the lens makes its focus from where the gauge says, and how far the head stands from the gauge's height. */
  lensShiftMm: number;
  focusMm: number;
  /** Height error at the worst place of the bed, and where that is. */
  bedMm: number;
  bedWorst: "side" | "corner";
  /** Free share of the nozzle's bore, and how far lens or nozzle is off the axis. */
  bore: number;
  boreOffMm: number;
  /** Share of the assist air. */
  air: number;
  /** Speed or power set wrong in the file (ln), and the limit on the panel (ln of its share). */
  settingsLn: number;
  limitLn: number;
  tubeLn: number;
  modeLn: number;
  currentShare: number;
  isUnsteady: boolean;
  coolantC: number;
  flowShare: number;
  foulLn: number;
  airInTube: number;
  finsLn: number;
  /** How much harder the sheet is to cut (ln), and how uneven. */
  sheetLn: number;
  sheetPatches: number;
}

export function soundBody(spec: TroubleSpec): Body {
  const optics = spec.stations.filter((s) => ROLE_TRAITS[s.role].isOptic);
  const turning = spec.stations.filter((s) => s.role === "mirror" || s.role === "tube");
  return {
    dirt: Object.fromEntries(optics.map((s) => [s.id, 0])),
    harm: Object.fromEntries(optics.map((s) => [s.id, 0])),
    tilt: Object.fromEntries(turning.map((s) => [s.id, [0, 0] as const])),
    turned: {},
    lensFlipped: false,
    lensLoose: 0,
    lensShiftMm: 0,
    focusMm: 0,
    bedMm: 0,
    bedWorst: "side",
    bore: 1,
    boreOffMm: 0,
    air: 1,
    settingsLn: 0,
    limitLn: 0,
    tubeLn: 0,
    modeLn: 0,
    currentShare: 1,
    isUnsteady: false,
    coolantC: 20.5,
    flowShare: 1,
    foulLn: 0,
    airInTube: 0,
    finsLn: 0,
    sheetLn: 0,
    sheetPatches: 0,
  };
}

/** Shares (0..1) of the first leg that grows with travel and of the second: the gantry's way and the head's on it. */
export type Travel = readonly [gantry: number, head: number];

/** Where on the bed; `side` and `corner` say how much of a bed's error stands there. */
export interface Place {
  readonly travel: Travel;
  readonly side: number;
  readonly corner: number;
}
const placeAt = (gantry: number, head: number): Place => ({ travel: [gantry, head], side: head, corner: gantry * head });
export const MIDDLE: Place = { travel: [0.5, 0.5], side: 0.5, corner: 0.35 };
export const BED = { near: placeAt(0, 0), side: placeAt(0, 1), back: placeAt(1, 0), far: placeAt(1, 1), middle: MIDDLE } as const;
const HALF_WAY: Travel = [0.5, 0.5];

const FOCAL_MM = 50.8;
/** Beam radius at the nozzle's tip. */
const TIP_MM = 0.9;
/** What the lens leaves of an offset at the tip: as much as of the beam's width. A tilt moves the beam there by the way from the lens to the tip. */
const leftAtTip = (spec: TroubleSpec): number => TIP_MM / spec.beamRadiusMm;
/** Half of the depth in which a sheet of a few millimetres cuts alike. */
const CUT_DEPTH_MM = 1.5;

/** Offset (mm) of the beam from the middle of a station. */
export function offsetAt(spec: TroubleSpec, body: Body, index: number, travel: Travel = HALF_WAY): readonly [number, number] {
  const legs = spec.stations.filter((s) => s.travelMm > 0);
  const share = (s: Station) => (s.travelMm > 0 ? s.travelMm * (travel[legs.indexOf(s)] ?? 0.5) : 0);
  let x = 0;
  let y = 0;
  for (let k = 0; k < index; k++) {
    const tilt = body.tilt[spec.stations[k]?.id ?? ""];
    if (!tilt || (tilt[0] === 0 && tilt[1] === 0)) continue;
    let way = 0;
    for (let j = k; j < index; j++) way += (spec.stations[j] as Station).distanceMm + share(spec.stations[j] as Station);
    x += (tilt[0] * way) / 1000;
    y += (tilt[1] * way) / 1000;
  }
  return [x, y];
}

const length = ([x, y]: readonly [number, number]): number => Math.hypot(x, y);

/** Distance (mm) of the beam from the nozzle's middle. */
export function tipOffMm(spec: TroubleSpec, body: Body, travel: Travel = HALF_WAY): number {
  const tilts = Object.values(body.tilt).reduce<[number, number]>(([x, y], t) => [x + t[0], y + t[1]], [0, 0]);
  const lens = spec.stations.findIndex((s) => s.role === "lens");
  const left = leftAtTip(spec);
  const toTip = ((1 - left) * FOCAL_MM) / 1000;
  const [x, y] = offsetAt(spec, body, lens, travel);
  return Math.hypot(length([tilts[0] * toTip + left * x, tilts[1] * toTip + left * y]), body.boreOffMm);
}

/** What is clipped at a station, in ln power. */
export function clipAt(spec: TroubleSpec, body: Body, index: number, travel: Travel = HALF_WAY): number {
  const station = spec.stations[index] as Station;
  if (station.role === "tube") return 0;
  if (station.role === "nozzle") {
    const radius = (station.apertureMm / 2) * Math.sqrt(body.bore);
    // A narrowed bore clips a centred beam too.
    const narrowed = clipLogLoss(radius, TIP_MM, 0) + (2 * (station.apertureMm / 2) ** 2 - 2 * radius ** 2 > 0 ? centredLoss(radius) : 0);
    return narrowed + clipLogLoss(radius, TIP_MM, tipOffMm(spec, body, travel));
  }
  const off = length(offsetAt(spec, body, index, travel));
  if (off < 0.5) return 0;
  // A mirror at 45° is narrower in one direction: taken as a round one between the two.
  const radius = (station.apertureMm / 2) * (station.role === "mirror" ? 0.84 : 1);
  return clipLogLoss(radius, spec.beamRadiusMm, off);
}

const centredLoss = (radius: number): number => -Math.log(1 - Math.exp((-2 * radius * radius) / (TIP_MM * TIP_MM)));

/** Loss (ln) of the light as it leaves the tube, its window not counted. */
export function tubeLoss(body: Body): number {
  const warm = Math.max(0, body.coolantC - 20.5);
  const flow = 0.28 * Math.max(0, 0.85 - body.flowShare);
  const current = body.currentShare * Math.exp(body.limitLn);
  // Light grows with the current from the threshold on.
  const light = Math.log(Math.max(0.05, (current - 0.18) / 0.82));
  return body.tubeLn + body.modeLn + 0.0075 * warm + flow + body.foulLn + 0.3 * body.airInTube + body.finsLn - light;
}

/** Loss (ln) of the light after each station of the path. */
export function lossesAlong(spec: TroubleSpec, body: Body, travel: Travel = HALF_WAY): number[] {
  let sum = tubeLoss(body);
  return spec.stations.map((s, i) => {
    sum += (body.dirt[s.id] ?? 0) + (body.harm[s.id] ?? 0) + clipAt(spec, body, i, travel);
    return sum;
  });
}

/** How many times wider than usual the spot is in the sheet. */
export function spotFactor(body: Body, place: Place): number {
  const bed = body.bedMm * (body.bedWorst === "side" ? place.side : place.corner);
  const off = Math.abs(body.focusMm + body.lensShiftMm + bed);
  const blur = (body.lensFlipped ? 0.5 : 0) + 0.6 * body.lensLoose + 1.1 * (body.harm.lens ?? 0) + 1.6 * body.modeLn;
  return Math.sqrt(1 + (off / CUT_DEPTH_MM) ** 2) + blur;
}

/** Ln of the effective power of a cut at a place against a sound and clean machine; at most 0. */
export function effectiveLn(spec: TroubleSpec, body: Body, place: Place): number {
  const light = lossesAlong(spec, body, place.travel).at(-1) as number;
  const spot = 0.52 * Math.log(spotFactor(body, place));
  const blown = body.air * Math.min(1, 0.35 + 0.65 * body.bore);
  const air = 0.3 * Math.max(0, 0.88 - blown);
  return -(light + spot + air + body.settingsLn + body.sheetLn);
}

/** Heat that long runs bring: what fades. */
export function heatOf(body: Body): number {
  const warm = 0.0075 * Math.max(0, body.coolantC - 20.5);
  const cooling = warm + 0.28 * Math.max(0, 0.85 - body.flowShare) + body.finsLn + 0.15 * body.airInTube + 0.3 * body.foulLn;
  return cooling + 0.14 * (body.dirt.lens ?? 0) + 0.3 * (body.harm.lens ?? 0) + 0.2 * (body.harm.window ?? 0);
}
