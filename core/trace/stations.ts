/** What each station and system takes, and how likely it is at fault. */
import { tabledNormalCdf } from "#core/normal";
import type { Posterior } from "./posterior";
import { placeOf } from "./readings";
import type { FaultSets } from "./sets";
import type { LossPercent, TraceAnswer, TraceModel } from "./types";

/** Probability that a station or system is at fault, and its loss against the baseline as a mixture over the heaviest sets. */
export function stationAnswers(
  model: TraceModel,
  present: Int16Array,
  sets: FaultSets,
  top: Int32Array,
  post: Posterior,
): TraceAnswer["stations"] {
  const ids = [...model.stations.map((s) => s.id), ...model.systems];
  const stationOf = model.faults.map((f, i) => (present[i]! < 0 ? -1 : ids.indexOf(f.station)));
  const lossOf = model.faults.map((f, i) =>
    present[i]! < 0
      ? -1
      : f.lossAt === undefined
        ? ids.indexOf(f.station)
        : ids.indexOf(model.stations[placeOf(model, f.lossAt)]?.id as string),
  );
  const probability = new Float64Array(ids.length);
  for (let n = 1; n < sets.count; n++) {
    const w = post.sets[n]!;
    const a = stationOf[sets.first[n]! >> 1]!;
    const second = sets.second[n]!;
    const third = sets.third[n]!;
    const b = second < 0 ? -1 : stationOf[second >> 1]!;
    const c = third < 0 ? -1 : stationOf[third >> 1]!;
    if (a >= 0) probability[a] = probability[a]! + w;
    if (b >= 0 && b !== a) probability[b] = probability[b]! + w;
    if (c >= 0 && c !== a && c !== b) probability[c] = probability[c]! + w;
  }

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
    let low = -0.5;
    let high = 2;
    for (let step = 0; step < 16; step++) {
      const middle = (low + high) / 2;
      let below = 0;
      for (let t = 0; t < top.length; t++) {
        below += weight[t]! * tabledNormalCdf((middle - means[j * top.length + t]!) / sds[j * top.length + t]!);
      }
      if (below < share) low = middle;
      else high = middle;
    }
    return Math.max(0, 100 * (1 - Math.exp(-(low + high) / 2)));
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
