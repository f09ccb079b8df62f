/** Test support: all rounds and all cases of a machine, which no page ever asks for at once. Newest first. */
import { closedCases, findCase, openCasesOf, type TraceCase } from "./cases";
import type { Store } from "./database";
import { endedRounds, openRoundOf, type RoundLine } from "./rounds";

const ALL = 1000;

export async function listCases(store: Store, machineId: number): Promise<TraceCase[]> {
  const closed = await closedCases(store, machineId, ALL);
  const whole = await Promise.all(closed.map((c) => findCase(store, machineId, c.id)));
  return [...(await openCasesOf(store, machineId)).reverse(), ...whole.flatMap((c) => c ?? [])];
}

export async function listRounds(store: Store, machineId: number): Promise<RoundLine[]> {
  const open = await openRoundOf(store, machineId);
  return [...(open ? [open] : []), ...(await endedRounds(store, machineId, ALL))];
}
