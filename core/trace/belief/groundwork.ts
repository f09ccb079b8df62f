/**
 * What is so of every set whatever the questions are answered: its prior, what the light says of it, and what it needs to be mended. An
 * answer that tells nothing of the light leaves all of it as it was, so that the last groundwork of a model is kept: most answers are such.
 */

import { darkUnder, type SortedFindings } from "../light/findings";
import { type LightRow, lightRow } from "../light/lightRow";
import { bestOf, type LossLaw, lossLaw } from "../light/lossLaw";
import type { SetPosterior } from "../light/weigh";
import type { FoundBefore, Symptom, TraceModel, TraceUsage } from "../model/types";
import { decisionsOf, type Needs, needsOf } from "./decision";
import { type SetPrior, setPrior } from "./prior";
import { enumerateSets, type FaultSets } from "./sets";

export interface Groundwork {
  readonly sets: FaultSets;
  readonly law: LossLaw;
  /** By set: prior over that of the empty one, and likelihood of the light over that of the best single fault. */
  readonly before: Float64Array;
  readonly light: Float64Array;
  /** What a set weighs before the tables say anything: the product of both. */
  readonly weighed: Float64Array;
  /** Sums over all sets: of the prior, and of what a set weighs with the light. */
  readonly priorTotal: number;
  readonly lightTotal: number;
  /** States a set needs mended: the one that takes most, and the next where a proof fails without it; -1 for none. */
  readonly main: Int16Array;
  readonly further: Int16Array;
  /** Decision of the one that takes most and of the next, and the chance that each is right: of one that mends both it is 1. */
  readonly decision: Int16Array;
  readonly other: Int16Array;
  readonly lead: Float32Array;
  readonly trail: Float32Array;
  /** Rate of each finding over all sets as they are before anything is found, by its name; filled as findings come. */
  readonly rates: Map<string, number>;
  /** The light with a check's readings left out, made when it is first asked for. */
  readonly lightWithout: (check: string) => LightWithout;
}

/** The light without some of its readings; what it says of a set is worked out when it is needed, and kept. */
export interface LightWithout {
  readonly row: LightRow;
  /** Ln likelihood of the best single fault; likelihood by set over that of the best, not a number where it was not needed yet. */
  readonly best: number;
  readonly light: Float64Array;
}

/** The last groundworks of each model, by what they were made of: of what is found, and of the answers it may lead to. */
const kept = new WeakMap<TraceModel, Map<string, Groundwork>>();
/** A hundred thousand sets each. */
const MOST_KEPT = 3;

/** The groundwork of the sets of up to `maxFaults` of a model, of `usages` up to each time of the case. */
export function groundwork(
  model: TraceModel,
  usages: readonly TraceUsage[],
  earlier: FoundBefore | undefined,
  maxFaults: number,
  found: Pick<SortedFindings, "losses" | "cuts">,
  symptom: Symptom,
): Groundwork {
  const { losses, cuts } = found;
  const isDark = darkUnder(model, found);
  const made = cuts.map(({ check, ...cut }) => [check.id, cut]);
  const key = JSON.stringify([usages, earlier, symptom, maxFaults, losses, made]);
  const works = kept.get(model) ?? new Map<string, Groundwork>();
  kept.set(model, works);
  const last = works.get(key);
  if (last) {
    // The newest stands last.
    works.delete(key);
    works.set(key, last);
    return last;
  }
  const sets = enumerateSets(model.faults.length, maxFaults, isDark);
  const law = lossLaw(model, usages, losses, cuts);
  const without = new Map<string, LightWithout>();
  const lightWithout = (check: string): LightWithout => {
    const known = without.get(check) ?? leftOut(model, usages, found, check, sets);
    without.set(check, known);
    return known;
  };
  const of = {
    ...laid(sets, law, setPrior(model, usages[0] ?? {}, symptom, earlier), needsOf(model, symptom), decisionsOf(model)),
    sets,
    law,
    rates: new Map<string, number>(),
    lightWithout,
  };
  works.set(key, of);
  for (const old of works.keys()) if (works.size > MOST_KEPT) works.delete(old);
  return of;
}

