/** Number of leading times of a sorted list that are at or before a limit, by halving. */
export function countUpTo(times: ArrayLike<number>, limitMs: number): number {
  let low = 0;
  let high = times.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (times[middle]! <= limitMs) low = middle + 1;
    else high = middle;
  }
  return low;
}
