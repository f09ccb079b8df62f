/** Sittings at the mirrors: what was marked, turned and shifted, in order; an entry taken back stays, struck out. */
import type { AimEntry } from "#core/aim";
import { atOnce, type Store } from "./database";

export interface Sitting {
  readonly id: number;
  readonly caseId: number | undefined;
  readonly startedMs: number;
  readonly endedMs: number | undefined;
  readonly ending: SittingEnding | undefined;
}

/** How a sitting ended: good, or left; with the words for it. */
export interface SittingEnding {
  readonly good: boolean;
  readonly words: string;
}

export interface KeptEntry {
  readonly id: number;
  readonly sittingId: number;
  readonly entry: AimEntry;
  readonly atMs: number;
  readonly withdrawn: boolean;
}

/** Opens a sitting, or gives back the one that is open: a machine has at most one. */
export async function openSitting(
  store: Store,
  machineId: number,
  sitting: { readonly caseId?: number | undefined; readonly requestKey: string; readonly entries: readonly AimEntry[] },
  nowMs: number,
): Promise<number> {
  return atOnce(store, async (tx) => {
    const open = await openSittingOf(tx, machineId);
    if (open) return open.id;
    const { id } = await tx
      .insertInto("aim_sitting")
      .values({
        machine_id: machineId,
        case_id: sitting.caseId ?? null,
        started_ms: nowMs,
        ended_ms: null,
        ending: null,
        request_key: sitting.requestKey,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    for (const [i, entry] of sitting.entries.entries()) await addEntry(tx, id, entry, `${sitting.requestKey}:${i}`, nowMs);
    return id;
  });
}

const sittingOfRow = (row: { id: number; case_id: number | null; started_ms: number; ended_ms: number | null; ending: string | null }) => ({
  id: row.id,
  caseId: row.case_id ?? undefined,
  startedMs: row.started_ms,
  endedMs: row.ended_ms ?? undefined,
  ending: row.ending === null ? undefined : (JSON.parse(row.ending) as SittingEnding),
});

/** The sitting that is open on a machine, if one is. */
export async function openSittingOf(store: Store, machineId: number): Promise<Sitting | undefined> {
  const row = await store
    .selectFrom("aim_sitting")
    .selectAll()
    .where("machine_id", "=", machineId)
    .where("ended_ms", "is", null)
    .executeTakeFirst();
  return row && sittingOfRow(row);
}

/** Sittings of a machine, oldest first. */
export async function sittingsOf(store: Store, machineId: number): Promise<Sitting[]> {
  const rows = await store.selectFrom("aim_sitting").selectAll().where("machine_id", "=", machineId).orderBy("id").execute();
  return rows.map(sittingOfRow);
}

/** All entries of a machine's sittings, oldest first. */
export async function entriesOf(store: Store, machineId: number): Promise<KeptEntry[]> {
  const rows = await store
    .selectFrom("aim_entry")
    .innerJoin("aim_sitting", "aim_sitting.id", "aim_entry.sitting_id")
    .selectAll("aim_entry")
    .where("aim_sitting.machine_id", "=", machineId)
    .orderBy("aim_entry.id")
    .execute();
  return rows.map((row) => ({
    id: row.id,
    sittingId: row.sitting_id,
    entry: JSON.parse(row.entry) as AimEntry,
    atMs: row.at_ms,
    withdrawn: row.withdrawn_ms !== null,
  }));
}

export async function addEntry(store: Store, sittingId: number, entry: AimEntry, requestKey: string, nowMs: number): Promise<void> {
  await store
    .insertInto("aim_entry")
    .values({ sitting_id: sittingId, entry: JSON.stringify(entry), at_ms: nowMs, withdrawn_ms: null, request_key: requestKey })
    .execute();
}

/** Takes an entry of a sitting back; it stays, struck out. Sent again it takes no other. */
export async function withdrawEntry(store: Store, sittingId: number, entryId: number, nowMs: number): Promise<void> {
  await store
    .updateTable("aim_entry")
    .set({ withdrawn_ms: nowMs })
    .where("id", "=", entryId)
    .where("sitting_id", "=", sittingId)
    .where("withdrawn_ms", "is", null)
    .execute();
}

/** Ends a sitting; false where it had ended before. */
export async function endSitting(store: Store, sittingId: number, ending: SittingEnding, nowMs: number): Promise<boolean> {
  const done = await store
    .updateTable("aim_sitting")
    .set({ ended_ms: nowMs, ending: JSON.stringify(ending) })
    .where("id", "=", sittingId)
    .where("ended_ms", "is", null)
    .executeTakeFirst();
  return done.numUpdatedRows > 0n;
}
