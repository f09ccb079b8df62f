import { closeSync, existsSync, mkdirSync, openSync, readSync, rmSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { Kysely, type SqliteDatabase, SqliteDialect, sql } from "kysely";
import LibsqlDatabase from "libsql";
import * as initial from "./migrations/0001-initial";
import * as wholeMachine from "./migrations/0002-whole-machine";
import type { Tables } from "./tables";

export type Store = Kysely<Tables>;

/** Marks a file as ours ("CLNR"), so that somebody else's database is never touched. */
const APPLICATION_ID = 0x434c4e52;
const MIGRATIONS = [initial, wholeMachine];
export const NEWEST_VERSION = MIGRATIONS.length;

/** The database file cannot be used; the message says what to do and the file is left as it was. */
export class DatabaseRefused extends Error {
  override name = "DatabaseRefused";
}

/** The parts of the driver we use beyond what Kysely asks for. */
interface Connection extends SqliteDatabase {
  pragma(text: string): unknown;
  exec(sql: string): unknown;
}

/** File in a data folder that holds everything. */
export function databaseFile(dataFolder: string): string {
  return join(dataFolder, "clenor.sqlite");
}

/**
 * Opens (and where needed creates and migrates) the database of a data folder. Throws `DatabaseRefused` for a corrupt file,
 * someone else's file or one written by a newer version, before anything in it is changed.
 */
export function openStore(dataFolder: string): Store {
  mkdirSync(dataFolder, { recursive: true });
  const file = databaseFile(dataFolder);
  const existed = existsSync(file) && statSync(file).size > 0;
  if (existed) refuseForeignFile(file);
  const found = versionOf(file);
  if (existed) {
    if (found.version > NEWEST_VERSION) {
      throw new DatabaseRefused(
        `The database ${file} was written by a newer Clenor (its version ${found.version}, this one knows ${NEWEST_VERSION}). Start the newer Clenor, or point CLENOR_DATA at another folder. Nothing was changed.`,
      );
    }
    if (found.applicationId !== APPLICATION_ID && found.version !== 0) {
      throw new DatabaseRefused(
        `${file} is a database, but not one of Clenor's. Point CLENOR_DATA at another folder. Nothing was changed.`,
      );
    }
  }
  const connection = connect(file);
  connection.exec("PRAGMA journal_mode = WAL");
  connection.exec("PRAGMA synchronous = FULL");
  connection.exec("PRAGMA foreign_keys = ON");
  connection.exec("PRAGMA busy_timeout = 5000");
  if (found.version < NEWEST_VERSION) {
    if (existed) backUp(connection, file, found.version);
    migrate(connection, found.version);
  }
  return new Kysely<Tables>({ dialect: new SqliteDialect({ database: connection }) });
}

function connect(file: string): Connection {
  try {
    return new LibsqlDatabase(file) as unknown as Connection;
  } catch (error) {
    throw corrupt(file, error);
  }
}

/** Looks at the first bytes only: a file that is not SQLite must not even be opened for writing. */
function refuseForeignFile(file: string): void {
  const head = Buffer.alloc(16);
  const handle = openSync(file, "r");
  try {
    readSync(handle, head, 0, 16, 0);
  } finally {
    closeSync(handle);
  }
  if (head.toString("latin1") !== "SQLite format 3\0") throw corrupt(file, new Error("it does not begin like a database"));
}

function corrupt(file: string, error: unknown): DatabaseRefused {
  const why = error instanceof Error ? error.message : String(error);
  return new DatabaseRefused(
    `The database ${file} cannot be read (${why}). Move it aside and put the newest copy from ${join(dirname(file), "copies")} in its place, or point CLENOR_DATA at another folder. Nothing was changed.`,
  );
}

/** Reads version and owner over a connection of its own, which leaves no statement open on the one that is used. */
function versionOf(file: string): { version: number; applicationId: number } {
  const connection = connect(file);
  try {
    const check = connection.prepare("PRAGMA quick_check").all([]) as { quick_check: string }[];
    if (check[0]?.quick_check !== "ok") throw new Error(check[0]?.quick_check ?? "its own check failed");
    const [version] = connection.prepare("PRAGMA user_version").all([]) as { user_version: number }[];
    const [application] = connection.prepare("PRAGMA application_id").all([]) as { application_id: number }[];
    return { version: version?.user_version ?? 0, applicationId: application?.application_id ?? 0 };
  } catch (error) {
    throw corrupt(file, error);
  } finally {
    connection.close();
  }
}

/** Folds the write-ahead log into the file and closes it, so that the one file is the whole database. */
export async function closeStore(store: Store): Promise<void> {
  await sql`PRAGMA wal_checkpoint(TRUNCATE)`.execute(store);
  await store.destroy();
}

function backUp(connection: Connection, file: string, version: number): void {
  const folder = join(dirname(file), "copies");
  mkdirSync(folder, { recursive: true });
  const copy = join(folder, `before-version-${version + 1}.sqlite`);
  rmSync(copy, { force: true });
  connection.exec(`VACUUM INTO '${copy.replaceAll("'", "''")}'`);
}

function migrate(connection: Connection, from: number): void {
  for (const migration of MIGRATIONS.slice(from)) {
    connection.exec("BEGIN IMMEDIATE");
    try {
      for (const statement of migration.statements) connection.exec(statement);
      connection.exec(`PRAGMA application_id = ${APPLICATION_ID}`);
      connection.exec(`PRAGMA user_version = ${migration.version}`);
      connection.exec("COMMIT");
    } catch (error) {
      connection.exec("ROLLBACK");
      throw error;
    }
  }
}
