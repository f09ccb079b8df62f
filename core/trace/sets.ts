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
