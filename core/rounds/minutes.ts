import type { Step } from "./step";

/** Total minutes of steps, to the half minute. */
export function minutesOf(steps: readonly Step[]): number {
  return Math.round(steps.reduce((sum, s) => sum + s.minutes, 0) * 2) / 2;
}

/** What is left of the drying wait when the covers are on, in minutes. */
export function dryingMinutes(walked: readonly Step[]): number {
  const end = walked.findIndex((s) => s.timer?.name === "drying");
  const wet = walked.slice(0, Math.max(0, end)).findLastIndex((s) => s.wet);
  if (end < 0 || wet < 0) return 0;
  return Math.max(0, (walked[end]?.timer?.seconds ?? 0) / 60 - minutesOf(walked.slice(wet + 1, end)));
}
