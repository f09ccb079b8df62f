/**
 * When what is on screen came from the server, on this device's clock. A slow phone wakes a page up long after it came; that wait must
 * not be taken for a difference of clocks.
 */
let wakingUp = true;

/** To be called once the first page is awake; what comes after is on screen as soon as it came. */
export const pageIsAwake = (): void => {
  wakingUp = false;
};

export function arrivedMs(): number {
  const [page] = performance.getEntriesByType("navigation") as PerformanceNavigationTiming[];
  return wakingUp && page && page.responseStart > 0 ? performance.timeOrigin + page.responseStart : Date.now();
}
