/** Going back to a copy: nothing that was known of what is gone lives on, nothing acknowledged is lost, and only what is a workshop is gone back to. */
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import LibsqlDatabase from "libsql";
import sharp from "sharp";
import { beforeEach, describe, expect, it } from "vitest";
import { listBackups, makeBackup, makeCopy, restoreBackup, sweepCopies, sweepOrphans } from "#store/backups";
import { addFinding, openCase } from "#store/cases";
import { closeStore, databaseFile, joinStore, openStore } from "#store/database";
import { keepPhoto } from "#store/photos";
import { findRound, saveAnswers, startRound } from "#store/rounds";
import { readSetting, writeSettings } from "#store/settings";
import { everyMachineCanBeRead } from "../machine/sound";
import { histories, lived } from "../testHistories";
import { everyPlace } from "../testPlaces";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";

let w: TestWorkshop;
beforeEach(async () => {
  w = await TestWorkshop.worked();
});
const sound = (of: TestWorkshop) => (tx: typeof of.store) => everyMachineCanBeRead({ ...of.services, store: tx });
const goBack = (of: TestWorkshop, name: string) => restoreBackup(of.store, of.folder, { name }, of.nowMs, sound(of));
const machines = (of: TestWorkshop) => of.store.selectFrom("machine").selectAll().execute();

/** What every place says, but for the keys of its forms. */
async function said(of: TestWorkshop, store = of.store): Promise<string> {
  const services = { ...of.services, store };
  const { gather } = await import("../machine/gather");
  const g = await gather(services, "larkspur");
  return JSON.stringify(await everyPlace(services, g, g.openCase?.id), (key, value) =>
    key === "key" || key === "keys" ? undefined : value,
  );
}

