import { normalCdf, normalPdf, tabledNormalCdf, Z90 } from "#core/normal";
import { rootOf } from "#core/roots";

/** How a rung ended: it fell out, hangs by a thread, or stays in the sheet. */
export const RUNG_ENDS = ["dropped", "hangs", "stays"] as const;
export type RungEnd = (typeof RUNG_ENDS)[number];

export interface Rung {
  readonly speedMmPerS: number;
  readonly end: RungEnd;
}

/** Width of the drop curve in ln speed. */
export const LADDER_SLOPE = 0.05;

export type LadderResult =
  | {
      readonly kind: "estimate";
      /** Speed (mm/s) at which half of the shapes would drop. */
      readonly v50: number;
      /** Standard error of ln v50. */
      readonly seLn: number;
      /** The same with a rung that may be told wrong and a drop curve whose width nobody knows: what a place may rely on. */
      readonly sdLn: number;
      /** True when a slower rung stayed while a faster one dropped: worth a second ladder. */
      readonly outOfOrder: boolean;
    }
  | { readonly kind: "at-least"; readonly speedMmPerS: number }
  | { readonly kind: "at-most"; readonly speedMmPerS: number }
  | { readonly kind: "none"; readonly reason: string };

const DROPPED_SHARE: Readonly<Record<RungEnd, number>> = { dropped: 1, hangs: 0.5, stays: 0 };

/** Below this, a term adds nothing that the sum could hold. */
const TINY = 1e-300;

/** Score: first derivative of the log likelihood in u = ln v50. */
function score(rungs: readonly Rung[], u: number): number {
  let sum = 0;
  for (const rung of rungs) {
    const z = (u - Math.log(rung.speedMmPerS)) / LADDER_SLOPE;
    const p = Math.max(TINY, normalCdf(z));
    const q = Math.max(TINY, normalCdf(-z));
    const dropped = DROPPED_SHARE[rung.end];
    sum += (normalPdf(z) / LADDER_SLOPE) * (dropped / p - (1 - dropped) / q);
  }
  return sum;
}

/** Observed information: how sharply the score falls at u, by a central difference. */
function observedInformation(rungs: readonly Rung[], u: number): number {
  const h = 1e-4;
  return (score(rungs, u - h) - score(rungs, u + h)) / (2 * h);
}

/**
 * Maximum-likelihood v50 of a ladder. Speeds in mm/s, all above 0, any order, at least one rung. P(drop at v) =
 * Φ((ln v50 - ln v)/s) with s = 0.05; a rung that hangs counts half. All dropped gives `at-least`, none dropped
 * `at-most`: a bound, never a number. The standard error comes from the observed information.
 */
export function readLadder(rungs: readonly Rung[]): LadderResult {
  const known = read.get(rungs);
  if (known) return known;
  const result = estimate(rungs);
  read.set(rungs, result);
  return result;
}

/** A ladder of the log is asked about at every page; its rungs never change. */
const read = new WeakMap<readonly Rung[], LadderResult>();

function estimate(rungs: readonly Rung[]): LadderResult {
  if (rungs.length === 0) return { kind: "none", reason: "one rung needed, none found" };
  for (const rung of rungs) {
    if (!(rung.speedMmPerS > 0) || !Number.isFinite(rung.speedMmPerS)) {
      return { kind: "none", reason: `a rung's speed must be above 0 mm/s, found ${rung.speedMmPerS}` };
    }
  }
  const speeds = rungs.map((r) => r.speedMmPerS);
  if (rungs.every((r) => r.end === "dropped")) return { kind: "at-least", speedMmPerS: Math.max(...speeds) };
  if (rungs.every((r) => r.end === "stays")) return { kind: "at-most", speedMmPerS: Math.min(...speeds) };

  // The probit log likelihood is concave, so its score falls through zero once: it cannot be missed.
  const low = Math.log(Math.min(...speeds)) - 10 * LADDER_SLOPE;
  const high = Math.log(Math.max(...speeds)) + 10 * LADDER_SLOPE;
  const u = rootOf((ln) => -score(rungs, ln), low, high, 1e-9);
  const information = Math.max(1e-9, observedInformation(rungs, u));
  // Between two far-apart rungs the information vanishes; the gap itself then bounds the error (uniform: width/√12).
  const below = Math.max(...speeds.filter((v) => Math.log(v) <= u), 0);
  const above = Math.min(...speeds.filter((v) => Math.log(v) > u), Number.POSITIVE_INFINITY);
  const gap = below > 0 && Number.isFinite(above) ? Math.log(above / below) : LADDER_SLOPE;
  const seLn = Math.min(1 / Math.sqrt(information), Math.max(LADDER_SLOPE, gap / Math.sqrt(12) + LADDER_SLOPE));
  const open = withSlips(rungs);
  if (isOutOfOrder(rungs)) return { kind: "estimate", v50: open.v50, seLn: open.sdLn, sdLn: open.sdLn, outOfOrder: true };
  // In order the likeliest speed is the plain one; a slip at the border would not show.
  return { kind: "estimate", v50: Math.exp(u), seLn, sdLn: Math.max(seLn, open.sdLn), outOfOrder: false };
}

