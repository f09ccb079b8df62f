/**
 * # Wear: what is dirt and what is the tube (M4)
 * Answers: how strong the beam is today, how much of the loss a clean would bring back, how fast tube and optics wear here. A Bayesian
 * linear regression of ln effective power on firing hours and the fouling dose of each optic, with default rates as the prior; ladders
 * that gave only a bound, single cuts and the rates' signs are censored readings of it.
 */
import { Z90 } from "#core/normal";
import { ageingOf, fitWear, lossAt, suddenOf, type WearBound, type WearEvidence, type WearFit } from "./fit";

export * from "./fit";
export * from "./forecast";

export interface Condition {
  /** Effective power today against the baseline (1 = as good as then), with its 90 % range. */
  readonly ratio: number;
  readonly low: number;
  readonly high: number;
  /** Losses in ln power (>= 0): dirt (comes back with a clean), tube (for good), and what neither explains. */
  readonly dirt: number;
  readonly tube: number;
  readonly other: number;
  /** Estimated ageing in ln power per firing hour. */
  readonly ageingPerHour: number;
  /** Readings that went into it. */
  readonly readings: number;
  readonly fit: WearFit;
}

/**
 * Condition today. `hours` fired since the baseline (>= 0); `fouling` of each optic in ln power at default rates, less what it was at the
 * baseline, see `foulingOf`. Works with no reading at all: then it is the default rates alone.
 */
export const estimateCondition = (evidence: WearEvidence, hours: number, fouling: readonly number[]): Condition =>
  conditionOf(fitWear(evidence), evidence.bounds ?? [], hours, fouling);

/** The same from a fit that was made before. */
export function conditionOf(fit: WearFit, bounds: readonly WearBound[], hours: number, fouling: readonly number[]): Condition {
  // The baseline's error bends every ratio alike; it is no loss of the machine's.
  const loss = lossAt(fit, { hours, fouling, sudden: true });
  const lnRatio = withinLast(fit, -loss.mean, bounds, hours, fouling);
  return {
    ratio: Math.exp(lnRatio),
    low: Math.exp(lnRatio - Z90 * loss.sd),
    high: Math.exp(lnRatio + Z90 * loss.sd),
    dirt: Math.max(0, lossAt(fit, { hours: 0, fouling }).mean),
    tube: ageingOf(fit).mean * hours,
    other: Math.max(0, suddenOf(fit)),
    ageingPerHour: ageingOf(fit).mean,
    readings: fit.count,
    fit,
  };
}

/** The estimate kept on the side of the last proof: what dropped just now still would. */
function withinLast(fit: WearFit, estimate: number, bounds: readonly WearBound[], hours: number, fouling: readonly number[]): number {
  let lnRatio = estimate;
  for (const bound of bounds.filter((b) => b.isLast)) {
    const grown = fouling.map((f, i) => Math.max(0, f - (bound.fouling[i] ?? 0)));
    const wornSince = Math.max(0, lossAt(fit, { hours: Math.max(0, hours - bound.hoursSinceBaseline), fouling: grown }).mean);
    lnRatio = bound.side === "above" ? Math.max(lnRatio, bound.lnRatio - wornSince) : Math.min(lnRatio, bound.lnRatio);
  }
  return lnRatio;
}

/**
 * What is lost, in whole points of the best, split so that the parts are the whole: 100 less the ratio as it is shown, or `more` than 100
 * where the machine gives more than when its best was flagged (a new tube, a baseline of a weak day).
 */
export function lossPoints(c: Condition): {
  readonly percent: number;
  readonly more: number;
  readonly dirt: number;
  readonly tube: number;
  readonly other: number;
} {
  const percent = Math.round(100 * c.ratio);
  const lost = Math.max(0, 100 - percent);
  const parts = [c.dirt, c.tube, c.other];
  const sum = parts.reduce((x, y) => x + y, 0);
  const exact = parts.map((p) => (sum > 0 ? (lost * p) / sum : 0));
  const whole = exact.map(Math.floor);
  // The largest remainders take what rounding left over.
  const order = exact.map((_, i) => i).sort((i, j) => exact[j]! - whole[j]! - (exact[i]! - whole[i]!));
  const left = sum > 0 ? lost - whole.reduce((x, y) => x + y, 0) : 0;
  for (const i of order.slice(0, left)) whole[i] = whole[i]! + 1;
  return { percent, more: Math.max(0, percent - 100), dirt: whole[0]!, tube: whole[1]!, other: sum > 0 ? whole[2]! : lost };
}

/**
 * The nearest sequence that never rises, by least squares: neighbours that rise are pooled into their mean (pool adjacent violators,
 * Ayer et al. 1955). Same length as `values`; any real numbers.
 */
export function fallingFit(values: readonly number[]): number[] {
  const blocks: { mean: number; count: number }[] = [];
  for (const value of values) {
    let block = { mean: value, count: 1 };
    for (let last = blocks.at(-1); last && last.mean < block.mean; last = blocks.at(-1)) {
      const count = last.count + block.count;
      block = { mean: (last.mean * last.count + block.mean * block.count) / count, count };
      blocks.pop();
    }
    blocks.push(block);
  }
  return blocks.flatMap((b) => Array.from({ length: b.count }, () => b.mean));
}

/** Share of best (0..1) if only the tube had aged for some firing hours. */
export function tubeAlone(ageingPerHour: number, hours: number): number {
  return Math.exp(-ageingPerHour * Math.max(0, hours));
}

/** Expected fouling of one optic in ln power: a haze's worth (2 %) per interval of ply-hours, growing in step with the dose. */
export function foulingOf(dosePlyHours: number, intervalPlyHours: number): number {
  return (0.02 * Math.max(0, dosePlyHours)) / intervalPlyHours;
}
