/**
 * Ids that never come again, though the newest records are gone after going back to a copy: what another device still holds of them then names
 * nothing, instead of another record.
 */
import { type Kysely, sql } from "kysely";

export const version = 6;
export const statements = [] as const;

const TABLES = [
  "machine",
  "material",
  "trace_case",
  "finding",
  "round",
  "round_answer",
  "aim_sitting",
  "aim_entry",
  "event",
  "session",
] as const;

/** Makes each table anew and moves its rows, as SQLite asks for; references by name go on to hold. Foreign keys must be off. */
export async function change(db: Kysely<unknown>): Promise<void> {
  for (const table of TABLES) {
    const { rows } = await sql<{
      type: string;
      sql: string;
    }>`SELECT type, sql FROM sqlite_schema WHERE tbl_name = ${table} AND sql IS NOT NULL`.execute(db);
    const made = rows.find((r) => r.type === "table")?.sql;
    if (!made) throw new Error(`there is no table ${table}`);
    const anew = made
      .replace(new RegExp(`^CREATE TABLE "?${table}"?`), `CREATE TABLE ${table}_anew`)
      .replace("id INTEGER PRIMARY KEY,", "id INTEGER PRIMARY KEY AUTOINCREMENT,");
    if (!/AUTOINCREMENT/.test(anew)) throw new Error(`${table} has no id of its own`);
    for (const statement of [
      anew,
      `INSERT INTO ${table}_anew SELECT * FROM ${table}`,
      `DROP TABLE ${table}`,
      `ALTER TABLE ${table}_anew RENAME TO ${table}`,
      ...rows.filter((r) => r.type === "index").map((r) => r.sql),
    ])
      await sql.raw(statement).execute(db);
  }
  const { rows: broken } = await sql`SELECT * FROM pragma_foreign_key_check`.execute(db);
  if (broken.length > 0) throw new Error(`${broken.length} references would be broken`);
}
