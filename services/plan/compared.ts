/** What the planned rounds take beside each task by itself and beside the three schools. */
import { LRUCache } from "lru-cache";
import { SCHOOLS, type School } from "#core/machine";
import { alonePlan, firstPlan } from "#core/plan";
import type { Gathered } from "../machine/gathered";
import { SCHOOL_WORDS } from "../upkeep/words";
import { instanceOf, withIntervals } from "./instance";
import { totalMinutes } from "./rounds";

export interface Compared {
  readonly alone: { readonly minutes: number; readonly rounds: number };
  readonly schools: readonly { readonly id: School; readonly name: string; readonly minutes: number; readonly rounds: number }[];
}

const kept = new LRUCache<string, Compared>({ max: 20 });

export function comparedOf(g: Gathered): Compared {
  const key = `${g.machine.id} ${JSON.stringify(instanceOf(g))}`;
  const known = kept.get(key);
  if (known) return known;
  const alone = alonePlan(instanceOf(g)).rounds;
  const schools = SCHOOLS.map((id) => {
    const { rounds } = firstPlan(withIntervals(g, (task) => g.trade.tasks.find((t) => t.id === task)?.schools[id]));
    return { id, name: SCHOOL_WORDS[id], minutes: totalMinutes(g, rounds), rounds: rounds.length };
  });
  const compared: Compared = { alone: { minutes: totalMinutes(g, alone), rounds: alone.length }, schools };
  kept.set(key, compared);
  return compared;
}
