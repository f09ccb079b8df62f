/**
 * Two who know more than any engine can. One knows the simulator's probabilities, and asks and repairs by the engine's rules: what is
 * possible from answers. One knows every fault: what repairs take by themselves.
 */
import { seededRandom } from "#core/random";
import { BIT_SHARE, isDear, LEAST_BITS, LEAST_MINUTES, leastFor, type Planner, planner, type RepairSpec, SURE } from "#core/trace";
import { Belief, type Believed, needsOf, type Oracle } from "./oracle";
import { type Case, LIMIT_MINUTES } from "./world";

/** Repairs what the cut needs to drop, again where a repair failed. */
export function knowAll(c: Case): void {
  c.signs();
  while (c.minutes < LIMIT_MINUTES) {
    const needs = needsOf(c.world, c.machine, 3).flatMap((r) => c.world.model.repairs[r]?.id ?? []);
    if (needs.length === 0 ? c.prove().holds : c.round(needs, true).holds) return;
  }
  c.gaveUp = true;
}

/** Figures are told in so many bins. */
const BINS = 8;
const RARE = 0.01;

export function oracleWay(c: Case, oracle: Oracle): void {
  const { model } = c.world;
  const belief = new Belief(oracle, c.machine);
  const random = seededRandom(c.seed);
  const asked = new Set<string>();
  /** Asked since the last round. */
  let since = new Set<string>();
  for (const f of c.signs()) {
    belief.see(f);
    asked.add(f.check);
    since.add(f.check);
  }
  while (c.minutes < LIMIT_MINUTES) {
    const now = belief.now();
    const ways = waysOf(belief, now);
    const plans = planner(model, ways, c.opened);
    const weights = weighed(ways, now);
    const chance = leading(ways, weights);
    const can = model.checks.filter(
      (k) =>
        !asked.has(k.id) &&
        (c.hasMeter || k.measures?.kind !== "power") &&
        (k.needsSpare === undefined || c.spares.includes(k.needsSpare)) &&
        belief.report(now.at[0] as number, k.id) !== undefined,
    );
    const next =
      chance >= SURE
        ? undefined
        : bestCheck(
            c,
            belief,
            now,
            ways,
            plans,
            weights,
            can.map((k) => k.id),
          );
    if (next !== undefined) {
      asked.add(next);
      since.add(next);
      const found = c.ask(next);
      if (!found) continue;
      belief.see(found);
      if (c.brings(found)) return;
      belief.keeps(found, random);
      continue;
    }
    const round = plans.firstRound(weights, 1).map((r) => model.repairs[r]?.id as string);
    if (round.length === 0) {
      if (c.prove().holds) return;
      break;
    }
    const proof = c.round(round, true);
    if (proof.holds) return;
    belief.round(proof, since, random);
    since = new Set();
  }
  c.gaveUp = true;
}

interface Ways {
  readonly first: Int16Array;
  readonly second: Int16Array;
  /** The way of each machine that is believed in, in their order. */
  readonly of: Int16Array;
}

function waysOf(belief: Belief, { at }: Believed): Ways {
  const known = new Map<string, number>();
  const first: number[] = [];
  const second: number[] = [];
  const of = Int16Array.from(at, (n) => {
    const [a = -1, b = -1] = belief.needs(n);
    const way = known.get(`${a} ${b}`) ?? first.length;
    if (way === first.length) {
      known.set(`${a} ${b}`, way);
      first.push(a);
      second.push(a === b ? -1 : b);
    }
    return way;
  });
  return { first: Int16Array.from(first), second: Int16Array.from(second), of };
}

function weighed({ first, of }: Ways, { weights }: Believed): Float64Array {
  const sums = new Float64Array(first.length);
  of.forEach((way, i) => {
    sums[way] = (sums[way] as number) + (weights[i] as number);
  });
  return sums;
}

function byRepair({ first }: Pick<Ways, "first">, weights: ArrayLike<number>): Map<number, number> {
  const sums = new Map<number, number>();
  for (const [way, r] of first.entries()) sums.set(r, (sums.get(r) ?? 0) + (weights[way] as number));
  return sums;
}

