/** First shape of the database. Migrations are forward-only; never edit one that has shipped. */
export const version = 1;

export const statements: readonly string[] = [
  `CREATE TABLE machine (
    id INTEGER PRIMARY KEY,
    slug TEXT NOT NULL UNIQUE,
    name TEXT NOT NULL,
    layout TEXT NOT NULL,
    rated_power_w REAL NOT NULL CHECK (rated_power_w > 0),
    rated_tube_hours REAL NOT NULL CHECK (rated_tube_hours > 0),
    created_ms INTEGER NOT NULL,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE TABLE material (
    id INTEGER PRIMARY KEY,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    thickness_mm REAL NOT NULL CHECK (thickness_mm > 0),
    beta REAL NOT NULL DEFAULT 1 CHECK (beta > 0),
    usual_speed_mm_per_s REAL,
    usual_set_percent REAL,
    UNIQUE (machine_id, name, thickness_mm)
  ) STRICT`,
  `CREATE TABLE round (
    id INTEGER PRIMARY KEY,
    machine_id INTEGER NOT NULL REFERENCES machine(id),
    title TEXT NOT NULL,
    parts TEXT NOT NULL,
    status TEXT NOT NULL CHECK (status IN ('open', 'closed', 'abandoned')),
    started_ms INTEGER NOT NULL,
    ended_ms INTEGER,
    case_id INTEGER REFERENCES trace_case(id),
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE UNIQUE INDEX one_open_round ON round (machine_id) WHERE status = 'open'`,
  `CREATE TABLE round_answer (
    id INTEGER PRIMARY KEY,
    round_id INTEGER NOT NULL REFERENCES round(id),
    step_id TEXT NOT NULL,
    answer TEXT NOT NULL,
    at_ms INTEGER NOT NULL,
    request_key TEXT NOT NULL UNIQUE
  ) STRICT`,
  `CREATE INDEX round_answer_round ON round_answer (round_id)`,
  `CREATE TABLE trace_case (
    id INTEGER PRIMARY KEY,
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
    id INTEGER PRIMARY KEY,
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
  `CREATE TABLE event (
    id INTEGER PRIMARY KEY,
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
  `CREATE INDEX event_machine_time ON event (machine_id, at_ms)`,
];
