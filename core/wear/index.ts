/**
 * # Wear: what is dirt and what is the tube (M4)
 * Answers: how strong the beam is today, how much of the loss a clean would bring back, how fast tube and optics wear here. A Bayesian
 * linear regression of ln effective power on firing hours and the fouling of each optic, with a walk of what neither explains and default
 * rates as the prior; ladders that gave only a bound, single cuts and the rates' signs are censored readings of it.
 */

import { cholesky } from "#core/matrix";
import { normalCdf, Z90 } from "#core/normal";
import { seededRandom } from "#core/random";
import { ageingOf, type Estimate, fitWear, lossOf, type Moment, partsOf, type WearEvidence, type WearFit } from "./fit";

export * from "./dirt";
export * from "./fit";
export * from "./forecast";
export { AGEING_PER_HOUR } from "./tube";
export type { Change } from "./walk";

/** What a loss is made of. */
export const PARTS = ["dirt", "tube", "other"] as const;
export type Part = (typeof PARTS)[number];

export interface Condition {
  /** Effective power today against the baseline (1 = as good as then), with its 90 % range. */
  readonly ratio: number;
  readonly low: number;
  readonly high: number;
  /** Losses in ln power (>= 0): dirt (comes back with a clean), tube (for good), and what neither explains. */
  readonly dirt: number;
  readonly tube: number;
  readonly other: number;
  /** The same as they are, each with its standard deviation; what neither explains may be below nought. */
  readonly parts: { readonly [P in Part]: Estimate };
  /** The part that is the largest with at least 80 %; undefined where none surely is, or hardly anything is lost. */
  readonly leads: Part | undefined;
  /** Estimated ageing in ln power per firing hour. */
  readonly ageingPerHour: number;
  /** Readings that went into it. */
  readonly readings: number;
  readonly fit: WearFit;
  readonly moment: Moment;
}

/** Condition at a moment. Works with no reading at all: then it is the default rates alone. */
export const estimateCondition = (evidence: WearEvidence, moment: Moment): Condition => conditionOf(fitWear(evidence), moment);

/** The same from a fit that was made before. */
export function conditionOf(fit: WearFit, moment: Moment): Condition {
  const loss = lossOf(fit, moment);
  const parts = partsOf(fit, moment);
  const [dirt, tube, other] = parts.mean;
  const sd = (i: number) => Math.sqrt(parts.covariance[i]![i]!);
  return {
    ratio: Math.exp(-loss.mean),
    low: Math.exp(-loss.mean - Z90 * loss.sd),
    high: Math.exp(-loss.mean + Z90 * loss.sd),
    dirt: Math.max(0, dirt),
    tube: Math.max(0, tube),
    other: Math.max(0, other),
    parts: { dirt: { mean: dirt, sd: sd(0) }, tube: { mean: tube, sd: sd(1) }, other: { mean: other, sd: sd(2) } },
    leads: leadingPart(parts),
    ageingPerHour: ageingOf(fit).mean,
    readings: fit.count,
    fit,
    moment,
  };
}

/** A part is named only where it leads so surely, and takes at least so much (ln). */
const LEADS = 0.9;
const LEAST = 0.02;
const DRAWS = 600;

function leadingPart({ mean, covariance }: ReturnType<typeof partsOf>): Part | undefined {
  const l = cholesky(
    covariance.flatMap((row, i) => row.map((v, j) => v + (i === j ? 1e-9 : 0))),
    3,
  );
  const random = seededRandom(1);
  const won = [0, 0, 0];
  for (let d = 0; d < DRAWS; d++) {
    const z = [random.normal(), random.normal(), random.normal()];
    const drawn = mean.map((m, i) => m + l[3 * i]! * z[0]! + l[3 * i + 1]! * z[1]! + l[3 * i + 2]! * z[2]!);
    const most = Math.max(...drawn);
    if (most > LEAST) won[drawn.indexOf(most)]! += 1;
  }
  const i = won.findIndex((w) => w >= LEADS * DRAWS);
  return PARTS[i];
}

/** How a share of best may be called: by its whole range, not by its middle. */
export type PowerWord = "strong" | "weaker" | "weak";
const BORDERS: readonly (readonly [number, PowerWord, PowerWord])[] = [
  [0.9, "strong", "weaker"],
  [0.8, "weaker", "weak"],
];
/** So surely on one side of a border, and it is on that side. */
const ON_ONE_SIDE = 0.85;

/** The word that the range bears out: one, or two that it lies between. */
export function wordsOf({ ratio, low, high }: Pick<Condition, "ratio" | "low" | "high">): readonly PowerWord[] {
  const sd = Math.max(1e-6, Math.log(high / low) / (2 * Z90));
  const chances = new Map<PowerWord, number>();
  const above = (border: number) => normalCdf((Math.log(ratio) - Math.log(border)) / sd);
  chances.set("strong", above(BORDERS[0]![0]));
  chances.set("weaker", above(BORDERS[1]![0]) - above(BORDERS[0]![0]));
  chances.set("weak", 1 - above(BORDERS[1]![0]));
  const order = [...chances].sort((a, b) => b[1] - a[1]);
  if (order[0]![1] >= ON_ONE_SIDE) return [order[0]![0]];
  // Two that lie beside each other; where neither end can be left out, the likelier pair.
  const upper = chances.get("strong")! + chances.get("weaker")!;
  const lower = chances.get("weaker")! + chances.get("weak")!;
  return upper >= lower ? ["strong", "weaker"] : ["weaker", "weak"];
}

/**
 * What is lost, in whole points of the best, split so that the parts are the whole: 100 less the ratio as it is shown, or `more` than 100
 * where the machine gives more than when its best was flagged (a new tube, a baseline of a weak day).
 */
export function lossPoints(c: Pick<Condition, "ratio" | "dirt" | "tube" | "other">): {
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
