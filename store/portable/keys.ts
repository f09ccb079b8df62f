/** Keys of records: here a record of a round is known by the round's number, in a file by the round's own key. */
import type { Store } from "../database";

/** Keys of rows by their ids. */
export const keysOf = (rows: readonly { readonly id: number; readonly request_key: string }[]): ReadonlyMap<number, string> =>
  new Map(rows.map((r) => [r.id, r.request_key]));

const OF_ROUND = /^round-(\d+):/;
const OF_ROUND_IN_FILE = /^round\((.*?)\):/;
export const fileKey = (key: string, roundKey: ReadonlyMap<number, string>): string =>
  key.replace(OF_ROUND, (all, id) => (roundKey.has(Number(id)) ? `round(${roundKey.get(Number(id))}):` : all));
export const ownKey = (key: string, roundOf: ReadonlyMap<string, number>): string =>
  key.replace(OF_ROUND_IN_FILE, (all, round) => (roundOf.has(round) ? `round-${roundOf.get(round)}:` : all));

/** The key of each record as a file gives it, by its id: one that names its round by the round's own key. */
export async function keysInFile(store: Store, machineId: number, kind: string): Promise<Map<number, string>> {
  const rounds = await store.selectFrom("round").select(["id", "request_key"]).where("machine_id", "=", machineId).execute();
  const roundKey = keysOf(rounds);
  const events = await store
    .selectFrom("event")
    .select(["id", "request_key"])
    .where("machine_id", "=", machineId)
    .where("kind", "=", kind)
    .execute();
  return new Map(events.map((e) => [e.id, fileKey(e.request_key, roundKey)]));
}
