/** Settings of the server itself, by name; values are JSON. */
import { atOnce, type Store } from "./database";

export async function readSetting<T>(store: Store, name: string): Promise<T | undefined> {
  const row = await store.selectFrom("setting").select("value").where("name", "=", name).executeTakeFirst();
  return row && (JSON.parse(row.value) as T);
}

/** Settings whose name begins so, by name. */
export async function settingsFrom<T>(store: Store, prefix: string): Promise<ReadonlyMap<string, T>> {
  const rows = await store
    .selectFrom("setting")
    .selectAll()
    .where("name", ">=", prefix)
    .where("name", "<", `${prefix}\uffff`)
    .orderBy("name")
    .execute();
  return new Map(rows.map((r) => [r.name, JSON.parse(r.value) as T]));
}

/** Takes a setting back, as if it had never been written. */
export async function dropSetting(store: Store, name: string): Promise<void> {
  await store.deleteFrom("setting").where("name", "=", name).execute();
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
