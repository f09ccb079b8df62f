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
import LibsqlDatabase from "libsql";
import { atOnce, closeStore, DatabaseRefused, databaseFile, joinStore, openStore, type Store } from "./database";
import { forget } from "./kept";
import { listPhotos, removeUnknown } from "./photos";
import { STAYS, withoutSecrets } from "./secrets";
import type { Tables } from "./tables";
import { troubleOf } from "./trouble";

export interface Backup {
  readonly name: string;
  readonly atMs: number;
  readonly bytes: number;
}

const COPIES = "copies";
const NAME = /^[a-z0-9-]+\.sqlite$/;

/** Where copies lie beside a database. */
export const copiesOf = (folder: string): string => join(folder, COPIES);

/** Copies in a place, newest first. Those that were made before a migration stand among them. */
export function listCopies(place: string): Backup[] {
  if (!existsSync(place)) return [];
  return readdirSync(place)
    .filter((name) => NAME.test(name))
    .flatMap((name) => {
      // A folder of such a name, or a link that leads nowhere, is no copy.
      const found = statSync(join(place, name), { throwIfNoEntry: false });
      return found?.isFile() ? [{ name, atMs: madeMs(name) ?? found.mtimeMs, bytes: found.size }] : [];
    })
    .sort((a, b) => b.atMs - a.atMs || b.name.localeCompare(a.name));
}

/** When a copy was made, by its name: its file may have been moved since. */
function madeMs(name: string): number | undefined {
  const [, day, h, m, s] = /-(\d{4}-\d\d-\d\d)-(\d\d)-(\d\d)-(\d\d)(?:-\d+)?\.sqlite$/.exec(name) ?? [];
  const ms = day === undefined ? Number.NaN : Date.parse(`${day}T${h}:${m}:${s}Z`);
  return Number.isFinite(ms) ? ms : undefined;
}

export const listBackups = (folder: string): Backup[] => listCopies(copiesOf(folder));

/** Makes a copy beside the database and gives its name. Throws StoreTrouble when the disk does not take it. */
export const makeBackup = (store: Store, folder: string, nowMs: number, why = "copy"): Promise<string> =>
  makeCopy(store, copiesOf(folder), nowMs, why);

/** Makes a copy in a place, whole or not at all, and gives its name. Throws StoreTrouble when the disk does not take it. */
export async function makeCopy(store: Store, place: string, nowMs: number, why: string): Promise<string> {
  const stamp = new Date(nowMs).toISOString().slice(0, 19).replace(/[T:]/g, "-");
  let name = `${why}-${stamp}.sqlite`;
  for (let n = 2; existsSync(join(place, name)); n++) name = `${why}-${stamp}-${n}.sqlite`;
  const part = join(place, `${name}.part`);
  try {
    mkdirSync(place, { recursive: true, mode: 0o700 });
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
    renameSync(part, join(place, name));
  } catch (error) {
    rmSync(part, { force: true });
    throw troubleOf(error) ?? error;
  }
  return name;
}

export function removeCopy(place: string, name: string): void {
  if (NAME.test(name)) rmSync(join(place, name), { force: true });
}

/**
 * Takes away photos that neither the database nor any of its copies knows: what a take-in left that was undone. Where a copy cannot be read
 * nothing is taken away, since nobody knows what it would need.
 */
export async function sweepOrphans(store: Store, folder: string, otherPlace?: string): Promise<void> {
  const known = new Set((await listPhotos(store)).map((p) => p.hash));
  // A stick that is out may hold copies that need any of them.
  if (otherPlace !== undefined && !existsSync(otherPlace)) return;
  try {
    for (const place of [copiesOf(folder), ...(otherPlace === undefined ? [] : [otherPlace])])
      for (const { name } of listCopies(place)) for (const hash of photosIn(join(place, name))) known.add(hash);
  } catch {
    return;
  }
  removeUnknown(folder, known);
}

function photosIn(file: string): string[] {
  const copy = new LibsqlDatabase(file);
  try {
    const has = copy.prepare("SELECT 1 FROM sqlite_schema WHERE type = 'table' AND name = 'photo'").all([]).length > 0;
    return has ? (copy.prepare("SELECT hash FROM photo").all([]) as { hash: string }[]).map((r) => r.hash) : [];
  } finally {
    copy.close();
  }
}

/** Opens a copy and gives how many machines it holds. Throws where it is not whole. */
export async function checkBackup(place: string, name: string): Promise<number> {
  const copy = new LibsqlDatabase(join(place, name));
  try {
    const [check] = copy.prepare("PRAGMA integrity_check").all([]) as { integrity_check: string }[];
    if (check?.integrity_check !== "ok") throw new DatabaseRefused("The copy is not whole.");
    const [row] = copy.prepare("SELECT count(*) AS n FROM machine").all([]) as { n: number }[];
    return row?.n ?? 0;
  } finally {
    copy.close();
  }
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
  { place = copiesOf(folder), name }: { readonly place?: string | undefined; readonly name: string },
  nowMs: number,
  isSound: (tx: Store) => Promise<void>,
): Promise<string> {
  const copy = join(place, name);
  if (!NAME.test(name) || !existsSync(copy)) throw new DatabaseRefused("This copy is not there any more.");
  let beside: string | undefined;
  try {
    mkdirSync(copiesOf(folder), { recursive: true, mode: 0o700 });
    beside = mkdtempSync(join(copiesOf(folder), BESIDE));
    await madeReady(copy, beside);
    await sql`ATTACH ${databaseFile(beside)} AS copy`.execute(store);
    try {
      return await atOnce(store, async (tx) => {
        const reader = joinStore(folder);
        const before = await makeBackup(reader, folder, nowMs, "before-restore").finally(() => reader.destroy());
        await sql`PRAGMA defer_foreign_keys = ON`.execute(tx);
        for (const table of [...TABLES].reverse()) {
          const all = tx.deleteFrom(table);
          await (table === "setting" ? all.where("name", "not in", STAYS) : all).execute();
        }
        for (const table of TABLES) {
          const { rows } = await sql<{ name: string }>`SELECT name FROM pragma_table_info(${table})`.execute(tx);
          const columns = sql.join(rows.map((r) => sql.ref(r.name)));
          const of = table === "setting" ? sql`WHERE name NOT IN (${sql.join([...STAYS])})` : sql``;
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
