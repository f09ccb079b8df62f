/**
 * After how much smoke cleaning an optic costs fewest minutes (M5): the clean's own minutes and the risk of finding it bad fall with the
 * interval, and what a fouled optic slows every cut by grows with it (age replacement with a running cost: Barlow and Proschan,
 * "Mathematical Theory of Reliability", chapter 4).
 */

export interface CleaningCost {
  /** Minutes of one clean, its share of opening included. > 0. */
  readonly minutes: number;
  /** Extra minutes of one found bad: the soak, and what the risk for the optic is worth. >= 0. */
  readonly badMinutes: number;
  /** Loss in ln power per ply-hour of its smoke. > 0. */
  readonly lossPerPlyHour: number;
  /** Chance (0..1) of finding it bad at a dose (ply-hours). */
  readonly chanceBad: (dose: number) => number;
}

/** Minutes per ply-hour of cleaning every `dose` ply-hours (> 0): C(x) = (m + K P(x)) / x + 60 φ x / 2, cutting taken as slower by the loss. */
export const costPerPlyHour = ({ minutes, badMinutes, lossPerPlyHour, chanceBad }: CleaningCost, dose: number): number =>
  (minutes + badMinutes * chanceBad(dose)) / dose + (60 * lossPerPlyHour * dose) / 2;

const GOLDEN = (Math.sqrt(5) - 1) / 2;
const STEPS = 80;
const COARSE = 240;

/**
 * The dose (ply-hours) at which cleaning costs least, and its minutes per ply-hour, between `least` and `most` (0 < least < most). Without
 * badMinutes it is √(2m/60φ). Throws RangeError where nothing can be least: no minutes or no loss.
 */
export function cheapestInterval(
  cost: CleaningCost,
  least: number,
  most: number,
): { readonly dose: number; readonly minutesPerPlyHour: number } {
  if (!(cost.minutes > 0 && cost.lossPerPlyHour > 0 && least > 0 && most > least))
    throw new RangeError("a cheapest interval needs minutes, a loss and a range, all more than nought");
  const at = (ln: number) => costPerPlyHour(cost, Math.exp(ln));
  const [a, b] = [Math.log(least), Math.log(most)];
  const step = (b - a) / COARSE;
  // The curve may dip twice where a bad one costs much: the coarse walk finds the deeper dip, the golden section its bottom (Kiefer 1953).
  let best = a;
  for (let i = 0; i <= COARSE; i++) if (at(a + i * step) < at(best)) best = a + i * step;
  let [low, high] = [Math.max(a, best - step), Math.min(b, best + step)];
  for (let i = 0; i < STEPS; i++) {
    const [x, y] = [high - GOLDEN * (high - low), low + GOLDEN * (high - low)];
    if (at(x) <= at(y)) high = y;
    else low = x;
  }
  const dose = Math.exp((low + high) / 2);
  return { dose, minutesPerPlyHour: costPerPlyHour(cost, dose) };
}
