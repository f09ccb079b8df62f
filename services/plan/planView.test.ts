/** A plan on a machine's own log: it asks for what is due, groups it, and follows what was done. */
import { describe, expect, it } from "vitest";
import { TestWorkshop } from "../testWorkshop";
import { instanceOf, planView } from "./planView";

describe("the plan of a machine", () => {
  it("has every task of its own with what is used of it, and rounds that take less than each task alone", async () => {
    const w = await TestWorkshop.worked();
    const g = await w.look();
    const instance = instanceOf(g);
    const own = g.due.filter((d) => !d.byOthers).map((d) => d.id);
    expect(instance.tasks.map((t) => t.id).sort()).toEqual(own.sort());
    expect(instance.tasks.find((t) => t.id === "lens")?.used?.smoke).toBeGreaterThan(30);
    const view = planView(g);
    expect(view.rounds.length).toBeGreaterThan(2);
    // Never cleaned, and worked for forty hours: it is late, and in the first round.
    expect(view.late.map((l) => l.id)).toContain("lens");
    expect(view.rounds[0]?.tasks.map((t) => t.id)).toContain("lens");
    const [least, alone] = [view.headline, view.lead].map((words) => Number(/about (\d+) minutes/.exec(words)?.[1]));
    expect(least).toBeLessThan(0.8 * (alone as number));
  });

  it("moves on what was done: a clean today starts the lens anew", async () => {
    const w = await TestWorkshop.worked();
    const before = planView(await w.look());
    await w.log("service", { station: "lens", what: "cleaned" });
    const after = planView(await w.look());
    expect(before.late.map((l) => l.id)).toContain("lens");
    expect(after.late.map((l) => l.id)).not.toContain("lens");
  });
});
