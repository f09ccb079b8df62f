/** Plans looked for by a thread of their own, one after the other: the newest of a machine is worth more than the one before. */
import type { Services } from "#services/context";
import type { PlanThread } from "../../workers/plan";
import { threadOf } from "./thread";

/** `start` is the file the thread begins with; `warn` is told when it fell: then the quick plan stands. */
export function threadPlanner(start: URL, warn: (error: unknown) => void): NonNullable<Services["planner"]> {
  const ask = threadOf<PlanThread>(start, undefined);
  return async (instance) => {
    try {
      return await ask((thread) => thread.least(instance));
    } catch (error) {
      warn(error);
      throw error;
    }
  };
}
