/**
 * # Roots
 * Answers: where a rising function meets nought, as a chance or a loss meets what was asked. Source: Chandrupatla, "A new hybrid
 * quadratic/bisection algorithm", Adv. Eng. Software 28 (1997): inverse quadratic steps where the function is smooth, halves where it jumps.
 */

/** More than a jump of any double takes. */
const MOST_STEPS = 100;

/**
 * Where `rising` passes nought between `low` and `high`, to `within` of x (> 0); the nearer end where it does not pass.
 *
 * @example rootOf((x) => x * x - 2, 0, 2, 1e-9) // 1.414213562…
 */
export function rootOf(rising: (x: number) => number, low: number, high: number, within: number): number {
  let [newest, opposite] = [high, low];
  let [atNewest, atOpposite] = [rising(high), rising(low)];
  if (atNewest <= 0) return high;
  if (atOpposite >= 0) return low;
  let share = 0.5;
  for (let step = 0; step < MOST_STEPS; step++) {
    const x = newest + share * (opposite - newest);
    const at = rising(x);
    let [last, atLast] = [newest, atNewest];
    if (at > 0 !== atNewest > 0) {
      [last, atLast] = [opposite, atOpposite];
      [opposite, atOpposite] = [newest, atNewest];
    }
    [newest, atNewest] = [x, at];
    const span = Math.abs(opposite - newest);
    if (at === 0 || span < 2 * within) return at === 0 ? x : (newest + opposite) / 2;
    const least = within / span;
    const along = (newest - opposite) / (last - opposite);
    const risen = (atNewest - atOpposite) / (atLast - atOpposite);
    const isSmooth = risen * risen < along && (1 - risen) * (1 - risen) < 1 - along;
    share = isSmooth
      ? (atNewest / (atOpposite - atNewest)) * (atLast / (atOpposite - atLast)) +
        ((last - newest) / (opposite - newest)) * (atNewest / (atLast - atNewest)) * (atOpposite / (atLast - atOpposite))
      : 0.5;
    share = Math.min(1 - least, Math.max(least, share));
  }
  return (newest + opposite) / 2;
}
