import type { Selectable } from "kysely";
import { advance, EMPTY_LOG, type EventKind, type EventLog, type EventPayload, eventSchemas, type MachineEvent } from "#core/events";
import { check } from "./check";
import { atOnce, type Store } from "./database";
import { KeptBeside } from "./kept";
import type { Tables } from "./tables";

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

/** A record that is not of its kind's shape. Nothing was written: it is a fault of the caller, never a person's. */
export class MalformedRecord extends Error {
  override readonly name = "MalformedRecord";
}

function eventRow(machineId: number, event: NewEvent, nowMs: number) {
  const schema = Object.hasOwn(eventSchemas, event.kind) ? eventSchemas[event.kind] : undefined;
  const checked = schema && check(schema, event.payload);
  if (!checked?.ok)
    throw new MalformedRecord(`a record "${event.kind}" cannot be kept: ${JSON.stringify(checked?.errors ?? "no such kind")}`);
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

/** The record that a form with this key became. Throws where there is none. */
export async function eventIdOf(store: Store, machineId: number, requestKey: string): Promise<number> {
  const row = await store
    .selectFrom("event")
    .select("id")
    .where("machine_id", "=", machineId)
    .where("request_key", "=", requestKey)
    .executeTakeFirstOrThrow();
  return row.id;
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

/** In the keys of corrections that a late answer made. */
const LATE = ":late-";

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
      return counts ? [{ ...event, requestKey: `${event.requestKey}${LATE}${event.lateKey}`, corrects: before.id }] : [];
    });
    await appendEvents(tx, machineId, late, nowMs);
  });
}

const logs = new KeptBeside<EventLog>();

/** The log of a machine as it stands. Records are only ever appended, so one that was read before is brought forward by what is newer. */
export async function readLog(store: Store, machineId: number): Promise<EventLog> {
  const known = logs.get(store, machineId) ?? EMPTY_LOG;
  const rows = await store
    .selectFrom("event")
    .select(COLUMNS)
    .where("machine_id", "=", machineId)
    .where("id", ">", known.lastId)
    .orderBy("id")
    .execute();
  const log = advance(known, rows.map(recordOf));
  logs.set(store, machineId, log);
  return log;
}

const COLUMNS = ["id", "kind", "at_ms", "payload", "corrects", "voids", "round_id", "case_id"] as const;

function recordOf(row: Pick<Selectable<Tables["event"]>, (typeof COLUMNS)[number]>): MachineEvent {
  return {
    id: row.id,
    kind: row.kind as EventKind,
    atMs: row.at_ms,
    payload: JSON.parse(row.payload) as unknown,
    corrects: row.corrects ?? undefined,
    voids: row.voids === 1,
    roundId: row.round_id ?? undefined,
    caseId: row.case_id ?? undefined,
  } as MachineEvent;
}

/** Every record of a machine as it was written, corrections beside what they correct, oldest first. */
export async function listRecords(store: Store, machineId: number): Promise<MachineEvent[]> {
  const rows = await store.selectFrom("event").select(COLUMNS).where("machine_id", "=", machineId).orderBy("id").execute();
  return rows.map(recordOf);
}

/** Every record that belongs to a round, as it was written, oldest first; `late` came in after its end, from a device that was offline. */
export async function recordsOfRound(store: Store, roundId: number): Promise<{ record: MachineEvent; late: boolean }[]> {
  const rows = await store
    .selectFrom("event")
    .select([...COLUMNS, "request_key"])
    .where("round_id", "=", roundId)
    .orderBy("id")
    .execute();
  return rows.map((row) => ({ record: recordOf(row), late: row.request_key.includes(LATE) }));
}
