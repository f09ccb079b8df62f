/**
 * # Seeded randomness
 * Answers: the same stream of numbers for the same seed, on every machine. Source: the mulberry32 generator and the
 * Box-Muller transform. Models never reach for a global generator; they are handed one of these.
 */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Standard normal. */
  normal(): number;
  /** Uniform whole number in [from, to]. */
  integer(from: number, to: number): number;
  /** One of the items, uniformly. */
  pick<T>(items: readonly T[]): T;
}

export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const integer = (from: number, to: number): number => from + Math.floor(uniform() * (to - from + 1));
  return {
    uniform,
    integer,
    normal: () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()),
    pick: <T>(items: readonly T[]): T => {
      if (items.length === 0) throw new RangeError("nothing to pick from");
      return items[integer(0, items.length - 1)] as T;
    },
  };
}
