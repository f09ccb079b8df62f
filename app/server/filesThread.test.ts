/** A large file is taken in by a thread: nobody waits for it, it can be stopped, and nothing is half there. */
import { copyFileSync, mkdtempSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { beforeAll, describe, expect, it } from "vitest";
import type { Importer } from "#services/exchange/importer";
import { gather } from "#services/machine/gather";
import { NotHere } from "#services/refusal";
import { TestWorkshop } from "#services/testWorkshop";
import { databaseFile, openStore } from "#store/database";
import { threadImporter } from "./filesThread";

const ROWS = 15_000;
const START_MS = Date.UTC(2024, 0, 1);

/** A table of many cuts, each with a note that tells tables apart. */
const table = (note: string) =>
  new TextEncoder().encode(
    `when,material,speed_mm_per_s,set_percent,result,note\n${Array.from(
      { length: ROWS },
      (_, i) => `${new Date(START_MS + i * 600_000).toISOString()},3 mm birch ply,${8 + (i % 90) / 10},60,through,${note}`,
    ).join("\n")}\n`,
  );

describe("a large file", () => {
  let w: TestWorkshop;
  let importer: Importer;
  const cuts = async () => (await gather(w.services, "larkspur")).log.kinds.cut.length;
  const looked = async (note: string) => {
    const found = await importer.look("larkspur", table(note), undefined);
    if (!("id" in found)) throw new Error(JSON.stringify(found));
    return found.id;
  };
  /** Resolves once some of it is written, unless it is over before. */
  const underWay = async (id: string, over: Promise<unknown>) => {
    let done = false;
    void over.finally(() => {
      done = true;
    });
    while (!done && (importer.share(id) ?? 0) === 0) await new Promise((next) => setTimeout(next, 2));
    return !done;
  };

  beforeAll(async () => {
    w = await TestWorkshop.open();
    importer = threadImporter(w.services, pathToFileURL("workers/files.source.mjs"));
  });

  it("is stopped in the middle and leaves nothing, while a record of somebody else is kept", async () => {
    const id = await looked("stopped");
    const taking = importer.takeIn(id);
    expect(await underWay(id, taking)).toBe(true);
    const kept = w.log("note", { note: "meanwhile" });
    importer.stop(id);
    expect(await taking).toEqual({ stopped: true });
    await kept;
    expect(await cuts()).toBe(0);
    expect((await gather(w.services, "larkspur")).log.kinds.note.length).toBe(1);
    expect(importer.share(id)).toBeUndefined();
  }, 30_000);

  it("is looked at no longer than whoever sent it waits", async () => {
    const gone = new AbortController();
    const looking = importer.look("larkspur", table("nobody waits"), undefined, gone.signal);
    setTimeout(() => gone.abort(), 5);
    expect(await looking).toEqual({ problems: [{ line: 1, column: 1, words: "Stopped. Nothing was taken in." }] });
  });

  it("is in whole when it says so, with what was read and written meanwhile", async () => {
    const id = await looked("whole");
    const taking = importer.takeIn(id);
    expect(await underWay(id, taking)).toBe(true);
    // Reads see what was there before; a write waits for its turn.
    expect(await cuts()).toBe(0);
    await w.log("note", { note: "after it" });
    expect(await taking).toEqual({ said: `${ROWS} records were added.` });
    expect(await cuts()).toBe(ROWS);
  }, 30_000);

  it("leaves what is acknowledged meanwhile and afterwards where a power cut finds it", async () => {
    const wal = `${databaseFile(w.folder)}-wal`;
    const before = statSync(wal).ino;
    await importer.takeIn(await looked("power cut"));
    await w.log("note", { note: "acknowledged" });
    // The log all connections write is still the one in the folder: taken away from under them, nothing of this would be left.
    expect(statSync(wal).ino).toBe(before);
    const cut = mkdtempSync(join(tmpdir(), "clenor-cut-"));
    for (const ending of ["", "-wal"]) copyFileSync(databaseFile(w.folder) + ending, databaseFile(cut) + ending);
    const after = await openStore(cut);
    const { notes } = await after
      .selectFrom("event")
      .select((e) => e.fn.countAll<number>().as("notes"))
      .where("payload", "like", "%acknowledged%")
      .executeTakeFirstOrThrow();
    await after.destroy();
    expect(notes).toBe(1);
  }, 30_000);

  it("of a machine that is not here is refused as it is without a thread", async () => {
    await expect(importer.look("teasel", table("x"), undefined)).rejects.toThrow(NotHere);
  });
});
