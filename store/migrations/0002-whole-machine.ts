/**
 * Paths and fittings of one's own, smoke factors per material, photos, rounds with the plan they were walked by, and the
 * settings of the server. A machine without a path of its own has its starting layout's.
 */
export const version = 2;

export const statements: readonly string[] = [
  "ALTER TABLE machine ADD COLUMN path TEXT",
  "ALTER TABLE machine ADD COLUMN fittings TEXT",
  "ALTER TABLE material ADD COLUMN smoke_optics REAL CHECK (smoke_optics >= 0)",
  "ALTER TABLE material ADD COLUMN smoke_nozzle REAL CHECK (smoke_nozzle >= 0)",
  "ALTER TABLE material ADD COLUMN hidden INTEGER NOT NULL DEFAULT 0 CHECK (hidden IN (0, 1))",
  "ALTER TABLE round ADD COLUMN plan TEXT",
  `CREATE TABLE photo (
    hash TEXT PRIMARY KEY CHECK (length(hash) = 64),
    mime TEXT NOT NULL,
    byte_count INTEGER NOT NULL CHECK (byte_count > 0),
    width_px INTEGER NOT NULL,
    height_px INTEGER NOT NULL,
    created_ms INTEGER NOT NULL
  ) STRICT`,
  `CREATE TABLE setting (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
  ) STRICT`,
];
