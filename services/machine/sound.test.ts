import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { openCase } from "#store/cases";
import { startRound } from "#store/rounds";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { everyMachineCanBeRead, Unsound } from "./sound";
import { tradeOf } from "./trade";

describe("a workshop that is read before it counts", () => {
  it("is sound as it is used", async () => {
    const w = await TestWorkshop.worked();
    await openCase(w.store, 1, WEAK_CASE, w.nowMs);
    await expect(everyMachineCanBeRead(w.services)).resolves.toBeUndefined();
  });

  it.each([
    ["a layout nobody knows", (w: TestWorkshop) => w.store.updateTable("machine").set({ layout: "constructor" }).execute()],
    ["a path that is none", (w: TestWorkshop) => w.store.updateTable("machine").set({ path: '{"x":1}' }).execute()],
    ["fittings that are none", (w: TestWorkshop) => w.store.updateTable("machine").set({ fittings: "7" }).execute()],
    [
      "an open round whose plan is none",
      async (w: TestWorkshop) => {
        await startRound(w.store, 1, { title: "Lens", parts: ["lens"], requestKey: "r" }, w.nowMs);
        await w.store.updateTable("round").set({ plan: '{"steps":7}' }).execute();
      },
    ],
    ["a record that is no JSON", (w: TestWorkshop) => w.store.updateTable("event").set({ payload: "{" }).execute()],
  ])("is refused with %s, by the machine's name and without what went on inside", async (_, spoil) => {
    const w = await TestWorkshop.worked();
    await spoil(w);
    const refused = everyMachineCanBeRead(w.services);
    await expect(refused).rejects.toBeInstanceOf(Unsound);
    await expect(refused).rejects.toThrow(/^Larkspur could not be read from it\. Nothing was taken in\.$/);
  });
});

describe("what a machine is offered", () => {
  it("is of parts that it has: none looks at, cleans or replaces what is not on its path", () => {
    for (const { id, path } of Object.values(layouts)) {
      const { procedures, layout } = tradeOf({ layout: id });
      const there = new Set([...path.map((s) => s.id), ...layout.systems]);
      for (const p of procedures.values())
        for (const s of p.steps)
          if (/^(side-window|mirror-\d+|window|lens|nozzle)$/.test(s.station ?? ""))
            expect(there.has(s.station ?? ""), `${id}: ${s.id}`).toBe(true);
    }
  });
});
