/** Copies by themselves: one a day in every place, the right ones kept, what fails is said and mends itself. */
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { copiesOf, listCopies } from "#store/backups";
import { closeStore, databaseFile, openStore } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";
import { FormReader } from "../forms/fields";
import { DAY, TestWorkshop } from "../testWorkshop";
import { todayView } from "../today/todayView";
import { COPIES_FOLDER, COPY_TROUBLE, copyDaily, folderProblem, keptOf } from "./daily";
import { copiesView, fileByForm, lostCopies } from "./files";

let w: TestWorkshop;
beforeEach(async () => {
  w = await TestWorkshop.worked();
});
const daily = (place: string) => listCopies(place).filter((c) => c.name.startsWith("daily-"));
const form = (fields: Record<string, string>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.append(name, value);
  return new FormReader(data);
};

describe("the copies that are kept", () => {
  it("are those of the last seven days and of the last eight weeks there is one of, whatever was made when", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 200 * 24 }), { maxLength: 80 }), (hours) => {
        const copies = hours.map((h) => ({ atMs: Date.parse("2026-06-01T00:00:00Z") + h * 3_600_000 }));
        const kept = keptOf(copies);
        const day = (c: { atMs: number }) => new Date(c.atMs).toISOString().slice(0, 10);
        const days = [...new Set(copies.map(day))].sort().reverse();
        // Each of the last seven days has one, and it is its newest.
        for (const d of days.slice(0, 7)) {
          const newest = Math.max(...copies.filter((c) => day(c) === d).map((c) => c.atMs));
          expect(kept.some((c) => c.atMs === newest)).toBe(true);
        }
        expect(kept.length).toBeLessThanOrEqual(7 + 8);
        // Nothing younger is thrown away for something older of the same day; the newest of all is always there.
        if (copies.length > 0) expect(kept[0]?.atMs).toBe(Math.max(...copies.map((c) => c.atMs)));
        // A second time changes nothing.
        expect(keptOf(kept)).toEqual(kept);
      }),
    );
  });

  it("go back some weeks after some months of days", async () => {
    for (let d = 0; d < 100; d += 1) {
      w.day(30 + d);
      writeFileSync(join(w.folder, `x${d}`), "");
      if (d % 9 === 0 || d > 90) await copyDaily(w.services);
    }
    const kept = daily(copiesOf(w.folder));
    expect(kept.length).toBeGreaterThanOrEqual(12);
    expect(w.nowMs - (kept.at(-1)?.atMs ?? 0)).toBeGreaterThan(40 * DAY);
  });
});

describe("the copy of the day", () => {
  it("is made once, beside the data and in the folder its owner named, and each can be gone back to", async () => {
    const stick = mkdtempSync(join(tmpdir(), "clenor-stick-"));
    expect(await fileByForm(w.services, form({ intent: "copies-folder", folder: stick }))).toMatchObject({
      said: expect.stringContaining(stick),
    });
    for (let time = 0; time < 3; time++) await copyDaily(w.services);
    expect([daily(copiesOf(w.folder)).length, daily(stick).length]).toEqual([1, 1]);
    w.day(22);
    await copyDaily(w.services);
    expect([daily(copiesOf(w.folder)).length, daily(stick).length]).toEqual([2, 2]);
    await w.log("note", { note: "after the copies" });
    const { list } = await copiesView(w.services);
    // A second machine is set up beside the first, with no word of a loss.
    expect(await lostCopies(w.services)).toBe(0);
    expect(list.map((c) => c.id.split("/")[0]).sort()).toEqual(["here", "here", "own", "own"]);
    const own = list.find((c) => c.id.startsWith("own/"))?.id ?? "";
    expect(await fileByForm(w.services, form({ intent: "restore-copy", copy: own }))).toMatchObject({
      said: expect.stringMatching(/^Restored/),
    });
    expect((await w.look()).log.kinds.note.length).toBe(0);
    // Where it is kept is about this computer: going back does not change it.
    expect(await readSetting(w.store, COPIES_FOLDER)).toBe(stick);
  });

  it("that fails is said on Today, is made in the other place all the same, and the words go once it succeeds", async () => {
    const stick = mkdtempSync(join(tmpdir(), "clenor-stick-"));
    await writeSettings(w.store, { [COPIES_FOLDER]: stick });
    rmSync(stick, { recursive: true });
    await copyDaily(w.services);
    expect(daily(copiesOf(w.folder))).toHaveLength(1);
    expect((await todayView(w.services, await w.look())).copyTrouble).toMatch(/The copy by itself failed .*no such folder/);
    mkdirSync(stick);
    await copyDaily(w.services);
    expect(daily(stick)).toHaveLength(1);
    expect(await readSetting(w.store, COPY_TROUBLE)).toBeUndefined();
    expect((await todayView(w.services, await w.look())).copyTrouble).toBeUndefined();
    // What is no copy lies there undisturbed.
    writeFileSync(join(stick, "holiday.txt"), "x");
    w.day(40);
    await copyDaily(w.services);
    expect(readdirSync(stick)).toContain("holiday.txt");
  });

  it("is not made of nothing: an emptied database pushes no copy out", async () => {
    await copyDaily(w.services);
    const had = daily(copiesOf(w.folder));
    await closeStore(w.store);
    rmSync(databaseFile(w.folder));
    const empty = await openStore(w.folder);
    await copyDaily({ store: empty, folder: w.folder, nowMs: () => w.nowMs + 3 * DAY });
    expect(daily(copiesOf(w.folder))).toEqual(had);
  });

  it("goes to no folder that cannot take it", () => {
    const file = join(w.folder, "a-file");
    writeFileSync(file, "x");
    const closed = mkdtempSync(join(tmpdir(), "clenor-closed-"));
    chmodSync(closed, 0o500);
    expect(folderProblem("copies")).toMatch(/whole path/);
    expect(folderProblem(file)).toMatch(/A folder would be right/);
    expect(folderProblem("/no/such/folder")).toMatch(/no such folder/);
    if (process.getuid?.() !== 0) expect(folderProblem(closed)).toMatch(/cannot be written/);
    expect(folderProblem(w.folder)).toBeUndefined();
    expect(existsSync(w.folder)).toBe(true);
  });
});
