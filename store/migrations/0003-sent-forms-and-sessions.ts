/** Devices signed in, as records that can be ended; forms that were sent, so that a key tells its own form from another. */
export const version = 3;

export const statements: readonly string[] = [
  `CREATE TABLE session (
    id INTEGER PRIMARY KEY,
    token_hash TEXT NOT NULL UNIQUE CHECK (length(token_hash) = 64),
    device TEXT NOT NULL,
    address TEXT NOT NULL,
    created_ms INTEGER NOT NULL,
    seen_ms INTEGER NOT NULL
  ) STRICT`,
  `CREATE TABLE sent_form (
    form TEXT NOT NULL,
    key TEXT NOT NULL,
    digest TEXT NOT NULL,
    answer TEXT,
    at_ms INTEGER NOT NULL,
    PRIMARY KEY (form, key)
  ) STRICT, WITHOUT ROWID`,
  // Cookies were signed with it; now they are looked up.
  "DELETE FROM setting WHERE name = 'cookie-key'",
];
