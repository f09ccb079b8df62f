/** What the sets add up to in one pass over their rows: faults, stations, how many causes at once, and nothing wrong now. */
import type { Posterior } from "./posterior";
import type { FaultSets } from "./sets";

export interface Tally {
  /** Probability of each state of what may be wrong now, by the number of its fault now. */
  readonly states: Float64Array;
  /** Probability that something is wrong at a place, by the places given. */
  readonly places: Float64Array;
  /** Probability that so many faults count, from none to three. */
  readonly bySize: Float64Array;
  /** Probability of the sets that hold nothing of now. */
  readonly nothingNow: number;
}

/**
 * Adds up the sets. By fault of the model: `present` is its number now, -1 for what was mended since; `placeOf` its place (0 to `places` - 1),
 * which counts as often as something of now is wrong there; `counts` whether it is one of those that are counted.
 */
export function tally(
  { order, rows }: FaultSets,
  { sets: weights }: Pick<Posterior, "sets">,
  present: Int16Array,
  placeOf: ArrayLike<number>,
  places: number,
  counts: (fault: number) => boolean,
): Tally {
  const all = order.length;
  // By place of the order; what is no fault of now goes to a place of its own at the end.
  const isNow = Uint8Array.from(order, (s) => (present[s >> 1]! >= 0 ? 1 : 0));
  const place = Int16Array.from(order, (s) => (present[s >> 1]! >= 0 ? placeOf[s >> 1]! : places));
  const counted = Uint8Array.from(order, (s) => (counts(s >> 1) ? 1 : 0));
  const ofState = new Float64Array(all);
  const ofPlace = new Float64Array(places + 1);
  const bySize = new Float64Array(4);
  bySize[0] = weights[0]!;
  let nothingNow = weights[0]!;
  for (const { i, j, from, at } of rows) {
    const a = i < 0 ? -1 : place[i]!;
    const b = j < 0 ? -1 : place[j]!;
    let row = 0;
    let more = 0;
    let rest = 0;
    for (let k = from, n = at; k < all; k++, n++) {
      const w = weights[n]!;
      ofState[k] = ofState[k]! + w;
      row += w;
      if (counted[k] === 1) more += w;
      if (isNow[k] === 0) rest += w;
      const c = place[k]!;
      if (c !== a && c !== b) ofPlace[c] = ofPlace[c]! + w;
    }
    if (i >= 0) {
      ofState[i] = ofState[i]! + row;
      ofPlace[a] = ofPlace[a]! + row;
    }
    if (j >= 0) {
      ofState[j] = ofState[j]! + row;
      if (b !== a) ofPlace[b] = ofPlace[b]! + row;
    }
    const size = (i < 0 ? 0 : counted[i]!) + (j < 0 ? 0 : counted[j]!);
    bySize[size] = bySize[size]! + row - more;
    bySize[size + 1] = bySize[size + 1]! + more;
    if ((i < 0 || isNow[i] === 0) && (j < 0 || isNow[j] === 0)) nothingNow += rest;
  }
  const states = new Float64Array(2 * (1 + present.reduce((most, f) => Math.max(most, f), -1)));
  order.forEach((s, k) => {
    const f = present[s >> 1]!;
    if (f >= 0) states[2 * f + (s & 1)] = states[2 * f + (s & 1)]! + ofState[k]!;
  });
  return { states, places: ofPlace.subarray(0, places), bySize, nothingNow };
}
