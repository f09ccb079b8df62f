/**
 * # Wear: what is dirt and what is the tube (M4, first part)
 * Answers: how strong the beam is today and how much of the loss a clean would bring back. A small Bayesian linear regression
 * of ln effective power on firing hours and fouling dose, with default rates as the prior. An estimate, and said to be one:
 * the full fit with censored cuts and learned rates comes later.
 */
import { inverse } from "#core/matrix";

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

export interface Condition {
  /** Effective power today against the baseline (1 = as good as then), with its 90 % range. */
  readonly ratio: number;
  readonly low: number;
  readonly high: number;
  /** Losses in percent of the best: dirt (comes back with a clean), tube (for good), and what neither explains. */
  readonly dirtPercent: number;
  readonly tubePercent: number;
  readonly otherPercent: number;
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
): Condition {
  // Parameters: ageing rate (per 1000 h, to keep the matrix tame), fouling factor, unexplained loss, error of the baseline.
  const scale = 1000;
  const n = 4;
  const prior = [
    { mean: AGEING_PER_HOUR.mean * scale, sd: AGEING_PER_HOUR.sd * scale },
    { mean: FOULING_FACTOR.mean, sd: FOULING_FACTOR.sd },
    { mean: 0, sd: UNEXPLAINED_SD },
    { mean: 0, sd: Math.max(0.005, baselineSe) },
  ];
  const a = prior.flatMap((p, i) => prior.map((_, j) => (i === j ? 1 / p.sd ** 2 : 0)));
  const b = prior.map((p) => p.mean / p.sd ** 2);
  for (const r of readings) {
    const row = [r.hoursSinceBaseline / scale, r.fouling, r.sinceService ? 1 : 0, 1];
    const w = 1 / (r.se * r.se + SHEET_SD * SHEET_SD);
    for (let i = 0; i < n; i++) {
      b[i] = b[i]! + w * row[i]! * -r.lnRatio;
      for (let j = 0; j < n; j++) a[n * i + j] = a[n * i + j]! + w * row[i]! * row[j]!;
    }
  }
  const precisionInverse = inverse(a, n);
  const x = prior.map((_, i) => b.reduce((sum, bj, j) => sum + precisionInverse[n * i + j]! * bj, 0));
  // The baseline's error bends every ratio alike; it is no loss of the machine's.
  const today = [hoursSinceBaseline / scale, fouling, 1, 0];
  const loss = today.reduce((sum, t, i) => sum + t * x[i]!, 0);
  let variance = 0;
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) variance += today[i]! * today[j]! * precisionInverse[n * i + j]!;
  const sd = Math.sqrt(Math.max(0, variance));
  const percent = (lnLoss: number) => 100 * (1 - Math.exp(-Math.max(0, lnLoss)));
  const ageing = x[0]! / scale;
  return {
    ratio: Math.exp(-loss),
    low: Math.exp(-loss - Z90 * sd),
    high: Math.exp(-loss + Z90 * sd),
    tubePercent: percent(ageing * hoursSinceBaseline),
    dirtPercent: percent(x[1]! * fouling),
    otherPercent: percent(x[2]!),
    ageingPerHour: Math.max(0, ageing),
    readings: readings.length,
  };
}

/** Share of best (0..1) if only the tube had aged for some firing hours. */
export function tubeAlone(ageingPerHour: number, hours: number): number {
  return Math.exp(-ageingPerHour * Math.max(0, hours));
}

/** Expected fouling of one optic in ln power: a haze's worth (2 %) per interval of ply-hours, growing in step with the dose. */
export function foulingOf(dosePlyHours: number, intervalPlyHours: number): number {
  return (0.02 * Math.max(0, dosePlyHours)) / intervalPlyHours;
}
