/**
 * A bed map: short ladders at places of the bed, and which of five patterns they follow. On a gantry the path length is linear in x and y,
 * so the patterns are never fitted at once but compared: each by its best likelihood, charged for its parameters (Schwarz, "Estimating the
 * dimension of a model"; weights as in Kass and Raftery, "Bayes factors").
 */
import { normalCdf, normalPdf } from "#core/normal";
import { LADDER_SLOPE, type LadderResult, type Rung, readLadder } from "./ladder";

export const BED_PATTERNS = ["even", "falls-with-distance", "one-side", "one-corner", "patchy"] as const;
export type BedPattern = (typeof BED_PATTERNS)[number];

/** A short ladder of the map. Place in shares of the bed, 0..1 from its left and from its back. */
export interface MapLadder {
  readonly across: number;
  readonly down: number;
  readonly rungs: readonly Rung[];
}

export const BED_CORNERS = ["back-left", "back-right", "front-left", "front-right"] as const;
export type BedCorner = (typeof BED_CORNERS)[number];

export type BedMapReading =
  | {
      readonly kind: "map";
      /** v50 of each ladder, in the order given; a bound where all or none of it dropped. */
      readonly places: readonly LadderResult[];
      /** Weight of each pattern; they sum to one. */
      readonly weights: { readonly [P in BedPattern]: number };
      readonly leading: BedPattern;
      /** Weakest place against the strongest by the fit of the leading pattern, 0..1. */
      readonly weakest: number;
      /** ln v50 of each place by the leading pattern; a bound's own speed where the pattern leaves it free. */
      readonly lnV50: readonly number[];
    }
  | { readonly kind: "none"; readonly reason: string };

const DROPPED: Readonly<Record<Rung["end"], number>> = { dropped: 1, hangs: 0.5, stays: 0 };
const TINY = 1e-300;

/** Log likelihood of a ladder at u = ln v50, with its slope and its curvature (never above 0). */
function terms(rungs: readonly Rung[], u: number): readonly [value: number, slope: number, curvature: number] {
  let [value, slope, curvature] = [0, 0, 0];
  for (const { speedMmPerS, end } of rungs) {
    const z = (u - Math.log(speedMmPerS)) / LADDER_SLOPE;
    const [p, q, density] = [Math.max(TINY, normalCdf(z)), Math.max(TINY, normalCdf(-z)), normalPdf(z)];
    const fell = DROPPED[end];
    value += fell * Math.log(p) + (1 - fell) * Math.log(q);
    slope += fell * (density / p) - (1 - fell) * (density / q);
    curvature -= fell * (density / p) * (z + density / p) + (1 - fell) * (density / q) * (density / q - z);
  }
  return [value, slope / LADDER_SLOPE, Math.min(0, curvature) / LADDER_SLOPE ** 2];
}

interface Line {
  readonly level: number;
  readonly slope: number;
  readonly logLikelihood: number;
}

const STEEPEST = 1.5;
/** Keeps a level or slope that nothing holds from running away; too weak to matter anywhere else. */
const RIDGE = 1e-3;
const LONGEST_STEP = 0.2;

/** Best line u = level + slope x with the slope in a range, by Newton's method; the likelihood is concave in both. */
function bestLine(ladders: readonly MapLadder[], x: readonly number[], start: number, slopes: readonly [number, number]): Line {
  const free = slopes[1] > slopes[0] ? climb(ladders, x, start, 0, true) : undefined;
  if (free && free.slope >= slopes[0] && free.slope <= slopes[1]) return free;
  return climb(ladders, x, start, Math.min(slopes[1], Math.max(slopes[0], free?.slope ?? 0)), false);
}

function climb(ladders: readonly MapLadder[], x: readonly number[], start: number, held: number, isFree: boolean): Line {
  let [level, slope] = [start, held];
  const cap = (step: number) => Math.max(-LONGEST_STEP, Math.min(LONGEST_STEP, step));
  for (let i = 0; i < 60; i++) {
    let [ga, gb, haa, hab, hbb] = [-RIDGE * (level - start), -RIDGE * slope, -RIDGE, 0, -RIDGE];
    for (const [k, l] of ladders.entries()) {
      const at = x[k] as number;
      const [, s, c] = terms(l.rungs, level + slope * at);
      ga += s;
      gb += s * at;
      haa += c;
      hab += c * at;
      hbb += c * at * at;
    }
    const det = isFree ? haa * hbb - hab * hab : 0;
    const [da, db] = isFree ? [cap(-(hbb * ga - hab * gb) / det), cap(-(haa * gb - hab * ga) / det)] : [cap(-ga / haa), 0];
    level += da;
    slope += db;
    if (Math.abs(da) + Math.abs(db) < 1e-9) break;
  }
  const logLikelihood = ladders.reduce((sum, l, k) => sum + terms(l.rungs, level + slope * (x[k] as number))[0], 0);
  return { level, slope, logLikelihood };
}

