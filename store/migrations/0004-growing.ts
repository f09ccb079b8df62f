/** Indexes for what is asked of a log and of rounds that have grown for years. */
export const version = 4;

export const statements: readonly string[] = [
  // With the row's id behind it: a log is read on from its last record.
  "CREATE INDEX event_machine ON event (machine_id)",
  "DROP INDEX event_machine_time",
  "CREATE INDEX event_corrects ON event (corrects) WHERE corrects IS NOT NULL",
  "CREATE INDEX event_round ON event (round_id) WHERE round_id IS NOT NULL",
  "CREATE INDEX round_machine_time ON round (machine_id, started_ms)",
];
