/**
 * Every set of up to `maxFaults` fault states (never two severities of one fault), as flat columns; -1 marks an empty place. Sets that differ
 * by their last state alone stand in one row, so that what the others have in common is worked out once.
 */
export interface FaultSets {
  readonly count: number;
  readonly first: Int16Array;
  readonly second: Int16Array;
  readonly third: Int16Array;
  /** States in the order they were put together in; those that no reading of the light tells anything of stand last, from `dark` on. */
  readonly order: Int16Array;
  readonly dark: number;
  readonly rows: readonly SetRow[];
  /** Number of the first set of three: those with fewer stand before it. */
  readonly threes: number;
}

/** The sets `at`, `at + 1`, ... are the states at the places `i` and `j` of the order (-1 for none) with each of those from `from` on. */
export interface SetRow {
  readonly i: number;
  readonly j: number;
  readonly from: number;
  readonly at: number;
}

/** Enumerates the sets; number 0 is the empty set, which stands in no row. */
export function enumerateSets(faults: number, maxFaults: number, isDark: (fault: number) => boolean = () => false): FaultSets {
  const all = Array.from({ length: faults }, (_, f) => f);
  const order = Int16Array.from([...all.filter((f) => !isDark(f)), ...all.filter(isDark)].flatMap((f) => [2 * f, 2 * f + 1]));
  const states = order.length;
  const rows: SetRow[] = [];
  let count = 1;
  const add = (i: number, j: number) => {
    // The next fault's states stand two further on.
    const from = i < 0 ? 0 : (Math.max(i, j) | 1) + 1;
    rows.push({ i, j, from, at: count });
    count += states - from;
  };
  add(-1, -1);
  if (maxFaults > 1) for (let i = 0; i < states - 2; i++) add(i, -1);
  if (maxFaults > 2) for (let i = 0; i < states - 4; i++) for (let j = (i | 1) + 1; j < states - 2; j++) add(i, j);
  const first = new Int16Array(count).fill(-1);
  const second = new Int16Array(count).fill(-1);
  const third = new Int16Array(count).fill(-1);
  for (const { i, j, from, at } of rows) {
    const end = at + states - from;
    if (i >= 0) first.fill(order[i]!, at, end);
    if (j >= 0) second.fill(order[j]!, at, end);
    (i < 0 ? first : j < 0 ? second : third).set(order.subarray(from), at);
  }
  const threes = rows.find((r) => r.j >= 0)?.at ?? count;
  return { count, first, second, third, order, dark: 2 * all.filter((f) => !isDark(f)).length, rows, threes };
}

/** Sets lighter than this are never among the heaviest that are looked at, unless there are no others. */
const LIGHTEST_POWER = 32;
const LIGHTEST = 2 ** -LIGHTEST_POWER;

/** A weight that `limit` sets or somewhat more have at least; 0 where all are few enough. Weights are within 0..`total`. */
export function weightOfHeaviest(weights: Float64Array, limit: number, total = 1): number {
  if (weights.length <= 4 * limit) return 0;
  const counts = new Int32Array(LIGHTEST_POWER + 1);
  const lightest = LIGHTEST * total;
  // Powers of two are read off the numbers themselves: the upper half of each holds its exponent.
  const halves = new Int32Array(weights.buffer, weights.byteOffset, 2 * weights.length);
  const top = exponentOf(total);
  for (let i = 0; i < weights.length; i++) {
    if (weights[i]! <= lightest) continue;
    const below = top - (halves[2 * i + UPPER]! >> 20);
    counts[Math.min(LIGHTEST_POWER, Math.max(0, below))]!++;
  }
  let seen = 0;
  for (let b = 0; b < LIGHTEST_POWER; b++) {
    seen += counts[b]!;
    if (seen >= limit) return 2 ** (top - 1023 - b);
  }
  return 0;
}

/** Which half of a number is the upper one in memory. */
const UPPER = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1 ? 1 : 0;
const exponentOf = (x: number): number => new Int32Array(Float64Array.of(x).buffer)[UPPER]! >> 20;

/** The heaviest sets, heaviest first. */
export function heaviest(weights: Float64Array, limit: number): Int32Array {
  // A cut-off found by counting keeps the sort short when there are a hundred thousand sets.
  const cut = weightOfHeaviest(weights, limit);
  const order = new Int32Array(weights.length);
  let n = 0;
  for (let i = 0; i < weights.length; i++) if (weights[i]! >= cut) order[n++] = i;
  return order
    .slice(0, n)
    .sort((p, q) => weights[q]! - weights[p]!)
    .slice(0, limit);
}
