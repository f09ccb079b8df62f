/**
 * The database as the first release has it. Migrations are forward-only; one that has shipped is never edited. Ids never come again, though the
 * newest records are gone after going back to a copy: what another device still holds of them then names nothing, instead of another record.
 */
export const version = 1;

export const statements: readonly string[] = [
  `CREATE TABLE machine (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    slug TEXT NOT NULL UNIQUE,
    name TEXT NOT NULL,
    layout TEXT NOT NULL,
    rated_power_w REAL NOT NULL CHECK (rated_power_w > 0),
    rated_tube_hours REAL NOT NULL CHECK (rated_tube_hours > 0),
    created_ms INTEGER NOT NULL,
    request_key TEXT NOT NULL UNIQUE,
    path TEXT,
    fittings TEXT
  ) STRICT`,
  `CREATE TABLE material (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    thickness_mm REAL NOT NULL CHECK (thickness_mm > 0),
    beta REAL NOT NULL DEFAULT 1 CHECK (beta > 0),
    usual_speed_mm_per_s REAL,
    usual_set_percent REAL,
    smoke_optics REAL CHECK (smoke_optics >= 0),
    smoke_nozzle REAL CHECK (smoke_nozzle >= 0),
    hidden INTEGER NOT NULL DEFAULT 0 CHECK (hidden IN (0, 1)),
    UNIQUE (machine_id, name, thickness_mm)
  ) STRICT`,
  `CREATE TABLE trace_case (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    number INTEGER NOT NULL,
    title TEXT NOT NULL,
    sign TEXT NOT NULL,
    symptom TEXT NOT NULL,
    onset_ms INTEGER NOT NULL,
    opened_ms INTEGER NOT NULL,
    closed_ms INTEGER,
    closing TEXT,
    request_key TEXT NOT NULL UNIQUE,
    UNIQUE (machine_id, number)
  ) STRICT`,
  `CREATE TABLE finding (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    case_id INTEGER NOT NULL REFERENCES trace_case(id),
    check_id TEXT NOT NULL,
    outcome TEXT,
    value REAL,
    set_percent REAL,
    at_ms INTEGER NOT NULL,
    withdrawn_ms INTEGER,
    request_key TEXT NOT NULL UNIQUE,
    CHECK (outcome IS NOT NULL OR value IS NOT NULL)
  ) STRICT`,
  `CREATE INDEX finding_case ON finding (case_id)`,
  `CREATE TABLE round (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    title TEXT NOT NULL,
    parts TEXT NOT NULL,
    status TEXT NOT NULL CHECK (status IN ('open', 'closed', 'abandoned')),
    started_ms INTEGER NOT NULL,
    ended_ms INTEGER,
    case_id INTEGER REFERENCES trace_case(id),
    request_key TEXT NOT NULL UNIQUE,
    plan TEXT
  ) STRICT`,
  `CREATE UNIQUE INDEX one_open_round ON round (machine_id) WHERE status = 'open'`,
  `CREATE INDEX round_machine_time ON round (machine_id, started_ms)`,
  `CREATE TABLE round_answer (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    round_id INTEGER NOT NULL REFERENCES round(id),
    step_id TEXT NOT NULL,
    answer TEXT NOT NULL,
    at_ms INTEGER NOT NULL,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE INDEX round_answer_round ON round_answer (round_id)`,
  `CREATE TABLE aim_sitting (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    case_id INTEGER REFERENCES trace_case(id),
    started_ms INTEGER NOT NULL,
    ended_ms INTEGER,
    ending TEXT,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE UNIQUE INDEX one_open_sitting ON aim_sitting (machine_id) WHERE ended_ms IS NULL`,
  `CREATE INDEX aim_sitting_machine ON aim_sitting (machine_id)`,
  `CREATE TABLE aim_entry (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    sitting_id INTEGER NOT NULL REFERENCES aim_sitting(id),
    entry TEXT NOT NULL,
    at_ms INTEGER NOT NULL,
    withdrawn_ms INTEGER,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE INDEX aim_entry_sitting ON aim_entry (sitting_id)`,
  `CREATE TABLE event (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    kind TEXT NOT NULL,
    at_ms INTEGER NOT NULL,
    recorded_ms INTEGER NOT NULL,
    payload TEXT NOT NULL,
    corrects INTEGER REFERENCES event(id),
    voids INTEGER NOT NULL DEFAULT 0 CHECK (voids IN (0, 1)),
    round_id INTEGER REFERENCES round(id),
    case_id INTEGER REFERENCES trace_case(id),
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE INDEX event_machine ON event (machine_id)`,
  `CREATE INDEX event_corrects ON event (corrects) WHERE corrects IS NOT NULL`,
  `CREATE INDEX event_round ON event (round_id) WHERE round_id IS NOT NULL`,
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
  `CREATE TABLE sent_form (
    form TEXT NOT NULL,
    key TEXT NOT NULL,
    digest TEXT NOT NULL,
    answer TEXT,
    at_ms INTEGER NOT NULL,
    PRIMARY KEY (form, key)
  ) STRICT, WITHOUT ROWID`,
  `CREATE TABLE session (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    token_hash TEXT NOT NULL UNIQUE CHECK (length(token_hash) = 64),
    device TEXT NOT NULL,
    address TEXT NOT NULL,
    created_ms INTEGER NOT NULL,
    seen_ms INTEGER NOT NULL
  ) STRICT`,
];
