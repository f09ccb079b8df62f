/** What the readings of the light and the cuts that were made say of a set of faults, together. */

import type { TraceModel, TraceUsage } from "../model/types";
import { type CutLaw, cutsLikelihood, predictiveMoments } from "./cutReading";
import type { CutFinding } from "./findings";
import { type LossModel, lossModel } from "./losses";
import type { LossReading } from "./readings";
import type { SetPosterior } from "./weigh";

export interface LossLaw {
  readonly losses: LossModel;
  readonly cuts: readonly CutLaw[];
  /** Ln likelihood of the readings and the cuts under a set; the set's losses are in `post` afterwards. */
  readonly logLikelihood: (a: number, b: number, c: number, post?: SetPosterior) => number;
}

export function lossLaw(
  model: TraceModel,
  usages: readonly TraceUsage[],
  readings: readonly LossReading[],
  cuts: readonly CutFinding[],
): LossLaw {
  const losses = lossModel(model, usages, readings);
  const scratch = losses.newPosterior();
  const timeOf = ({ check }: CutFinding) => check.past?.time ?? losses.now;
  const made = [...new Set(cuts.map(timeOf))].map((time) => ({
    light: losses.predict({ kind: "ladder", at: model.stations.length - 1, time }),
    likelihood: cutsLikelihood(cuts.filter((cut) => timeOf(cut) === time)),
  }));
  const moments = { mean: 0, variance: 0 };
  const logLikelihood = (a: number, b: number, c: number, post = scratch): number => {
    losses.evaluate(a, b, c, post);
    let sum = post.logLikelihood;
    for (let i = 0; i < made.length; i++) {
      const { light, likelihood } = made[i]!;
      predictiveMoments(light, post, a, b, c, moments);
      sum += Math.log(likelihood(moments.mean, moments.variance));
    }
    return sum;
  };
  return { losses, cuts: made, logLikelihood };
}

/** The largest ln likelihood of none and of one fault: what likelihoods are counted from. */
export function bestOf(law: LossLaw, states: number): number {
  let best = law.logLikelihood(-1, -1, -1);
  for (let s = 0; s < states; s++) best = Math.max(best, law.logLikelihood(s, -1, -1));
  return best;
}
