/**
 * Kysely's SQLite driver with three manners of its own: a transaction takes the write lock at its start, a lock of another program is
 * waited for without stopping the event loop (and not for long), and each table counts its changes, so that what was computed from it
 * can be kept until it changes.
 */
import {
  CompiledQuery,
  type DatabaseConnection,
  type QueryResult,
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

class PatientConnection implements DatabaseConnection {
  private firstMs = 0;
  private lastMs = 0;

  constructor(
    private readonly inner: DatabaseConnection,
    private readonly changes: Changes,
  ) {}

  async executeQuery<R>(query: CompiledQuery): Promise<QueryResult<R>> {
    for (;;) {
      try {
        const result = await this.inner.executeQuery<R>(query);
        const table = changedBy(query);
        if (table !== undefined) this.changes.set(table, (this.changes.get(table) ?? 0) + 1);
        if (table !== undefined || query.sql === BEGIN) this.firstMs = 0;
        return result;
      } catch (error) {
        const now = performance.now();
        if (isBusy(error)) {
          if (this.firstMs === 0 || now - this.lastMs > ANOTHER_MS) this.firstMs = now;
          this.lastMs = now;
        }
        if (!isBusy(error) || now - this.firstMs > PATIENCE_MS) throw troubleOf(error) ?? error;
        await new Promise((done) => setTimeout(done, PAUSE_MS));
      }
    }
  }

  streamQuery<R>(query: CompiledQuery, chunkSize: number): AsyncIterableIterator<QueryResult<R>> {
    return this.inner.streamQuery<R>(query, chunkSize);
  }
}

const BEGIN = "begin immediate";

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
  private patient: DatabaseConnection | undefined;

  constructor(
    database: SqliteDatabase,
    private readonly changes: Changes,
  ) {
    super({ database });
  }

  override async acquireConnection(): Promise<DatabaseConnection> {
    const inner = await super.acquireConnection();
    this.patient ??= new PatientConnection(inner, this.changes);
    return this.patient;
  }

  override async beginTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw(BEGIN));
  }

  override async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    try {
      await super.rollbackTransaction(connection);
    } catch (error) {
      // A full disk makes SQLite roll back by itself; why it did is the error worth telling.
      if (!(error instanceof Error && error.message.includes("no transaction is active"))) throw error;
    }
  }
}

export class PatientDialect extends SqliteDialect {
  constructor(
    private readonly database: SqliteDatabase,
    private readonly changes: Changes,
  ) {
    super({ database });
  }

  override createDriver(): SqliteDriver {
    return new PatientDriver(this.database, this.changes);
  }
}