describe("after going back to a copy", () => {
  it("every place says what it says to somebody who just opened that workshop", async () => {
    await fc.assert(
      fc.asyncProperty(histories(6), histories(6), async (before, after) => {
        const { w: of } = await lived(before);
        const copy = await makeBackup(of.store, of.folder, of.nowMs);
        await said(of);
        // Another history on top of it, read by every place, with a case, a round and its answers.
        of.nowMs += 60_000;
        await openCase(of.store, 1, { ...WEAK_CASE, onsetMs: of.nowMs }, of.nowMs);
        const id = await startRound(of.store, 1, { title: "Lens", parts: ["lens"], requestKey: "r" }, of.nowMs);
        await saveAnswers(
          of.store,
          id,
          [{ stepId: "lens.found", answer: { grade: 4, done: true, atMs: of.nowMs }, requestKey: "a" }],
          of.nowMs,
        );
        for (const step of after) {
          of.nowMs += 60_000;
          if (step.what === "ladder") await of.ladder(step.dropped, true);
          else if (step.what === "grade") await of.log("grade", { station: step.station, grade: step.grade, phase: step.phase });
          else await of.log("note", { note: step.what });
        }
        await said(of);
        await goBack(of, copy);
        const fresh = joinStore(of.folder);
        expect(await said(of)).toBe(await said(of, fresh));
        await fresh.destroy();
        // What was kept of a round that is gone is nowhere: the next one begins with nothing answered.
        const next = await startRound(of.store, 1, { title: "Lens", parts: ["lens"], requestKey: "r2" }, of.nowMs);
        expect(next).toBeGreaterThan(id);
        expect([...((await findRound(of.store, 1, next))?.answers ?? [])]).toEqual([]);
      }),
      { numRuns: 4 },
    );
  });

  it("no id comes again, so that what another device still holds names nothing", async () => {
    const copy = await makeBackup(w.store, w.folder, w.nowMs);
    const ids = async () => {
      w.nowMs += 60_000;
      const n = String(w.nowMs);
      await w.log("note", { note: n });
      const caseId = await openCase(w.store, 1, { ...WEAK_CASE, sign: n, requestKey: n }, w.nowMs);
      await addFinding(w.store, caseId, { check: "onset", outcome: "sudden" }, `f${n}`, w.nowMs);
      const roundId = await startRound(w.store, 1, { title: "Lens", parts: ["lens"], requestKey: n }, w.nowMs);
      await saveAnswers(w.store, roundId, [{ stepId: "x", answer: { done: true, atMs: w.nowMs }, requestKey: n }], w.nowMs);
      const last = async (table: "event" | "trace_case" | "finding" | "round" | "round_answer") =>
        (await w.store.selectFrom(table).select("id").orderBy("id", "desc").executeTakeFirstOrThrow()).id;
      return Promise.all((["event", "trace_case", "finding", "round", "round_answer"] as const).map(last));
    };
    const first = await ids();
    for (let time = 0; time < 2; time++) {
      await goBack(w, copy);
      const again = await ids();
      for (const [i, id] of again.entries()) expect(id).toBeGreaterThan(first[i] as number);
      first.splice(0, first.length, ...again);
    }
  });

  it("who may come in is as it was before: a passphrase that was changed since stays changed, and no copy holds one", async () => {
    const word = (hash: string) => writeSettings(w.store, { passphrase: { salt: "s", hash, cost: {} }, currency: hash });
    await word("the-old-hash");
    const copy = await makeBackup(w.store, w.folder, w.nowMs);
    expect(readFileSync(join(w.folder, "copies", copy)).includes('"hash":"the-old-hash"')).toBe(false);
    await word("the-new-hash");
    await goBack(w, copy);
    expect(await readSetting(w.store, "passphrase")).toMatchObject({ hash: "the-new-hash" });
    expect(await readSetting(w.store, "currency")).toBe("the-old-hash");
    // A copy of before that holds one brings none back either.
    const old = "copy-2020-01-01-00-00-00.sqlite";
    await closeStore(w.store);
    copyFileSync(databaseFile(w.folder), join(w.folder, "copies", old));
    const store = await openStore(w.folder);
    await writeSettings(store, { passphrase: { salt: "s", hash: "the-newest", cost: {} } });
    await restoreBackup(store, w.folder, { name: old }, w.nowMs, async () => undefined);
    expect(await readSetting(store, "passphrase")).toMatchObject({ hash: "the-newest" });
  });

  it("what was acknowledged up to that moment is in the copy of now", async () => {
    const copy = await makeBackup(w.store, w.folder, w.nowMs);
    const other = joinStore(w.folder);
    const { writeSettings: write } = await import("#store/settings");
    let acknowledged = 0;
    let isOver = false;
    const writing = (async () => {
      for (let n = 1; !isOver; n++) {
        await write(other, { count: n });
        acknowledged = n;
        await new Promise((next) => setTimeout(next, 1));
      }
    })();
    await new Promise((next) => setTimeout(next, 50));
    let before = 0;
    const name = await restoreBackup(w.store, w.folder, { name: copy }, w.nowMs, async () => {
      before = acknowledged;
    });
    isOver = true;
    await writing;
    await other.destroy();
    const kept = new LibsqlDatabase(join(w.folder, "copies", name));
    const [row] = kept.prepare("SELECT value FROM setting WHERE name = 'count'").all([]) as { value: string }[];
    kept.close();
    expect(before).toBeGreaterThan(0);
    expect(Number(row?.value)).toBe(before);
  });
});