const leading = (ways: Ways, weights: ArrayLike<number>): number =>
  Math.max(...[...byRepair(ways, weights)].map(([r, p]) => (r < 0 ? 0 : p)));

function bitsOf(ways: Ways, weights: ArrayLike<number>, total: number): number {
  let bits = 0;
  for (const p of byRepair(ways, weights).values()) if (p > 0) bits -= (p / total) * Math.log2(p / total);
  return bits;
}

/** The check that tells most a minute, of those worth asking. */
function bestCheck(
  c: Case,
  belief: Belief,
  now: Believed,
  ways: Ways,
  plans: Planner,
  weights: Float64Array,
  checks: readonly string[],
): string | undefined {
  const straight = plans.minutes(weights, 1);
  const bits = bitsOf(ways, weights, 1);
  const perBit = (BIT_SHARE * Math.max(0, straight - plans.known(weights, 1))) / Math.max(LEAST_BITS, bits);
  const first = plans.firstRound(weights, 1);
  const least = leastFor(first.some((r) => isDear(c.world.model.repairs[r] as RepairSpec)));
  const round = first.sort().join();
  let best: { readonly id: string; readonly worth: number } | undefined;
  for (const id of checks) {
    const { minutes: usual, minutesOpened, needsOpen, tries } = c.check(id);
    const minutes = needsOpen !== undefined && c.opened.includes(needsOpen) ? (minutesOpened ?? usual) : usual;
    const { labels, joint } = answersOf(belief, now, ways, id);
    let after = 0;
    let left = 0;
    let changes = false;
    labels.forEach((label, j) => {
      const row = joint.subarray(j * plans.ways, (j + 1) * plans.ways);
      const p = row.reduce((a, b) => a + b, 0);
      if (p < 1e-9) return;
      left += p * bitsOf(ways, row, p);
      if (label !== tries?.outcome) after += p * plans.minutes(row, p, needsOpen);
      changes ||= p > RARE && plans.firstRound(row, p).sort().join() !== round;
    });
    const told = Math.max(0, bits - left);
    if (!changes || Math.max(straight - after, told * perBit) <= Math.max(least.saved, minutes + least.beyond)) continue;
    const worth = told / (Math.max(minutes, LEAST_MINUTES) + 1);
    if (best === undefined || worth > best.worth) best = { id, worth };
  }
  return best?.id;
}

/** How likely each answer is together with each way, from the believed machines. */
function answersOf(
  belief: Belief,
  { at, weights }: Believed,
  { first, of }: Ways,
  check: string,
): { readonly labels: readonly string[]; readonly joint: Float64Array } {
  const reports = Array.from(at, (n) => belief.report(n, check) ?? {});
  const W = first.length;
  const named = Object.keys(reports[0]?.outcomes ?? {});
  const means = reports.map((r) => r.value?.mean ?? 0);
  const sd = reports.reduce((most, r) => Math.max(most, r.value?.sd ?? 0), 1e-9);
  const [low, high] = [Math.min(...means) - sd, Math.max(...means) + sd];
  const width = (high - low) / BINS;
  const labels = named.length > 0 ? named : Array.from({ length: BINS }, (_, b) => `${b}`);
  const joint = new Float64Array(labels.length * W);
  const chances = new Float64Array(labels.length);
  reports.forEach((r, i) => {
    if (named.length > 0) for (const [j, label] of labels.entries()) chances[j] = r.outcomes?.[label] ?? 0;
    else {
      // A normal law over the bins, by their middles.
      const mean = r.value?.mean ?? 0;
      for (let b = 0; b < BINS; b++) chances[b] = Math.exp(-0.5 * ((low + (b + 0.5) * width - mean) / (r.value?.sd ?? sd)) ** 2) + 1e-12;
      const sum = chances.reduce((a, b) => a + b, 0);
      for (let b = 0; b < BINS; b++) chances[b] = (chances[b] as number) / sum;
    }
    for (let j = 0; j < labels.length; j++) {
      const n = j * W + (of[i] as number);
      joint[n] = (joint[n] as number) + (weights[i] as number) * (chances[j] as number);
    }
  });
  return { labels, joint };
}