function laid(
  { first, second, third, order, dark, rows, count }: FaultSets,
  law: LossLaw,
  prior: SetPrior,
  needs: ReturnType<typeof needsOf>,
  decisionOf: ReturnType<typeof decisionsOf>,
) {
  const states = order.length;
  const before = new Float64Array(count);
  const light = new Float64Array(count);
  const main = new Int16Array(count).fill(-1);
  const further = new Int16Array(count).fill(-1);
  const decision = new Int16Array(count).fill(decisionOf(-1));
  const other = new Int16Array(count).fill(decisionOf(-1));
  const lead = new Float32Array(count);
  const trail = new Float32Array(count);
  const need: Needs = { main: -1, second: -1, both: false, lead: 1, trail: 0 };
  const { priorMean, priorVariance } = law.losses;
  const best = bestOf(law, states);
  const row = lightRow(law.losses, law.cuts);
  const { base } = row;
  const lost = law.losses.newPosterior();
  before[0] = 1;
  light[0] = Math.exp(law.logLikelihood(-1, -1, -1) - best);
  lead[0] = 1;
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : order[i]!;
    const b = j < 0 ? -1 : order[j]!;
    // What the light tells nothing of follows its prior and goes with nothing.
    const isDark = [i >= dark, j >= dark];
    const known = row.begin(isDark[0] ? -1 : a, isDark[0] || isDark[1] ? -1 : b, best);
    const size = i < 0 ? 0 : j < 0 ? 1 : 2;
    for (let place = 0; place < size; place++)
      if (isDark[place]) alone(base, place, priorMean[place === 0 ? a : b]!, priorVariance[place === 0 ? a : b]!);
    for (let k = from; k < states; k++) {
      const s = order[k]!;
      const n = at + k - from;
      const x = first[n]!;
      const y = second[n]!;
      const z = third[n]!;
      if (k < dark) {
        light[n] = row.extend(s, lost);
        needs(x, y, z, lost.mean, lost.cov, need);
      } else {
        light[n] = known;
        alone(base, size, priorMean[s]!, priorVariance[s]!);
        needs(x, y, z, base.mean, base.cov, need);
      }
      before[n] = prior(x, y, z);
      main[n] = need.main;
      if (need.both) further[n] = need.second;
      const d = decisionOf(need.main);
      const e = need.second < 0 ? d : decisionOf(need.second);
      decision[n] = d;
      other[n] = e;
      // One repair that mends both is right whichever takes more.
      lead[n] = e === d ? 1 : need.lead;
      trail[n] = e === d ? 0 : need.trail;
    }
  }
  const weighed = new Float64Array(count);
  let priorTotal = 0;
  let lightTotal = 0;
  for (let n = 0; n < count; n++) {
    const w = before[n]! * light[n]!;
    weighed[n] = w;
    priorTotal += before[n]!;
    lightTotal += w;
  }
  return { before, light, weighed, priorTotal, lightTotal, main, further, decision, other, lead, trail };
}

function leftOut(
  model: TraceModel,
  usages: readonly TraceUsage[],
  { losses, cuts }: Pick<SortedFindings, "losses" | "cuts">,
  check: string,
  { count, order }: FaultSets,
): LightWithout {
  const law = lossLaw(
    model,
    usages,
    losses.filter((r) => r.check !== check),
    cuts.filter((c) => c.check.id !== check),
  );
  const best = bestOf(law, order.length);
  const light = new Float64Array(count).fill(Number.NaN);
  light[0] = Math.exp(law.logLikelihood(-1, -1, -1) - best);
  return { row: lightRow(law.losses, law.cuts), best, light };
}

/** Makes a set's loss at a place what it is before anything is read of it. */
function alone({ mean, cov }: SetPosterior, place: number, priorMean: number, priorVariance: number): void {
  mean[place] = priorMean;
  for (let other = 0; other < 3; other++) cov[3 * place + other] = cov[3 * other + place] = 0;
  cov[4 * place] = priorVariance;
}
