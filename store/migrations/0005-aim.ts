/** Sittings at the mirrors: marks, turns and shifts in the order they were made. One is open at a time on a machine. */
export const version = 5;

export const statements: readonly string[] = [
  `CREATE TABLE aim_sitting (
    id INTEGER PRIMARY KEY,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    case_id INTEGER REFERENCES trace_case(id),
    started_ms INTEGER NOT NULL,
    ended_ms INTEGER,
    ending TEXT,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  "CREATE UNIQUE INDEX one_open_sitting ON aim_sitting (machine_id) WHERE ended_ms IS NULL",
  "CREATE INDEX aim_sitting_machine ON aim_sitting (machine_id)",
  `CREATE TABLE aim_entry (
    id INTEGER PRIMARY KEY,
    sitting_id INTEGER NOT NULL REFERENCES aim_sitting(id),
    entry TEXT NOT NULL,
    at_ms INTEGER NOT NULL,
    withdrawn_ms INTEGER,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  "CREATE INDEX aim_entry_sitting ON aim_entry (sitting_id)",
];
