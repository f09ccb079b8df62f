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
import { atOnce, closeStore, DatabaseRefused, databaseFile, openStore, type Store } from "./database";
import { forget } from "./kept";
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
    .map((name) => {
      const { mtimeMs, size } = statSync(join(copies, name));
      return { name, atMs: mtimeMs, bytes: size };
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

/**
 * Puts everything back to how it was in a copy, in one transaction, after a copy of how it is now; gives the name of that. An older copy is
 * brought to this version first, beside its place. Throws DatabaseRefused for one that cannot be used; nothing is changed then.
 */
export async function restoreBackup(store: Store, folder: string, name: string, nowMs: number): Promise<string> {
  const copy = join(folder, COPIES, name);
  if (!NAME.test(name) || !existsSync(copy)) throw new DatabaseRefused("This copy is not there any more.");
  const beside = mkdtempSync(join(folder, COPIES, "restoring-"));
  try {
    copyFileSync(copy, databaseFile(beside));
    await closeStore(await openStore(beside));
    const before = await makeBackup(store, folder, nowMs, "before-restore");
    await sql`ATTACH ${databaseFile(beside)} AS copy`.execute(store);
    try {
      await atOnce(store, async (tx) => {
        await sql`PRAGMA defer_foreign_keys = ON`.execute(tx);
        for (const table of [...TABLES].reverse()) await tx.deleteFrom(table).execute();
        for (const table of TABLES) {
          const { rows } = await sql<{ name: string }>`SELECT name FROM pragma_table_info(${table})`.execute(tx);
          const columns = sql.join(rows.map((r) => sql.ref(r.name)));
          await sql`INSERT INTO ${sql.table(table)} (${columns}) SELECT ${columns} FROM copy.${sql.table(table)}`.execute(tx);
        }
      });
    } finally {
      await sql`DETACH copy`.execute(store);
    }
    forget(store);
    return before;
  } finally {
    rmSync(beside, { recursive: true, force: true });
  }
}
