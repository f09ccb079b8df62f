import { describe, expect, it } from "vitest";
import { neededLnRatio, throughProbability } from "#core/cuts";
import { addMaterial } from "#store/machines";
import { cutBase, knownPower, powerToday } from "../machine/known";
import { TestWorkshop } from "../testWorkshop";
import { bookView } from "./book";
import { outlookView } from "./outlookView";

/** Half a year of a machine that wears and is cleaned, with a ladder every week. */
async function halfAYear(): Promise<TestWorkshop> {
  const w = await TestWorkshop.open();
  await w.ladder(14, true);
  let counter = 900;
  for (let day = 7; day <= 180; day += 7) {
    w.day(day);
    counter += 20;
    await w.log("hours", { counterHours: counter });
    await w.ladder(day < 90 ? 13 : 12);
    await w.log("service", { station: "lens", what: "cleaned" });
  }
  return w;
}

describe("outlook", () => {
  it("has a sum that adds up, a tube with hours left, and says what the rounds and parts did", async () => {
    const w = await halfAYear();
    w.day(100);
    await w.log("service", { station: "lens", what: "replaced", source: "the maker", price: 40, focalMm: 50.8 }, 60);
    await w.log("cost", { what: "spoiled", money: 10, minutes: 90 }, 61);
    w.day(181);
    const view = await outlookView(w.services, await w.look());
    const points = (view.ready?.sum ?? []).map((s) => Number(/^(\d+) %/.exec(s.text)?.[1]));
    const [best, dirt, tube, other, left] = points as [number, number, number, number, number];
    expect(best - dirt - tube - other).toBe(left);
    expect(view.ready?.ahead[0]?.dirty).toBeCloseTo(left, 0);
    const { ahead = [] } = view.ready ?? {};
    for (const [i, p] of ahead.entries()) {
      expect(p.low).toBeLessThan(p.dirty);
      expect(p.dirty).toBeLessThanOrEqual(p.kept + 1e-9);
      if (i > 0) expect(p.kept).toBeLessThanOrEqual((ahead[i - 1]?.kept ?? 0) + 1e-9);
    }
    // A stretch of the log without a price, and one with.
    expect(view.lenses.map((l) => [l.source, l.price, l.isNow])).toEqual([
      ["the maker", "40.00", true],
      ["", "", false],
    ]);
    expect(Number(view.lenses[0]?.hours) + Number(view.lenses[1]?.hours)).toBeLessThan(520);
    expect(view.costs).toMatchObject({ total: "50.00", lost: "1.5 h", perHour: "0.10" });
  });

  it("keeps to the baseline it began with when another sheet gets one, until a part is put in", async () => {
    const w = await halfAYear();
    await addMaterial(w.store, 1, { name: "card", kind: "card", thicknessMm: 1, usualSpeedMmPerS: 40, usualSetPercent: 30 });
    const first = (await w.look()).baseline?.id;
    const card = {
      materialId: 2,
      setPercent: 30,
      rungs: [36, 40, 44].map((v, i) => ({ speedMmPerS: v, end: i < 2 ? ("dropped" as const) : ("stays" as const) })),
      baseline: true,
    };
    await w.log("ladder", card);
    const g = await w.look();
    expect(g.baseline?.id).toBe(first);
    // The card is measured by its own ladder: it is as good today as that said, whatever the machine has worn before it.
    const card2 = g.materials[1] as never;
    const base = cutBase(g, card2);
    expect(base?.v50).toBeCloseTo(42, 0);
    expect(Math.exp(powerToday(g, base as never, card2)?.lnRatio ?? 0)).toBeCloseTo(1, 1);
    await w.log("service", { station: "lens", what: "replaced" }, 181);
    w.day(182);
    await w.log("ladder", card);
    expect((await w.look()).baseline?.payload.materialId).toBe(2);
  });

  it("has a book whose speeds the gate agrees with, and keeps marks as dark as they were noted", async () => {
    const w = await halfAYear();
    await w.log("setting", { materialId: 1, purpose: "cut", speedMmPerS: 11, setPercent: 80, passes: 2 });
    await w.log("setting", { materialId: 1, purpose: "engrave", speedMmPerS: 300, setPercent: 20 }, 8);
    const g = await w.look();
    const [cut, , engrave] = bookView(g).lines[0]?.purposes ?? [];
    expect(cut?.own).toMatchObject({ speed: "11", power: "80", more: "2 passes" });
    const speedMmPerS = Number.parseFloat(cut?.now ?? "");
    const base = cutBase(g, g.materials[0] as never) as never;
    const need = neededLnRatio({ speedMmPerS, setPercent: 80, passes: 2 }, base, 1);
    expect(throughProbability(knownPower(g, base, g.materials[0] as never) as never, need, 1)).toBeCloseTo(0.98, 1);
    expect(Number.parseFloat(engrave?.now ?? "")).toBeGreaterThan(20);
  });
});
