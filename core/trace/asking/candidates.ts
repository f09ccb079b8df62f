/** What a check could answer, and how likely each answer is under a set of faults: all that it is ranked by. */
import { tabledNormalCdf } from "#core/normal";
import type { Posterior } from "../belief/posterior";
import type { FaultSets } from "../belief/sets";
import { outcomeTable, valueTable } from "../belief/tables";
import { cutOutcomes, predictiveMoments } from "../light/cutReading";
import { placeOf } from "../light/readings";
import type { SetPosterior } from "../light/weigh";
import type { CheckSpec, TraceModel } from "../model/types";

/** A figure is told in so many bins. */
export const BINS = 24;

/** The sets that checks are compared over, heaviest first: their weights and states side by side, -1 for none. */
export interface Compared {
  readonly weight: Float64Array;
  readonly first: Int16Array;
  readonly second: Int16Array;
  readonly third: Int16Array;
  /** The losses of one of them, worked out once, when a check of the light is compared. */
  readonly lossesOf: (i: number) => SetPosterior;
}

export function compared(
  { first, second, third }: FaultSets,
  top: Int32Array,
  { sets, losses }: Pick<Posterior, "sets" | "losses">,
): Compared {
  const [a, b, c] = [first, second, third].map((column) => Int16Array.from(top, (n) => column[n]!)) as [Int16Array, Int16Array, Int16Array];
  const made: SetPosterior[] = [];
  const lossesOf = (i: number): SetPosterior => {
    const known = made[i];
    if (known) return known;
    const post = losses.newPosterior();
    losses.evaluate(a[i]!, b[i]!, c[i]!, post);
    made[i] = post;
    return post;
  };
  return { weight: Float64Array.from(top, (n) => sets[n]!), first: a, second: b, third: c, lossesOf };
}

export interface Candidate {
  readonly check: CheckSpec;
  readonly labels: readonly string[];
  /** How likely each answer is under the set at a place of those compared, or under none of the states that show in it (-1). */
  readonly fill: (i: number, out: Float64Array) => void;
  readonly minutes: number;
  /** States that show in it; all sets without one share one answer. Undefined where every state may. */
  readonly touched?: Uint8Array;
}

export function minutesOf(check: CheckSpec, opened: readonly string[]): number {
  return check.needsOpen !== undefined && opened.includes(check.needsOpen) ? (check.minutesOpened ?? check.minutes) : check.minutes;
}

interface Moments {
  mean: number;
  variance: number;
}

/** Undefined where a check has nothing to be compared with. */
export function candidateOf(
  model: TraceModel,
  check: CheckSpec,
  { losses }: Pick<Posterior, "losses">,
  over: Compared,
  opened: readonly string[],
): Candidate | undefined {
  const minutes = minutesOf(check, opened);
  const { lossesOf } = over;
  const count = over.weight.length;
  const first = (i: number): number => (i < 0 ? -1 : over.first[i]!);
  const second = (i: number): number => (i < 0 ? -1 : over.second[i]!);
  const third = (i: number): number => (i < 0 ? -1 : over.third[i]!);
  if (check.kind !== "loss" && check.outcomes.length > 0) {
    const { fill, touched } = outcomeTable(model, check);
    return { check, labels: check.outcomes, fill: (i, out) => fill(first(i), second(i), third(i), out), minutes, touched };
  }
  const labels = Array.from({ length: BINS }, (_, i) => `${i}`);
  if (check.kind !== "loss") {
    if (typeof check.value?.usual === "object" && check.value.usual.fallback === undefined) return undefined;
    const table = valueTable(model, check);
    const sd = check.value?.sd ?? 1;
    const moments = (i: number, out: Moments) => {
      table.fill(first(i), second(i), third(i), out);
      out.variance += sd * sd;
    };
    return { check, labels, fill: binned(count, moments), minutes, touched: table.touched };
  }
  const measures = check.measures as NonNullable<CheckSpec["measures"]>;
  const law =
    measures.kind === "power"
      ? losses.predict({ kind: "power", at: placeOf(model, measures.station), time: losses.now })
      : losses.predict({ kind: "ladder", at: model.stations.length - 1, time: losses.now });
  const readingVariance = measures.kind === "cut" ? 0 : measures.kind === "power" ? 0.03 ** 2 : 0.07 ** 2;
  const none = losses.newPosterior();
  losses.evaluate(-1, -1, -1, none);
  const moments = (i: number, out: Moments) => {
    predictiveMoments(law, i < 0 ? none : lossesOf(i), first(i), second(i), third(i), out);
    out.variance += readingVariance;
  };
  if (measures.kind !== "cut") return { check, labels, fill: binned(count, moments), minutes };
  const m = { mean: 0, variance: 0 };
  const fill = (i: number, out: Float64Array): void => {
    moments(i, m);
    cutOutcomes(m.mean, m.variance, out, model.usualNeedLn);
  };
  return { check, labels: check.outcomes, fill, minutes };
}

/** What lies further from the mean (in standard deviations) is told in no bin. */
const FAR = 6;

/** A numeric check cut into bins that span its predictive law over the sets that are compared. */
function binned(count: number, moments: (i: number, out: Moments) => void): Candidate["fill"] {
  const m = { mean: 0, variance: 0 };
  const mean = new Float64Array(count);
  const sd = new Float64Array(count);
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < count; i++) {
    moments(i, m);
    mean[i] = m.mean;
    sd[i] = Math.sqrt(m.variance);
    low = Math.min(low, m.mean - 2.5 * sd[i]!);
    high = Math.max(high, m.mean + 2.5 * sd[i]!);
  }
  const width = (high - low) / BINS;
  return (i, out) => {
    if (i < 0) moments(-1, m);
    const at = i < 0 ? m.mean : mean[i]!;
    const perSd = 1 / (i < 0 ? Math.sqrt(m.variance) : sd[i]!);
    let previous = 0;
    for (let j = 0; j < BINS; j++) {
      const edge = (low + (j + 1) * width - at) * perSd;
      const upper = j === BINS - 1 || edge > FAR ? 1 : edge < -FAR ? 0 : tabledNormalCdf(edge);
      out[j] = upper - previous;
      previous = upper;
    }
  };
}
