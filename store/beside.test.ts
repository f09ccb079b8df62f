/** What waits to be written holds nobody up who reads, and what is acknowledged is on the file that stands in the folder. */
import { mkdtempSync, renameSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { sql } from "kysely";
import LibsqlDatabase from "libsql";
import { describe, expect, it } from "vitest";
import { atOnce, besideOwnWriter, databaseFile, openStore } from "./database";
import { readSetting, writeSettings } from "./settings";
import type { StoreTrouble } from "./trouble";

async function folderWith(word: string) {
  const folder = mkdtempSync(join(tmpdir(), "clenor-beside-"));
  const store = await openStore(folder);
  await writeSettings(store, { word });
  return { folder, store };
}

/** Another program that holds the write lock until it is told to let go. */
function holder(folder: string) {
  const other = new LibsqlDatabase(databaseFile(folder));
  other.exec("BEGIN IMMEDIATE");
  return { letGo: () => other.exec("ROLLBACK") };
}

describe("a read", () => {
  it("is answered while a save waits for another program, and sees what was saved as soon as it is", async () => {
    const { folder, store } = await folderWith("before");
    const other = holder(folder);
    const order: string[] = [];
    const saved = writeSettings(store, { word: "after" }).then(() => order.push("saved"));
    const alone = store
      .updateTable("setting")
      .set({ value: '"alone"' })
      .where("name", "=", "word")
      .execute()
      .then(() => order.push("alone"));
    for (let i = 0; i < 20; i++) {
      expect(await readSetting(store, "word")).toBe("before");
      await new Promise((next) => setTimeout(next, 5));
    }
    expect(order).toEqual([]);
    other.letGo();
    await Promise.all([saved, alone]);
    expect(await readSetting(store, "word")).toBe("alone");
    // In the turn they came in.
    expect(order).toEqual(["saved", "alone"]);
    await store.destroy();
  });

  it("goes on while a thread of our own writes for as long as it takes, and while a transaction works beside it", async () => {
    const { folder, store } = await folderWith("before");
    const other = holder(folder);
    const saved = besideOwnWriter(store, () => writeSettings(store, { word: "after" }));
    await new Promise((next) => setTimeout(next, 1700));
    expect(await readSetting(store, "word")).toBe("before");
    other.letGo();
    await saved;
    await atOnce(store, async (tx) => {
      await writeSettings(tx, { word: "inside" });
      // Who reads within it sees it; who reads beside it does not yet.
      expect(await readSetting(tx, "word")).toBe("inside");
      expect(await readSetting(store, "word")).toBe("after");
    });
    expect(await readSetting(store, "word")).toBe("inside");
    await store.destroy();
  });

  it("sees nothing of a transaction that is undone, and the next one has its turn", async () => {
    const { store } = await folderWith("before");
    const undone = atOnce(store, async (tx) => {
      await writeSettings(tx, { word: "undone" });
      throw new Error("on purpose");
    });
    const next = writeSettings(store, { word: "next" });
    await expect(undone).rejects.toThrow("on purpose");
    await next;
    expect(await readSetting(store, "word")).toBe("next");
    await store.destroy();
  });

  it("changes nothing, whatever is put into it", async () => {
    const { store } = await folderWith("before");
    await expect(sql`WITH x AS (SELECT 1) DELETE FROM setting`.execute(store)).rejects.toThrow(/cannot be written/);
    expect(await readSetting(store, "word")).toBe("before");
    await store.destroy();
  });
});

describe("a save", () => {
  it("is refused with words when another program keeps the file, and the turn is free afterwards", async () => {
    const { folder, store } = await folderWith("before");
    const other = holder(folder);
    await expect(writeSettings(store, { word: "after" })).rejects.toThrow(/Another program holds the data file/);
    other.letGo();
    await writeSettings(store, { word: "after" });
    expect(await readSetting(store, "word")).toBe("after");
    await store.destroy();
  });

  it("is refused where the file was taken away or another one stands in its place", async () => {
    const { folder, store } = await folderWith("before");
    const file = databaseFile(folder);
    renameSync(file, `${file}.away`);
    await expect(writeSettings(store, { word: "lost" })).rejects.toMatchObject({
      name: "StoreTrouble",
      kind: "gone",
    } satisfies Partial<StoreTrouble>);
    const stranger = new LibsqlDatabase(file);
    stranger.exec("CREATE TABLE other (a)");
    await expect(store.deleteFrom("setting").execute()).rejects.toMatchObject({ kind: "gone" });
    stranger.close();
    renameSync(`${file}.away`, file);
    await writeSettings(store, { word: "after" });
    expect(await readSetting(store, "word")).toBe("after");
    await store.destroy();
  });
});
