/**
 * # Wear: what is dirt and what is the tube (M4, first part)
 * Answers: how strong the beam is today and how much of the loss a clean would bring back. A small Bayesian linear regression
 * of ln effective power on firing hours and fouling dose, with default rates as the prior. Ladders that gave only a bound and single
 * cuts are censored readings of the same quantity, taken in by expectation propagation (Rasmussen and Williams, "Gaussian Processes for
 * Machine Learning", section 3.6). An estimate, and said to be one: the full fit with learned rates comes later.
 */
import { inverse } from "#core/matrix";
import { normalCdf, normalPdf } from "#core/normal";

/** Typical ageing of a glass tube per firing hour, in ln power, and how much tubes differ. */
export const AGEING_PER_HOUR = { mean: 1.2e-4, sd: 0.6e-4 } as const;
/** How much dirtier or cleaner than the default this shop's work is: a factor on the fouling of every optic. */
const FOULING_FACTOR = { mean: 1, sd: 0.5 } as const;
/** Sudden loss that neither hours nor smoke explains (aim, focus, damage) since the last service. */
const UNEXPLAINED_SD = 0.12;

/** One effective-power reading with the use behind it. */
export interface WearReading {
  /** ln of effective power against the baseline, and the standard error of this ladder alone. */
  readonly lnRatio: number;
  readonly se: number;
  readonly hoursSinceBaseline: number;
  /** Expected fouling loss then, in ln power, at default rates. */
  readonly fouling: number;
  /** True for readings since the last service, which share today's unexplained loss. */
  readonly sinceService: boolean;
}

/** A reading that says no more than that effective power lay above or below something. */
export interface WearBound extends Omit<WearReading, "lnRatio" | "se"> {
  readonly side: "above" | "below";
  readonly lnRatio: number;
  /** Standard deviation of the threshold, in ln power. */
  readonly sd: number;
  /** The last word on the machine as it stands: today's estimate stays on its side of it, less the wear since then. */
  readonly isLast?: boolean;
}

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
}

const Z90 = 1.6449;

/** Sheet-to-sheet scatter of a ladder beyond its own standard error, in ln power. */
const SHEET_SD = 0.025;

/**
 * Condition today. `hoursSinceBaseline` in firing hours (>= 0), `fouling` in ln power (>= 0): the sum over optics of default rate
 * times dose since last clean, see `foulingOf`; `baselineSe` the standard error of ln v50 of the baseline ladder, which all
 * readings share. Works with no reading at all: then it is the default rates alone.
 */
