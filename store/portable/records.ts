/** Records of one table into the log of one machine. */
import type { Insertable } from "kysely";
import { atOnce, type Store } from "../database";
import type { Tables } from "../tables";
import { ownKey } from "./keys";
import {
  CannotMerge,
  type Count,
  type Course,
  type ImportCounts,
  insertEvents,
  parts,
  STRAIGHT_ON,
  saysTheSame,
  unlessKeyTaken,
} from "./rows";

/** Records that another machine has: its table was taken for this one's. Throws CannotMerge. */
async function refuseForeign(tx: Store, machineId: number, rows: readonly Insertable<Tables["event"]>[]): Promise<void> {
  for (const part of parts(rows)) {
    const keys = part.map((r) => r.request_key);
    const other = await tx
      .selectFrom("event")
      .innerJoin("machine", "machine.id", "event.machine_id")
      .select("machine.name")
      .where("event.request_key", "in", keys)
      .where("event.machine_id", "!=", machineId)
      .executeTakeFirst();
    if (other) throw new CannotMerge(`These records are ${other.name}'s: take the table in there, or leave its column "key" out.`);
  }
}

/** A record of a table, checked. */
export interface TableRecord {
  readonly kind: string;
  readonly key: string;
  readonly atMs: number;
  readonly payload: object;
}

/** Takes checked records of one machine in: those whose key is known are left as they are. `isTrial` only counts. Throws CannotMerge, Stopped. */
export async function importRecords(
  store: Store,
  machineId: number,
  records: readonly TableRecord[],
  nowMs: number,
  isTrial: boolean,
  course: Course = STRAIGHT_ON,
): Promise<ImportCounts> {
  const taken = atOnce(store, async (tx) => {
    const rounds = await tx.selectFrom("round").select(["id", "request_key"]).where("machine_id", "=", machineId).execute();
    const roundOf = new Map(rounds.map((r) => [r.request_key, r.id]));
    const here = await tx.selectFrom("event").select(["request_key", "payload"]).where("machine_id", "=", machineId).execute();
    const known = new Map(here.map((e) => [e.request_key, e.payload]));
    const count: Count = { machines: 0, materials: 0, cases: 0, rounds: 0, events: 0, known: 0, differ: 0 };
    const rows: Insertable<Tables["event"]>[] = [];
    for (const r of records) {
      const key = ownKey(r.key, roundOf);
      const payload = JSON.stringify(r.payload);
      const before = known.get(key);
      if (before === undefined) {
        rows.push({
          machine_id: machineId,
          kind: r.kind,
          at_ms: r.atMs,
          recorded_ms: nowMs,
          payload,
          corrects: null,
          round_id: null,
          case_id: null,
          request_key: key,
        });
        continue;
      }
      count.known++;
      if (!saysTheSame(before, r.payload)) count.differ++;
    }
    await refuseForeign(tx, machineId, rows);
    count.events = rows.length;
    if (!isTrial) await insertEvents(tx, rows, course);
    return count;
  });
  return unlessKeyTaken(taken);
}
