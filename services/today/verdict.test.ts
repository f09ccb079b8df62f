import { describe, expect, it } from "vitest";
import { openCase } from "#store/cases";
import { startRound } from "#store/rounds";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { todayView } from "./todayView";
import { verdict } from "./verdict";

const said = async (w: TestWorkshop) => verdict(await w.look(), undefined);

describe("the verdict", () => {
  it("asks for a baseline first", async () => {
    const v = await said(await TestWorkshop.open());
    expect(v.headline).toMatch(/No baseline yet/);
    expect(v.sum).toEqual([]);
  });

  it("speaks of the open trace first where there is no baseline, not of a ladder while it is good", async () => {
    const w = await TestWorkshop.open();
    await openCase(w.store, 1, WEAK_CASE, w.nowMs);
    const { verdict: v } = await todayView(w.services, await w.look());
    expect(v.headline).toBe("Case open: suddenly weaker.");
    expect(v.lead).toMatch(/^Once it cuts well, cut a ladder/);
  });

  it("is one sentence, a range in plain words, and a sum that can be opened", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(16, true);
    w.day(10);
    for (let i = 0; i < 2; i++) await w.ladder(16);
    const v = await said(w);
    expect(v.headline).toMatch(/^Fit to cut: 3 mm birch ply still drops at 14 mm\/s, with about \d+ % to spare\.$/);
    expect(v.lead).toMatch(/^About \d+ % of best \(between \d+ and \d+ %\): /);
    expect(v.sum.map((s) => s.term)).toEqual(["Best", "Usual cut", "Readings since", "Dirt", "Tube", "Neither", "Together"]);
  });

  it("grows grave as the ladders fall", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    w.day(2);
    for (let i = 0; i < 4; i++) await w.ladder(i < 2 ? 14 : 13);
    expect((await said(w)).headline).toMatch(/^On the edge: 3 mm birch ply may not drop at 14 mm\/s\.$/);
    for (let i = 0; i < 8; i++) await w.ladder(9);
    const weak = await said(w);
    expect(weak.headline).toMatch(/^Weak: 3 mm birch ply probably no longer drops at 14 mm\/s\.$/);
    expect(weak.lead).toMatch(/^About \d+(\.\d)? mm\/s should still drop\. About \d\d % of best/);
  });

  it("stands beside the last try of the usual cut, never against it", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(16, true);
    for (let i = 0; i < 2; i++) await w.ladder(16);
    w.day(1);
    await w.log("cut", { materialId: 1, speedMmPerS: 14, setPercent: 60, result: "hangs" });
    expect((await said(w)).headline).not.toMatch(/^Fit/);
    for (let i = 0; i < 6; i++) await w.ladder(9);
    w.nowMs += 1000;
    await w.log("cut", { materialId: 1, speedMmPerS: 14, setPercent: 60, result: "through" });
    expect((await said(w)).headline).toMatch(/^On the edge: 3 mm birch ply dropped at 14 mm\/s at the last try\.$/);
  });

  it("offers the one reading that says most: a ladder when the last is old, then what tells dirt from tube", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    w.day(40);
    await w.log("hours", { counterHours: 930 });
    expect((await said(w)).tell).toEqual({ label: "Cut a ladder to be sure (3 min)", to: "log?kind=ladder" });
    // Nothing was ever cleaned: it is dirt, and a clean shows it.
    await w.ladder(13);
    const dirty = await said(w);
    expect(dirty.tell).toBeUndefined();
    expect(dirty.lead).toContain("Most of what is lost is dirt");
    // All is clean, and weaker: tube or alignment, nobody knows which.
    const worn = await TestWorkshop.open();
    await worn.ladder(15, true);
    worn.day(150);
    await worn.log("hours", { counterHours: 1500 });
    for (const station of ["window", "mirror-1", "mirror-2", "mirror-3", "lens"]) await worn.log("service", { station, what: "cleaned" });
    await worn.ladder(12);
    const tired = await said(worn);
    expect(tired.tell?.label).toMatch(/^(Clean between two ladders|Measure watts at the tube) to tell/);
    expect(tired.lead).toContain("the readings cannot tell yet which");
  });

  it("asks for a new baseline after a new tube or a new lens", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    w.day(2);
    await w.log("service", { station: "coolant", what: "replaced" });
    expect((await said(w)).lead).not.toContain("since the baseline");
    await w.log("service", { station: "lens", what: "replaced" });
    expect((await said(w)).lead).toContain("The lens was changed since the baseline: cut a new baseline ladder");
    w.day(3);
    await w.ladder(15, true);
    expect((await said(w)).lead).not.toContain("since the baseline");
    w.day(4);
    await w.log("hours", { counterHours: 0, because: "tube-changed" });
    expect((await said(w)).lead).toContain("The tube was changed since the baseline");
  });

  it("puts an open round and a broken optic before everything else", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    await w.log("grade", { station: "lens", phase: "as-left", grade: 4 });
    expect(await said(w)).toMatchObject({ headline: "Do not fire: the lens is damaged.", next: "Fit a spare first." });
    await w.log("grade", { station: "lens", phase: "as-left", grade: 0 });
    await w.log("grade", { station: "window", phase: "as-left", grade: 3 });
    expect(await said(w)).toMatchObject({ headline: "Do not fire: the exit window is burnt.", next: "Ask the tube's supplier." });
    await startRound(w.store, 1, { title: "Lens", parts: ["lens"], requestKey: "r" }, w.nowMs);
    expect((await said(w)).headline).toBe("Larkspur is apart: do not fire.");
  });
});
