import type { Step } from "./step";

/** Total minutes of steps, to the half minute. */
export function minutesOf(steps: readonly Step[]): number {
  return Math.round(steps.reduce((sum, s) => sum + s.minutes, 0) * 2) / 2;
}

/** What is left of the drying wait when the covers are on, in minutes; of what is wet already `running` minutes of it are to come. */
export function dryingMinutes(walked: readonly Step[], running = 0): number {
  const end = walked.findIndex((s) => s.timer?.name === "drying");
  if (end < 0) return 0;
  const wet = walked.slice(0, end).findLastIndex((s) => s.wet);
  // Wetted anew, the wait begins anew.
  const wait = wet < 0 ? running : (walked[end]?.timer?.seconds ?? 0) / 60;
  return Math.max(0, Math.round(2 * (wait - minutesOf(walked.slice(wet + 1, end)))) / 2);
}
