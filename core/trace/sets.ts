/** Every set of up to `maxFaults` fault states (never two severities of one fault), as flat columns; -1 marks an empty place. */
export interface FaultSets {
  readonly count: number;
  readonly first: Int16Array;
  readonly second: Int16Array;
  readonly third: Int16Array;
  /** How many of a set's states, from its first, something was found out about; the others stand after them and follow their priors. */
  readonly told: Int8Array;
}

/** Number of sets of up to `maxFaults` out of `faults` faults with two severities each. */
function countSets(faults: number, maxFaults: number): number {
  const n1 = 2 * faults;
  const n2 = 4 * ((faults * (faults - 1)) / 2);
  const n3 = 8 * ((faults * (faults - 1) * (faults - 2)) / 6);
  return 1 + n1 + (maxFaults > 1 ? n2 : 0) + (maxFaults > 2 ? n3 : 0);
}

/**
 * Enumerates the sets; number 0 is the empty set. Faults that no finding can tell anything of (`isIdle`) come last, so that a set with one
 * differs from the set without it by its prior alone.
 */
export function enumerateSets(faults: number, maxFaults: number, isIdle: (fault: number) => boolean = () => false): FaultSets {
  const count = countSets(faults, maxFaults);
  const first = new Int16Array(count).fill(-1);
  const second = new Int16Array(count).fill(-1);
  const third = new Int16Array(count).fill(-1);
  const told = new Int8Array(count);
  const all = Array.from({ length: faults }, (_, f) => f);
  const order = [...all.filter((f) => !isIdle(f)), ...all.filter(isIdle)];
  const active = 2 * order.filter((f) => !isIdle(f)).length;
  const state = (i: number) => 2 * order[i >> 1]! + (i & 1);
  const states = 2 * faults;
  let n = 1;
  for (let i = 0; i < states; i++) {
    const a = state(i);
    const one = i < active ? 1 : 0;
    told[n] = one;
    first[n++] = a;
    if (maxFaults < 2) continue;
    for (let j = (i | 1) + 1; j < states; j++) {
      const b = state(j);
      const two = j < active ? 2 : one;
      first[n] = a;
      told[n] = two;
      second[n++] = b;
      if (maxFaults < 3) continue;
      for (let k = (j | 1) + 1; k < states; k++) {
        first[n] = a;
        second[n] = b;
        told[n] = k < active ? 3 : two;
        third[n++] = state(k);
      }
    }
  }
  return { count, first, second, third, told };
}

/** The heaviest sets, heaviest first. */
export function heaviest(weights: Float64Array, limit: number): Int32Array {
  const order = new Int32Array(weights.length);
  // A cut-off found by counting keeps the sort short when there are a hundred thousand sets.
  let cut = 0;
  if (weights.length > 4 * limit) {
    const counts = new Int32Array(LIGHTEST_POWER + 1);
    for (let i = 0; i < weights.length; i++) {
      const w = weights[i]!;
      if (w > LIGHTEST) counts[Math.max(0, Math.floor(-Math.log2(w)))]!++;
    }
    let seen = 0;
    for (let b = 0; b < LIGHTEST_POWER && cut === 0; b++) {
      seen += counts[b]!;
      if (seen >= limit) cut = 2 ** -(b + 1);
    }
  }
  let n = 0;
  for (let i = 0; i < weights.length; i++) if (weights[i]! >= cut) order[n++] = i;
  return order
    .slice(0, n)
    .sort((p, q) => weights[q]! - weights[p]!)
    .slice(0, limit);
}

/** Sets lighter than this are never among the heaviest that are looked at, unless there are no others. */
const LIGHTEST_POWER = 32;
const LIGHTEST = 2 ** -LIGHTEST_POWER;
