import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Grade } from "#core/beam";
import { appendEvents } from "#store/events";
import { addMachine } from "#store/machines";
import { gather } from "../machine/gather";
import { histories, lived } from "../testHistories";
import { START, TestWorkshop } from "../testWorkshop";
import { machinesView } from "./machinesView";
import { todayView } from "./todayView";

describe("Today", () => {
  it("forgets nothing that was seen bad, stops for what must not be fired, and never says two things of one figure", async () => {
    await fc.assert(
      fc.asyncProperty(histories(9), async (steps) => {
        const { w, cut, bad, stops } = await lived(steps);
        const { verdict, bad: kept, offer, lastProof, openCases, mayFire } = await todayView(w.services, await w.look());
        expect(kept.map((b) => b.station).sort()).toEqual([...bad.keys()].sort());
        for (const b of kept.filter((b) => b.clean !== undefined)) expect(offer.lines.map((l) => l.id)).toContain(b.clean);
        expect(/^Do not fire/.test(verdict.headline)).toBe(stops);
        expect(mayFire).toBe(!stops);
        expect(openCases).toEqual([]);
        expect(lastProof).toBeDefined();
        if (stops) return;
        const [, percent, low, high] = (/About (\d+) % of best \(between (\d+) and (\d+) %\)/.exec(verdict.lead) ?? []).map(Number) as [
          number,
          number,
          number,
          number,
        ];
        const together = verdict.sum.find((s) => s.term === "Together")?.text ?? "";
        expect(together).toContain(`= ${percent} %`);
        const [terms = ""] = together.split("=");
        expect(terms.split(/(?=[−+])/).reduce((sum, t) => sum + Number(t.replace("−", "-").replace(/[\s+]/g, "")), 0)).toBe(percent);
        expect(low).toBeLessThanOrEqual(percent);
        expect(high).toBeGreaterThanOrEqual(percent);
        // The word on the usual cut never contradicts the last try of it.
        expect(verdict.headline).toMatch(/^(Fit to cut|On the edge|Weak): 3 mm birch ply .* at 14 mm\/s/);
        if (cut === "through") expect(verdict.headline).not.toMatch(/^Weak/);
        if (cut === "hangs" || cut === "part-through") expect(verdict.headline).not.toMatch(/^Fit/);
        // A cut that failed since the last ladder speaks louder than the estimate; then what is bad, before what is due.
        if (cut !== undefined && cut !== "through") expect(verdict.next).toMatch(/^But the last (\d+ )?cuts?/);
        else if (kept.length > 0) expect(verdict.next).toContain("still needs work");
      }),
      { numRuns: 12 },
    );
  });

  it("says of another machine that it must not be fired, and what was seen bad on it", async () => {
    const w = await TestWorkshop.open();
    const material = { name: "birch ply", kind: "birch-ply", thicknessMm: 3, usualSpeedMmPerS: 14, usualSetPercent: 60 };
    await addMachine(
      w.store,
      { name: "Teasel", layout: "moving-head", ratedPowerW: 45, ratedTubeHours: 5000, tubeHours: 100, material },
      "other",
      START,
    );
    const other = async () => (await todayView(w.services, await gather(w.services, "larkspur"))).machines.find((m) => !m.here);
    const see = (station: string, grade: Grade, key: string) =>
      appendEvents(
        w.store,
        2,
        [{ kind: "grade", atMs: w.nowMs, payload: { station, grade, phase: "as-found" }, requestKey: key }],
        w.nowMs,
      );
    w.day(1);
    await see("lens", 0, "a");
    expect((await other())?.words).not.toMatch(/bad|fire/);
    w.day(2);
    await see("mirror-1", 2, "b");
    expect(await other()).toMatchObject({ words: expect.stringMatching(/, the head mirror still needs work$/), hot: false });
    await see("lens", 3, "c");
    expect((await other())?.words).toMatch(/, 2 parts still need work$/);
    w.day(3);
    await see("lens", 4, "d");
    expect(await other()).toMatchObject({ words: "do not fire: the lens is damaged", hot: true });
  });
});

describe("a machine that cannot be read", () => {
  it("keeps nobody from another one: it is said there, with the way back", async () => {
    const w = await TestWorkshop.worked();
    const { store } = w;
    const material = { name: "birch ply", kind: "birch-ply", thicknessMm: 3 };
    await addMachine(
      store,
      { name: "Teasel", layout: "moving-head", ratedPowerW: 45, ratedTubeHours: 2500, tubeHours: 10, material },
      "t",
      w.nowMs,
    );
    await store.updateTable("machine").set({ layout: "no-such-layout" }).where("slug", "=", "teasel").execute();
    const g = await w.look();
    const today = await todayView(w.services, g);
    expect(today.machines.map((m) => [m.slug, m.hot])).toEqual([
      ["larkspur", false],
      ["teasel", true],
    ]);
    expect(today.machines[1]?.words).toMatch(/cannot be read.*copy/);
    const rows = await machinesView(w.services, g.machines);
    expect(rows.map((r) => r.verdict)).toEqual([today.verdict.headline, "It cannot be read."]);
  });
});
