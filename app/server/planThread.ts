/** Plans looked for by a thread of their own, one after the other: the newest of a machine is worth more than the one before. */
import type { Services } from "#services/context";
import type { PlanThread } from "../../workers/plan";
import { threadOf } from "./thread";

/** How long the solver may look (s): CLENOR_PLAN_SECONDS, 8 where it is left out; at 0, for a very small computer, the quick plan stands. */
export const planSeconds = (env: string | undefined): number => {
  const seconds = Number(env ?? 8);
  if (!(seconds >= 0 && seconds <= 600)) throw new RangeError("CLENOR_PLAN_SECONDS is a number of seconds from 0 to 600.");
  return seconds;
};

/** `start` is the file the thread begins with; `warn` is told when it fell: then the quick plan stands. */
export function threadPlanner(start: URL, seconds: number, warn: (error: unknown) => void): NonNullable<Services["planner"]> {
  const ask = threadOf<PlanThread>(start, undefined);
  return async (instance) => {
    try {
      return await ask((thread) => thread.least(instance, seconds));
    } catch (error) {
      warn(error);
      throw error;
    }
  };
}
