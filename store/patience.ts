/**
 * Kysely's SQLite driver with three manners of its own: a transaction takes the write lock at its start, a lock of another program is
 * waited for without stopping the event loop (and not for long), and each table counts its changes, so that what was computed from it
 * can be kept until it changes.
 */
import {
  type CompiledQuery,
  type DatabaseConnection,
  type DialectAdapter,
  type QueryResult,
  SqliteAdapter,
  type SqliteDatabase,
  SqliteDialect,
  SqliteDriver,
  TableNode,
} from "kysely";
import { isBusy, troubleOf } from "./trouble";

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

class PatientConnection implements DatabaseConnection {
  private firstMs = 0;
  private lastMs = 0;
  private within = false;

  constructor(
    private readonly inner: DatabaseConnection,
    private readonly database: ExecutableDatabase,
    private readonly changes: Changes,
    private readonly own: OwnWriters,
  ) {}

  /** Takes the write lock, waiting for it off the event loop. Throws StoreTrouble when another program keeps it. */
  async begin(): Promise<void> {
    for (;;) {
      try {
        this.database.exec("BEGIN IMMEDIATE");
        this.firstMs = 0;
        this.within = true;
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
      this.within = false;
    } catch (error) {
      throw troubleOf(error) ?? error;
    }
  }

  rollback(): void {
    this.within = false;
    try {
      this.database.exec("ROLLBACK");
    } catch (error) {
      // A full disk makes SQLite roll back by itself; why it did is the error worth telling.
      if (!(error instanceof Error && error.message.includes("no transaction is active"))) throw error;
    }
  }

  async executeQuery<R>(query: CompiledQuery): Promise<QueryResult<R>> {
    const table = changedBy(query);
    const alone = table !== undefined && !this.within;
    if (alone) await this.begin();
    try {
      const result = await this.inner.executeQuery<R>(query);
      if (table !== undefined) this.changes.set(table, (this.changes.get(table) ?? 0) + 1);
      if (alone) this.commit();
      return result;
    } catch (error) {
      if (alone) this.rollback();
      throw troubleOf(error) ?? error;
    }
  }

  streamQuery<R>(query: CompiledQuery, chunkSize: number): AsyncIterableIterator<QueryResult<R>> {
    return this.inner.streamQuery<R>(query, chunkSize);
  }
}

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

class PatientDriver extends SqliteDriver {
  private patient: PatientConnection | undefined;

  constructor(
    private readonly database: ExecutableDatabase,
    private readonly changes: Changes,
    private readonly own: OwnWriters,
  ) {
    super({ database });
  }

  override async acquireConnection(): Promise<PatientConnection> {
    const inner = await super.acquireConnection();
    this.patient ??= new PatientConnection(inner, this.database, this.changes, this.own);
    return this.patient;
  }

  override beginTransaction(connection: DatabaseConnection): Promise<void> {
    return (connection as PatientConnection).begin();
  }

  override async commitTransaction(connection: DatabaseConnection): Promise<void> {
    (connection as PatientConnection).commit();
  }

  override async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    (connection as PatientConnection).rollback();
  }
}

/** SQLite undoes a change of tables with its transaction as any other; Kysely's own adapter does not count on it. */
class WholeMigrations extends SqliteAdapter {
  override get supportsTransactionalDdl(): boolean {
    return true;
  }
}

export class PatientDialect extends SqliteDialect {
  constructor(
    private readonly database: ExecutableDatabase,
    private readonly changes: Changes,
    private readonly own: OwnWriters,
  ) {
    super({ database });
  }

  override createDriver(): SqliteDriver {
    return new PatientDriver(this.database, this.changes, this.own);
  }

  override createAdapter(): DialectAdapter {
    return new WholeMigrations();
  }
}
