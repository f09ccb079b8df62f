import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { strToU8, zipSync } from "fflate";
import sharp from "sharp";
import { beforeAll, describe, expect, it } from "vitest";
import { EVENT_KINDS } from "#core/events";
import { listBackups, makeBackup, restoreBackup } from "#store/backups";
import { openCase } from "#store/cases";
import { openStore } from "#store/database";
import { addMachine } from "#store/machines";
import { hashOf } from "#store/photos";
import { filesText, schemaText } from "../../scripts/docsFiles";
import type { Services } from "../context";
import { logView } from "../log/logView";
import { gather } from "../machine/gather";
import { bookView } from "../outlook/book";
import { outlookView } from "../outlook/outlookView";
import { rungs, START, TestWorkshop } from "../testWorkshop";
import { todayView } from "../today/todayView";
import { tableOf } from "./exportFiles";
import { lookAtFile, takeIn } from "./importFile";
import { workshopFile } from "./workshopFile";

const bytes = (text: string) => new TextEncoder().encode(text);

async function emptyWorkshop(nowMs: number): Promise<Services> {
  const folder = mkdtempSync(join(tmpdir(), "clenor-empty-"));
  return { store: await openStore(folder), folder, nowMs: () => nowMs };
}

/** A workshop in which something of everything happened. */
async function lived(): Promise<TestWorkshop> {
  const w = await TestWorkshop.open();
  await w.ladder(14, true);
  await w.log("power", { setPercent: 100, readings: [{ station: "lens", powerW: 55 }], baseline: true });
  await w.log("bed-map", {
    materialId: 1,
    setPercent: 60,
    bedWidthMm: 900,
    bedDepthMm: 600,
    places: ["back-left", "middle", "front-right"].map((place, i) => ({
      place,
      xMm: 100 + 300 * i,
      yMm: 100 + 200 * i,
      rungs: rungs(12).slice(4, 9),
    })),
  });
  await w.log("coupon", { form: "ladder", materialId: 1, setPercent: 60, speedsMmPerS: [9, 10.5, 12] });
  for (let day = 5; day <= 60; day += 5) {
    w.day(day);
    await w.log("hours", { counterHours: 900 + day });
    await w.log("cut", { materialId: 1, speedMmPerS: 10, setPercent: 60, result: "through", note: "=SUM(A1)" });
    await w.log("grade", { station: "lens", phase: "as-found", grade: 1 });
    await w.log("service", { station: "lens", what: "cleaned" });
    await w.ladder(13);
  }
  await w.log("note", { note: 'with, a comma; a "quote"\nand two lines' });
  await openCase(
    w.store,
    1,
    {
      title: "Weak",
      sign: "weak",
      symptom: "power",
      onsetMs: w.nowMs,
      requestKey: "case-1",
      findings: [{ check: "onset", outcome: "gradual" }],
    },
    w.nowMs,
  );
  return w;
}

/** Every figure that places show of a machine, without the numbers records happen to have. */
async function shown(s: Services): Promise<string> {
  const g = await gather(s, "larkspur");
  const views = [await todayView(s, g), await outlookView(s, g), bookView(g), await logView(s, g, new URLSearchParams("find=%"))];
  return JSON.stringify(views, (key, value) => (key === "key" || key === "keys" ? undefined : value));
}

let w: TestWorkshop;
beforeAll(async () => {
  w = await lived();
});

