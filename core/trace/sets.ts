/** Every set of up to `maxFaults` fault states (never two severities of one fault), as flat columns; -1 marks an empty place. */
export interface FaultSets {
  readonly count: number;
  readonly first: Int16Array;
  readonly second: Int16Array;
  readonly third: Int16Array;
}

/** Number of sets of up to `maxFaults` out of `faults` faults with two severities each. */
function countSets(faults: number, maxFaults: number): number {
  const n1 = 2 * faults;
  const n2 = 4 * ((faults * (faults - 1)) / 2);
  const n3 = 8 * ((faults * (faults - 1) * (faults - 2)) / 6);
  return 1 + n1 + (maxFaults > 1 ? n2 : 0) + (maxFaults > 2 ? n3 : 0);
}

/** Enumerates the sets; number 0 is the empty set. */
export function enumerateSets(faults: number, maxFaults: number): FaultSets {
  const count = countSets(faults, maxFaults);
  const first = new Int16Array(count).fill(-1);
  const second = new Int16Array(count).fill(-1);
  const third = new Int16Array(count).fill(-1);
  const states = 2 * faults;
  let n = 1;
  for (let a = 0; a < states; a++) {
    first[n++] = a;
    if (maxFaults < 2) continue;
    for (let b = (a | 1) + 1; b < states; b++) {
      first[n] = a;
      second[n++] = b;
      if (maxFaults < 3) continue;
      for (let c = (b | 1) + 1; c < states; c++) {
        first[n] = a;
        second[n] = b;
        third[n++] = c;
      }
    }
  }
  return { count, first, second, third };
}