/** One way a pattern can lie: where each place stands on its scale, and the slopes it may have. */
interface Shape {
  readonly x: readonly number[];
  readonly slopes: readonly [number, number];
}

function shapesOf(ladders: readonly MapLadder[], near: BedCorner): Readonly<Record<Exclude<BedPattern, "patchy">, readonly Shape[]>> {
  const [right, front] = [near.endsWith("right") ? 1 : 0, near.startsWith("front") ? 1 : 0];
  const falls = [-STEEPEST, 0] as const;
  const corner = (across: number, down: number): Shape => ({
    x: ladders.map((l) => (Math.abs(l.across - across) < 0.4 && Math.abs(l.down - down) < 0.4 ? 1 : 0)),
    slopes: falls,
  });
  return {
    even: [{ x: ladders.map(() => 0), slopes: [0, 0] }],
    "falls-with-distance": [{ x: ladders.map((l) => (Math.abs(l.across - right) + Math.abs(l.down - front)) / 2), slopes: falls }],
    "one-side": [
      { x: ladders.map((l) => l.across), slopes: [-STEEPEST, STEEPEST] },
      { x: ladders.map((l) => l.down), slopes: [-STEEPEST, STEEPEST] },
    ],
    "one-corner": [corner(0, 0), corner(1, 0), corner(0, 1), corner(1, 1)],
  };
}

const PARAMETERS: { readonly [P in Exclude<BedPattern, "patchy">]: number } = {
  even: 1,
  "falls-with-distance": 2,
  "one-side": 2,
  "one-corner": 2,
};

/**
 * Reads a bed map. Three places at least, and at one of them some squares dropped and some did not. `near` is the corner the beam comes in
 * at, from which its way grows.
 *
 * @example readBedMap([{ across: 0, down: 0, rungs }, …], "back-left").leading; // "falls-with-distance"
 */
export function readBedMap(ladders: readonly MapLadder[], near: BedCorner = "back-left"): BedMapReading {
  const places = ladders.map((l) => readLadder(l.rungs));
  if (places.length < 3) return { kind: "none", reason: `three places of the bed needed, ${places.length} found` };
  const bad = places.find((p) => p.kind === "none");
  if (bad?.kind === "none") return bad;
  if (!places.some((p) => p.kind === "estimate"))
    return { kind: "none", reason: "nowhere did some squares drop and some stay: cut it once more, around the speed that just drops" };
  const speeds = ladders.flatMap((l) => l.rungs.map((r) => Math.log(r.speedMmPerS)));
  const range = [Math.min(...speeds), Math.max(...speeds)] as const;
  const middle = (range[0] + range[1]) / 2;
  // Every square is an observation.
  const charge = Math.log(speeds.length);
  const own = places.map((p) => (p.kind === "estimate" ? Math.log(p.v50) : p.kind === "none" ? 0 : Math.log(p.speedMmPerS)));
  const candidates = Object.entries(shapesOf(ladders, near)).flatMap(([pattern, shapes]) =>
    shapes.map((shape) => {
      const fitted = bestLine(ladders, shape.x, middle, shape.slopes);
      const bic = -2 * fitted.logLikelihood + PARAMETERS[pattern as Exclude<BedPattern, "patchy">] * charge;
      // A pattern that can lie several ways shares its weight among them.
      return { pattern: pattern as BedPattern, bic, share: 1 / shapes.length, lnV50: shape.x.map((x) => fitted.level + fitted.slope * x) };
    }),
  );
  const free = ladders.reduce((sum, l, i) => {
    const p = places[i];
    // A bound is met as well as can be by a beam far beyond it.
    const u = p?.kind === "at-least" ? range[1] + 1 : p?.kind === "at-most" ? range[0] - 1 : (own[i] as number);
    return sum + terms(l.rungs, u)[0];
  }, 0);
  const all = [...candidates, { pattern: "patchy" as BedPattern, bic: -2 * free + ladders.length * charge, share: 1, lnV50: own }];
  const best = Math.min(...all.map((c) => c.bic));
  const weightOf = (c: { readonly bic: number; readonly share: number }) => c.share * Math.exp(-(c.bic - best) / 2);
  const total = all.reduce((sum, c) => sum + weightOf(c), 0);
  const weights = Object.fromEntries(
    BED_PATTERNS.map((p) => [p, all.filter((c) => c.pattern === p).reduce((sum, c) => sum + weightOf(c), 0) / total]),
  ) as { [P in BedPattern]: number };
  const leading = BED_PATTERNS.reduce((a, b) => (weights[b] > weights[a] ? b : a));
  const lead = all.filter((c) => c.pattern === leading).reduce((a, b) => (weightOf(b) > weightOf(a) ? b : a));
  return {
    kind: "map",
    places,
    weights,
    leading,
    lnV50: lead.lnV50,
    weakest: Math.exp(Math.min(...lead.lnV50) - Math.max(...lead.lnV50)),
  };
}
