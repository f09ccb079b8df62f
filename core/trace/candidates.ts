/** What a check could answer, and how likely each answer is under a set of faults: all that it is ranked by. */
import { tabledNormalCdf } from "#core/normal";
import { cutOutcomes, predictiveMoments } from "./cutReading";
import { outcomeTable, valueTable } from "./findings";
import type { Posterior } from "./posterior";
import { placeOf } from "./readings";
import type { FaultSets } from "./sets";
import type { CheckSpec, TraceModel } from "./types";

/** A figure is told in so many bins. */
export const BINS = 24;

type OutcomeFill = (a: number, b: number, c: number, out: Float64Array) => void;

export interface Candidate {
  readonly check: CheckSpec;
  readonly labels: readonly string[];
  readonly fill: OutcomeFill;
  readonly minutes: number;
  /** States that show in it; all sets without one share one answer. Undefined where every state may. */
  readonly touched?: Uint8Array;
}

export function minutesOf(check: CheckSpec, opened: readonly string[]): number {
  return check.needsOpen !== undefined && opened.includes(check.needsOpen) ? (check.minutesOpened ?? check.minutes) : check.minutes;
}

/** Undefined where a check has nothing to be compared with. */
export function candidateOf(
  model: TraceModel,
  check: CheckSpec,
  post: Posterior,
  scratchSet: ReturnType<Posterior["losses"]["newPosterior"]>,
  sets: FaultSets,
  top: Int32Array,
  opened: readonly string[],
): Candidate | undefined {
  const minutes = minutesOf(check, opened);
  if (check.kind !== "loss" && check.outcomes.length > 0) {
    const { fill, touched } = outcomeTable(model, check);
    return { check, labels: check.outcomes, fill, minutes, touched };
  }
  const labels = Array.from({ length: BINS }, (_, i) => `${i}`);
  if (check.kind !== "loss") {
    if (typeof check.value?.usual === "object" && check.value.usual.fallback === undefined) return undefined;
    const table = valueTable(model, check);
    const sd = check.value?.sd ?? 1;
    const moments = (a: number, b: number, c: number, out: { mean: number; variance: number }) => {
      table.fill(a, b, c, out);
      out.variance += sd * sd;
    };
    return { ...binned(check, labels, minutes, sets, top, moments), touched: table.touched };
  }
  const measures = check.measures as NonNullable<CheckSpec["measures"]>;
  const law =
    measures.kind === "power"
      ? post.losses.predict({ kind: "power", at: placeOf(model, measures.station), time: post.losses.now })
      : post.losses.predict({ kind: "ladder", at: model.stations.length - 1, time: post.losses.now });
  const readingVariance = measures.kind === "power" ? 0.03 ** 2 : 0.07 ** 2;
  const moments = (a: number, b: number, c: number, out: { mean: number; variance: number }) => {
    post.losses.evaluate(a, b, c, scratchSet);
    predictiveMoments(law, scratchSet, a, b, c, out);
  };
  if (measures.kind === "cut") {
    const m = { mean: 0, variance: 0 };
    const fill: OutcomeFill = (a, b, c, out) => {
      moments(a, b, c, m);
      cutOutcomes(m.mean, m.variance, out, model.usualNeedLn);
    };
    return { check, labels: check.outcomes, fill, minutes };
  }
  return binned(check, labels, minutes, sets, top, (a, b, c, out) => {
    moments(a, b, c, out);
    out.variance += readingVariance;
  });
}

/** A numeric check cut into bins that span its predictive law over the heaviest sets. */
function binned(
  check: CheckSpec,
  labels: readonly string[],
  minutes: number,
  sets: FaultSets,
  top: Int32Array,
  moments: (a: number, b: number, c: number, out: { mean: number; variance: number }) => void,
): Candidate {
  const m = { mean: 0, variance: 0 };
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const n of top) {
    moments(sets.first[n]!, sets.second[n]!, sets.third[n]!, m);
    const reach = 2.5 * Math.sqrt(m.variance);
    low = Math.min(low, m.mean - reach);
    high = Math.max(high, m.mean + reach);
  }
  const width = (high - low) / BINS;
  const fill: OutcomeFill = (a, b, c, out) => {
    moments(a, b, c, m);
    const sd = Math.sqrt(m.variance);
    let previous = 0;
    for (let j = 0; j < BINS; j++) {
      const upper = j === BINS - 1 ? 1 : tabledNormalCdf((low + (j + 1) * width - m.mean) / sd);
      out[j] = upper - previous;
      previous = upper;
    }
  };
  return { check, labels, fill, minutes };
}
