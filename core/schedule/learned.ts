/**
 * # How often, learned and cheapest (M5)
 * Answers: after how much use a part is found bad with a given chance, by what earlier looks and cleans found; and after how much use
 * cleaning it costs fewest minutes. Current-status data on a Weibull life of shape 2 (Meeker and Escobar, "Statistical Methods for
 * Reliability Data"), its scale log-normal and integrated on a grid.
 */
import { rootOf } from "#core/roots";

/** What is known of one run from a clean to the next: good up to a dose, and bad at a later one where it was seen bad. Doses >= 0. */
export interface Run {
  readonly goodTo: number;
  readonly badAt?: number | undefined;
}

export interface Learnt {
  /** Dose at which the part is found bad with the chance that was asked for, within the caps. */
  readonly interval: number;
  /** The same before the caps. */
  readonly uncapped: number;
  /** Chance (0..1) of finding it bad at a dose >= 0. */
  readonly chanceBad: (dose: number) => number;
  /** Lowest and highest interval that nine in ten scales bear out, before the caps. */
  readonly low: number;
  readonly high: number;
}

/** Spread of ln scale before anything was seen; how far it is integrated, in its own sd; and in how many steps. */
const PRIOR_SD = 0.6;
const REACH_SD = 6;
const STEPS = 160;
/** In shares of the school's interval: to what a dose is searched for. */
const MET = 1e-7;
/** The chance at which a school's interval stands without any history. */
const SCHOOL_CHANCE = 0.1;
/** A scale so far out answers every dose asked of it. */
const FARTHEST = 1e3;

export const LEAST_TARGET = 0.02;
export const MOST_TARGET = 0.3;

const survives = (dose: number, lnScale: number) => Math.exp(-((dose * Math.exp(-lnScale)) ** 2));

interface Scales {
  readonly ln: readonly number[];
  readonly weight: readonly number[];
}

function scalesAround(mean: number, runs: readonly Run[]): Scales {
  const ln = Array.from({ length: STEPS + 1 }, (_, i) => mean + PRIOR_SD * REACH_SD * ((2 * i) / STEPS - 1));
  const logs = ln.map((l) => {
    const prior = -0.5 * ((l - mean) / PRIOR_SD) ** 2;
    return runs.reduce((sum, r) => {
      const seen = survives(r.goodTo, l) - (r.badAt === undefined ? 0 : survives(r.badAt, l));
      return sum + Math.log(Math.max(seen, 1e-300));
    }, prior);
  });
  const most = Math.max(...logs);
  const raw = logs.map((v) => Math.exp(v - most));
  const sum = raw.reduce((a, b) => a + b, 0);
  return { ln, weight: raw.map((w) => w / sum) };
}

const chanceBy = ({ ln, weight }: Scales, dose: number) =>
  dose <= 0 ? 0 : ln.reduce((sum, l, i) => sum + weight[i]! * (1 - survives(dose, l)), 0);

/** The mean of ln scale, for a school interval of 1: with no history a tenth is found bad at the school's interval. */
const SCHOOL_MEAN = rootOf((mean) => SCHOOL_CHANCE - chanceBy(scalesAround(mean, []), 1), -2, 6, MET);

/**
 * The interval that runs of a part bear out. `school` is its interval by the owner's school (> 0, any unit of dose, that of the runs),
 * `target` the chance of finding it bad that he accepts (0.02 to 0.3), `least` and `most` the caps in the same unit. Throws RangeError for
 * figures out of these ranges and for a run seen bad before it was last seen good.
 * @example learnedInterval([{ goodTo: 8 }], { school: 8, target: 0.1 }).interval // 8.7: found good once, a little longer
 */
export function learnedInterval(
  runs: readonly Run[],
  { school, target, least = 0, most = Number.POSITIVE_INFINITY }: { school: number; target: number; least?: number; most?: number },
): Learnt {
  if (!(school > 0 && Number.isFinite(school))) throw new RangeError(`a school's interval is more than nought, not ${school}`);
  if (!(target >= LEAST_TARGET && target <= MOST_TARGET)) throw new RangeError(`a target lies between 0.02 and 0.3, not at ${target}`);
  for (const r of runs)
    if (!(r.goodTo >= 0) || (r.badAt !== undefined && !(r.badAt >= r.goodTo))) throw new RangeError("a run is good first and bad later");
  const scales = scalesAround(
    SCHOOL_MEAN,
    // Good and bad at one dose: bad, since a look is sharper than its dose.
    runs.map((r) => ({
      goodTo: (r.badAt === r.goodTo ? 0 : r.goodTo) / school,
      badAt: r.badAt === undefined ? undefined : r.badAt / school,
    })),
  );
  const chanceBad = (dose: number) => chanceBy(scales, dose / school);
  const at = (chance: (dose: number) => number) => rootOf((x) => chance(x) - target, 0, FARTHEST, MET) * school;
  const uncapped = at((x) => chanceBy(scales, x));
  const scaleAt = (q: number) => {
    let sum = 0;
    for (const [i, w] of scales.weight.entries()) {
      sum += w;
      if (sum >= q) return scales.ln[i]!;
    }
    return scales.ln.at(-1)!;
  };
  const ofScale = (l: number) => school * Math.exp(l) * Math.sqrt(-Math.log(1 - target));
  return {
    interval: Math.min(Math.max(uncapped, least), Math.max(least, most)),
    uncapped,
    chanceBad,
    low: ofScale(scaleAt(0.05)),
    high: ofScale(scaleAt(0.95)),
  };
}