export function estimateCondition(
  readings: readonly WearReading[],
  hoursSinceBaseline: number,
  fouling: number,
  baselineSe = 0.05,
  bounds: readonly WearBound[] = [],
): Condition {
  // Parameters: ageing rate (per 1000 h, to keep the matrix tame), fouling factor, unexplained loss, error of the baseline.
  const scale = 1000;
  const n = 4;
  const rowOf = (r: Pick<WearReading, "hoursSinceBaseline" | "fouling" | "sinceService">) => [
    r.hoursSinceBaseline / scale,
    r.fouling,
    r.sinceService ? 1 : 0,
    1,
  ];
  const prior = [
    { mean: AGEING_PER_HOUR.mean * scale, sd: AGEING_PER_HOUR.sd * scale },
    { mean: FOULING_FACTOR.mean, sd: FOULING_FACTOR.sd },
    { mean: 0, sd: UNEXPLAINED_SD },
    { mean: 0, sd: Math.max(0.005, baselineSe) },
  ];
  const a = prior.flatMap((p, i) => prior.map((_, j) => (i === j ? 1 / p.sd ** 2 : 0)));
  const b = prior.map((p) => p.mean / p.sd ** 2);
  for (const r of readings) {
    const row = rowOf(r);
    const w = 1 / (r.se * r.se + SHEET_SD * SHEET_SD);
    for (let i = 0; i < n; i++) {
      b[i] = b[i]! + w * row[i]! * -r.lnRatio;
      for (let j = 0; j < n; j++) a[n * i + j] = a[n * i + j]! + w * row[i]! * row[j]!;
    }
  }
  takeIn(
    a,
    b,
    bounds.map((bound) => ({ ...bound, row: rowOf(bound) })),
  );
  const precisionInverse = inverse(a, n);
  const x = prior.map((_, i) => b.reduce((sum, bj, j) => sum + precisionInverse[n * i + j]! * bj, 0));
  // The baseline's error bends every ratio alike; it is no loss of the machine's.
  const today = [hoursSinceBaseline / scale, fouling, 1, 0];
  const loss = today.reduce((sum, t, i) => sum + t * x[i]!, 0);
  let variance = 0;
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) variance += today[i]! * today[j]! * precisionInverse[n * i + j]!;
  const sd = Math.sqrt(Math.max(0, variance));
  const ageing = Math.max(0, x[0]! / scale);
  let lnRatio = -loss;
  for (const bound of bounds.filter((r) => r.isLast)) {
    const wornSince = ageing * (hoursSinceBaseline - bound.hoursSinceBaseline) + Math.max(0, x[1]!) * Math.max(0, fouling - bound.fouling);
    const atThen = bound.lnRatio - wornSince;
    lnRatio = bound.side === "above" ? Math.max(lnRatio, atThen) : Math.min(lnRatio, bound.lnRatio);
  }
  const dirt = Math.max(0, x[1]! * fouling);
  const tube = ageing * hoursSinceBaseline;
  return {
    ratio: Math.exp(lnRatio),
    low: Math.exp(lnRatio - Z90 * sd),
    high: Math.exp(lnRatio + Z90 * sd),
    dirt,
    tube,
    other: Math.max(0, x[2]!),
    ageingPerHour: ageing,
    readings: readings.length + bounds.length,
  };
}

/** Passes over the bounds; they settle after three or four. */
const SWEEPS = 6;

/** Adds the bounds to the precision `a` and its shift `b` as Gaussian sites, each matched to the mean and spread it leaves. */
function takeIn(a: number[], b: number[], bounds: readonly (WearBound & { readonly row: readonly number[] })[]): void {
  const n = b.length;
  const sites = bounds.map(() => ({ precision: 0, shift: 0 }));
  const add = (row: readonly number[], precision: number, shift: number) => {
    for (let i = 0; i < n; i++) {
      b[i] = b[i]! + shift * row[i]!;
      for (let j = 0; j < n; j++) a[n * i + j] = a[n * i + j]! + precision * row[i]! * row[j]!;
    }
  };
  for (let sweep = 0; sweep < (bounds.length === 0 ? 0 : SWEEPS); sweep++) {
    bounds.forEach((bound, k) => {
      const site = sites[k]!;
      add(bound.row, -site.precision, -site.shift);
      const cov = inverse(a, n);
      let mean = 0;
      let variance = 0;
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          mean += bound.row[i]! * cov[n * i + j]! * b[j]!;
          variance += bound.row[i]! * cov[n * i + j]! * bound.row[j]!;
        }
      // `mean` is of the loss: power above a threshold is a loss below it.
      const sign = bound.side === "above" ? -1 : 1;
      const spread = Math.sqrt(variance + bound.sd ** 2 + SHEET_SD ** 2);
      const z = (sign * (mean + bound.lnRatio)) / spread;
      const hazard = z < -12 ? -z : normalPdf(z) / normalCdf(z);
      const left = variance - (variance ** 2 / spread ** 2) * hazard * (z + hazard);
      const moved = mean + (sign * variance * hazard) / spread;
      site.precision = Math.max(0, 1 / left - 1 / variance);
      site.shift = moved / left - mean / variance;
      add(bound.row, site.precision, site.shift);
    });
  }
}

/** What is lost, in whole points of the best, split so that the parts are the whole: 100 less the ratio as it is shown. */
export function lossPoints(c: Condition): {
  readonly percent: number;
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
  return { percent, dirt: whole[0]!, tube: whole[1]!, other: sum > 0 ? whole[2]! : lost };
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
