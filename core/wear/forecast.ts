/** What the fit says of days to come: how long the tube lasts, and when a cut stops dropping. */
import { seededRandom } from "#core/random";
import { correlationOf, dirtOf, type Estimate, lossOf, type Moment, ofMoment, readingNow, tubeStart, type WearFit } from "./fit";
import { hoursAlong } from "./tube";

/** A figure with its 90 % range. */
export interface Range {
  readonly mid: number;
  readonly low: number;
  readonly high: number;
}

const PATHS = 400;

/**
 * Firing hours until the tube alone has fallen to a share (0..1) of what it gave at the baseline, counted from now, never below 0: from
 * paths of its rate drawn from what is known of it. Infinity where it holds for longer than any tube.
 */
export function tubeHoursLeft(fit: WearFit, moment: Moment, share: number): Range {
  const random = seededRandom(11);
  const start = tubeStart(fit, moment);
  const until = -Math.log(share);
  const left = Array.from({ length: PATHS }, () => hoursAlong(random, start(random), until, fit.scale.tube)).sort((a, b) => a - b);
  const at = (q: number) => left[Math.min(PATHS - 1, Math.floor(q * PATHS))]!;
  return { mid: at(0.5), low: at(0.05), high: at(0.95) };
}

/** Fewer readings than this, or a range that spans more than this factor, and it is too early to tell. */
const FEWEST_READINGS = 6;
const WIDEST = 6;
/** What is nearer than this needs no narrow range, hours. */
const NEAR_HOURS = 60;

/** Whether the readings say enough of the tube's own ageing. */
export const isTooEarly = (fit: WearFit, left: Range): boolean =>
  fit.count < FEWEST_READINGS || (left.high > NEAR_HOURS && left.high > WIDEST * Math.max(NEAR_HOURS / WIDEST, left.low));

/** Two rates of which the readings know the sum better than the parts. */
const TANGLED = -0.6;

/** Pairs of rates that the readings cannot tell apart: 0 is the tube's ageing, 1 on are the optics. */
export function tangledRates(fit: WearFit): readonly (readonly [number, number])[] {
  const pairs: (readonly [number, number])[] = [];
  for (let i = 0; i <= fit.optics; i++)
    for (let j = i + 1; j <= fit.optics; j++) if (correlationOf(fit, i, j) < TANGLED) pairs.push([i, j]);
  return pairs;
}

/** Use of the days to come. */
export interface Pace {
  readonly hoursPerDay: number;
  /** How much expected fouling each optic gains a day, in ln power. */
  readonly foulingPerDay: readonly number[];
  /** The same of each optic, less the baseline's, in the middle between two cleans. */
  readonly kept: readonly number[];
  /** How far the pace may be off, as a share of it. */
  readonly spread: number;
}

/** Mean of the bursts dirt comes in: log-normal with an sd of 0.4, so that the usual day says less than the mean of many. */
const BURSTS = Math.exp(0.4 ** 2 / 2);

/** Use as it will be some days from now, if nothing is cleaned or if all is kept clean. */
export function momentIn(now: Moment, pace: Pace, days: number, kept: boolean): Moment {
  const hours = pace.hoursPerDay * days;
  const left = now.fouling.map((f, i) => f + BURSTS * (pace.foulingPerDay[i] ?? 0) * days);
  const fouling = kept ? left.map((f, i) => Math.min(f, pace.kept[i] ?? f)) : left;
  return { day: now.day + days, hours: now.hours + hours, fouling, unsure: now.unsure ?? 0 };
}

/** More dirt than an optic was ever let to carry: nobody has seen how it goes on, by this share of it. */
const UNSEEN = 0.3;

/** ln effective power some days from now, with its standard deviation. */
export function powerIn(fit: WearFit, now: Moment, pace: Pace, days: number, kept = false): Estimate {
  const then = momentIn(now, pace, days, kept);
  const loss = lossOf(fit, then);
  const dirt = kept ? [] : then.fouling.map((f, i) => f - (now.fouling[i] ?? 0));
  const added = ofMoment(fit, { ...then, fouling: dirt }, now.hours);
  return { mean: -loss.mean, sd: Math.hypot(loss.sd, pace.spread * added, UNSEEN * dirtOf(fit, dirt).mean) };
}

const FURTHEST_DAYS = 1500;

/**
 * Days until a cut that needs `lnNeed` of its baseline's ladder has probably stopped dropping, counted from now: 0 where it has already,
 * undefined where it holds for four years.
 */
export function daysUntil(
  fit: WearFit,
  now: Moment,
  pace: Pace,
  lnNeed: number,
  kept: boolean,
  told: Parameters<typeof readingNow>[2] = {},
): number | undefined {
  const falls = (days: number) => readingNow(fit, momentIn(now, pace, days, kept), told).mean < lnNeed;
  if (falls(0)) return 0;
  if (!falls(FURTHEST_DAYS)) return undefined;
  let [low, high] = [0, FURTHEST_DAYS];
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (falls(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** Share of best (0..1) if only the tube had aged, at a moment. */
export const tubeAlone = (fit: WearFit, moment: Moment): number => Math.exp(-Math.max(0, tubeLoss(fit, moment)));
const tubeLoss = (fit: WearFit, moment: Moment): number => ofMoment(fit, { ...moment, fouling: [] }, 0);
