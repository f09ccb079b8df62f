/** What going on by repairs takes: rounds of repairs until all that a set needs is mended, and what the first of them holds. */
import { repairsOf, SURE } from "../belief/decision";
import type { Posterior } from "../belief/posterior";
import { coversOf } from "../model/mending";
import type { RepairSpec, TraceModel } from "../model/types";

/** Minutes charged when no repair in the list helped: someone has to think again. */
const LOST_MINUTES = 60;
/** Making safe for a round and closing after it. */
const SAFE_MINUTES = 4;
/** What is asked before the next round when one did not bring it back; its proof comes on top. */
const BACK_MINUTES = 20;
/** Repairs rarer than this are no part of a way on. */
const RARE = 0.004;

/** What costs as much as this where it is not needed is dear: a tube, a supply. It waits until what is cheap is ruled out. */
const DEAR_MINUTES = 60;
export const isDear = ({ needlessMinutes }: Pick<RepairSpec, "needlessMinutes">): boolean => needlessMinutes >= DEAR_MINUTES;

/** Minutes that a round takes besides its repairs, with the questions before the next; less where nothing has to be made safe. */
export const roundMinutes = (model: TraceModel, madeSafe = true): number =>
  (madeSafe ? SAFE_MINUTES : 0) + BACK_MINUTES + (model.repairs[0]?.proofMinutes ?? 0);

/** What different sets need: a repair, or two of them; -1 for none, and in `first` for what no repair mends. */
export interface Ways {
  readonly first: Int16Array;
  readonly second: Int16Array;
  /** Way of each set that was looked at, in their order; the last of all ways is "none of these". */
  readonly ofSet: Int16Array;
}

/**
 * The ways of the given sets: the repair of the main fault, and where `further` is given what a proof would fail for besides. A repair that
 * is `barred` mends nothing.
 */
export function waysOf(
  model: TraceModel,
  top: Int32Array,
  { main: mains, further }: Pick<Posterior, "main"> & Partial<Pick<Posterior, "further">>,
  barred: (repair: number) => boolean = () => false,
): Ways {
  const repairOf = repairsOf(model);
  const able = (state: number) => (state < 0 || barred(repairOf[state >> 1]!) ? -1 : repairOf[state >> 1]!);
  const known = new Map<number, number>();
  const first: number[] = [];
  const second: number[] = [];
  const ofSet = Int16Array.from(top, (n) => {
    const needs = [able(mains[n]!), able(further?.[n] ?? -1)].filter((r) => r >= 0);
    const main = needs[0] ?? -1;
    const also = needs[1] === undefined || needs[1] === main ? -1 : needs[1];
    const code = (main + 1) * (model.repairs.length + 1) + also + 1;
    const way = known.get(code) ?? first.length;
    if (way === first.length) {
      known.set(code, way);
      first.push(main);
      second.push(also);
    }
    return way;
  });
  return { first: Int16Array.from([...first, -1]), second: Int16Array.from([...second, -1]), ofSet };
}

/** Weights of the ways by the probabilities of the sets they were made of, "none of these" last. */
export function weighed(ways: Ways, top: Int32Array, { sets, none }: Pick<Posterior, "sets" | "none">): Float64Array {
  const weights = new Float64Array(ways.first.length);
  for (let i = 0; i < top.length; i++) weights[ways.ofSet[i]!] = weights[ways.ofSet[i]!]! + sets[top[i]!]!;
  weights[weights.length - 1] = none;
  return weights;
}

export interface Planner {
  readonly ways: number;
  /** Expected minutes of going on by repairs alone, in rounds. Weights per way need not be normalised; `looked` is a station opened besides. */
  readonly minutes: (weights: ArrayLike<number>, total: number, looked?: string) => number;
  /** Expected minutes of going on by the one who knows which way it is. */
  readonly known: (weights: ArrayLike<number>, total: number) => number;
  /** Repairs of the round that this begins with, the likeliest first; empty where none matters. */
  readonly firstRound: (weights: ArrayLike<number>, total: number) => number[];
}

/** What each repair of a model takes, given what is open. */
class Costs {
  readonly overhead: number;
  readonly needless: Float64Array;
  readonly dear: Uint8Array;
  /** Minutes of making safe for it. */
  readonly safe: Float64Array;
  readonly covers: ReturnType<typeof coversOf>;
  private readonly minutes: Float64Array;
  private readonly opening: Float64Array;
  private readonly places: readonly (string | undefined)[];
  private readonly placeOf: Int16Array;
  private readonly isOpen: Uint8Array;

