/** Copies of the whole database in its folder: made whole or not at all, and taken back in one transaction. */
import {
  closeSync,
  copyFileSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from "node:fs";
import { join } from "node:path";
import { sql } from "kysely";
import { atOnce, closeStore, DatabaseRefused, databaseFile, joinStore, openStore, type Store } from "./database";
import { forget } from "./kept";
import { SECRETS, withoutSecrets } from "./secrets";
import type { Tables } from "./tables";
import { troubleOf } from "./trouble";

export interface Backup {
  readonly name: string;
  readonly atMs: number;
  readonly bytes: number;
}

const COPIES = "copies";
const NAME = /^[a-z0-9-]+\.sqlite$/;

/** Newest first. Copies that were made before a migration stand among them. */
export function listBackups(folder: string): Backup[] {
  const copies = join(folder, COPIES);
  if (!existsSync(copies)) return [];
  return readdirSync(copies)
    .filter((name) => NAME.test(name))
    .flatMap((name) => {
      // A folder of such a name, or a link that leads nowhere, is no copy.
      const found = statSync(join(copies, name), { throwIfNoEntry: false });
      return found?.isFile() ? [{ name, atMs: found.mtimeMs, bytes: found.size }] : [];
    })
    .sort((a, b) => b.atMs - a.atMs || b.name.localeCompare(a.name));
}

/** Makes a copy and gives its name. Throws StoreTrouble when the disk does not take it. */
export async function makeBackup(store: Store, folder: string, nowMs: number, why = "copy"): Promise<string> {
  const copies = join(folder, COPIES);
  const stamp = new Date(nowMs).toISOString().slice(0, 19).replace(/[T:]/g, "-");
  let name = `${why}-${stamp}.sqlite`;
  for (let n = 2; existsSync(join(copies, name)); n++) name = `${why}-${stamp}-${n}.sqlite`;
  const part = join(copies, `${name}.part`);
  try {
    mkdirSync(copies, { recursive: true, mode: 0o700 });
    rmSync(part, { force: true });
    await sql`VACUUM INTO ${part}`.execute(store);
    withoutSecrets(part);
    // Said to be there: so it has to be on the disk, not on its way to it.
    const file = openSync(part, "r+");
    try {
      fsyncSync(file);
    } finally {
      closeSync(file);
    }
    renameSync(part, join(copies, name));
  } catch (error) {
    rmSync(part, { force: true });
    throw troubleOf(error) ?? error;
  }
  return name;
}

/** In the order in which none refers to one that is not there yet. Devices that are signed in stay as they are. */
const TABLES = [
  "machine",
  "material",
  "trace_case",
  "round",
  "round_answer",
  "finding",
  "aim_sitting",
  "aim_entry",
  "event",
  "photo",
  "setting",
  "sent_form",
] as const satisfies readonly (keyof Tables)[];

const NOT_OURS = "This copy cannot be used: it is damaged, or not one of Clenor's. Choose another. Nothing was changed.";

/** A copy made ready beside its place: brought to this version, whole in itself, and of a workshop. Throws DatabaseRefused. */
async function madeReady(copy: string, beside: string): Promise<void> {
  // An empty file would be opened as a new database, and everything would be gone.
  if (!statSync(copy).isFile() || statSync(copy).size === 0) throw new DatabaseRefused(NOT_OURS);
  copyFileSync(copy, databaseFile(beside));
  let opened: Store;
  try {
    opened = await openStore(beside);
  } catch (error) {
    // A newer version's copy says so itself; of a damaged one the path beside its place would help nobody.
    if (error instanceof DatabaseRefused && /newer Clenor/.test(error.message))
      throw new DatabaseRefused("This copy was made by a newer Clenor. Use that one, or choose another copy. Nothing was changed.");
    throw error instanceof DatabaseRefused || !troubleOf(error) ? new DatabaseRefused(NOT_OURS) : error;
  }
  let machines = 0;
  try {
    for (const table of TABLES) await sql`SELECT 1 FROM ${sql.table(table)} LIMIT 1`.execute(opened);
    const { rows } = await sql`SELECT 1 FROM pragma_foreign_key_check LIMIT 1`.execute(opened);
    if (rows.length > 0) throw new DatabaseRefused(NOT_OURS);
    machines = (await opened.selectFrom("machine").select("id").execute()).length;
  } catch (error) {
    throw troubleOf(error) ?? new DatabaseRefused(NOT_OURS);
  } finally {
    await closeStore(opened);
  }
  if (machines === 0) throw new DatabaseRefused("This copy holds no machine. Choose another. Nothing was changed.");
}

/**
 * Puts everything back to how it was in a copy, in one transaction, after a copy of how it is now; gives the name of that. Nobody writes in
 * between: what was acknowledged before is in the copy made now. An older copy is brought to this version first, beside its place. `isSound`
 * reads what came in before it counts, and throws where it cannot be read. Throws DatabaseRefused for one that cannot be used; nothing is
 * changed then.
 */
export async function restoreBackup(
  store: Store,
  folder: string,
  name: string,
  nowMs: number,
  isSound: (tx: Store) => Promise<void>,
): Promise<string> {
  const copy = join(folder, COPIES, name);
  if (!NAME.test(name) || !existsSync(copy)) throw new DatabaseRefused("This copy is not there any more.");
  let beside: string | undefined;
  try {
    beside = mkdtempSync(join(folder, COPIES, BESIDE));
    await madeReady(copy, beside);
    await sql`ATTACH ${databaseFile(beside)} AS copy`.execute(store);
    try {
      return await atOnce(store, async (tx) => {
        const reader = joinStore(folder);
        const before = await makeBackup(reader, folder, nowMs, "before-restore").finally(() => reader.destroy());
        await sql`PRAGMA defer_foreign_keys = ON`.execute(tx);
        for (const table of [...TABLES].reverse()) {
          const all = tx.deleteFrom(table);
          await (table === "setting" ? all.where("name", "not in", SECRETS) : all).execute();
        }
        for (const table of TABLES) {
          const { rows } = await sql<{ name: string }>`SELECT name FROM pragma_table_info(${table})`.execute(tx);
          const columns = sql.join(rows.map((r) => sql.ref(r.name)));
          const of = table === "setting" ? sql`WHERE name NOT IN (${sql.join([...SECRETS])})` : sql``;
          await sql`INSERT INTO ${sql.table(table)} (${columns}) SELECT ${columns} FROM copy.${sql.table(table)} ${of}`.execute(tx);
        }
        forget(store);
        await isSound(tx);
        return before;
      });
    } finally {
      forget(store);
      await sql`DETACH copy`.execute(store);
    }
  } catch (error) {
    throw troubleOf(error) ?? error;
  } finally {
    if (beside !== undefined) rmSync(beside, { recursive: true, force: true });
  }
}

const BESIDE = "restoring-";

/** Takes away what a power cut left of copies that were being made or taken back. */
export function sweepCopies(folder: string): void {
  const copies = join(folder, COPIES);
  if (!existsSync(copies)) return;
  for (const name of readdirSync(copies))
    if (name.startsWith(BESIDE) || name.endsWith(".part")) rmSync(join(copies, name), { recursive: true, force: true });
}