describe("the workshop's file", () => {
  it("is described in docs as it is checked", () => {
    expect(readFileSync("docs/workshop.schema.json", "utf8")).toBe(schemaText);
    expect(readFileSync("docs/files.md", "utf8")).toBe(filesText);
  });

  it("carries everything into an empty workshop, every figure the same, and twice changes nothing", async () => {
    const file = await workshopFile(w.services);
    const other = await emptyWorkshop(w.nowMs);
    // Its tables belong to a machine, and there is none yet: only the whole comes in.
    const looked = await lookAtFile(other, "larkspur", bytes(file));
    expect(looked).toMatchObject({ is: "workshop", changes: true });
    expect("words" in looked && looked.words.join(" ")).toMatch(/1 machine, 1 material, 1 case, 6\d records would be added/);
    expect(await takeIn(other, "id" in looked ? looked.id : "")).toMatchObject({ said: expect.stringMatching(/were added/) });
    expect(await shown(other)).toBe(await shown(w.services));
    expect(await workshopFile(other)).toBe(file);
    expect(await lookAtFile(other, "larkspur", bytes(file))).toMatchObject({
      changes: false,
      words: [expect.stringContaining("nothing would change"), expect.anything()],
    });
    expect(await takeIn(other, "id" in looked ? looked.id : "")).toMatchObject({ problem: expect.stringMatching(/too long ago/) });
  });

  it.each([
    ["cut off", (f: string) => f.slice(0, f.length / 2), /cut off|not JSON/],
    ["of a newer version", (f: string) => f.replace('"version": 1', '"version": 9'), /newer Clenor/],
    ["of something else", () => "{}", /not a workshop/],
    ["with a wrong grade", (f: string) => f.replace('"grade": 1', '"grade": 7'), /grade: Must be 4 or less/],
    ["with a key twice", (f: string) => f.replaceAll('"key": "t5"', '"key": "t4"'), /stands twice/],
    ["with a material it does not have", (f: string) => f.replace('"materialId": 1', '"materialId": 77'), /No material has this number/],
    ["in another encoding", () => new Uint8Array([0xff, 0xfe, 0x41, 0x00]), /UTF-8/],
    ["empty", () => "", /empty/],
  ] as const)("%s is refused with its place, and nothing is changed", async (_, spoil, words) => {
    const other = await emptyWorkshop(w.nowMs);
    const spoiled = spoil(await workshopFile(w.services));
    const looked = await lookAtFile(other, "larkspur", typeof spoiled === "string" ? bytes(spoiled) : spoiled);
    expect(looked).toMatchObject({
      problems: [
        { line: expect.any(Number), column: expect.any(Number), words: expect.stringMatching(words) },
        ...("problems" in looked ? looked.problems.slice(1) : []),
      ],
    });
    expect(JSON.parse(await workshopFile(other))).toMatchObject({ machines: [] });
  });

  it("names the line of what is wrong in it", async () => {
    const lines = (await workshopFile(w.services)).split("\n");
    const at = lines.findIndex((l) => l.includes('"grade": 1'));
    lines[at] = (lines[at] as string).replace("1", '"one"');
    const looked = await lookAtFile(w.services, "larkspur", bytes(lines.join("\n")));
    expect("problems" in looked && looked.problems[0]?.line).toBe(at + 1);
  });
});

describe("tables", () => {
  it.each(EVENT_KINDS)("of %s read back as they were written, and twice changes nothing", async (kind) => {
    const table = await tableOf(w.services, "larkspur", kind);
    const looked = await lookAtFile(w.services, "larkspur", bytes(table), kind);
    expect(looked).toMatchObject({ is: "records", changes: false });
    expect("words" in looked && looked.words.join(" ")).not.toMatch(/saying something else/);
  });

  it("of another machine are refused by its name, and a key that stands twice in a workshop is no failure", async () => {
    const table = await tableOf(w.services, "larkspur", "cut");
    const other = await emptyWorkshop(w.nowMs);
    const file = await workshopFile(w.services);
    const looked = await lookAtFile(other, "larkspur", bytes(file));
    await takeIn(other, "id" in looked ? looked.id : "");
    const material = { name: "birch ply", kind: "birch-ply", thicknessMm: 3 };
    await addMachine(
      other.store,
      { name: "Teasel", layout: "moving-head", ratedPowerW: 45, ratedTubeHours: 2500, tubeHours: 0, material },
      "m2",
      w.nowMs,
    );
    expect(await lookAtFile(other, "teasel", bytes(table))).toMatchObject({ problems: [{ words: expect.stringContaining("Larkspur's") }] });
    const twin = JSON.parse(file) as { machines: { key: string; slug: string; cases: unknown[]; rounds: unknown[] }[] };
    twin.machines.push({ ...(twin.machines[0] as (typeof twin.machines)[number]), key: "another", slug: "another", cases: [], rounds: [] });
    expect(await lookAtFile(await emptyWorkshop(w.nowMs), "larkspur", bytes(JSON.stringify(twin)))).toMatchObject({
      problems: [{ words: expect.stringMatching(/the key of another one/) }],
    });
  });

  it("leave no formula for a spreadsheet, and lose nothing by it", async () => {
    const table = await tableOf(w.services, "larkspur", "cut");
    expect(table).toContain("'=SUM(A1)");
    expect(table).not.toMatch(/[,\n]=SUM/);
  });

  it("come from a spreadsheet with semicolons and decimal commas, without keys; sent again they are known", async () => {
    const table =
      "when;material;speed_mm_per_s;set_percent;result\n2026-10-02 09:00;3 mm birch ply;13,5;60;hangs\n2026-10-03;3 mm birch ply;12;60;through\n";
    const looked = await lookAtFile(w.services, "larkspur", bytes(`\uFEFF${table}`));
    expect(looked).toMatchObject({ is: "records", words: ["2 records would be added."] });
    await takeIn(w.services, "id" in looked ? looked.id : "");
    expect((await w.look()).log.kinds.cut.findLast((e) => e.payload.speedMmPerS === 13.5)?.payload.result).toBe("hangs");
    expect(await lookAtFile(w.services, "larkspur", bytes(table))).toMatchObject({ changes: false });
  });

  it("say line and column of what is wrong, twenty at most, and nothing is taken", async () => {
    const before = (await w.look()).log.size;
    const row = (n: number) => `2026-10-0${n},4 mm birch ply,fast,60,melted`;
    const table = `when,material,speed_mm_per_s,set_percent,result\n${row(1)}\n2026-02-30,3 mm birch ply,12,60,through\n2031-01-01,3 mm birch ply,12,60,through\n${Array.from({ length: 30 }, () => row(2)).join("\n")}`;
    const looked = await lookAtFile(w.services, "larkspur", bytes(table));
    if (!("problems" in looked)) throw new Error("taken");
    expect(looked.problems).toHaveLength(20);
    expect(looked.problems.slice(0, 4)).toEqual([
      { line: 2, column: 2, words: expect.stringContaining("not on this machine's list") },
      { line: 2, column: 3, words: '"fast" is not a number.' },
      { line: 3, column: 1, words: expect.stringContaining("not a moment") },
      { line: 4, column: 1, words: "This is in the future." },
    ]);
    expect((await w.look()).log.size).toBe(before);
  });

  it("stand whatever a file holds: no crash, nothing half taken", async () => {
    const good = await tableOf(w.services, "larkspur", "cut");
    const before = (await w.look()).log.size;
    const spoiled = fc
      .tuple(fc.nat(good.length), fc.string({ maxLength: 12 }), fc.nat(20))
      .map(([at, put, cut]) => good.slice(0, at) + put + good.slice(at + cut));
    await fc.assert(
      fc.asyncProperty(fc.oneof(spoiled.map(bytes), fc.uint8Array({ maxLength: 400 })), async (file) => {
        const looked = await lookAtFile(w.services, "larkspur", file);
        if ("problems" in looked)
          for (const p of looked.problems) expect([p.line > 0, p.column > 0, p.words.length > 5]).toEqual([true, true, true]);
        expect((await w.look()).log.size).toBe(before);
      }),
      { numRuns: 80 },
    );
  });
});

