import { describe, expect, it } from "vitest";
import { addFinding, findCase, openCase, type TraceCase } from "#store/cases";
import { changeMachine } from "#store/machines";
import { caseFindings, traceInput } from "../cases/caseInput";
import { DAY, START, TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { beamLine } from "./beamLine";
import { gatherOnce, standingFindings } from "./gather";
import { powerSeries } from "./powerSeries";
import { shellView } from "./shellView";

describe("gathering a machine", () => {
  it("has no verdict without a baseline, and knows the counter it began with", async () => {
    const w = await TestWorkshop.open();
    const g = await w.look();
    expect(g.condition).toBeUndefined();
    expect(g.usage.tubeHours).toBe(900);
    expect(g.due.every((d) => d.state === "ahead")).toBe(true);
  });

  it("works the plan out for who asks for it: neither for the frame of every page nor for a case", async () => {
    const w = await TestWorkshop.open();
    w.day(21);
    const id = await openCase(w.store, 1, WEAK_CASE, w.nowMs);
    const g = Object.defineProperty(await w.look(), "plan", {
      get: () => {
        throw new Error("nobody asked for the plan");
      },
    });
    expect(shellView(g, "key").stop).toBeUndefined();
    const own = (await findCase(w.store, 1, id)) as TraceCase;
    expect(traceInput(g, own, caseFindings(g, own, await standingFindings(w.services, id))).findings).toHaveLength(1);
  });

  it("refuses a machine that is not there", async () => {
    const w = await TestWorkshop.open();
    await expect(gatherOnce(w.services, "teasel")).rejects.toThrow(/no machine called "teasel"/);
  });

  it("measures ladders against the baseline that held when they were cut", async () => {
    const w = await TestWorkshop.open();
    w.day(1);
    await w.ladder(15, true);
    w.day(10);
    await w.ladder(13);
    w.day(20);
    await w.ladder(14, true);
    w.day(21);
    await w.ladder(14);
    const ratios = Array.from((await w.look()).ladders, (l) =>
      l.effective.kind === "ratio" ? Number(l.effective.ratio.toFixed(2)) : l.effective.kind,
    );
    expect(ratios).toEqual([1, 0.87, 1, 1]);
  });

  it("lets smoke make a lens due, and a clean makes it good again", async () => {
    const w = await TestWorkshop.open();
    w.day(5);
    await w.log("hours", { counterHours: 910 });
    const lens = async () => (await w.look()).due.find((d) => d.id === "lens");
    expect(await lens()).toMatchObject({ state: "due" });
    await w.log("service", { station: "lens", what: "cleaned" });
    expect(await lens()).toMatchObject({ state: "ahead", used: 0 });
  });

  it("lowers the estimate with hours and smoke, and raises its share of dirt, until a ladder says otherwise", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    const fresh = (await w.look()).condition;
    w.day(30);
    await w.log("hours", { counterHours: 940 });
    const used = (await w.look()).condition;
    expect(used?.ratio).toBeLessThan(fresh?.ratio as number);
    expect(used?.dirt).toBeGreaterThan(0.03);
    await w.ladder(8);
    const weak = (await w.look()).condition;
    expect(weak?.ratio).toBeLessThan((used?.ratio as number) - 0.1);
    expect((weak?.dirt ?? 0) + (weak?.other ?? 0)).toBeGreaterThan((used?.dirt ?? 0) + 0.08);
  });

  it("shows on the beam line what a look in an open trace saw", async () => {
    const w = await TestWorkshop.open();
    await w.log("grade", { station: "mirror-2", phase: "as-left", grade: 0 });
    w.day(3);
    const id = await openCase(
      w.store,
      1,
      { title: "t", sign: "s", symptom: "power", onsetMs: START, requestKey: "c", findings: [] },
      w.nowMs,
    );
    await addFinding(w.store, id, { check: "mirror-look@2", outcome: "film" }, "f", w.nowMs);
    const g = await w.look();
    expect(g.grades.get("mirror-2")).toMatchObject({ grade: 2 });
    const shown = beamLine(g, "key").stations.find((s) => s.id === "mirror-2");
    expect(shown?.status).toEqual(["film", "clean it"]);
    expect(shown?.card.map((c) => c.term)).toContain("Cost of that condition");
  });
});

describe("a look in an open trace", () => {
  it("gives way to a newer one in a round, and stands over an older one", async () => {
    const w = await TestWorkshop.open();
    w.day(3);
    const opened = { title: "t", sign: "s", symptom: "power", onsetMs: START, requestKey: "c", findings: [] } as const;
    const id = await openCase(w.store, 1, opened, w.nowMs);
    await addFinding(w.store, id, { check: "lens-look", outcome: "spots" }, "f", w.nowMs);
    await w.log("grade", { station: "lens", phase: "as-left", grade: 1 }, 2);
    expect((await w.look()).grades.get("lens")?.grade).toBe(3);
    await w.log("grade", { station: "lens", phase: "as-left", grade: 0 }, 4);
    w.day(5);
    expect((await w.look()).grades.get("lens")?.grade).toBe(0);
  });
});

describe("the beam line", () => {
  it("gives tube and window one number, dims with dirt, and names what is due off the path", async () => {
    const w = await TestWorkshop.open();
    await w.log("power", {
      setPercent: 100,
      baseline: true,
      readings: [
        { station: "tube", powerW: 79 },
        { station: "lens", powerW: 72.5 },
      ],
    });
    w.day(40);
    await w.log("hours", { counterHours: 1080 });
    const line = beamLine(await w.look(), "key");
    const at = (id: string) => line.stations.find((s) => s.id === id);
    expect(at("tube")).toMatchObject({ watts: "79 W", status: ["1080 h"] });
    expect(at("window")?.watts).toBe("");
    expect(at("lens")?.watts).toBe("72.5 W");
    expect(at("lens")?.light).toBeLessThan(at("mirror-1")?.light as number);
    expect(line.branches.map((b) => b.name)).toContain("Rails and belts");
    expect(line.work).toBe("3 mm birch ply");
  });
});

describe("the power curve", () => {
  it("holds every ladder since a day, what the tube alone would give, and no round after the last point", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(15, true);
    w.day(20);
    await w.log("hours", { counterHours: 1000 });
    await w.ladder(14);
    const series = await powerSeries(w.services, await w.look(), START);
    expect(series.points.map((p) => Math.round(p.percent))).toEqual([100, 94]);
    expect(series.tubeAlone[0]).toBeCloseTo(100, 6);
    expect(series.tubeAlone[1]).toBeLessThan(100);
    expect((await powerSeries(w.services, await w.look(), START + 10 * DAY)).points).toHaveLength(1);
    expect(series.rounds).toEqual([]);
  });

  it("counts smoke up where the room is dusty and the exhaust weak", async () => {
    const dose = async (more: object) => {
      const w = await TestWorkshop.open();
      const { fittings } = (await w.look()).trade.layout;
      await changeMachine(w.store, 1, () => ({ fittings: { ...fittings, ...more } }));
      await w.ladder(15, true);
      w.day(5);
      await w.log("job", { materialId: 1, minutes: 600 }, 4);
      return (await w.look()).doses.get("lens") as number;
    };
    const plain = await dose({});
    expect((await dose({ room: "dusty", exhaust: "weak" })) / plain).toBeCloseTo(1.25 * 1.5, 6);
    expect(await dose({ exhaust: "strong" })).toBeCloseTo(plain, 9);
  });
});
