/** What of the supplies was used by the work in a log, and what the planned rounds will use. */

import dayjs from "dayjs";
import { type Supply, supplies } from "#catalog/supplies";
import type { Step } from "#core/rounds";
import type { Use } from "#core/supplies";
import type { Gathered } from "../machine/gathered";
import type { Trade } from "../machine/trade";

/** How much of a supply a step takes, of those cleaners that are on the shelf. */
function takenBy(step: Step, supply: Supply): number {
  if (supply.perRound) return 0;
  const asked =
    supply.named === undefined ? step.agents?.some((a) => a.id === supply.id && !a.missing) : step.supplies?.includes(supply.named);
  return asked ? supply.perStep : 0;
}

/** What a whole part takes where all its cleaning is done; second passes and repairs left out. */
function takenByPart(trade: Trade, part: string, supply: Supply): number {
  const steps = trade.procedures.get(part)?.steps ?? [];
  return steps.filter((s) => s.service || s.when === undefined).reduce((sum, s) => sum + takenBy(s, supply), 0);
}

/** Which supplies the rounds of a machine use at all. */
export const usesAny = (g: Gathered, supply: Supply): boolean =>
  supply.perRound === true || g.tasks.some((t) => takenByPart(g.trade, t.id, supply) > 0);

/** Uses in the log, by time (ms): each clean by what its part takes, and gloves for each round. */
export function usedInLog(g: Gathered, supply: Supply, sinceMs: number): Use[] {
  const rounds = new Set<number>();
  const uses: Use[] = [];
  for (const { atMs, payload, roundId } of g.log.kinds.service) {
    if (atMs <= sinceMs || !(payload.what === "cleaned" || (payload.what === "replaced" && payload.task !== undefined))) continue;
    const amount = takenByPart(g.trade, payload.task ?? payload.station, supply);
    if (amount > 0) uses.push({ at: atMs, amount });
    if (!supply.perRound || roundId === undefined || rounds.has(roundId)) continue;
    rounds.add(roundId);
    uses.push({ at: atMs, amount: supply.perStep });
  }
  return uses;
}

/** Share of the rounds with a part in which it was cleaned, and not only found clear: as the log has it, all where it does not say. */
function cleanedShare(g: Gathered, station: string): number {
  const looks = g.log.kinds.grade.slice().filter((e) => e.payload.station === station && e.payload.phase === "as-found").length;
  const cleans = g.log.kinds.service.slice().filter((e) => e.payload.station === station && e.payload.what === "cleaned").length;
  return looks < 3 ? 1 : Math.min(1, cleans / looks);
}

/** Uses of the planned rounds, by time (ms). */
export function usedByPlan(g: Gathered, supply: Supply): Use[] {
  return g.plan.rounds.flatMap((r) => {
    const parts = r.tasks.reduce((sum, id) => {
      const taken = takenByPart(g.trade, id, supply);
      return taken === 0 ? sum : sum + taken * cleanedShare(g, g.tasks.find((t) => t.id === id)?.station ?? id);
    }, 0);
    const amount = parts + (supply.perRound ? supply.perStep : 0);
    return amount > 0 ? [{ at: dayjs(r.date).valueOf(), amount }] : [];
  });
}

export const knownSupplies = (machines: readonly Gathered[]): Supply[] => supplies.filter((s) => machines.some((g) => usesAny(g, s)));
