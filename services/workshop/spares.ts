/** Spares on the shelf: a part that was replaced takes one, in the same transaction as its record, and the record says so. */
import type { EventPayload } from "#core/events";
import type { Store } from "#store/database";
import type { NewEvent } from "#store/events";
import { changeMachine, listMachines } from "#store/machines";
import { startingLayout } from "../machine/trade";

const replacedIn = ({ kind, payload }: Pick<NewEvent, "kind" | "payload">): EventPayload["service"] | undefined => {
  const service = kind === "service" ? (payload as EventPayload["service"]) : undefined;
  return service?.what === "replaced" ? service : undefined;
};

/** The records, each part that was put in and has a spare on the shelf marked as taken from there. */
export async function fromShelf<E extends Pick<NewEvent, "kind" | "payload">>(
  tx: Store,
  machineId: number,
  events: readonly E[],
): Promise<readonly E[]> {
  if (!events.some(replacedIn)) return events;
  const machine = (await listMachines(tx)).find((m) => m.id === machineId);
  const path = machine ? (machine.path ?? startingLayout(machine.layout).path) : [];
  return events.map((e) => {
    const station = replacedIn(e)?.station;
    const has = path.some((s) => s.id === station && (s.spares ?? 0) > 0);
    return has ? { ...e, payload: { ...e.payload, fromShelf: true } } : e;
  });
}

/** Counts down the spares that records say were taken. */
export async function takeSpares(tx: Store, machineId: number, events: readonly Pick<NewEvent, "kind" | "payload">[]): Promise<void> {
  const taken = new Set(events.flatMap((e) => replacedIn(e) ?? []).flatMap((s) => (s.fromShelf ? [s.station] : [])));
  if (taken.size > 0) await countSpares(tx, machineId, taken, -1);
}

/** Puts a spare back whose record of going in was struck, or says something else now. */
export async function returnSpare(tx: Store, machineId: number, before: EventPayload["service"]): Promise<void> {
  if (before.fromShelf) await countSpares(tx, machineId, new Set([before.station]), 1);
}

const countSpares = (tx: Store, machineId: number, stations: ReadonlySet<string>, by: 1 | -1): Promise<void> =>
  changeMachine(tx, machineId, (now) => {
    const path = now.path ?? startingLayout(now.layout).path;
    return { path: path.map((s) => (stations.has(s.id) && s.spares !== undefined ? { ...s, spares: Math.max(0, s.spares + by) } : s)) };
  });
