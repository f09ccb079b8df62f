/** How readings see the losses of a path: by which direction each fault's loss shows in them, and which errors they share. */

import { isAtWork } from "../model/atWork";
import type { FaultSpec, TraceModel } from "../model/types";
import type { backgroundLosses } from "./background";
import { type LossReading, placeOf } from "./readings";

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
  /** Whether it is dirt, which a look at its optic grades. */
  readonly isDirt: Uint8Array;
  /** Whether a state is at work at a time of the case. */
  readonly isAtWork: (state: number, time: number) => boolean;
}

export function statesOf(model: TraceModel): States {
  const count = model.faults.length * 2;
  const states = {
    count,
    mean: new Float64Array(count),
    variance: new Float64Array(count),
    lossAt: new Int16Array(count).fill(-1),
    cutGain: new Float64Array(count),
    isDirt: new Uint8Array(count),
    isAtWork: (state: number, time: number) => isAtWork(model.faults[state >> 1] as FaultSpec, time),
  };
  model.faults.forEach((fault, f) => {
    for (const severity of [0, 1] as const) {
      const s = 2 * f + severity;
      states.mean[s] = fault.loss[severity];
      states.variance[s] = Math.max(1e-8, fault.lossSd[severity] ** 2);
      states.lossAt[s] = fault.lossAt === undefined ? -1 : placeOf(model, fault.lossAt);
      states.cutGain[s] = fault.cutGain;
      states.isDirt[s] = fault.usage?.kind === "dose" ? 1 : 0;
    }
  });
  return states;
}

/** What a reading is of: its kind, its place on the path, and its time in the case. */
export type Seen = Pick<LossReading, "kind" | "at" | "time">;
type SeenBy = Seen & Pick<LossReading, "floating">;

/** How readings see the path: which losses they share, and what they show without a fault. */
export interface Sight {
  /** How a reading of this kind at this place falls per unit of loss along a direction: a state's, after them a place's fouling, and after those what is clipped there. */
  readonly direction: (what: Seen, v: number) => number;
  /** Covariance of two readings by the fouling and the meter's errors they share. */
  readonly covariance: (a: SeenBy, b: SeenBy) => number;
  readonly baseMean: (what: Seen) => number;
}

/** `fouling` is what is expected of every station at each time of the case. */
export function sightOf(states: States, fouling: readonly ReturnType<typeof backgroundLosses>[]): Sight {
  const at = (time: number) => fouling[time] as ReturnType<typeof backgroundLosses>;
  const places = at(0).mean.length;
  const seesPlace = (kind: ReadingKind, at: number, place: number) => kind === "ladder" || (kind === "look" ? place === at : place <= at);
  const meterShared = (a: { kind: ReadingKind; floating: boolean }, b: { kind: ReadingKind; floating: boolean }) =>
    a.kind === "power" && b.kind === "power" ? METER_SHARED_SD ** 2 + (a.floating && b.floating ? NO_BASELINE_SD ** 2 : 0) : 0;
  return {
    direction: ({ kind, at, time }, v) => {
      // Light that is clipped is no dirt that a look would show.
      if (v >= states.count + places) return kind !== "look" && seesPlace(kind, at, v - states.count - places) ? 1 : 0;
      if (v >= states.count) return seesPlace(kind, at, v - states.count) ? 1 : 0;
      if (!states.isAtWork(v, time)) return 0;
      if (kind === "ladder") return states.cutGain[v]!;
      const place = states.lossAt[v]!;
      if (kind === "look") return states.isDirt[v] === 1 && place === at ? 1 : 0;
      return place >= 0 && place <= at ? 1 : 0;
    },
    covariance: (a, b) => {
      let sum = meterShared(a, b);
      const [p, q] = [at(a.time).variance, at(b.time).variance];
      for (let j = 0; j < places; j++) if (seesPlace(a.kind, a.at, j) && seesPlace(b.kind, b.at, j)) sum += Math.sqrt(p[j]! * q[j]!);
      return sum;
    },
    baseMean: ({ kind, at: place, time }) => {
      let sum = 0;
      for (let j = 0; j < places; j++) if (seesPlace(kind, place, j)) sum -= at(time).mean[j]!;
      return sum;
    },
  };
}

/** What readings lie away from where a sound machine would have them. */
export function residualsOf(readings: readonly LossReading[], sight: Sight): Float64Array {
  const residual = Float64Array.from(readings, (r) => {
    const expected = sight.baseMean(r);
    return (r.floating ? r.y : Math.min(r.y, expected + HEADROOM)) - expected;
  });
  // A floating walk is centred on its own first reading, so that only the steps count.
  const start = readings.findIndex((r) => r.floating);
  if (start < 0 || !readings.every((r) => r.floating || r.kind !== "power")) return residual;
  const shift = residual[start]!;
  readings.forEach((r, i) => {
    if (r.floating) residual[i] = residual[i]! - shift;
  });
  return residual;
}
