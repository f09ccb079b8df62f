/** What a log teaches of how often: runs from clean to clean, looks without a clean, and a shop that became another. */
import { describe, expect, it } from "vitest";
import { DAY, START, TestWorkshop } from "../testWorkshop";
import { learningOf } from "./inForce";

const lens = async (w: TestWorkshop) => {
  const g = await w.look();
  const task = g.tasks.find((t) => t.id === "lens");
  const learning = task && learningOf(g.upkeep, task);
  if (!learning) throw new RangeError("the lens learns");
  return learning;
};
/** A clean on the first day, then two tube hours of birch ply a day. */
async function cutting(): Promise<TestWorkshop> {
  const w = await TestWorkshop.open();
  await w.log("service", { station: "lens", what: "cleaned" }, 0.1);
  for (let d = 0; d <= 12; d++) await w.log("hours", { counterHours: 900 + 2 * d }, d);
  w.day(12);
  return w;
}
const look = (w: TestWorkshop, day: number, grade: 0 | 1 | 2) => w.log("grade", { station: "lens", phase: "as-found", grade }, day);

describe("what a lens teaches", () => {
  it("is nothing before it was cleaned once, and the school's interval then", async () => {
    const w = await TestWorkshop.open();
    await look(w, 0, 2);
    expect(await lens(w)).toMatchObject({ history: { runs: [], found: [] }, interval: expect.closeTo(8, 3) });
  });

  it("counts a look without a clean as good so far: good at 4, bad at 8 smoke hours is one run", async () => {
    const w = await cutting();
    await look(w, 2.1, 1);
    await look(w, 4.1, 2);
    await look(w, 5, 2);
    const { history, interval } = await lens(w);
    expect(history.runs).toEqual([{ goodTo: expect.closeTo(4, 1), badAt: expect.closeTo(8, 1) }]);
    expect(history.found).toHaveLength(3);
    expect(interval).toBeLessThan(8);
  });

  it("starts a run with each clean, and does not count how it was left", async () => {
    const w = await cutting();
    await look(w, 4.1, 0);
    await w.log("service", { station: "lens", what: "cleaned" }, 4.2);
    await w.log("grade", { station: "lens", phase: "as-left", grade: 3 }, 4.21);
    await look(w, 8.2, 0);
    const { history, interval } = await lens(w);
    expect(history.runs).toEqual([{ goodTo: expect.closeTo(8, 1) }, { goodTo: expect.closeTo(8, 1) }]);
    expect(interval).toBeGreaterThan(8);
  });

  it("is forgotten where the exhaust became another, and that is said", async () => {
    const w = await cutting();
    await look(w, 4.1, 2);
    expect((await lens(w)).history.runs).toHaveLength(1);
    await w.log("service", { station: "inline-fan", what: "replaced" }, 6);
    expect(await lens(w)).toMatchObject({
      history: { runs: [] },
      shop: { sinceMs: START + 6 * DAY, words: expect.stringMatching(/exhaust/) },
    });
  });

  it("stays within twice the least often and a quarter of the most often that anybody does it", async () => {
    const w = await cutting();
    for (const d of [1.2, 2.2, 3.2, 4.2]) {
      await look(w, d, 2);
      await w.log("service", { station: "lens", what: "cleaned" }, d + 0.01);
    }
    const { interval, least, most } = await lens(w);
    // A day's two smoke hours are what the careful school leaves it.
    expect(least).toBeLessThan(0.6);
    expect(interval).toBeGreaterThanOrEqual(least);
    expect(most).toBeGreaterThanOrEqual(16);
  });
});
