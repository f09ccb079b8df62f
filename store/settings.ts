/** Settings of the server itself, by name; values are JSON. */
import { atOnce, type Store } from "./database";

export async function readSetting<T>(store: Store, name: string): Promise<T | undefined> {
  const row = await store.selectFrom("setting").select("value").where("name", "=", name).executeTakeFirst();
  return row && (JSON.parse(row.value) as T);
}

/** Writes several settings at once: all or none. */
export async function writeSettings(store: Store, settings: Readonly<Record<string, unknown>>): Promise<void> {
  await atOnce(store, async (tx) => {
    for (const [name, value] of Object.entries(settings)) {
      await tx
        .insertInto("setting")
        .values({ name, value: JSON.stringify(value) })
        .onConflict((c) => c.column("name").doUpdateSet({ value: JSON.stringify(value) }))
        .execute();
    }
  });
}
