/** How readings see the losses of a path: by which direction each fault's loss shows in them, and which errors they share. */
import type { backgroundLosses } from "./prior";
import { type LossReading, placeOf } from "./readings";
import type { TraceModel } from "./types";

export type ReadingKind = LossReading["kind"];

/** Error that all readings of one meter share, in ln power. */
const METER_SHARED_SD = 0.03;
/** How badly the tube's own power is known when no baseline was ever taken. */
const NO_BASELINE_SD = 0.5;
/** A reading above what a clean machine could give by more than this (ln) says no more than "as good as it gets". */
const HEADROOM = 0.06;

/** What a model's faults are to the readings, state by state: fault f light is state 2f, heavy 2f + 1. */
export interface States {
  readonly count: number;
  readonly mean: Float64Array;
  readonly variance: Float64Array;
  /** Place of the path behind which the loss shows; -1 where watts do not see it. */
  readonly lossAt: Int16Array;
  readonly cutGain: Float64Array;
}

export function statesOf(model: TraceModel): States {
  const count = model.faults.length * 2;
  const states = {
    count,
    mean: new Float64Array(count),
    variance: new Float64Array(count),
    lossAt: new Int16Array(count).fill(-1),
    cutGain: new Float64Array(count),
  };
  model.faults.forEach((fault, f) => {
    for (const severity of [0, 1] as const) {
      const s = 2 * f + severity;
      states.mean[s] = fault.loss[severity];
      states.variance[s] = Math.max(1e-8, fault.lossSd[severity] ** 2);
      states.lossAt[s] = fault.lossAt === undefined ? -1 : placeOf(model, fault.lossAt);
      states.cutGain[s] = fault.cutGain;
    }
  });
  return states;
}

/** How readings see the path: which losses they share, and what they show without a fault. */
export interface Sight {
  /** How a reading of this kind at this place falls per unit of loss along a direction: a state's, or after them a place's. */
  readonly direction: (kind: ReadingKind, at: number, v: number) => number;
  /** Covariance of two readings by the fouling and the meter's errors they share. */
  readonly covariance: (a: Pick<LossReading, "kind" | "at" | "floating">, b: Pick<LossReading, "kind" | "at" | "floating">) => number;
  readonly baseMean: (kind: ReadingKind, at: number) => number;
}

export function sightOf(states: States, background: ReturnType<typeof backgroundLosses>): Sight {
  const places = background.mean.length;
  const seesPlace = (kind: ReadingKind, at: number, place: number) => kind === "ladder" || place <= at;
  const meterShared = (a: { kind: ReadingKind; floating: boolean }, b: { kind: ReadingKind; floating: boolean }) =>
    a.kind === "power" && b.kind === "power" ? METER_SHARED_SD ** 2 + (a.floating && b.floating ? NO_BASELINE_SD ** 2 : 0) : 0;
  return {
    direction: (kind, at, v) => {
      if (v >= states.count) return seesPlace(kind, at, v - states.count) ? 1 : 0;
      if (kind === "ladder") return states.cutGain[v]!;
      const place = states.lossAt[v]!;
      return place >= 0 && place <= at ? 1 : 0;
    },
    covariance: (a, b) => {
      let sum = meterShared(a, b);
      for (let j = 0; j < places; j++) if (seesPlace(a.kind, a.at, j) && seesPlace(b.kind, b.at, j)) sum += background.variance[j]!;
      return sum;
    },
    baseMean: (kind, at) => {
      let sum = 0;
      for (let j = 0; j < places; j++) if (seesPlace(kind, at, j)) sum -= background.mean[j]!;
      return sum;
    },
  };
}

/** What readings lie away from where a sound machine would have them. */
export function residualsOf(readings: readonly LossReading[], sight: Sight): Float64Array {
  const residual = Float64Array.from(readings, (r) => {
    const expected = sight.baseMean(r.kind, r.at);
    return (r.floating ? r.y : Math.min(r.y, expected + HEADROOM)) - expected;
  });
  // A floating walk is centred on its own first reading, so that only the steps count.
  const start = readings.findIndex((r) => r.floating);
  if (start < 0 || !readings.every((r) => r.floating || r.kind === "ladder")) return residual;
  const shift = residual[start]!;
  readings.forEach((r, i) => {
    if (r.floating) residual[i] = residual[i]! - shift;
  });
  return residual;
}
