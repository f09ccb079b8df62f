/** Devices that are signed in. Only the hash of a device's token is kept, so that a copy of the file lets nobody in. */
import { createHash, randomBytes } from "node:crypto";
import type { Store } from "./database";

export interface Session {
  readonly id: number;
  readonly device: string;
  readonly address: string;
  readonly createdMs: number;
  readonly seenMs: number;
}

const SEEN_EVERY_MS = 60_000;

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** Begins a session; its token is for the device alone and kept nowhere here. */
export async function beginSession(store: Store, device: string, address: string, nowMs: number): Promise<string> {
  const token = randomBytes(32).toString("base64url");
  await store
    .insertInto("session")
    .values({ token_hash: hashOf(token), device, address, created_ms: nowMs, seen_ms: nowMs })
    .execute();
  return token;
}

/** The session of a token, unless it began before `sinceMs`. Notes that the device was seen, once a minute. */
export async function findSession(
  store: Store,
  token: string,
  address: string,
  nowMs: number,
  sinceMs: number,
): Promise<Session | undefined> {
  const row = await store.selectFrom("session").selectAll().where("token_hash", "=", hashOf(token)).executeTakeFirst();
  if (!row || row.created_ms < sinceMs) return undefined;
  if (nowMs - row.seen_ms > SEEN_EVERY_MS || row.address !== address) {
    // Nobody waits for that note, and a disk that does not take it keeps nobody out.
    void store
      .updateTable("session")
      .set({ seen_ms: nowMs, address })
      .where("id", "=", row.id)
      .execute()
      .catch(() => undefined);
  }
  return { id: row.id, device: row.device, address: row.address, createdMs: row.created_ms, seenMs: row.seen_ms };
}

/** Sessions that still hold, the one seen last first. */
export async function listSessions(store: Store, sinceMs: number): Promise<Session[]> {
  const rows = await store.selectFrom("session").selectAll().where("created_ms", ">=", sinceMs).orderBy("seen_ms", "desc").execute();
  return rows.map((r) => ({ id: r.id, device: r.device, address: r.address, createdMs: r.created_ms, seenMs: r.seen_ms }));
}

export async function endSession(store: Store, id: number): Promise<void> {
  await store.deleteFrom("session").where("id", "=", id).execute();
}

export async function endAllSessions(store: Store): Promise<void> {
  await store.deleteFrom("session").execute();
}
