/** Test support: all rounds and all cases of a machine, which no page ever asks for at once. Newest first. */
import { closedCases, openCasesOf, type TraceCase } from "./cases";
import type { Store } from "./database";
import { endedRounds, openRoundOf, type RoundLine } from "./rounds";

const ALL = 1000;

export async function listCases(store: Store, machineId: number): Promise<TraceCase[]> {
  return [...(await openCasesOf(store, machineId)).reverse(), ...(await closedCases(store, machineId, ALL))];
}

export async function listRounds(store: Store, machineId: number): Promise<RoundLine[]> {
  const open = await openRoundOf(store, machineId);
  return [...(open ? [open] : []), ...(await endedRounds(store, machineId, ALL))];
}