/** A rung that was told wrong, or a sheet that was off at one place: shares of all rungs, and how likely each share is beforehand. */
const SLIPS = [
  { share: 0.02, weight: 0.25 },
  { share: 0.05, weight: 0.35 },
  { share: 0.08, weight: 0.4 },
] as const;
/** Widths of the drop curve, log-normal about the usual one with an sd of 0.5: at its -1.3, -0.6, 0, 0.6 and 1.3. */
const WIDTHS = [-1.3, -0.6, 0, 0.6, 1.3].map((z) => ({ slope: LADDER_SLOPE * Math.exp(0.5 * z), weight: Math.exp((-z * z) / 2) }));
const GRID_STEP = 0.01;

/**
 * v50 of a ladder by its whole likelihood, with slips and the width of the drop curve left open, so that one rung told wrong moves it little and widens it. The standard error is that of a
 * normal law which reaches as far.
 */
function withSlips(rungs: readonly Rung[]): { readonly v50: number; readonly sdLn: number } {
  const lns = rungs.map((r) => Math.log(r.speedMmPerS));
  const from = Math.min(...lns) - 4 * LADDER_SLOPE;
  const steps = Math.ceil((Math.max(...lns) + 4 * LADDER_SLOPE - from) / GRID_STEP);
  const dropped = rungs.map((r) => DROPPED_SHARE[r.end]);
  const inStep = new Float64Array(rungs.length);
  const weights = Array.from({ length: steps + 1 }, (_, i) => {
    const u = from + i * GRID_STEP;
    let sum = 0;
    for (const { slope, weight } of WIDTHS) {
      for (let k = 0; k < inStep.length; k++) inStep[k] = tabledNormalCdf((u - lns[k]!) / slope);
      for (const slip of SLIPS) {
        let likelihood = weight * slip.weight;
        for (let k = 0; k < inStep.length; k++) {
          const p = slip.share + (1 - 2 * slip.share) * inStep[k]!;
          likelihood *= dropped[k] === 1 ? p : dropped[k] === 0 ? 1 - p : Math.sqrt(p * (1 - p));
        }
        sum += likelihood;
      }
    }
    return sum;
  });
  const total = weights.reduce((a, b) => a + b, 0);
  const quantile = (q: number) => {
    let sum = 0;
    for (const [i, w] of weights.entries()) {
      sum += w / total;
      if (sum >= q) return from + i * GRID_STEP;
    }
    return from + steps * GRID_STEP;
  };
  const mean = weights.reduce((sum, w, i) => sum + (w / total) * (from + i * GRID_STEP), 0);
  const reach = Math.max(quantile(0.95) - mean, mean - quantile(0.05));
  return { v50: Math.exp(mean), sdLn: reach / Z90 };
}

function isOutOfOrder(rungs: readonly Rung[]): boolean {
  const sorted = [...rungs].sort((a, b) => a.speedMmPerS - b.speedMmPerS);
  return sorted.some((rung, i) => i > 0 && DROPPED_SHARE[rung.end] > DROPPED_SHARE[(sorted[i - 1] as Rung).end]);
}

/**
 * Rung speeds to cut next: whole-number steps of about 6 % around an expected v50 (mm/s), lowest first, so that both ends of
 * the ladder are sure and the middle is dense.
 */
export function suggestRungs(expectedV50: number, count = 8): number[] {
  const step = expectedV50 >= 14 ? Math.round(expectedV50 * 0.065) : expectedV50 >= 5 ? 1 : expectedV50 >= 2 ? 0.5 : 0.2;
  const centre = Math.round(expectedV50 / step) * step;
  const first = Math.max(step, centre - Math.floor((count - 1) / 2) * step);
  return Array.from({ length: count }, (_, i) => Number((first + i * step).toFixed(2)));
}