const sound = async () => undefined;

describe("photos and copies", () => {
  it("come in under their own hash and under no other name, and no archive unfolds without end", async () => {
    const photo = new Uint8Array(
      await sharp({ create: { width: 20, height: 20, channels: 3, background: "#888" } })
        .png()
        .toBuffer(),
    );
    const zip = (name: string, content: Uint8Array) => lookAtFile(w.services, "larkspur", zipSync({ [name]: content }));
    expect(await zip(`photos/${hashOf(photo)}.png`, photo)).toMatchObject({ is: "photos", words: ["1 photo would be kept."] });
    for (const [name, content, words] of [
      ["../../clenor.sqlite", photo, /is not a photo of Clenor's/],
      [`photos/${"0".repeat(64)}.png`, photo, /not what its name says/],
      [`photos/${hashOf(strToU8("x"))}.png`, strToU8("x"), /not a photo/],
      [`photos/${"1".repeat(64)}.png`, new Uint8Array(30 * 1024 * 1024), /unfolds to more/],
    ] as const)
      expect(await zip(name, content)).toMatchObject({ problems: [{ words: expect.stringMatching(words) }] });
    expect(await lookAtFile(w.services, "larkspur", new Uint8Array([0x50, 0x4b, 3, 4, 9, 9, 9]))).toHaveProperty("problems");
  });

  it("go back to a copy whole, with what was kept in memory, and can be undone", async () => {
    const name = await makeBackup(w.store, w.folder, w.nowMs);
    const then = await shown(w.services);
    await w.log("ladder", { materialId: 1, setPercent: 60, rungs: rungs(7) });
    const now = await shown(w.services);
    expect(now).not.toBe(then);
    const before = await restoreBackup(w.store, w.folder, { name }, w.nowMs, sound);
    expect(await shown(w.services)).toBe(then);
    await restoreBackup(w.store, w.folder, { name: before }, w.nowMs + 1000, sound);
    expect(await shown(w.services)).toBe(now);
    expect(listBackups(w.folder).length).toBeGreaterThanOrEqual(3);
    await expect(restoreBackup(w.store, w.folder, { name: "../clenor.sqlite" }, w.nowMs, sound)).rejects.toThrow(/not there/);
    expect(readFileSync(join(w.folder, "clenor.sqlite")).length).toBeGreaterThan(0);
    expect(START).toBeLessThan(w.nowMs);
  });
});
