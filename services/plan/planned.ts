/** The plan that stands for a machine: the best there is of its day, the same for every place that asks. */
import { asBefore, betterOf, firstPlan, isWithinLimits, type Plan, type PlanInstance } from "#core/plan";
import type { Store } from "#store/database";
import { KeptBeside } from "#store/kept";
import type { Services } from "../context";
import type { Gathered } from "../machine/gathered";
import { instanceOf } from "./instance";

interface Kept {
  readonly key: string;
  readonly plan: Plan;
  /** A solver has looked at it. */
  readonly isLeast: boolean;
}

const kept = new KeptBeside<Kept>({ most: 40 });

/** How often a better plan came for the machines of a store: what was shown before does not hold then. */
const made = new KeptBeside<{ readonly times: number }>({ most: 1 });
const ALL = 0;
export const plansMade = (store: Store): number => made.get(store, ALL)?.times ?? 0;

/**
 * The plan of a machine: at once a quick one, or the one before where that still holds and takes less; a thread looks for the least, which
 * stands from then on until something changes.
 */
export function planned({ store, planner }: Pick<Services, "store" | "planner">, g: Gathered): Kept {
  const { id } = g.machine;
  const instance = instanceOf(g);
  const key = JSON.stringify(instance);
  const before = kept.get(store, id);
  if (before?.key === key) return before;
  const now: Kept = { key, plan: atOnce(instance, before?.plan), isLeast: false };
  kept.set(store, id, now);
  if (planner) {
    const stands = () => kept.get(store, id)?.key === key;
    const look = async () => {
      if (!stands()) return;
      const least = await planner(instance);
      if (!stands()) return;
      kept.set(store, id, { key, plan: betterOf(now.plan, least), isLeast: true });
      made.set(store, ALL, { times: plansMade(store) + 1 });
    };
    // What changed again meanwhile is not looked at: a morning's entries are planned once, when they are all in.
    setTimeout(() => {
      looking = looking.then(look).catch(() => {
        // The first plan stands.
      });
    }, SETTLE_MS).unref();
  }
  return now;
}

/** As long as something may still be added to what was just told. */
const SETTLE_MS = 3000;
/** One search after the other. */
let looking: Promise<void> = Promise.resolve();

function atOnce(instance: PlanInstance, before: Plan | undefined): Plan {
  const first = firstPlan(instance);
  if (!before) return first;
  const same = asBefore(instance, before);
  return isWithinLimits(instance, same) ? betterOf(same, first) : first;
}
