/**
 * The fit behind every figure of wear: one Gaussian over the ageing rate, a fouling factor for each optic, what is sudden, the baseline's
 * error and an offset for each way of measuring. Readings that only bound the power, and the rates' being no less than nought, are taken in
 * by expectation propagation (Rasmussen and Williams, "Gaussian Processes for Machine Learning", section 3.6); the covariance is brought
 * forward by rank-one updates (Sherman and Morrison).
 */
import { inverse } from "#core/matrix";
import { normalCdf, normalPdf } from "#core/normal";

/** Typical ageing of a glass tube per firing hour, in ln power, and how much tubes differ. */
export const AGEING_PER_HOUR = { mean: 1.2e-4, sd: 0.6e-4 } as const;
/** How much faster or slower than the default an optic fouls in this shop. */
export const FOULING_FACTOR = { mean: 1, sd: 0.5 } as const;
/** Sudden loss that neither hours nor smoke explains (aim, focus, damage) since the last service. */
const UNEXPLAINED_SD = 0.12;
/** How far one way of measuring, or another material's baseline, may lie off the baseline ladder, in ln power. */
const OFFSET_SD = 0.05;
/** Sheet-to-sheet scatter of a ladder beyond its own standard error, in ln power. */
const SHEET_SD = 0.025;

/** What lay between a reading and the baseline it is set against. */
interface Since {
  /** Firing hours, >= 0. */
  readonly hoursSinceBaseline: number;
  /** Expected fouling of each optic at default rates, less what it was at the baseline, in ln power. */
  readonly fouling: readonly number[];
  /** Taken since the last service, so that it shares today's unexplained loss. */
  readonly sinceService: boolean;
  /** The way it was measured, where it is not the baseline's own; readings of one way share an offset. */
  readonly way?: string | undefined;
}

/** One effective-power reading with the use behind it. */
export interface WearReading extends Since {
  /** ln of effective power against the baseline, and the standard error of this reading alone. */
  readonly lnRatio: number;
  readonly se: number;
  /** The baseline itself: nothing sudden had happened by then. It is no reading since. */
  readonly isBaseline?: boolean;
}

/** A reading that says no more than that effective power lay above or below something. */
export interface WearBound extends Since {
  readonly side: "above" | "below";
  readonly lnRatio: number;
  /** Standard deviation of the threshold, in ln power. */
  readonly sd: number;
  /** The last word on the machine as it stands: today's estimate stays on its side of it, less the wear since then. */
  readonly isLast?: boolean;
}

/** A look at one optic: what its grade costs, and the fouling that default rates expected there then. */
export interface WearLook {
  readonly optic: number;
  readonly expected: number;
  readonly loss: number;
  readonly sd: number;
}

export interface WearEvidence {
  readonly readings: readonly WearReading[];
  readonly bounds?: readonly WearBound[];
  readonly looks?: readonly WearLook[];
  /** Standard error of ln v50 of the baseline ladder, which all readings of its way share. */
  readonly baselineSe?: number;
  /** Optics, in the order of every `fouling`. */
  readonly optics: number;
}

/** Rates are kept per 1000 firing hours, to keep the matrix tame. */
const SCALE = 1000;
/** Order of the parameters: ageing, the optics' factors, what is sudden, the baseline's error, the offsets. */
const AGEING = 0;

export interface WearFit {
  readonly optics: number;
  /** Mean and covariance (row-wise, n by n) of the parameters; sizes n = 3 + optics + ways. */
  readonly mean: Float64Array;
  readonly covariance: Float64Array;
  readonly ways: readonly string[];
  /** Readings and bounds that went into it. */
  readonly count: number;
}

/** Ageing in ln power per firing hour, and its standard deviation. */
export const ageingOf = (fit: WearFit): { readonly mean: number; readonly sd: number } => ({
  mean: Math.max(0, fit.mean[AGEING]! / SCALE),
  sd: Math.sqrt(Math.max(0, fit.covariance[0]!)) / SCALE,
});

/** Fouling factor of an optic, and its standard deviation. */
export function factorOf(fit: WearFit, optic: number): { readonly mean: number; readonly sd: number } {
  const i = 1 + optic;
  return { mean: Math.max(0, fit.mean[i]!), sd: Math.sqrt(Math.max(0, fit.covariance[i * fit.mean.length + i]!)) };
}

