import { describe, expect, it } from "vitest";
import { allEvents, type EventPayload } from "#core/events";
import { FormReader } from "../forms/fields";
import { START, TestWorkshop } from "../testWorkshop";
import { describeEvent } from "./describeEvent";
import { readEntry } from "./entries";
import type { EntryKind } from "./kinds";
import { entryOptions } from "./options";

async function read(kind: EntryKind, fields: Record<string, string>, days = 10, workshop?: TestWorkshop) {
  const w = workshop ?? (await TestWorkshop.open());
  w.day(days);
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  return readEntry(kind, new FormReader(form), await w.look(), w.nowMs);
}

describe("entries that are right", () => {
  it.each([
    ["hours", { counterHours: "912,5" }, { counterHours: 912.5 }],
    ["job", { materialId: "1", minutes: "1,5 h", note: "reed pans" }, { materialId: 1, minutes: 90, note: "reed pans" }],
    [
      "cut",
      { materialId: "1", speedMmPerS: "30 in/min", setPercent: "60 %", result: "hangs" },
      { materialId: 1, speedMmPerS: 12.7, setPercent: 60, result: "hangs" },
    ],
    ["grade", { station: "lens", grade: "2" }, { station: "lens", phase: "as-found", grade: 2 }],
    ["note", { note: "new hose" }, { note: "new hose" }],
    [
      "power",
      { setPercent: "100", "power-tube": "", "power-mirror-1": "60 W", "power-lens": "55,5" },
      {
        setPercent: 100,
        readings: [
          { station: "mirror-1", powerW: 60 },
          { station: "lens", powerW: 55.5 },
        ],
      },
    ],
    [
      "ladder",
      {
        materialId: "1",
        setPercent: "60",
        "speed-0": "10",
        "end-0": "dropped",
        "speed-1": "11",
        "speed-2": "12",
        "end-2": "stays",
        baseline: "1",
      },
      {
        materialId: 1,
        setPercent: 60,
        rungs: [
          { speedMmPerS: 10, end: "dropped" },
          { speedMmPerS: 12, end: "stays" },
        ],
        baseline: true,
      },
    ],
  ] as [EntryKind, Record<string, string>, EventPayload[EntryKind]][])("%s", async (kind, fields, payload) => {
    expect(await read(kind, fields)).toEqual({ ok: true, kind, payload });
  });
});

