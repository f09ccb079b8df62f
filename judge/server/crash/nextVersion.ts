/** Brings a data folder to a made-up next version, a table of fourteen months made anew on the way: to be cut off in the middle of it. */
import { sql } from "kysely";
import { closeStore, MIGRATIONS, openStore } from "#store/database";

const store = await openStore(process.argv[2] as string, [
  ...MIGRATIONS,
  {
    version: MIGRATIONS.length + 1,
    statements: ["CREATE TABLE event_words (event_id INTEGER PRIMARY KEY REFERENCES event(id), words TEXT NOT NULL) STRICT"],
    change: async (db) => {
      for (let part = 0; part < 20; part++)
        await sql`INSERT INTO event_words SELECT id, kind || ' ' || payload FROM event WHERE id % 20 = ${part}`.execute(db);
    },
  },
]);
await closeStore(store);
