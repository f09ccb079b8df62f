/**
 * Kysely's SQLite driver with four manners of its own. Reads have a connection to themselves: what waits to be written holds none of them
 * up. A transaction takes the write lock at its start. A lock of another program is waited for without stopping the event loop (and not
 * for long), and before anything is held. And each table counts its changes, so that what was computed from it can be kept until it changes.
 */
import {
  type CompiledQuery,
  type DatabaseConnection,
  type DialectAdapter,
  type Driver,
  type QueryResult,
  SqliteAdapter,
  type SqliteDatabase,
  SqliteDialect,
  TableNode,
} from "kysely";
import { isBusy, StoreTrouble, troubleOf } from "./trouble";

/** A foreign lock is waited for this long in all; then every write says so at once until it is gone. */
const PATIENCE_MS = 1500;
const PAUSE_MS = 20;
/** A lock met this long after the last one is another one. */
const ANOTHER_MS = 5000;

export type Changes = Map<string, number>;

/** How many threads of our own may be holding the write lock: they are waited for however long they take. */
export interface OwnWriters {
  count: number;
}

/** What is used of a connection besides what Kysely asks for. `exec` leaves no statement open when it fails, as a prepared one would. */
export interface ExecutableDatabase extends SqliteDatabase {
  exec(sql: string): unknown;
}

/** One after the other: each waits for those before it. */
class Turns {
  private last: Promise<void> = Promise.resolve();

  /** Waits for its turn, and gives what ends it. */
  async take(): Promise<() => void> {
    const before = this.last;
    let end = () => {};
    this.last = new Promise((done) => {
      end = done;
    });
    await before;
    return end;
  }
}

/** The one connection that writes: by whose turn it is. */
class Writer {
  private readonly turns = new Turns();
  private firstMs = 0;
  private lastMs = 0;

  constructor(
    readonly database: ExecutableDatabase,
    readonly changes: Changes,
    private readonly own: OwnWriters,
    private readonly isOurs: () => boolean,
  ) {}

  turn(): Promise<() => void> {
    return this.turns.take();
  }

  /** Takes the write lock, waiting for it off the event loop. Throws StoreTrouble when another program keeps it, or the file is gone. */
  async begin(): Promise<void> {
    if (!this.isOurs()) throw new StoreTrouble("gone", undefined);
    for (;;) {
      try {
        this.database.exec("BEGIN IMMEDIATE");
        this.firstMs = 0;
        return;
      } catch (error) {
        if (!isBusy(error) || !this.mayWait()) throw troubleOf(error) ?? error;
        await new Promise((done) => setTimeout(done, PAUSE_MS));
      }
    }
  }

  private mayWait(): boolean {
    const now = performance.now();
    if (this.own.count > 0) this.firstMs = 0;
    if (this.firstMs === 0 || now - this.lastMs > ANOTHER_MS) this.firstMs = now;
    this.lastMs = now;
    return now - this.firstMs <= PATIENCE_MS;
  }

  commit(): void {
    try {
      this.database.exec("COMMIT");
    } catch (error) {
      throw troubleOf(error) ?? error;
    }
  }

  rollback(): void {
    try {
      this.database.exec("ROLLBACK");
    } catch (error) {
      // A full disk makes SQLite roll back by itself; why it did is the error worth telling.
      if (!(error instanceof Error && error.message.includes("no transaction is active"))) throw error;
    }
  }
}

/** Carries one statement out, there and then: nothing is left open behind it. */
function run<R>(database: SqliteDatabase, { sql, parameters }: CompiledQuery): QueryResult<R> {
  const statement = database.prepare(sql);
  if (statement.reader) return { rows: statement.all(parameters) as R[] };
  const { changes, lastInsertRowid } = statement.run(parameters);
  return { numAffectedRows: BigInt(changes), insertId: BigInt(lastInsertRowid), rows: [] };
}

/** What a query or a transaction is carried out on: a read at once and beside every writer, a change in its turn. */
class PatientConnection implements DatabaseConnection {
  /** Ends the turn of the transaction that is open on it. */
  private end: (() => void) | undefined;

  constructor(
    private readonly reader: ExecutableDatabase,
    private readonly writer: Writer,
  ) {}

