import { chmodSync, existsSync, mkdirSync, mkdtempSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import LibsqlDatabase from "libsql";
import { describe, expect, it } from "vitest";
import { databaseFile, openStore, stateWord } from "#store/database";
import { FolderInUse, keepPrivate, lockFolder } from "#store/folder";
import { once, rowKey } from "#store/sent";
import { readSetting, writeSettings } from "#store/settings";
import { StoreTrouble } from "#store/trouble";

const folder = () => mkdtempSync(join(tmpdir(), "clenor-folder-"));
const modeOf = (path: string) => (statSync(path).mode & 0o777).toString(8);

describe("the data folder", () => {
  it("is closed to others on the machine, and mended where an older version left it open", async () => {
    const place = join(folder(), "data");
    expect(keepPrivate(place)).toEqual([]);
    expect(modeOf(place)).toBe("700");
    await openStore(place);
    mkdirSync(join(place, "photos", "ab"), { recursive: true });
    writeFileSync(join(place, "photos", "ab", "cd"), "photo");
    for (const wide of [place, join(place, "photos", "ab")]) chmodSync(wide, 0o755);
    for (const wide of [databaseFile(place), join(place, "photos", "ab", "cd")]) chmodSync(wide, 0o644);
    expect(keepPrivate(place)).toEqual([]);
    for (const path of [place, join(place, "photos", "ab")]) expect(modeOf(path)).toBe("700");
    for (const path of [databaseFile(place), join(place, "photos", "ab", "cd")]) expect(modeOf(path)).toBe("600");
  });

  it("that holds somebody's other things keeps its mode, and says so", async () => {
    const place = folder();
    chmodSync(place, 0o755);
    writeFileSync(join(place, "letter.txt"), "mine", { mode: 0o644 });
    await openStore(place);
    expect(keepPrivate(place).join()).toMatch(/holds other things/);
    expect(modeOf(place)).toBe("755");
    expect(modeOf(join(place, "letter.txt"))).toBe("644");
    expect(modeOf(databaseFile(place))).toBe("600");
  });

  it("is one server's at a time; the second hears which process has it and where it answers", () => {
    const place = folder();
    const lock = lockFolder(place);
    lock.answersAt("http://127.0.0.1:4173/");
    expect(() => lockFolder(place)).toThrow(FolderInUse);
    expect(() => lockFolder(place)).toThrow(new RegExp(`process ${process.pid} has it, and answers at http://127.0.0.1:4173/`));
    lock.release();
    expect(existsSync(join(place, "in-use.json"))).toBe(false);
    lockFolder(place).release();
  });
});

describe("a lock of another program on the data file", () => {
  const held = (place: string) => {
    const other = new LibsqlDatabase(databaseFile(place));
    other.exec("BEGIN IMMEDIATE");
    return other;
  };

  it("is waited for without holding up anything else, and the write is made when it goes", async () => {
    const place = folder();
    const store = await openStore(place);
    const other = held(place);
    let ticks = 0;
    // The lock goes by ticks, not by time: a busy machine has fewer in the same time.
    const ticking = setInterval(() => {
      if (++ticks === 12) other.exec("COMMIT");
    }, 10);
    await writeSettings(store, { a: 1 });
    clearInterval(ticking);
    expect(ticks).toBeGreaterThan(10);
    expect(await readSetting(store, "a")).toBe(1);
  });

  it("that stays makes a write fail soon, in words, and the next ones at once; reading goes on", async () => {
    const place = folder();
    const store = await openStore(place);
    await writeSettings(store, { a: 1 });
    const other = held(place);
    const tried = (n: number) => writeSettings(store, { a: n }).catch((error: unknown) => error);
    const before = performance.now();
    const failed = await tried(2);
    expect(failed).toBeInstanceOf(StoreTrouble);
    expect((failed as StoreTrouble).message).toMatch(/Another program holds the data file/);
    expect(performance.now() - before).toBeLessThan(4000);
    const again = performance.now();
    expect(await tried(3)).toMatchObject({ kind: "busy" });
    expect(performance.now() - again).toBeLessThan(500);
    expect(await readSetting(store, "a")).toBe(1);
    other.exec("COMMIT");
    await writeSettings(store, { a: 4 });
    expect(await readSetting(store, "a")).toBe(4);
  });
});

describe("a sent form", () => {
  const form = (key: string, digest = "same") => ({ form: "log 1", key, digest });
  it("is carried out once and answers the same when it is sent again", async () => {
    const store = await openStore(folder());
    let done = 0;
    const work = async () => {
      done += 1;
      return { id: done };
    };
    expect(await once(store, form("k"), 1, work)).toEqual({ id: 1 });
    expect(await once(store, form("k"), 2, work)).toEqual({ id: 1 });
    expect(await once(store, { ...form("k"), form: "trace 1" }, 3, work)).toEqual({ id: 2 });
  });

  it("that bears a used key and says something else is refused, and writes nothing", async () => {
    const store = await openStore(folder());
    await once(store, form("k"), 1, (tx) => writeSettings(tx, { a: 1 }));
    await expect(once(store, form("k", "other"), 2, (tx) => writeSettings(tx, { a: 2 }))).rejects.toThrow(/said something else/);
    expect(await readSetting(store, "a")).toBe(1);
  });

  it("whose work fails leaves its key free", async () => {
    const store = await openStore(folder());
    const fails = once(store, form("k"), 1, async (tx) => {
      await writeSettings(tx, { a: 1 });
      throw new Error("stopped in the middle");
    });
    await expect(fails).rejects.toThrow("in the middle");
    expect(await readSetting(store, "a")).toBeUndefined();
    await once(store, form("k"), 2, (tx) => writeSettings(tx, { a: 2 }));
    expect(await readSetting(store, "a")).toBe(2);
  });

  it("cannot take the key of a row the application writes itself", () => expect(rowKey(form("round-1:proof"))).not.toBe("round-1:proof"));
});

describe("the word for the state of the tables", () => {
  it("changes with each write, by whomever, and not with reading or with tables left out", async () => {
    const place = folder();
    const store = await openStore(place);
    const first = stateWord(store);
    await readSetting(store, "a");
    expect(stateWord(store)).toBe(first);
    const without = stateWord(store, new Set(["setting"]));
    await writeSettings(store, { a: 1 });
    expect(stateWord(store)).not.toBe(first);
    expect(stateWord(store, new Set(["setting"]))).toBe(without);
    const second = stateWord(store);
    new LibsqlDatabase(databaseFile(place)).exec("INSERT INTO setting VALUES ('b', '2')");
    expect(stateWord(store)).not.toBe(second);
  });
});
