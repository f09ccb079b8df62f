import { closeSync, existsSync, mkdirSync, openSync, readSync, renameSync, rmSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { isMainThread } from "node:worker_threads";
import { type Kysely as AnyKysely, Kysely, type Migration, Migrator, sql } from "kysely";
import LibsqlDatabase from "libsql";
import { within } from "./kept";
import * as firstRelease from "./migrations/0001-first-release";
import { type Changes, type ExecutableDatabase, type OwnWriters, PatientDialect } from "./patience";
import { withoutSecrets } from "./secrets";
import type { Store, Tables } from "./tables";
import { type StoreTrouble, troubleOf } from "./trouble";

export type { Store };

/** Marks a file as ours ("CLNR"), so that somebody else's database is never touched. */
const APPLICATION_ID = 0x434c4e52;
/** A change of the database's shape, from the version before to its own. */
export interface Step {
  readonly version: number;
  readonly statements: readonly string[];
  /** What no list of statements can do. */
  readonly change?: (db: AnyKysely<unknown>) => Promise<void>;
}
export const MIGRATIONS: readonly Step[] = [firstRelease];
/** Under what Kysely keeps each: in order, as its files are called. */
const nameOf = (version: number) => String(version).padStart(4, "0");

/** The database file cannot be used; the message says what to do and the file is left as it was. */
export class DatabaseRefused extends Error {
  override name = "DatabaseRefused";
}

type Connection = ExecutableDatabase;

/** File in a data folder that holds everything. */
export function databaseFile(dataFolder: string): string {
  return join(dataFolder, "clenor.sqlite");
}

/**
 * Opens (and where needed creates and migrates) the database of a data folder. Throws `DatabaseRefused` for a corrupt file,
 * someone else's file or one written by a newer version, before anything in it is changed. `steps` are all changes of its shape there are.
 */
export async function openStore(dataFolder: string, steps: readonly Step[] = MIGRATIONS): Promise<Store> {
  try {
    return await open(dataFolder, steps);
  } catch (error) {
    const trouble = troubleOf(error);
    throw trouble ? refusedBy(dataFolder, trouble) : error;
  }
}

async function open(dataFolder: string, steps: readonly Step[]): Promise<Store> {
  if (!isMainThread)
    throw new TypeError("a thread joins a database that is open (joinStore): looking at its file would cost the others their locks");
  const newest = steps.length;
  mkdirSync(dataFolder, { recursive: true, mode: 0o700 });
  const file = databaseFile(dataFolder);
  const existed = existsSync(file) && statSync(file).size > 0;
  if (existed) refuseForeignFile(file);
  const found = versionOf(file);
  if (existed) {
    if (found.version > newest) {
      throw new DatabaseRefused(
        `The database ${file} was written by a newer Clenor (its version ${found.version}, this one knows ${newest}). Start the newer Clenor, or point CLENOR_DATA at another folder. Nothing was changed.`,
      );
    }
    if (found.applicationId !== APPLICATION_ID && found.version !== 0) {
      throw new DatabaseRefused(
        `${file} is a database, but not one of Clenor's. Point CLENOR_DATA at another folder. Nothing was changed.`,
      );
    }
  }
  const { store, connection } = storeOn(file);
  if (found.version < newest) {
    if (existed) backUp(connection, file, found.version);
    // Tables that are made anew are away for a moment; what refers to them is checked before any of it counts.
    connection.exec("PRAGMA foreign_keys = OFF");
    await migrate(store, steps);
    connection.exec("PRAGMA foreign_keys = ON");
  }
  connection.exec("PRAGMA busy_timeout = 0");
  return store;
}

/**
 * A further connection to a database that this process has open already, for a thread of its own; it is closed by `destroy()`. Nothing but
 * SQLite may touch the file here: a process that opens and closes it by other means loses the locks of all its connections with that
 * (POSIX), and the next one to close believes to be the last and takes the write-ahead log away from under the others.
 */
export function joinStore(dataFolder: string): Store {
  const { store, connection } = storeOn(databaseFile(dataFolder));
  connection.exec("PRAGMA busy_timeout = 0");
  return store;
}

function storeOn(file: string): { store: Store; connection: Connection } {
  const connection = connect(file);
  // Before the server answers, a lock may be waited for where it is met; later that would hold up everybody.
  connection.exec("PRAGMA busy_timeout = 1500");
  connection.exec("PRAGMA journal_mode = WAL");
  connection.exec("PRAGMA synchronous = FULL");
  connection.exec("PRAGMA foreign_keys = ON");
  const reader = connect(file);
  reader.exec("PRAGMA query_only = ON");
  reader.exec("PRAGMA busy_timeout = 100");
  const { ino } = statSync(file);
  const isOurs = () => statSync(file, { throwIfNoEntry: false })?.ino === ino;
  const changes: Changes = new Map();
  const own: OwnWriters = { count: 0 };
  const store = new Kysely<Tables>({ dialect: new PatientDialect(reader, connection, changes, own, isOurs) });
  changesIn.set(store, { changes, own, foreign: () => foreignChanges(connection) });
  return { store, connection };
}

const TROUBLE_WORDS: Readonly<Record<StoreTrouble["kind"], string>> = {
  full: "the disk is full",
  "read-only": "it cannot be written by this user",
  busy: "another program holds the file",
  failing: "the disk did not take it",
  gone: "its data file is not there any more",
};

function refusedBy(dataFolder: string, trouble: StoreTrouble): DatabaseRefused {
  return new DatabaseRefused(
    `The data folder ${dataFolder} cannot be used: ${TROUBLE_WORDS[trouble.kind]}. Mend that and start again, or point CLENOR_DATA at another folder. Nothing was changed.`,
  );
}

const changesIn = new WeakMap<Store, { readonly changes: Changes; readonly own: OwnWriters; readonly foreign: () => number }>();

/** While another thread of ours may be writing, this store's writes wait for it however long it takes, and do not say that they are locked out. */
export async function besideOwnWriter<T>(store: Store, work: () => Promise<T>): Promise<T> {
  const own = changesIn.get(store)?.own;
  if (!own) throw new TypeError("this is no store that was opened here");
  own.count++;
  try {
    return await work();
  } finally {
    own.count--;
  }
}

/** Counts changes that other connections made to the file. */
function foreignChanges(connection: Connection): number {
  const [row] = connection.prepare("PRAGMA data_version").all([]) as { data_version: number }[];
  return row?.data_version ?? 0;
}

/** A word for the state of all tables but some: as long as it stays the same, what was computed from them holds. */
export function stateWord(store: Store, except: ReadonlySet<string> = new Set()): string {
  const kept = changesIn.get(store);
  if (!kept) throw new TypeError("this is no store that was opened here");
  const counts = [...kept.changes].filter(([table]) => !except.has(table)).map(([table, n]) => `${table}${n}`);
  return `${kept.foreign()} ${counts.join(" ")}`;
}

/** Does several things at once or not at all, within the transaction that is already open or in one of its own. */
export function atOnce<T>(store: Store, work: (tx: Store) => Promise<T>): Promise<T> {
  if (store.isTransaction) return work(store);
  return store.transaction().execute((tx) => {
    within(tx, store);
    return work(tx);
  });
}

function connect(file: string): Connection {
  try {
    return new LibsqlDatabase(file) as unknown as Connection;
  } catch (error) {
    throw troubleOf(error) ?? corrupt(file, error);
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
    throw troubleOf(error) ?? corrupt(file, error);
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
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const copy = join(folder, `before-version-${version + 1}.sqlite`);
  // Beside its place first: a copy cut off by a power cut must not stand where a whole one stood.
  const part = `${copy}.part`;
  rmSync(part, { force: true });
  connection.exec(`VACUUM INTO '${part.replaceAll("'", "''")}'`);
  withoutSecrets(part);
  renameSync(part, copy);
}

/** All that is missing, in one transaction with the version it leads to. */
async function migrate(store: Store, steps: readonly Step[]): Promise<void> {
  const migrations = Object.fromEntries(steps.map((step) => [nameOf(step.version), migration(step)]));
  const migrator = new Migrator({ db: store, provider: { getMigrations: async () => migrations } });
  const { error } = await migrator.migrateToLatest();
  if (error) throw error;
}

const migration = ({ version, statements, change }: Step): Migration => ({
  async up(db: AnyKysely<unknown>) {
    for (const statement of statements) await sql.raw(statement).execute(db);
    await change?.(db);
    await sql.raw(`PRAGMA application_id = ${APPLICATION_ID}`).execute(db);
    await sql.raw(`PRAGMA user_version = ${version}`).execute(db);
  },
});
