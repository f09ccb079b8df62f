/** What the fit says of days to come: how long the tube lasts, and when a cut stops dropping. */
import { normalCdf } from "#core/normal";
import { ageingOf, correlationOf, lossAt, type WearFit } from "./fit";

/** A figure with its 90 % range. */
export interface Range {
  readonly mid: number;
  readonly low: number;
  readonly high: number;
}

/** Quantile (0..1) of a normal law cut off below nought, by halving. */
function quantileAboveZero(mean: number, sd: number, q: number): number {
  if (!(sd > 0)) return Math.max(0, mean);
  const below = normalCdf(-mean / sd);
  const wanted = below + q * (1 - below);
  let [low, high] = [0, Math.max(mean, 0) + 8 * sd];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (normalCdf((middle - mean) / sd) < wanted) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Firing hours until the tube alone has fallen to a share (0..1) of what it gave at the baseline, counted from now, never below 0.
 * `hours` were fired since the baseline. An ageing rate that may be nought has no upper end: Infinity.
 */
export function tubeHoursLeft(fit: WearFit, hours: number, share: number): Range {
  const { mean, sd } = ageingOf(fit);
  const left = (rate: number) => Math.max(0, -Math.log(share) / rate - hours);
  return {
    mid: left(quantileAboveZero(mean, sd, 0.5)),
    low: left(quantileAboveZero(mean, sd, 0.95)),
    high: left(quantileAboveZero(mean, sd, 0.05)),
  };
}

/** Fewer readings, or a rate less sure than this share of itself, and it is too early to tell the tube from the rest. */
const FEWEST_READINGS = 10;
const SUREST = 0.4;

/** Whether the readings say enough of the tube's own ageing. */
export function isTooEarly(fit: WearFit): boolean {
  const { mean, sd } = ageingOf(fit);
  return fit.count < FEWEST_READINGS || !(mean > 0) || sd / mean > SUREST;
}

/** Two rates of which the readings know the sum better than the parts. */
const TANGLED = -0.6;

/** Pairs of rates that the readings cannot tell apart: 0 is the tube's ageing, 1 on are the optics. */
export function tangledRates(fit: WearFit): readonly (readonly [number, number])[] {
  const pairs: (readonly [number, number])[] = [];
  for (let i = 0; i <= fit.optics; i++)
    for (let j = i + 1; j <= fit.optics; j++) if (correlationOf(fit, i, j) < TANGLED) pairs.push([i, j]);
  return pairs;
}

/** Use of the days to come: firing hours a day, and how much expected fouling each optic gains a day, in ln power. */
export interface Pace {
  readonly hoursPerDay: number;
  readonly foulingPerDay: readonly number[];
}

/** Where a machine stands now against its baseline. */
export interface Standing {
  readonly hours: number;
  readonly fouling: readonly number[];
  /** ln effective power as it is shown: a last proof may hold it above or below what the rates alone say. */
  readonly lnRatio: number;
}

/** ln effective power some days from now, with its standard deviation, if nothing is cleaned; `kept` clean, only the tube wears. */
export function powerIn(
  fit: WearFit,
  now: Standing,
  pace: Pace,
  days: number,
  kept = false,
): { readonly mean: number; readonly sd: number } {
  const hours = pace.hoursPerDay * days;
  const added = { hours, fouling: kept ? [] : pace.foulingPerDay.map((f) => f * days) };
  const then = lossAt(fit, { hours: now.hours + hours, fouling: now.fouling.map((f, i) => f + (added.fouling[i] ?? 0)), sudden: true });
  return { mean: now.lnRatio - lossAt(fit, added).mean, sd: then.sd };
}

const FURTHEST_DAYS = 1500;

/**
 * Days until the power has probably fallen below what a cut needs (ln), counted from now: 0 where it has already, undefined where it holds
 * for four years. `kept` clean, only the tube wears.
 */
export function daysUntil(fit: WearFit, now: Standing, pace: Pace, lnNeed: number, kept: boolean): number | undefined {
  const falls = (days: number) => powerIn(fit, now, pace, days, kept).mean < lnNeed;
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
