/** Root of a rising function by bisection (Press et al., "Numerical Recipes", 9.1): where a chance or a cost meets what was asked. */

/** Where `rising` passes nought between `low` and `high`, to a millionth of the span; the nearer end where it does not. */
export function bisect(rising: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high];
  if (rising(b) <= 0) return b;
  for (let i = 0; i < 60; i++) {
    const x = (a + b) / 2;
    if (rising(x) > 0) b = x;
    else a = x;
  }
  return (a + b) / 2;
}