  constructor(
    model: TraceModel,
    private readonly opened: readonly string[],
  ) {
    const { repairs } = model;
    this.overhead = roundMinutes(model, false);
    this.needless = Float64Array.from(repairs, (r) => r.needlessMinutes);
    this.dear = Uint8Array.from(repairs, (r) => Number(isDear(r)));
    this.safe = Float64Array.from(repairs, (r) => (r.madeSafe ? SAFE_MINUTES : 0));
    this.covers = coversOf(model);
    this.minutes = Float64Array.from(repairs, (r) => r.minutes);
    this.opening = Float64Array.from(repairs, (r) => r.openingMinutes);
    this.places = [...new Set(repairs.map((r) => r.opens))];
    this.placeOf = Int16Array.from(repairs, (r) => this.places.indexOf(r.opens));
    this.isOpen = new Uint8Array(this.places.length);
  }

  /** Before the first round: what is open already, and a station that was looked at besides. */
  begin(looked?: string): void {
    for (let i = 0; i < this.places.length; i++) {
      const place = this.places[i];
      this.isOpen[i] = place !== undefined && (place === looked || this.opened.includes(place)) ? 1 : 0;
    }
  }

  of(repair: number): number {
    return this.minutes[repair]! - (this.isOpen[this.placeOf[repair]!] === 1 ? this.opening[repair]! : 0);
  }

  /** Its own minutes, without opening. */
  own(repair: number): number {
    return this.minutes[repair]! - this.opening[repair]!;
  }

  open(repair: number): void {
    this.isOpen[this.placeOf[repair]!] = 1;
  }

  closeAll(): void {
    this.isOpen.fill(0);
  }
}

/** What of each way is still to be mended, and by which repair. */
class Needs {
  /** Chance that a repair is needed, and that it is all that is missing. */
  readonly needed: Float64Array;
  readonly missing: Float64Array;
  /** Repairs that are done. */
  readonly used: Uint8Array;
  private readonly share: Float64Array;
  /** Of each way: 1 its first, 2 its second, 3 both. */
  private readonly open: Int8Array;
  private readonly needing: readonly Int16Array[];

  constructor(
    private readonly ways: Pick<Ways, "first" | "second">,
    private readonly covers: Costs["covers"],
  ) {
    const { first, second } = ways;
    this.needed = new Float64Array(covers.length);
    this.missing = new Float64Array(covers.length);
    this.used = new Uint8Array(covers.length);
    this.share = new Float64Array(first.length);
    this.open = new Int8Array(first.length);
    this.needing = covers.map((_, r) => Int16Array.from([...first.keys()].filter((w) => first[w] === r || second[w] === r)));
  }

  /** Spreads the weights over the repairs; the chance that repairs can mend it. */
  spread(weights: ArrayLike<number>, total: number): number {
    const { needed, missing, used, share, open } = this;
    const { first, second } = this.ways;
    needed.fill(0);
    missing.fill(0);
    used.fill(0);
    let able = 0;
    for (let w = 0; w < first.length; w++) {
      const p = weights[w]! / total;
      const a = first[w]!;
      const b = second[w]!;
      open[w] = 0;
      if (!(p > 0) || a < 0) continue;
      able += p;
      share[w] = p;
      needed[a] = needed[a]! + p;
      open[w] = b < 0 ? 1 : 3;
      if (b < 0) missing[a] = missing[a]! + p;
      else needed[b] = needed[b]! + p;
    }
    return able;
  }

  /** Does a repair, and whatever it does on the way; the chance that it completes what is needed. */
  mend(repair: number): number {
    const { missing, used, share, open } = this;
    const { first, second } = this.ways;
    let done = 0;
    for (const q of this.covers[repair]!) {
      if (used[q] === 1) continue;
      used[q] = 1;
      for (const w of this.needing[q]!) {
        const its = open[w]! & (first[w] === q ? 1 : 2);
        if (its === 0) continue;
        open[w] = open[w]! - its;
        if (open[w] === 0) done += share[w]!;
        else {
          const other = open[w] === 1 ? first[w]! : second[w]!;
          missing[other] = missing[other]! + share[w]!;
        }
      }
    }
    return done;
  }
}

