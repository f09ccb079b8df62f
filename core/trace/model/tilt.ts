/**
 * What a tilt of the beam does on one machine's own path. A tilt is known by what the far corner loses; from that follow its angle, the
 * marks it leaves at every mirror behind it, what the middle of the bed loses, and how far off the nozzle's middle it comes. Ray algebra
 * over the legs and the clipped Gaussian of `core/beam` (M1).
 */
import { clipLogLoss, offsetForLogLoss, type Station } from "#core/beam";
import type { BySeverity, Effect } from "./types";

/** Ln power that the far corner loses at the tightest place to a tilt that is light, and to one that is heavy: there hardly anything is cut. */
const FAR_LOSS: BySeverity<number> = [0.1, 1.0];
/** Focal length (mm) and the beam's radius at the nozzle's tip: M1's defaults. */
const FOCAL_MM = 50.8;
const TIP_RADIUS_MM = 0.9;
/** A mirror at 45° is narrower in one direction: as a round one between the two. */
const MIRROR_SHAPE = 0.84;
/** A beam off by less of an aperture than this loses a fraction of a percent there. */
const HARDLY_OFF = 0.2;
/** Cuts are missed over the bed, watts read in its middle; more than this share is never taken to be missed. */
const MOST_GAIN = 3;

export interface Tilt {
  /** Ln power lost in the middle of the bed, and the share by which a cut over the bed sees more of it. */
  readonly loss: BySeverity<number>;
  readonly cutGain: number;
  /** Offset (mm) of the mark at a station in the middle of the travel, and how far near and far marks lie apart there. */
  readonly markMm: (station: string) => BySeverity<number>;
  readonly apartMm: (station: string) => BySeverity<number>;
  /** Distance (mm) of the beam from the nozzle's middle. */
  readonly tipMm: BySeverity<number>;
}

/**
 * Tilts on one path: of the station `from`, undefined where nothing lies behind it that could clip. Lengths in mm, angles in rad inside.
 *
 * @example tiltsOn(stations, 3.5)("mirror-1")?.markMm("mirror-2") // [light, heavy] in mm
 */
export function tiltsOn(stations: readonly Station[], beamRadiusMm: number): (from: string) => Tilt | undefined {
  // The same few apertures clip every tilt: what takes so much of the light at one is searched for once.
  const known = new Map<string, number>();
  const offsetFor: OffsetFor = (radiusMm, spotMm, logLoss) => {
    const key = `${radiusMm} ${spotMm} ${logLoss}`;
    const offset = known.get(key) ?? offsetForLogLoss(radiusMm, spotMm, logLoss);
    known.set(key, offset);
    return offset;
  };
  return (from) => tiltAt(stations, from, beamRadiusMm, offsetFor);
}

type OffsetFor = typeof offsetForLogLoss;

function tiltAt(stations: readonly Station[], from: string, beamRadiusMm: number, offsetFor: OffsetFor): Tilt | undefined {
  const start = stations.findIndex((s) => s.id === from);
  const behind = stations.slice(start + 1);
  if (start < 0 || behind.length === 0) return undefined;
  const way = (id: string, travel: number) => {
    const end = stations.findIndex((s) => s.id === id);
    return stations.slice(start, end).reduce((sum, s) => sum + s.distanceMm + travel * s.travelMm, 0);
  };
  const isNozzle = (s: Station) => s.role === "nozzle";
  const radius = (s: Station) => (s.apertureMm / 2) * (s.role === "mirror" ? MIRROR_SHAPE : 1);
  // The lens leaves of an offset as much as of the beam's width, and a tilt moves the beam by the way from the lens to the tip.
  const left = TIP_RADIUS_MM / beamRadiusMm;
  const lens = behind.find((s) => s.role === "lens");
  const tipLeverMm = (travel: number) => (1 - left) * FOCAL_MM + (lens ? left * way(lens.id, travel) : 0);
  const leverMm = (s: Station, travel: number) => (isNozzle(s) ? tipLeverMm(travel) : way(s.id, travel));
  const spot = (s: Station) => (isNozzle(s) ? TIP_RADIUS_MM : beamRadiusMm);
  const angle = (farLoss: number) => Math.min(...behind.map((s) => offsetFor(radius(s), spot(s), farLoss) / leverMm(s, 1)));
  const angles = FAR_LOSS.map(angle) as unknown as BySeverity<number>;
  const clipped = (s: Station, offMm: number) => (offMm < HARDLY_OFF * radius(s) ? 0 : clipLogLoss(radius(s), spot(s), offMm));
  const each = (of: (rad: number) => number): BySeverity<number> => [of(angles[0]), of(angles[1])];
  const lost = (travel: number) => each((rad) => behind.reduce((sum, s) => sum + clipped(s, rad * leverMm(s, travel)), 0));
  const [middle, far] = [lost(0.5), lost(1)];
  const overTheBed: BySeverity<number> = [(middle[0] + far[0]) / 2, (middle[1] + far[1]) / 2];
  const cutGain = Math.min(MOST_GAIN, overTheBed[1] / Math.max(1e-3, middle[1]));
  return {
    loss: [overTheBed[0] / cutGain, overTheBed[1] / cutGain],
    cutGain,
    markMm: (station) => each((rad) => rad * way(station, 0.5)),
    apartMm: (station) => each((rad) => rad * (way(station, 1) - way(station, 0))),
    tipMm: each((rad) => rad * tipLeverMm(0.5)),
  };
}

/** How a mark so far out is reported: rows by its distance (mm), rising, each with the probability of every outcome. */
export interface MarkEffect {
  readonly kind: "mark";
  /** The mark in the middle of the travel, near and far marks against each other, or the beam in the nozzle. */
  readonly of: "mark" | "apart" | "tip";
  readonly rows: readonly { readonly mm: number; readonly outcomes: readonly number[] }[];
}

/** Tilts of one kind scatter by this share of what they leave, and marks are laid and read to so many mm. */
const SCATTER = 0.35;
const LAID_MM = 0.7;

/** What a tilt shows in a check at a station: outcomes between the rows its offset lies between, and the offset itself. */
export function markShown(effect: MarkEffect, tilt: Tilt, station: string): Effect[] {
  const [light, heavy] = effect.of === "tip" ? tilt.tipMm : effect.of === "mark" ? tilt.markMm(station) : tilt.apartMm(station);
  const outcomes: Effect = { kind: "outcomes", light: between(effect.rows, light), heavy: between(effect.rows, heavy) };
  if (effect.of === "tip") return [outcomes];
  return [
    outcomes,
    { kind: "shift", mean: [light, heavy], sd: [Math.hypot(LAID_MM, SCATTER * light), Math.hypot(LAID_MM, SCATTER * heavy)] },
  ];
}

function between(rows: MarkEffect["rows"], mm: number): readonly number[] {
  const above = rows.findIndex((r) => r.mm >= mm);
  const upper = rows[above < 0 ? rows.length - 1 : above] as MarkEffect["rows"][number];
  const lower = above <= 0 ? upper : (rows[above - 1] as MarkEffect["rows"][number]);
  const share = upper.mm > lower.mm ? (mm - lower.mm) / (upper.mm - lower.mm) : 0;
  return upper.outcomes.map((p, j) => (1 - share) * (lower.outcomes[j] as number) + share * p);
}
