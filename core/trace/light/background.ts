/** Film that is there in any case: what use alone is expected to take at each station. */
import { doseOf } from "../model/dose";
import type { TraceModel, TraceUsage } from "../model/types";

/** Expected fouling at each station of the path: mean and variance of a loss in ln power, capped at one interval's dose. */
export function backgroundLosses(model: TraceModel, usage: TraceUsage): { mean: Float64Array; variance: Float64Array } {
  const mean = new Float64Array(model.stations.length);
  const variance = new Float64Array(model.stations.length);
  model.stations.forEach((station, j) => {
    if (station.role === "tube") {
      // Slow ageing since the baseline; a case file does not date it, so there it is a small allowance.
      const { mean: lost, sd } = usage.fitted?.tubeLoss ?? { mean: 0.015, sd: 0.02 };
      mean[j] = lost;
      variance[j] = sd ** 2;
      return;
    }
    const known = model.background.find((b) => b.station === station.id);
    if (!known) return;
    const share = Math.min(1, (doseOf(usage, station.id) ?? known.intervalPlyHours / 2) / known.intervalPlyHours);
    const factor = usage.fitted?.foulingFactors[station.id] ?? { mean: 1, sd: 0.5 };
    const expected = known.lossAtInterval * share;
    mean[j] = expected * factor.mean;
    variance[j] = (expected * factor.sd + 0.004) ** 2;
  });
  return { mean, variance };
}
