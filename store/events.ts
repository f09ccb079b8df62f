import type { EventKind, EventPayload, MachineEvent } from "#core/events";
import { atOnce, type Store } from "./database";

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

function eventRow(machineId: number, event: NewEvent, nowMs: number) {
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
  await atOnce(store, async (tx) => {
    for (const event of events) {
      await tx
        .insertInto("event")
        .values(eventRow(machineId, event, nowMs))
        .onConflict((c) => c.column("request_key").doNothing())
        .execute();
    }
  });
}

/** Corrected by somebody else since the form that would correct it was opened. Nothing was written. */
export class CorrectedMeanwhile extends Error {
  override readonly name = "CorrectedMeanwhile";
  constructor(readonly corrections: number) {
    super("the record was corrected meanwhile");
  }
}

/** Appends a correction of a record that was corrected `known` times when its form was opened. Throws CorrectedMeanwhile otherwise. */
export async function appendCorrection(store: Store, machineId: number, event: NewEvent, known: number, nowMs: number): Promise<void> {
  await atOnce(store, async (tx) => {
    const { n } = await tx
      .selectFrom("event")
      .select((e) => e.fn.countAll<number>().as("n"))
      .where("corrects", "=", event.corrects ?? 0)
      .executeTakeFirstOrThrow();
    if (n !== known) throw new CorrectedMeanwhile(n);
    await appendEvents(tx, machineId, [event], nowMs);
  });
}

/** A record as it stands now: the first of its corrections by id, and what the newest says. */
interface Standing {
  readonly id: number;
  readonly payload: unknown;
  /** When what it says was given: at its time, or for a correction when that was made. */
  readonly givenMs: number;
}

/** Records with these keys as they stand after their corrections, by key. */
async function standing(tx: Store, machineId: number, keys: readonly string[]): Promise<Map<string, Standing>> {
  const rows = await tx
    .selectFrom("event")
    .select(["id", "at_ms", "payload", "request_key"])
    .where("machine_id", "=", machineId)
    .where("request_key", "in", keys)
    .execute();
  const corrections = await tx
    .selectFrom("event")
    .select(["corrects", "payload", "recorded_ms"])
    .where(
      "corrects",
      "in",
      rows.map((row) => row.id),
    )
    .orderBy("id")
    .execute();
  const newest = new Map(corrections.map((c) => [c.corrects, c]));
  const found = new Map<string, Standing>();
  for (const row of rows) {
    const last = newest.get(row.id);
    const payload = JSON.parse(last?.payload ?? row.payload) as unknown;
    found.set(row.request_key, { id: row.id, payload, givenMs: last?.recorded_ms ?? row.at_ms });
  }
  return found;
}

/**
 * Writes what a round says into the log again after it was ended: what is new is appended; what says something else than its record
 * becomes a correction of it when it was given later, or is worse. `lateKey` tells the corrections of one late answer from another's.
 */
export async function appendLate(
  store: Store,
  machineId: number,
  events: readonly (NewEvent & { readonly lateKey: string })[],
  nowMs: number,
): Promise<void> {
  if (events.length === 0) return;
  await atOnce(store, async (tx) => {
    const known = await standing(
      tx,
      machineId,
      events.map((e) => e.requestKey),
    );
    const late = events.flatMap((event): NewEvent[] => {
      const before = known.get(event.requestKey);
      if (!before) return [event];
      if (JSON.stringify(before.payload) === JSON.stringify(event.payload)) return [];
      const grade = (payload: unknown) => (payload as { grade?: number }).grade ?? -1;
      const counts = event.atMs > before.givenMs || grade(event.payload) > grade(before.payload);
      return counts ? [{ ...event, requestKey: `${event.requestKey}:late-${event.lateKey}`, corrects: before.id }] : [];
    });
    await appendEvents(tx, machineId, late, nowMs);
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
