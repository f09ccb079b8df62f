/** The joint Gaussian of all readings of lost light under any set of faults. */
import { offAxisExtras } from "../model/offAxis";
import type { TraceModel, TraceUsage } from "../model/types";
import { backgroundLosses } from "./background";
import type { LossReading } from "./readings";
import { type Seen, type Sight, type States, sightOf, statesOf } from "./sight";
import { dot, type Factored, factor, type SetPosterior, weighOne, weighThree, weighTwo } from "./weigh";

/** Predictive law of a further reading under a set. */
export interface Predictive {
  readonly baseMean: number;
  readonly baseVariance: number;
  /** Effect of one unit of each state's loss on the reading, after what the other readings already tell. */
  readonly gain: Float64Array;
  /** The same for an extra loss appearing at each path index. */
  readonly extraGain: Float64Array;
}

export interface LossModel {
  /** The last time of the case. */
  readonly now: number;
  readonly states: number;
  readonly priorMean: Float64Array;
  readonly priorVariance: Float64Array;
  /** The readings' Gaussian, factored; what the looks by themselves take off a state's ln likelihood; and the states that push the beam off axis. */
  readonly factored: Factored;
  readonly toldAlone: Float64Array;
  readonly movesBeam: Uint8Array;
  readonly evaluate: (a: number, b: number, c: number, out: SetPosterior) => void;
  readonly predict: (what: Seen) => Predictive;
  /** Posterior mean and variance of the background loss at a path index under a set just evaluated into `post`. */
  readonly background: (at: number, a: number, b: number, c: number, post: SetPosterior) => { mean: number; variance: number };
  readonly newPosterior: () => SetPosterior;
}

/**
 * The joint Gaussian of all loss readings. Set-independent covariance is factored once; a fault state is a direction over
 * the readings with a mean and a variance, so a set costs a few stored dot products and a solve of at most 3 x 3
 * (Woodbury identity and matrix determinant lemma).
 */
/** `usages` are how the machine was used up to each time of the case, the last of them now. */
export function lossModel(model: TraceModel, usages: readonly TraceUsage[], readings: readonly LossReading[]): LossModel {
  const fouling = usages.map((usage) => backgroundLosses(model, usage));
  const background = fouling.at(-1) as ReturnType<typeof backgroundLosses>;
  const states = statesOf(model);
  const sight = sightOf(states, fouling);
  const factored = factor(states, model.stations.length, sight, readings);
  const { extraOf, offAxisAt } = offAxisExtras(model, states.mean, states.lossAt);

  const told = toldAlone(states, sight, readings);
  const evaluate = (s0: number, s1: number, s2: number, out: SetPosterior): void => {
    weigh(s0, s1, s2, out);
    if (s0 < 0) out.logLikelihood -= told.none;
    else out.logLikelihood -= told.none + told.more[s0]! + (s1 < 0 ? 0 : told.more[s1]!) + (s2 < 0 ? 0 : told.more[s2]!);
  };
  const weigh = (s0: number, s1: number, s2: number, out: SetPosterior): void => {
    out.extra = 0;
    // Three fill every place of it.
    if (s2 < 0) {
      out.mean.fill(0);
      out.cov.fill(0);
    }
    if (s0 < 0) {
      out.logLikelihood = -0.5 * factored.q0;
      return;
    }
    if (s1 < 0) {
      weighOne(factored, s0, out);
      return;
    }
    let x = extraOf[s0 * states.count + s1]!;
    if (s2 >= 0) x += extraOf[s0 * states.count + s2]! + extraOf[s1 * states.count + s2]!;
    if (x !== 0) {
      out.extra = x;
      out.extraAt = Math.max(offAxisAt[s0]!, offAxisAt[s1]!, s2 < 0 ? 0 : offAxisAt[s2]!);
    }
    if (s2 < 0) weighTwo(factored, s0, s1, out);
    else weighThree(factored, s0, s1, s2, out);
  };
  return {
    now: usages.length - 1,
    states: states.count,
    priorMean: states.mean,
    priorVariance: states.variance,
    factored,
    toldAlone: told.more,
    movesBeam: Uint8Array.from({ length: states.count }, (_, s) =>
      extraOf.subarray(s * states.count, (s + 1) * states.count).some((x) => x !== 0) ? 1 : 0,
    ),
    evaluate,
    predict: (what) => predicted(factored, sight, readings, model.stations.length, what),
    background: (at, s0, s1, s2, post) => backgroundUnder(factored, background, at, [s0, s1, s2], post),
    newPosterior: () => ({ logLikelihood: 0, mean: new Float64Array(3), cov: new Float64Array(9), extra: 0, extraAt: 0 }),
  };
}

