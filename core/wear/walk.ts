/**
 * What neither hours nor smoke explain: aim that creeps, focus, damage, dirt that came in bursts and what a clean left of it. A random walk
 * over days with heavy-tailed steps, and steps of their own where something was touched; it begins at nought with the baseline. It is kept
 * at knots that lie closer the nearer they are to the last reading; between two of them it is a bridge.
 */
import type { Field, Posterior, Row } from "./gaussian";
import { ofRow } from "./gaussian";

/** Standard deviation of the walk over 14 days, in ln power. */
export const WALK_SD = 0.03;
const WALK_DAYS = 14;
/** Spread of the dirt of one week about what its smoke would leave (log-normal). */
const BURST_SD = 0.4;
/** Something may happen at any moment, between two knots however close. */
const SUDDEN_SD = 0.01;
/** Degrees of freedom of a step: now and then one is large. */
const TAIL = 2;

/** Days before the last reading at which there is a knot. */
const KNOTS = [0, 7, 14, 21, 28, 42, 56, 84, 112, 168, 224, 336, 448, 672, 1000, 1500, 2200, 3300, 5000];
/** Things touched in these last days have knots of their own. */
const CLOSE_DAYS = 60;
const MOST_TOUCHED = 8;
const AT_ONCE_DAYS = 0.02;

/** Something was touched, served or changed: a step whose size only readings tell. */
export interface Change {
  readonly day: number;
  /** How large it may be, standard deviation in ln power. */
  readonly sd: number;
}

export interface Walk {
  readonly at: number;
  /** Days since the baseline of each knot; the walk is nought at day 0. */
  readonly days: readonly number[];
  /** Variance of the step that leads to each knot, at the usual scale. */
  readonly variance: readonly number[];
  /** The same for a day beyond the last. */
  readonly perDay: number;
  readonly changes: readonly Change[];
}

/** `last` is the day of the last reading, `dirtPerDay` what the dirt of all optics grows by a day, in ln power. */
export function walkOver(at: number, last: number, changes: readonly Change[], dirtPerDay: number): Walk {
  const perDay = WALK_SD ** 2 / WALK_DAYS + 7 * (BURST_SD * dirtPerDay) ** 2;
  const touched = changes.filter((c) => c.day > last - CLOSE_DAYS && c.day < last && c.day > 0).slice(-MOST_TOUCHED);
  const days = [
    ...new Set(
      [...KNOTS.map((k) => last - k), ...touched.flatMap((c) => [c.day - AT_ONCE_DAYS, c.day])].filter((d) => d > AT_ONCE_DAYS / 2),
    ),
  ].sort((a, b) => a - b);
  const variance = days.map((day, i) => {
    const from = i === 0 ? 0 : days[i - 1]!;
    return SUDDEN_SD ** 2 + perDay * (day - from) + stepsBetween(changes, from, day);
  });
  return { at, days, variance, perDay, changes };
}

/** Share of the walk's variance that comes of dirt in bursts, 0..1. */
export const burstShare = ({ perDay }: Walk): number => 1 - WALK_SD ** 2 / WALK_DAYS / perDay;

const stepsBetween = (changes: readonly Change[], from: number, to: number) =>
  changes.reduce((sum, c) => (c.day > from && c.day <= to ? sum + c.sd ** 2 : sum), 0);

/** `scale` of the walk's standard deviation; `wide` of each step's variance where it turned out larger. */
export function expectWalk(field: Field, walk: Walk, scale: number, wide: readonly number[]): void {
  for (const i of walk.days.keys())
    field.chain(walk.at + i, i === 0 ? undefined : walk.at + i - 1, walk.variance[i]! * scale ** 2 * (wide[i] ?? 1));
}

/** The walk at a day, and what the bridge between two knots leaves open. Nought at and before the baseline. */
export function walkRow(walk: Walk, day: number): { readonly row: Row; readonly variance: number } {
  const { at, days, variance } = walk;
  if (day <= 0 || days.length === 0) return { row: { at: [], value: [] }, variance: day > 0 ? walk.perDay * day : 0 };
  const last = days.length - 1;
  if (day >= days[last]!)
    return {
      row: { at: [at + last], value: [1] },
      variance: walk.perDay * (day - days[last]!) + stepsBetween(walk.changes, days[last]!, day),
    };
  const to = days.findIndex((d) => d >= day);
  const from = to === 0 ? 0 : days[to - 1]!;
  const share = (day - from) / (days[to]! - from);
  const left = variance[to]! * share * (1 - share);
  if (to === 0) return { row: { at: [at], value: [share] }, variance: left };
  return { row: { at: [at + to - 1, at + to], value: [1 - share, share] }, variance: left };
}

/** How much wider each step is than was expected, by what the readings make of it: one round of expectation and maximisation for a t law. */
export function widthOf(walk: Walk, posterior: Posterior, scale: number): number[] {
  return walk.days.map((_, i) => {
    const row = i === 0 ? { at: [walk.at], value: [1] } : { at: [walk.at + i - 1, walk.at + i], value: [-1, 1] };
    const { mean, variance } = ofRow(posterior, row);
    return (TAIL + (mean * mean + variance) / (walk.variance[i]! * scale ** 2)) / (TAIL + 1);
  });
}

/** What such widths cost, ln. */
export const widthCost = (wide: readonly number[]): number => wide.reduce((sum, w) => sum + (TAIL / 2) * (Math.log(1 / w) - 1 / w + 1), 0);
