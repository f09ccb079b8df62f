import { normalCdf, normalPdf } from "#core/normal";
import { LADDER_SLOPE } from "./ladder";

/** Effective power today as it is known: ln ratio to the baseline, and its standard deviation. */
export interface KnownPower {
  readonly lnRatio: number;
  readonly sd: number;
}

export interface Job {
  /** ln of the effective power the cut needs, at its speed, set power and passes. */
  readonly lnNeed: number;
  /** Exponent of the material: how speed answers to power. */
  readonly beta: number;
  readonly passes: number;
  /** Minutes that the cut itself takes. */
  readonly cutMinutes: number;
  /** Minutes lost when it does not drop: engraving already done, setting up again. */
  readonly lostMinutes: number;
  /** Money lost when it does not drop: the sheet. */
  readonly lostMoney: number;
  /** What an hour is worth, in the same money. */
  readonly moneyPerHour: number;
  /** Slowest speed that is still safe, as a share of the planned one, 0..1: slower it burns instead of cutting. */
  readonly slowestShare?: number;
}

/** A look or a clean that would bring power back. */
export interface Clean {
  readonly lnGain: number;
  readonly minutes: number;
}

export type WayId = "as-is" | "slower" | "pass" | "test" | "clean";

/** A way on, with what it takes and what it risks. */
export interface Way {
  readonly id: WayId;
  /** Probability that the cut drops this way. */
  readonly through: number;
  /** Expected minutes: what it takes, and what a failure loses. */
  readonly minutes: number;
  /** Expected money lost on the sheet. */
  readonly money: number;
  /** Both, in money. */
  readonly cost: number;
  /** Speed as a share of the planned one, where it is changed. */
  readonly speedShare?: number;
}

/** A slower cut is slowed until it drops this surely. */
const SURE = 0.98;
const SURE_Z = 2.0537489;
const TEST_MINUTES = 2;
/** Half width (standard deviations) and steps of the grid that the test cut is weighed on. */
const REACH = 4;
const STEPS = 160;

/**
 * ln of the effective power a cut needs: β ln(v/v50) + ln(P_base/P) − ln(passes). Speeds in mm/s, set powers in percent, all above 0;
 * passes a whole number from 1.
 */
export function neededLnRatio(
  cut: { readonly speedMmPerS: number; readonly setPercent: number; readonly passes: number },
  base: { readonly v50: number; readonly setPercent: number },
  beta: number,
): number {
  return beta * Math.log(cut.speedMmPerS / base.v50) + Math.log(base.setPercent / cut.setPercent) - Math.log(cut.passes);
}

/** P(through) = Φ((ln r − ln r_need) / √(sd² + s²)), s the width of the drop curve in ln power (M2). 0..1. */
export function throughProbability(known: KnownPower, lnNeed: number, beta = 1): number {
  return normalCdf((known.lnRatio - lnNeed) / Math.hypot(known.sd, beta * LADDER_SLOPE));
}

/**
 * Speed (mm/s) at which a cut at a set power drops with 98 %: the one the gate slows to. `base` is the ladder it is measured by; set powers
 * in percent, passes a whole number from 1.
 */
export function sureSpeed(
  known: KnownPower,
  cut: { readonly setPercent: number; readonly passes: number },
  base: { readonly v50: number; readonly setPercent: number },
  beta = 1,
): number {
  const lnNeed = neededLnRatio({ ...cut, speedMmPerS: base.v50 }, base, beta);
  const allowed = known.lnRatio - SURE_Z * Math.hypot(known.sd, beta * LADDER_SLOPE);
  return base.v50 * Math.exp((allowed - lnNeed) / beta);
}

/** Every way on, cheapest first: each costs what it takes and P(not through) times what the failed job loses. */
export function waysOn(known: KnownPower, job: Job, clean?: Clean): Way[] {
  const way = (id: WayId, through: number, takes: number, speedShare?: number): Way => {
    const minutes = takes + (1 - through) * job.lostMinutes;
    const money = (1 - through) * job.lostMoney;
    return { id, through, minutes, money, cost: money + (minutes * job.moneyPerHour) / 60, ...(speedShare ? { speedShare } : {}) };
  };
  const at = (lnNeed: number, power = known) => throughProbability(power, lnNeed, job.beta);
  const ways = [way("as-is", at(job.lnNeed), 0)];
  const slower = slowedBest(known, job, (s) => way("slower", at(job.lnNeed + job.beta * Math.log(s)), job.cutMinutes * (1 / s - 1), s));
  if (slower) ways.push(slower);
  ways.push(way("pass", at(job.lnNeed - Math.log((job.passes + 1) / job.passes)), job.cutMinutes / job.passes));
  ways.push(testCut(known, job, way));
  if (clean && clean.lnGain > 0)
    ways.push(way("clean", at(job.lnNeed, { lnRatio: known.lnRatio + clean.lnGain, sd: known.sd }), clean.minutes));
  return ways.sort((a, b) => a.cost - b.cost);
}

/** Steps in which a slower speed is looked for. */
const SLOWER_STEPS = 12;

/** The cheapest of the speeds at which the cut drops with 98 % or more; undefined where the planned one does, or none is safe. */
function slowedBest(known: KnownPower, job: Job, at: (share: number) => Way): Way | undefined {
  const share = shareForSure(known, job);
  const slowest = job.slowestShare ?? 0;
  if (share >= 1 || share < slowest) return undefined;
  const shares = Array.from({ length: SLOWER_STEPS }, (_, i) => share * 0.98 ** i).filter((s) => s >= slowest);
  return shares.map(at).reduce((a, b) => (b.cost < a.cost ? b : a));
}

/** Speed, as a share of the planned one, at which the cut drops with 98 %; 1 where it does already. */
export function shareForSure(known: KnownPower, { lnNeed, beta }: Pick<Job, "lnNeed" | "beta">): number {
  const allowed = known.lnRatio - SURE_Z * Math.hypot(known.sd, beta * LADDER_SLOPE);
  return Math.min(1, Math.exp((allowed - lnNeed) / beta));
}

/**
 * Two minutes in the waste margin: where the test drops the job is started as planned, where it does not it is slowed. The test and the
 * job share what the power is and not the scatter of the cut, so what the test says of the power is weighed on a grid.
 */
function testCut(known: KnownPower, job: Job, way: (id: WayId, through: number, takes: number) => Way): Way {
  const spread = job.beta * LADDER_SLOPE;
  let [both, failed, mean, second] = [0, 0, 0, 0];
  for (let i = 0; i <= STEPS; i++) {
    const z = -REACH + (2 * REACH * i) / STEPS;
    const weight = (normalPdf(z) * 2 * REACH) / STEPS;
    const lnRatio = known.lnRatio + z * known.sd;
    const p = normalCdf((lnRatio - job.lnNeed) / spread);
    both += weight * p * p;
    failed += weight * (1 - p);
    mean += weight * (1 - p) * lnRatio;
    second += weight * (1 - p) * lnRatio * lnRatio;
  }
  const after = failed > 1e-9 ? { lnRatio: mean / failed, sd: Math.sqrt(Math.max(0, second / failed - (mean / failed) ** 2)) } : known;
  const share = Math.max(job.slowestShare ?? 0, shareForSure(after, job));
  const slowed = throughProbability(after, job.lnNeed + job.beta * Math.log(share), job.beta);
  return way("test", both + failed * Math.min(SURE, slowed), TEST_MINUTES + failed * job.cutMinutes * (1 / share - 1));
}
