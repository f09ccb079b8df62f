/** Glycol and water: freezing point, the share for a night, filling, draining, topping up. */

/** Propylene glycol by volume, and where it freezes. */
export const FREEZING: readonly (readonly [share: number, freezesC: number])[] = [
  [0, 0],
  [0.1, -3],
  [0.2, -8],
  [0.3, -14],
  [0.4, -22],
  [0.5, -34],
];

/** Less protects against corrosion hardly at all; more carries too little heat and is too thick to pump. */
export const LEAST_SHARE = 0.2;
export const MOST_SHARE = 0.5;
/** So far below the coldest night it must not freeze yet. */
export const MARGIN_C = 5;

const between = (x: number, [x0, y0]: readonly [number, number], [x1, y1]: readonly [number, number]) =>
  y0 + ((x - x0) * (y1 - y0)) / (x1 - x0);

/** Where a share (0 to 0.5) freezes. Throws RangeError outside the table. */
export function freezingPoint(share: number): number {
  if (!(share >= 0 && share <= MOST_SHARE)) throw new RangeError("a share of glycol lies between 0 and 50 %");
  const i = Math.max(
    1,
    FREEZING.findIndex(([s]) => s >= share - 1e-12),
  );
  return between(share, FREEZING[i - 1]!, FREEZING[i]!);
}

/** The share that freezes at a temperature (0 to -34 °C): what a tester that shows a freezing point says. Throws RangeError below the table. */
export function shareFreezingAt(freezesC: number): number {
  if (freezesC >= 0) return 0;
  const i = FREEZING.findIndex(([, f]) => f <= freezesC + 1e-12);
  if (i < 0) throw new RangeError("below -34 °C glycol alone is no protection: drain the loop");
  const [[s0, f0], [s1, f1]] = [FREEZING[Math.max(1, i) - 1]!, FREEZING[Math.max(1, i)]!];
  return between(freezesC, [f0, s0], [f1, s1]);
}

export type ForNight =
  | { readonly kind: "share"; readonly share: number; readonly freezesC: number }
  /** It never freezes there: distilled water only. */
  | { readonly kind: "water" }
  /** No share protects: the loop is drained. */
  | { readonly kind: "drain" };

/** What a loop needs for the coldest night of its room. @example shareForNight(-9) // 30 % */
export function shareForNight(nightC: number): ForNight {
  if (nightC > 0) return { kind: "water" };
  const freezesC = nightC - MARGIN_C;
  if (freezesC < -34) return { kind: "drain" };
  const share = Math.max(LEAST_SHARE, shareFreezingAt(freezesC));
  return { kind: "share", share, freezesC: freezingPoint(share) };
}

/** Litres of glycol and of water that fill an empty loop. */
export const fill = (loopL: number, share: number) => ({ glycolL: loopL * share, waterL: loopL * (1 - share) });

/**
 * Litres to drain of a full loop so that as much of `added` (0 water, 1 pure glycol) brings it from one share to another; 0 where it is there.
 * Throws RangeError where what is added cannot bring it there.
 * @example partDrain(20, 0.1, 0.3, 1) // 4.44 L
 */
export function partDrain(loopL: number, from: number, to: number, added: number): number {
  if (Math.abs(to - from) < 1e-12) return 0;
  const part = (to - from) / (added - from);
  if (!(part > 0 && part <= 1)) throw new RangeError("what is added is no stronger (or no weaker) than what is wanted");
  return loopL * part;
}

/** How a loop lost what was topped up: water went into the air, or mixture ran out. */
export type Lost = "evaporated" | "leaked";

/** Share of a loop after it was topped up with so many litres of a share (0 water): evaporation takes water, a leak takes mixture. */
export function afterTopUp(
  loopL: number,
  share: number,
  { litres, lost, added = 0 }: { litres: number; lost: Lost; added?: number },
): number {
  const gone = Math.min(litres, loopL);
  const glycolL = loopL * share - (lost === "leaked" ? gone * share : 0) + gone * added;
  return Math.min(1, Math.max(0, glycolL / loopL));
}