/** Correlation of two rates: near -1 the readings know their sum and not which of them it is. 0 is ageing, 1 on are the optics. */
export function correlationOf(fit: WearFit, i: number, j: number): number {
  const n = fit.mean.length;
  const c = fit.covariance;
  return c[i * n + j]! / Math.sqrt(c[i * n + i]! * c[j * n + j]!);
}

/** Passes over the bounds; they settle after three or four. */
const SWEEPS = 8;
const SETTLED = 1e-4;

/** A row of the design, by its entries that are not nought. */
interface Row {
  readonly at: readonly number[];
  readonly value: readonly number[];
}

interface Site {
  readonly row: Row;
  /** 1 where the row's sum lies below -threshold, -1 where above. */
  readonly sign: number;
  readonly threshold: number;
  readonly variance: number;
  precision: number;
  shift: number;
}

/** Fits the wear of one machine. Works with no reading at all: then it is the default rates alone. */
export function fitWear(evidence: WearEvidence): WearFit {
  const { readings, bounds = [], looks = [], baselineSe = 0.05, optics } = evidence;
  const ways = [...new Set([...readings, ...bounds].flatMap((r) => r.way ?? []))];
  const n = 3 + optics + ways.length;
  const [sudden, base] = [1 + optics, 2 + optics];
  const prior = Array.from({ length: n }, (_, i) =>
    i === AGEING
      ? { mean: AGEING_PER_HOUR.mean * SCALE, sd: AGEING_PER_HOUR.sd * SCALE }
      : i <= optics
        ? FOULING_FACTOR
        : { mean: 0, sd: i === sudden ? UNEXPLAINED_SD : i === base ? Math.max(0.005, baselineSe) : OFFSET_SD },
  );
  const precision = new Float64Array(n * n);
  const shift = new Float64Array(n);
  for (const [i, p] of prior.entries()) {
    precision[i * n + i] = 1 / p.sd ** 2;
    shift[i] = p.mean / p.sd ** 2;
  }
  const rowOf = (r: Since): Row => {
    const at = [AGEING];
    const value = [r.hoursSinceBaseline / SCALE];
    const put = (i: number, v: number) => {
      if (v === 0) return;
      at.push(i);
      value.push(v);
    };
    for (let k = 0; k < optics; k++) put(1 + k, r.fouling[k] ?? 0);
    if (r.sinceService) put(sudden, 1);
    if (r.way === undefined) put(base, 1);
    else put(3 + optics + ways.indexOf(r.way), 1);
    return { at, value };
  };
  const observe = ({ at, value }: Row, loss: number, weight: number) => {
    for (let i = 0; i < at.length; i++) {
      shift[at[i]!] = shift[at[i]!]! + weight * value[i]! * loss;
      for (let j = 0; j < at.length; j++) precision[at[i]! * n + at[j]!] = precision[at[i]! * n + at[j]!]! + weight * value[i]! * value[j]!;
    }
  };
  for (const r of readings) observe(rowOf(r), -r.lnRatio, 1 / (r.se * r.se + SHEET_SD * SHEET_SD));
  for (const look of looks) if (look.expected > 0) observe({ at: [1 + look.optic], value: [look.expected] }, look.loss, 1 / look.sd ** 2);
  const site = (row: Row, sign: number, threshold: number, variance: number): Site => ({
    row,
    sign,
    threshold,
    variance,
    precision: 0,
    shift: 0,
  });
  const sites = [
    // Nothing grows younger, and no optic cleans itself.
    ...Array.from({ length: 1 + optics }, (_, i) => site({ at: [i], value: [1] }, 1, 0, 0)),
    ...bounds.map((b) => site(rowOf(b), b.side === "above" ? -1 : 1, b.lnRatio, b.sd ** 2 + SHEET_SD ** 2)),
  ];
  const { mean, covariance } = propagate(precision, shift, sites, n);
  return { optics, mean, covariance, ways, count: readings.filter((r) => !r.isBaseline).length + bounds.length };
}