describe("entries that are wrong name the field and what would be right", () => {
  it.each([
    ["hours", { counterHours: "" }, "counterHours", /Empty.*1846\.5/],
    ["job", { materialId: "1", minutes: "0" }, "minutes", /above 0/],
    ["job", { materialId: "99", minutes: "5" }, "materialId", /not on the machine's list/],
    ["cut", { materialId: "1", speedMmPerS: "14", setPercent: "160", result: "through" }, "setPercent", /100 or less/],
    ["cut", { materialId: "1", speedMmPerS: "14", setPercent: "60" }, "result", /Say how the cut went/],
    ["ladder", { materialId: "1", setPercent: "60", "speed-0": "10" }, "rungs", /at least one rung/],
    ["ladder", { materialId: "1", setPercent: "60", "speed-0": "quick", "end-0": "dropped" }, "speed-0", /"quick" is not a number/],
    ["ladder", { materialId: "1", setPercent: "60", "speed-0": "9000", "end-0": "dropped" }, "rungs", /Rung 1.*2000 or less/],
    [
      "ladder",
      { materialId: "1", setPercent: "60", "speed-0": "12", "end-0": "dropped", "speed-1": "13", "end-1": "dropped", baseline: "1" },
      "rungs",
      /Every rung dropped.*Cut faster.*16/,
    ],
    [
      "ladder",
      { materialId: "1", setPercent: "60", "speed-0": "10", "end-0": "hangs", "speed-1": "13", "end-1": "stays", baseline: "1" },
      "rungs",
      /Nothing dropped.*Cut slower.*8/,
    ],
    ["power", { setPercent: "100" }, "readings", /at least one station/],
    ["power", { setPercent: "100", "power-lens": "-3" }, "power-lens", /above 0/],
    ["grade", { station: "lens" }, "grade", /Pick a grade/],
    ["note", {}, "note", /Write something/],
  ] as [EntryKind, Record<string, string>, string, RegExp][])("%s with %j", async (kind, fields, field, message) => {
    const entry = await read(kind, fields);
    if (entry.ok) throw new Error("it was taken");
    expect(entry.errors[field]).toMatch(message);
  });
});

describe("hours", () => {
  it("that run backwards are asked about, and taken with a reason", async () => {
    expect(await read("hours", { counterHours: "850" })).toMatchObject({
      ok: false,
      errors: { counterHours: expect.stringContaining("900 h") },
      ask: expect.any(String),
    });
    expect(await read("hours", { counterHours: "0", because: "tube-changed" })).toMatchObject({ ok: true });
    expect(await read("hours", { counterHours: "0", because: "gremlins" })).toMatchObject({
      ok: false,
      errors: { because: expect.stringContaining("tube-changed") },
    });
  });

  it("that run faster than the clock are asked about", async () => {
    expect(await read("hours", { counterHours: "960" }, 1)).toMatchObject({
      ok: false,
      errors: { counterHours: expect.stringContaining("only 24 h have passed") },
    });
    expect(await read("hours", { counterHours: "920" }, 1)).toMatchObject({ ok: true });
  });

  it("that replace a reading are not compared with it", async () => {
    const w = await TestWorkshop.open();
    w.day(10);
    await w.log("hours", { counterHours: 990 });
    const typo = allEvents((await w.look()).log).at(-1);
    const form = new FormData();
    form.set("counterHours", "909");
    expect(readEntry("hours", new FormReader(form), await w.look(), w.nowMs, typo?.id)).toMatchObject({ ok: true });
  });
});

describe("what the log offers and says", () => {
  it("suggests rungs around where the sheet should drop", async () => {
    const w = await TestWorkshop.open();
    const rungs = async () => entryOptions(await w.look()).materials[0]?.rungs.map(Number) as number[];
    const first = await rungs();
    expect(Math.min(...first)).toBeLessThan(14);
    expect(Math.max(...first)).toBeGreaterThan(15.2);
    await w.ladder(9, true);
    expect(Math.max(...(await rungs()))).toBeLessThan(15);
  });

  it("suggests slower rungs once the machine is weaker than its baseline", async () => {
    const w = await TestWorkshop.open();
    const middle = async () => {
      const rungs = entryOptions(await w.look()).materials[0]?.rungs.map(Number) as number[];
      return rungs.reduce((a, b) => a + b, 0) / rungs.length;
    };
    await w.ladder(15, true);
    const good = await middle();
    w.day(20);
    for (let i = 0; i < 3; i++) await w.ladder(9);
    expect(await middle()).toBeLessThan(0.85 * good);
  });

  it("puts every kind of record into words", async () => {
    const w = await TestWorkshop.open();
    w.day(2);
    await w.log("hours", { counterHours: 903 });
    await w.log("hours", { counterHours: 890 });
    await w.log("job", { materialId: 1, minutes: 40 });
    await w.log("cut", { materialId: 7, speedMmPerS: 14, setPercent: 60, result: "part-through" });
    await w.ladder(15, true);
    await w.ladder(13);
    await w.ladder(5);
    await w.log("power", { setPercent: 50, readings: [{ station: "lens", powerW: 30 }], baseline: true });
    await w.log("grade", { station: "mirror-3", phase: "as-found", grade: 1, note: "by torch" });
    await w.log("service", { station: "lens", what: "seat-opened" });
    await w.log("service", { station: "motion", what: "adjusted", task: "lubricate" });
    await w.log("note", { note: "quiet day" });
    const g = await w.look();
    const said = allEvents(g.log)
      .filter((e) => e.atMs > START)
      .map((e) => describeEvent(e, g).text);
    expect(said).toEqual([
      "903 h on the counter, 3 h fired",
      "890 h on the counter, runs backwards: counted as no firing",
      "3 mm birch ply, 40 min",
      "a material no longer listed at 14 mm/s, 60 %: part of the way",
      "3 mm birch ply at 60 %: drops to 15.5 mm/s; the baseline, known good",
      expect.stringMatching(/^3 mm birch ply at 60 %: drops to 13\.5 mm\/s; about 87 % of best \(between \d+ and \d+ %\)$/),
      "3 mm birch ply at 60 %: stays at 6 mm/s, the slowest rung; at most 39 % of best",
      "Lens 30 W at 50 %, the baseline",
      "M3 in head: haze as found “by torch”",
      "Lens taken out of its seat",
      "Rails, lubricate done",
      "quiet day",
    ]);
  });
});