  async begin(): Promise<void> {
    const end = await this.writer.turn();
    try {
      await this.writer.begin();
      this.end = end;
    } catch (error) {
      end();
      throw error;
    }
  }

  finish(how: "commit" | "rollback"): void {
    this.writer[how]();
  }

  /** It is given back, whatever became of its transaction: the next one's turn comes. */
  done(): void {
    this.end?.();
    this.end = undefined;
  }

  async executeQuery<R>(query: CompiledQuery): Promise<QueryResult<R>> {
    const table = changedBy(query);
    try {
      if (this.end) return this.counted(query, table);
      if (isRead(query)) return run<R>(this.reader, query);
    } catch (error) {
      throw troubleOf(error) ?? error;
    }
    const end = await this.writer.turn();
    try {
      return table === undefined ? run<R>(this.writer.database, query) : await this.alone<R>(query, table);
    } catch (error) {
      throw troubleOf(error) ?? error;
    } finally {
      end();
    }
  }

  private async alone<R>(query: CompiledQuery, table: string): Promise<QueryResult<R>> {
    await this.writer.begin();
    try {
      const result = this.counted<R>(query, table);
      this.writer.commit();
      return result;
    } catch (error) {
      this.writer.rollback();
      throw error;
    }
  }

  private counted<R>(query: CompiledQuery, table: string | undefined): QueryResult<R> {
    const result = run<R>(this.writer.database, query);
    const { changes } = this.writer;
    if (table !== undefined) changes.set(table, (changes.get(table) ?? 0) + 1);
    return result;
  }

  // biome-ignore lint/correctness/useYield: nothing here is streamed, and whoever asks is told so.
  async *streamQuery<R>(): AsyncIterableIterator<QueryResult<R>> {
    throw new TypeError("rows are read at once here, not streamed");
  }
}

/** Whether a statement only reads; what is written by hand, by its first word. */
const isRead = ({ query, sql }: CompiledQuery): boolean =>
  query.kind === "SelectQueryNode" || (query.kind === "RawNode" && /^\s*(select|with|explain)\b/i.test(sql));

/** The table a statement changes; undefined for one that reads. */
function changedBy({ query }: CompiledQuery): string | undefined {
  const node =
    query.kind === "InsertQueryNode"
      ? query.into
      : query.kind === "UpdateQueryNode"
        ? query.table
        : query.kind === "DeleteQueryNode"
          ? query.from.froms[0]
          : undefined;
  return node && TableNode.is(node) ? node.table.identifier.name : undefined;
}

class PatientDriver implements Driver {
  private readonly writer: Writer;

  constructor(
    private readonly reader: ExecutableDatabase,
    database: ExecutableDatabase,
    changes: Changes,
    own: OwnWriters,
    isOurs: () => boolean,
  ) {
    this.writer = new Writer(database, changes, own, isOurs);
  }

  async init(): Promise<void> {}

  async acquireConnection(): Promise<PatientConnection> {
    return new PatientConnection(this.reader, this.writer);
  }

  async releaseConnection(connection: DatabaseConnection): Promise<void> {
    (connection as PatientConnection).done();
  }

  beginTransaction(connection: DatabaseConnection): Promise<void> {
    return (connection as PatientConnection).begin();
  }

  async commitTransaction(connection: DatabaseConnection): Promise<void> {
    (connection as PatientConnection).finish("commit");
  }

  async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    (connection as PatientConnection).finish("rollback");
  }

  async destroy(): Promise<void> {
    this.reader.close();
    this.writer.database.close();
  }
}

/** SQLite undoes a change of tables with its transaction as any other; Kysely's own adapter does not count on it. */
class WholeMigrations extends SqliteAdapter {
  override get supportsTransactionalDdl(): boolean {
    return true;
  }
}

/** `isOurs`: the file is still the one that was opened. */
export class PatientDialect extends SqliteDialect {
  constructor(
    private readonly reader: ExecutableDatabase,
    private readonly database: ExecutableDatabase,
    private readonly changes: Changes,
    private readonly own: OwnWriters,
    private readonly isOurs: () => boolean,
  ) {
    super({ database });
  }

  override createDriver(): Driver {
    return new PatientDriver(this.reader, this.database, this.changes, this.own, this.isOurs);
  }

  override createAdapter(): DialectAdapter {
    return new WholeMigrations();
  }
}
