import type { EventKind, EventPayload, MachineEvent } from "#core/events";
import type { Store } from "./database";

/** A record to append. `requestKey` makes a re-sent form one record, not two. */
export interface NewEvent<K extends EventKind = EventKind> {
  readonly kind: K;
  readonly atMs: number;
  readonly payload: EventPayload[K];
  readonly requestKey: string;
  readonly corrects?: number | undefined;
  readonly voids?: boolean | undefined;
  readonly roundId?: number | undefined;
  readonly caseId?: number | undefined;
}

export function eventRow(machineId: number, event: NewEvent, nowMs: number) {
  return {
    machine_id: machineId,
    kind: event.kind,
    at_ms: Math.round(event.atMs),
    recorded_ms: nowMs,
    payload: JSON.stringify(event.payload),
    corrects: event.corrects ?? null,
    voids: event.voids ? 1 : 0,
    round_id: event.roundId ?? null,
    case_id: event.caseId ?? null,
    request_key: event.requestKey,
  };
}

/** Appends records in one transaction: all or none. Records whose key is known already are left as they are. */
export async function appendEvents(store: Store, machineId: number, events: readonly NewEvent[], nowMs: number): Promise<void> {
  await store.transaction().execute(async (tx) => {
    for (const event of events) {
      await tx
        .insertInto("event")
        .values(eventRow(machineId, event, nowMs))
        .onConflict((c) => c.column("request_key").doNothing())
        .execute();
    }
  });
}

/** Logs read before. Events are only ever appended, so a log is read on from its last record; an unchanged one is the same array. */
const readBefore = new WeakMap<Store, Map<number, readonly MachineEvent[]>>();

/** The whole log of a machine with its corrections, oldest record first. */
export async function listEvents(store: Store, machineId: number): Promise<readonly MachineEvent[]> {
  const logs = readBefore.get(store) ?? new Map<number, readonly MachineEvent[]>();
  readBefore.set(store, logs);
  const known = logs.get(machineId) ?? [];
  const rows = await store
    .selectFrom("event")
    .select(["id", "kind", "at_ms", "payload", "corrects", "voids", "round_id", "case_id"])
    .where("machine_id", "=", machineId)
    .where("id", ">", known.at(-1)?.id ?? 0)
    .orderBy("id")
    .execute();
  if (rows.length === 0) return known;
  const added = rows.map(
    (row) =>
      ({
        id: row.id,
        kind: row.kind as EventKind,
        atMs: row.at_ms,
        payload: JSON.parse(row.payload) as unknown,
        corrects: row.corrects ?? undefined,
        voids: row.voids === 1,
        roundId: row.round_id ?? undefined,
        caseId: row.case_id ?? undefined,
      }) as MachineEvent,
  );
  const log = [...known, ...added];
  logs.set(machineId, log);
  return log;
}
