/** What each station and system takes, and how likely it is at fault. */
import { tabledNormalCdf } from "#core/normal";
import { rootOf } from "#core/roots";
import { placeOf } from "../light/readings";
import type { LossPercent, TraceAnswer, TraceModel } from "../model/types";
import type { Posterior } from "./posterior";
import type { FaultSets } from "./sets";

/** Stations and systems of a model, and which of them each fault is at. */
export function placesOf(model: TraceModel): { readonly ids: readonly string[]; readonly of: Int16Array } {
  const ids = [...model.stations.map((s) => s.id), ...model.systems];
  return { ids, of: Int16Array.from(model.faults, (f) => ids.indexOf(f.station)) };
}

/** Probability that a station or system is at fault, and its loss against the baseline as a mixture over the heaviest sets. */
export function stationAnswers(
  model: TraceModel,
  present: Int16Array,
  sets: FaultSets,
  top: Int32Array,
  post: Posterior,
  probability: Float64Array,
): TraceAnswer["stations"] {
  const { ids, of } = placesOf(model);
  const lossOf = model.faults.map((f, i) =>
    present[i]! < 0 ? -1 : f.lossAt === undefined ? of[i]! : ids.indexOf(model.stations[placeOf(model, f.lossAt)]?.id as string),
  );
  const kept = [...top].reduce((sum, n) => sum + post.sets[n]!, 0);
  // What watts see of a place, apart from what only a cut does: a lens upside down takes no light.
  const takesLight = model.faults.map((f) => f.lossAt !== undefined);
  const mean = new Float64Array(ids.length * top.length);
  const sd = new Float64Array(ids.length * top.length);
  const lightMean = new Float64Array(model.stations.length * top.length);
  const lightSd = new Float64Array(model.stations.length * top.length);
  const weight = new Float64Array(top.length);
  const set = post.losses.newPosterior();
  top.forEach((n, t) => {
    weight[t] = post.sets[n]! / kept;
    const s = [sets.first[n]!, sets.second[n]!, sets.third[n]!];
    post.losses.evaluate(s[0]!, s[1]!, s[2]!, set);
    ids.forEach((_, j) => {
      const base = j < model.stations.length ? post.losses.background(j, s[0]!, s[1]!, s[2]!, set) : { mean: 0, variance: 1e-9 };
      let m = base.mean;
      let v = base.variance;
      let light = base.mean;
      let lightVariance = base.variance;
      for (let i = 0; i < 3 && s[i]! >= 0; i++) {
        const f = s[i]! >> 1;
        if (lossOf[f] !== j) continue;
        m += set.mean[i]!;
        v += set.cov[4 * i]!;
        if (!takesLight[f]) continue;
        light += set.mean[i]!;
        lightVariance += set.cov[4 * i]!;
      }
      if (j < model.stations.length) {
        lightMean[j * top.length + t] = light;
        lightSd[j * top.length + t] = Math.sqrt(lightVariance);
      }
      mean[j * top.length + t] = m;
      sd[j * top.length + t] = Math.sqrt(v);
    });
  });
  const quantile = (means: Float64Array, sds: Float64Array, j: number, share: number): number => {
    const short = (loss: number) => {
      let below = -share;
      for (let t = 0; t < top.length; t++)
        below += weight[t]! * tabledNormalCdf((loss - means[j * top.length + t]!) / sds[j * top.length + t]!);
      return below;
    };
    return Math.max(0, 100 * (1 - Math.exp(-rootOf(short, -0.5, 2, 4e-5))));
  };
  return ids.map((id, j) => {
    const percent = (means: Float64Array, sds: Float64Array): LossPercent => ({
      mid: quantile(means, sds, j, 0.5),
      low: quantile(means, sds, j, 0.05),
      high: quantile(means, sds, j, 0.95),
    });
    const lossPercent = percent(mean, sd);
    const onPath = j < model.stations.length && model.faults.some((_, f) => lossOf[f] === j && !takesLight[f]);
    return { id, probability: Math.min(1, probability[j]!), lossPercent, lightPercent: onPath ? percent(lightMean, lightSd) : lossPercent };
  });
}