/**
 * Ln likelihood of the looks by themselves: without a fault, and what each state adds. Their outcomes are weighed by tables, harm and slips
 * among them; here a look says only how much a set's dirt takes, so that what it says of the set itself is taken off.
 */
function toldAlone(states: States, sight: Sight, readings: readonly LossReading[]): { readonly none: number; readonly more: Float64Array } {
  const looks = readings
    .filter((r) => r.kind === "look")
    .map((r) => ({ r, off: r.y - sight.baseMean(r), variance: sight.covariance(r, r) + r.sd ** 2 }));
  const none = looks.reduce((sum, { off, variance }) => sum - (0.5 * off * off) / variance, 0);
  const more = Float64Array.from({ length: states.count }, (_, s) =>
    looks.reduce((sum, { r, off, variance }) => {
      if (sight.direction(r, s) === 0) return sum;
      const wider = variance + states.variance[s]!;
      const from = off + states.mean[s]!;
      return sum + 0.5 * ((off * off) / variance - (from * from) / wider - Math.log(wider / variance));
    }, 0),
  );
  return { none, more };
}

/** What a reading that was not taken yet would show, as a function of the losses. */
function predicted(
  { states, clipped, residual, inverse, a }: Factored,
  sight: Sight,
  readings: readonly LossReading[],
  places: number,
  what: Seen,
): Predictive {
  const n = readings.length;
  const asked = { ...what, floating: false };
  const cross = Float64Array.from(readings, (r) => sight.covariance(asked, r));
  const k = new Float64Array(n);
  for (let i = 0; i < n; i++) k[i] = dot(inverse, i * n, cross, 0, n);
  const gain = new Float64Array(states.count);
  const extraGain = new Float64Array(places);
  for (let s = 0; s < states.count; s++) gain[s] = sight.direction(what, s) - dot(k, 0, a, s * n, n);
  for (let j = 0; j < places; j++) {
    const v = clipped + j;
    extraGain[j] = sight.direction(what, v) - dot(k, 0, a, v * n, n);
  }
  return {
    baseMean: sight.baseMean(what) + dot(k, 0, residual, 0, n),
    baseVariance: Math.max(1e-9, sight.covariance(asked, asked) - dot(k, 0, cross, 0, n)),
    gain,
    extraGain,
  };
}

/** Posterior mean and variance of the background loss at a place, under a set just evaluated into `post`. */
function backgroundUnder(
  { states, vectors, clipped, g, gram }: Factored,
  background: ReturnType<typeof backgroundLosses>,
  at: number,
  set: readonly number[],
  post: SetPosterior,
): { mean: number; variance: number } {
  const v = background.variance[at]!;
  const h = states.count + at;
  // Residual after the set's posterior losses, seen along this station's own direction.
  let along = g[h]! + (post.extra === 0 ? 0 : post.extra * gram[h * vectors + clipped + post.extraAt]!);
  let explained = gram[h * vectors + h]!;
  for (let i = 0; i < 3; i++) {
    const s = set[i]!;
    if (s < 0) break;
    const hi = gram[h * vectors + s]!;
    along += hi * post.mean[i]!;
    for (let k = 0; k < 3; k++) {
      const u = set[k]!;
      if (u < 0) break;
      explained -= hi * post.cov[3 * i + k]! * gram[h * vectors + u]!;
    }
  }
  return { mean: background.mean[at]! - v * along, variance: Math.max(1e-9, v - v * v * explained) };
}