/** Takes in the sites, each matched to the mean and spread it leaves of its own row. */
function propagate(
  precision: Float64Array,
  shift: Float64Array,
  sites: readonly Site[],
  n: number,
): { mean: Float64Array; covariance: Float64Array } {
  let covariance = inverse(precision, n);
  const times = (row: Row): Float64Array => {
    const out = new Float64Array(n);
    for (let k = 0; k < row.at.length; k++) for (let i = 0; i < n; i++) out[i] = out[i]! + covariance[i * n + row.at[k]!]! * row.value[k]!;
    return out;
  };
  const dot = (row: Row, x: Float64Array) => row.at.reduce((sum, at, k) => sum + row.value[k]! * x[at]!, 0);
  let mean = multiply(covariance, shift, n);
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let moved = 0;
    for (const s of sites) {
      const c = times(s.row);
      const variance = dot(s.row, c);
      const middle = dot(s.row, mean);
      // Without its own site: what all the others say of this row.
      const freePrecision = 1 / variance - s.precision;
      if (!(freePrecision > 1e-9)) continue;
      const freeVariance = 1 / freePrecision;
      const freeMean = freeVariance * (middle / variance - s.shift);
      // The row's sum is a loss; power above a threshold is a loss below it.
      const spread = Math.sqrt(freeVariance + s.variance);
      const z = (s.sign * (freeMean + s.threshold)) / spread;
      const hazard = z < -12 ? -z : normalPdf(z) / normalCdf(z);
      const left = freeVariance - (freeVariance ** 2 / spread ** 2) * hazard * (z + hazard);
      const met = freeMean + (s.sign * freeVariance * hazard) / spread;
      if (!(left > 0) || !Number.isFinite(met)) continue;
      const nextPrecision = Math.max(0, 1 / left - freePrecision);
      const nextShift = met / left - freeMean / freeVariance;
      const [dp, ds] = [nextPrecision - s.precision, nextShift - s.shift];
      s.precision = nextPrecision;
      s.shift = nextShift;
      moved = Math.max(moved, Math.abs(dp) * variance, Math.abs(ds) * Math.sqrt(variance));
      for (let k = 0; k < s.row.at.length; k++) shift[s.row.at[k]!] = shift[s.row.at[k]!]! + ds * s.row.value[k]!;
      const gain = dp / (1 + dp * variance);
      for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) covariance[i * n + j] = covariance[i * n + j]! - gain * c[i]! * c[j]!;
      mean = multiply(covariance, shift, n);
    }
    // Rank-one updates drift; each pass begins from the exact inverse.
    const exact = precision.slice();
    for (const s of sites)
      for (let i = 0; i < s.row.at.length; i++)
        for (let j = 0; j < s.row.at.length; j++) {
          const at = s.row.at[i]! * n + s.row.at[j]!;
          exact[at] = exact[at]! + s.precision * s.row.value[i]! * s.row.value[j]!;
        }
    covariance = inverse(exact, n);
    mean = multiply(covariance, shift, n);
    if (moved < SETTLED) break;
  }
  return { mean, covariance };
}

function multiply(matrix: Float64Array, x: Float64Array, n: number): Float64Array {
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (let j = 0; j < n; j++) sum += matrix[i * n + j]! * x[j]!;
    out[i] = sum;
  }
  return out;
}

/** A loss in ln power that use explains: firing hours, expected fouling of each optic, and whether today's unexplained loss counts. */
export function lossAt(
  fit: WearFit,
  at: { readonly hours: number; readonly fouling: readonly number[]; readonly sudden?: boolean },
): { readonly mean: number; readonly sd: number } {
  const n = fit.mean.length;
  const row = new Float64Array(n);
  row[AGEING] = at.hours / SCALE;
  for (let k = 0; k < fit.optics; k++) row[1 + k] = at.fouling[k] ?? 0;
  if (at.sudden) row[1 + fit.optics] = 1;
  let [mean, variance] = [0, 0];
  for (let i = 0; i < n; i++) {
    if (row[i] === 0) continue;
    mean += row[i]! * fit.mean[i]!;
    for (let j = 0; j < n; j++) variance += row[i]! * row[j]! * fit.covariance[i * n + j]!;
  }
  return { mean, sd: Math.sqrt(Math.max(0, variance)) };
}

/** Today's loss that neither hours nor smoke explains, in ln power; may be below nought. */
export const suddenOf = (fit: WearFit): number => fit.mean[1 + fit.optics]!;
