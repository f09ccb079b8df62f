/**
 * # Wear: what is dirt and what is the tube (M4, first part)
 * Answers: how strong the beam is today and how much of the loss a clean would bring back. A small Bayesian linear regression
 * of ln effective power on firing hours and fouling dose, with default rates as the prior. An estimate, and said to be one:
 * the full fit with censored cuts and learned rates comes later.
 */

/** Typical ageing of a glass tube per firing hour, in ln power, and how much tubes differ. */
export const AGEING_PER_HOUR = { mean: 1.2e-4, sd: 0.6e-4 } as const;
/** How much dirtier or cleaner than the default this shop's work is: a factor on the fouling of every optic. */
const FOULING_FACTOR = { mean: 1, sd: 0.5 } as const;
/** Sudden loss that neither hours nor smoke explains (aim, focus, damage) since the last service. */
const UNEXPLAINED_SD = 0.12;

/** One effective-power reading with the use behind it. */
export interface WearReading {
  /** ln of effective power against the baseline, and its standard error. */
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
  /** Readings that went into it. */
  readonly readings: number;
}

const Z90 = 1.6449;

/** Solves the symmetric 3 x 3 system A x = b and returns A^-1 as well, by cofactors. */
function solve3(a: readonly number[], b: readonly number[]): { x: [number, number, number]; inverse: number[] } {
  const [a00, a01, a02, , a11, a12, , , a22] = a as [number, number, number, number, number, number, number, number, number];
  const c00 = a11 * a22 - a12 * a12;
  const c01 = a02 * a12 - a01 * a22;
  const c02 = a01 * a12 - a02 * a11;
  const det = a00 * c00 + a01 * c01 + a02 * c02;
  const c11 = a00 * a22 - a02 * a02;
  const c12 = a01 * a02 - a00 * a12;
  const c22 = a00 * a11 - a01 * a01;
  const inverse = [c00, c01, c02, c01, c11, c12, c02, c12, c22].map((v) => v / det);
  const x = [0, 1, 2].map((i) => [0, 1, 2].reduce((sum, j) => sum + (inverse[3 * i + j] as number) * (b[j] as number), 0));
  return { x: x as [number, number, number], inverse };
}

/**
 * Condition today. `hoursSinceBaseline` in firing hours (>= 0), `fouling` in ln power (>= 0): the sum over optics of default rate
 * times dose since last clean, see `foulingOf`. Works with no reading at all: then it is the default rates alone.
 */
export function estimateCondition(readings: readonly WearReading[], hoursSinceBaseline: number, fouling: number): Condition {
  // Parameters: ageing rate (scaled to 1000 h to keep the matrix tame), fouling factor, unexplained loss.
  const scale = 1000;
  const prior = [
    { mean: AGEING_PER_HOUR.mean * scale, precision: 1 / (AGEING_PER_HOUR.sd * scale) ** 2 },
    { mean: FOULING_FACTOR.mean, precision: 1 / FOULING_FACTOR.sd ** 2 },
    { mean: 0, precision: 1 / UNEXPLAINED_SD ** 2 },
  ];
  const a = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  const b = [0, 0, 0];
  prior.forEach((p, i) => {
    a[4 * i] = p.precision;
    b[i] = p.precision * p.mean;
  });
  for (const r of readings) {
    const row = [r.hoursSinceBaseline / scale, r.fouling, r.sinceService ? 1 : 0];
    const w = 1 / (r.se * r.se);
    for (let i = 0; i < 3; i++) {
      b[i] = (b[i] as number) + w * (row[i] as number) * -r.lnRatio;
      for (let j = 0; j < 3; j++) a[3 * i + j] = (a[3 * i + j] as number) + w * (row[i] as number) * (row[j] as number);
    }
  }
  const { x, inverse } = solve3(a, b);
  const today = [hoursSinceBaseline / scale, fouling, 1];
  const loss = today.reduce((sum, t, i) => sum + t * (x[i] as number), 0);
  let variance = 0;
  for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) variance += (today[i] as number) * (today[j] as number) * (inverse[3 * i + j] as number);
  const sd = Math.sqrt(Math.max(0, variance));
  const percent = (lnLoss: number) => 100 * (1 - Math.exp(-Math.max(0, lnLoss)));
  return {
    ratio: Math.exp(-loss),
    low: Math.exp(-loss - Z90 * sd),
    high: Math.exp(-loss + Z90 * sd),
    tubePercent: percent(x[0] * (today[0] as number)),
    dirtPercent: percent(x[1] * fouling),
    otherPercent: percent(x[2]),
    readings: readings.length,
  };
}

/** Expected fouling of one optic in ln power: a haze's worth (2 %) per interval of ply-hours, growing in step with the dose. */
export function foulingOf(dosePlyHours: number, intervalPlyHours: number): number {
  return (0.02 * Math.max(0, dosePlyHours)) / intervalPlyHours;
}
