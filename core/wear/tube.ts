/**
 * The tube: what it has lost over its firing hours, at a rate that wanders (a local linear trend; Durbin and Koopman, "Time Series Analysis
 * by State Space Methods", section 3.2): flat for long, then faster; a break-in; a leak.
 */
import type { Random } from "#core/random";
import type { Field, Row } from "./gaussian";

/** Typical ageing of a glass tube per firing hour, in ln power, and how much tubes differ. */
export const AGEING_PER_HOUR = { mean: 1.2e-4, sd: 0.8e-4 } as const;
/** Rates are kept per 1000 firing hours, to keep the matrix tame. */
export const RATE_SCALE = 1000;
/** How far the rate wanders over 1000 firing hours, standard deviation, per 1000 h. */
export const RATE_WANDER = 0.09;

const MOST_SPANS = 6;
const SHORTEST_SPAN = 60;

/** Spans of firing hours, each with a rate of its own, as parameters `at`, `at + 1`, and so on. */
export interface TubeSpans {
  readonly at: number;
  /** Hours at which each span begins; the first at 0, the baseline. */
  readonly from: readonly number[];
}

/** Spans over the hours that were fired up to the last reading. */
export function tubeSpans(at: number, hours: number): TubeSpans {
  const count = Math.max(1, Math.min(MOST_SPANS, Math.floor(hours / SHORTEST_SPAN)));
  return { at, from: Array.from({ length: count }, (_, i) => (i * Math.max(0, hours)) / count) };
}

export function expectTube(field: Field, { at, from }: TubeSpans, wander: number): void {
  field.expect(at, AGEING_PER_HOUR.mean * RATE_SCALE, AGEING_PER_HOUR.sd * RATE_SCALE);
  for (let j = 1; j < from.length; j++)
    field.chain(at + j, at + j - 1, ((wander * RATE_WANDER) ** 2 * (from[j]! - from[j - 1]!)) / RATE_SCALE);
}

/** Loss of the tube alone at some hours after the baseline; before it, less. */
export function tubeRow({ at, from }: TubeSpans, hours: number): Row {
  const row = { at: [] as number[], value: [] as number[] };
  for (let j = 0; j < from.length; j++) {
    const end = j + 1 < from.length ? Math.min(hours, from[j + 1]!) : hours;
    const part = j === 0 ? end : end - from[j]!;
    if (j > 0 && part <= 0) break;
    row.at.push(at + j);
    row.value.push(part / RATE_SCALE);
  }
  return row;
}

/** Rate of the last span: today's, per 1000 h. */
export const rateRow = ({ at, from }: TubeSpans): Row => ({ at: [at + from.length - 1], value: [1] });

/** What the wandering adds to the variance of the loss over hours to come. */
export const wanderVariance = (hours: number, wander: number): number =>
  ((wander * RATE_WANDER) ** 2 * (Math.max(0, hours) / RATE_SCALE) ** 3) / 3;

const STEP_HOURS = 50;
/** Nothing runs longer. */
const FURTHEST_HOURS = 25_000;

/** Firing hours until a tube that has lost `loss` at `rate` (per 1000 h) has lost `until`, along one path of its rate to come. */
export function hoursAlong(random: Random, start: { readonly loss: number; readonly rate: number }, until: number, wander: number): number {
  let { loss, rate } = start;
  let hours = 0;
  while (loss < until && hours < FURTHEST_HOURS) {
    rate = Math.abs(rate + wander * RATE_WANDER * Math.sqrt(STEP_HOURS / RATE_SCALE) * random.normal());
    loss += (rate * STEP_HOURS) / RATE_SCALE;
    hours += STEP_HOURS;
  }
  return hours >= FURTHEST_HOURS ? Number.POSITIVE_INFINITY : hours;
}