/**
 * Plans for weights over ways: the most promising repair first, and with it whatever spares more by not coming back than it takes, given
 * what is open now (`opened`) or for it. A ranking asks thousands of times, so that nothing is made anew between.
 *
 * @example planner(model, ways).firstRound(weights, total) // [clean-lens, seat-lens] by their index
 */
export function planner(model: TraceModel, ways: Pick<Ways, "first" | "second">, opened: readonly string[] = []): Planner {
  const { first, second } = ways;
  const costs = new Costs(model, opened);
  const { overhead, safe, covers, dear, needless } = costs;
  const needs = new Needs(ways, covers);
  const { needed, missing, used } = needs;
  const order = new Int16Array(model.repairs.length);
  const worth = new Float64Array(model.repairs.length);

  /** What it costs besides where it is not needed, as likely as that is: `left` is the chance that something is. */
  const wasteOf = (r: number, left: number): number => needless[r]! * Math.max(0, 1 - needed[r]! / left);
  /** Repairs that matter, by what a round for each alone would bring a minute. */
  const sort = (left: number): number => {
    let count = 0;
    for (let r = 0; r < needed.length; r++) {
      if (needed[r]! <= RARE) continue;
      const of = needed[r]! / (costs.of(r) + wasteOf(r, left) + safe[r]! + overhead);
      let at = count++;
      for (; at > 0 && worth[at - 1]! < of; at--) {
        worth[at] = worth[at - 1]!;
        order[at] = order[at - 1]!;
      }
      worth[at] = of;
      order[at] = r;
    }
    return count;
  };
  /** One round from the repair at `from` in the order on; its minutes, and the chance that it ends it. */
  const held: number[] = [];
  const did = { minutes: 0, done: 0 };
  const round = (from: number, count: number, left: number): void => {
    held.length = 0;
    const r = order[from]!;
    held.push(r);
    let made = safe[r]!;
    did.minutes = overhead + costs.of(r) + wasteOf(r, left) + made;
    did.done = needs.mend(r);
    costs.open(r);
    for (let i = from + 1; i < count; i++) {
      const j = order[i]!;
      // Worth it when the chance to spare a round outweighs doing it for nothing; what is dear and not sure waits for the proof of the rest.
      if (used[j] === 1 || (dear[j] === 1 && needed[j]! < SURE * left)) continue;
      const cost = costs.of(j) + wasteOf(j, left) + Math.max(0, safe[j]! - made);
      if (missing[j]! * (overhead + safe[j]!) <= cost * did.done) continue;
      // What this one puts right on the way takes no time of its own.
      for (const h of held) if (covers[j]!.includes(h)) did.minutes -= costs.own(h) + wasteOf(h, left);
      held.push(j);
      did.minutes += cost;
      did.done += needs.mend(j);
      made = Math.max(made, safe[j]!);
      costs.open(j);
    }
    // Everything is closed for the proof.
    costs.closeAll();
  };
  /** Of what is needed and no more. */
  const knownCost = (a: number, b: number): number => {
    if (b < 0 || covers[a]!.includes(b)) return costs.of(a) + safe[a]!;
    return covers[b]!.includes(a) ? costs.of(b) + safe[b]! : costs.of(a) + costs.of(b) + Math.max(safe[a]!, safe[b]!);
  };
  return {
    ways: first.length,
    minutes: (weights, total, looked) => {
      costs.begin(looked);
      let left = needs.spread(weights, total);
      let expected = (1 - left) * LOST_MINUTES;
      const count = sort(left);
      for (let i = 0; i < count && left > RARE; i++) {
        if (used[order[i]!] === 1) continue;
        round(i, count, left);
        expected += left * did.minutes;
        left -= did.done;
      }
      return expected + Math.max(0, left) * LOST_MINUTES;
    },
    known: (weights, total) => {
      costs.begin();
      let expected = 0;
      for (let w = 0; w < first.length; w++) {
        const a = first[w]!;
        const b = second[w]!;
        const cost = a < 0 ? LOST_MINUTES : overhead + knownCost(a, b);
        expected += (weights[w]! / total) * cost;
      }
      return expected;
    },
    firstRound: (weights, total) => {
      costs.begin();
      const left = needs.spread(weights, total);
      const count = sort(left);
      if (count === 0) return [];
      round(0, count, left);
      return [...held].sort((p, q) => needed[q]! - needed[p]!);
    },
  };
}
