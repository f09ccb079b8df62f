/** What a round takes: one figure for the plan, for Today and for the round itself, from the steps it would have. */
import type { RoundPlan } from "#core/rounds";
import type { Gathered } from "../machine/gathered";
import { planOf } from "../machine/plans";

const known = new WeakMap<Gathered, Map<string, RoundPlan>>();

/** The round of some parts as it would be today. */
export function roundOf(g: Gathered, parts: readonly string[]): RoundPlan {
  const own = known.get(g) ?? new Map<string, RoundPlan>();
  known.set(g, own);
  const key = [...parts].sort().join(" ");
  const plan = own.get(key) ?? planOf(g.trade, parts, { grades: g.grades, out: g.out });
  own.set(key, plan);
  return plan;
}

/** Its minutes; none for no parts. */
export const roundMinutes = (g: Gathered, parts: readonly string[]): number => (parts.length === 0 ? 0 : roundOf(g, parts).minutes);

/** Minutes that doing a task in a round rather than by itself saves, 0 at least. */
export function savedBy(g: Gathered, parts: readonly string[], task: string): number {
  const rest = parts.filter((p) => p !== task);
  return Math.max(0, roundMinutes(g, [task]) - (roundMinutes(g, parts) - roundMinutes(g, rest)));
}