describe("a copy that is none", () => {
  const inCopies = (name: string) => join(w.folder, "copies", name);
  const nameOf = "copy-2026-10-01-00-00-00.sqlite";
  const spoilt: Record<string, (good: string) => void | Promise<void>> = {
    "an empty file": () => writeFileSync(inCopies(nameOf), ""),
    "a picture": () => writeFileSync(inCopies(nameOf), Buffer.from([0x89, 0x50, 0x4e, 0x47])),
    "a database of somebody else": () => {
      const other = new LibsqlDatabase(inCopies(nameOf));
      other.exec("CREATE TABLE machine (id INTEGER)");
      other.close();
    },
    "a workshop without a machine": async () => {
      const empty = mkdtempSync(join(tmpdir(), "clenor-none-"));
      await closeStore(await openStore(empty));
      copyFileSync(databaseFile(empty), inCopies(nameOf));
    },
    "one that lacks a table": (good) => {
      copyFileSync(inCopies(good), inCopies(nameOf));
      const db = new LibsqlDatabase(inCopies(nameOf));
      db.exec("DROP TABLE aim_entry");
      db.close();
    },
    "one with references to nothing": (good) => {
      copyFileSync(inCopies(good), inCopies(nameOf));
      const db = new LibsqlDatabase(inCopies(nameOf));
      db.exec("PRAGMA foreign_keys = OFF");
      db.exec("UPDATE event SET machine_id = 77");
      db.close();
    },
    "one whose machine cannot be read": (good) => {
      copyFileSync(inCopies(good), inCopies(nameOf));
      const db = new LibsqlDatabase(inCopies(nameOf));
      db.exec("UPDATE machine SET layout = 'no-such-layout'");
      db.close();
    },
    "one that was cut off": (good) => writeFileSync(inCopies(nameOf), readFileSync(inCopies(good)).subarray(0, 9000)),
    "a folder": () => void mkdirSync(inCopies(nameOf)),
    "a link to nothing": () => symlinkSync("/nowhere/at/all", inCopies(nameOf)),
  };

  it.each(Object.keys(spoilt))("%s is refused with words, and everything is as it was", async (what) => {
    const good = await makeBackup(w.store, w.folder, w.nowMs);
    await spoilt[what]?.(good);
    const had = await said(w);
    await expect(goBack(w, nameOf)).rejects.toThrow(/(cannot be used|holds no machine|not there|could not be read)/);
    await expect(goBack(w, nameOf)).rejects.not.toThrow(/restoring-|\/tmp\//);
    expect(await said(w)).toBe(had);
    expect(await machines(w)).toHaveLength(1);
    // The list stands whatever lies there, and nothing is left behind.
    expect(listBackups(w.folder).map((b) => b.name)).toContain(good);
    expect(readdirSync(join(w.folder, "copies")).filter((n) => n.startsWith("restoring-") || n.endsWith(".part"))).toEqual([]);
    // The way back to a good one is open.
    await goBack(w, good);
  });

  it("what a power cut left of one is swept away at the next start", async () => {
    const good = await makeBackup(w.store, w.folder, w.nowMs);
    mkdirSync(inCopies("restoring-abc123"));
    writeFileSync(join(inCopies("restoring-abc123"), "clenor.sqlite"), "x");
    writeFileSync(inCopies("copy-x.sqlite.part"), "x");
    sweepCopies(w.folder);
    expect(readdirSync(join(w.folder, "copies"))).toEqual([good]);
    expect(existsSync(inCopies(good))).toBe(true);
  });

  it("photos that nothing knows go at the next start; those that only a copy knows stay, for the way back to it", async () => {
    const picture = (red: number) =>
      sharp({ create: { width: 40, height: 30, channels: 3, background: { r: red, g: 90, b: 90 } } })
        .jpeg()
        .toBuffer();
    const [kept, copied, orphan] = await Promise.all(
      [10, 120, 240].map(async (red) => keepPhoto(w.store, w.folder, await picture(red), w.nowMs)),
    );
    await makeBackup(w.store, w.folder, w.nowMs);
    await w.store
      .deleteFrom("photo")
      .where("hash", "!=", kept as string)
      .execute();
    const there = (hash: string | undefined) => existsSync(join(w.folder, "photos", (hash as string).slice(0, 2), hash as string));
    const file = new LibsqlDatabase(join(w.folder, "copies", listBackups(w.folder)[0]?.name ?? ""));
    file.exec(`DELETE FROM photo WHERE hash = '${orphan}'`);
    file.close();
    await sweepOrphans(w.store, w.folder);
    expect([kept, copied, orphan].map(there)).toEqual([true, true, false]);
    // A copy on a stick may need one too, and while that is out nobody knows.
    const stick = mkdtempSync(join(tmpdir(), "clenor-stick-"));
    const onStick = await keepPhoto(w.store, w.folder, await picture(200), w.nowMs);
    await makeCopy(w.store, stick, w.nowMs, "daily");
    await w.store.deleteFrom("photo").where("hash", "=", onStick).execute();
    await sweepOrphans(w.store, w.folder, `${stick}-out`);
    await sweepOrphans(w.store, w.folder, stick);
    expect(there(onStick)).toBe(true);
    // A copy that cannot be read may need any of them.
    const again = await keepPhoto(w.store, w.folder, await picture(240), w.nowMs);
    await w.store.deleteFrom("photo").where("hash", "=", again).execute();
    writeFileSync(inCopies(nameOf), "no database at all, for certain");
    await sweepOrphans(w.store, w.folder);
    expect(there(again)).toBe(true);
  });
});
