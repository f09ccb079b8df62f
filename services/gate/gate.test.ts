import { beforeEach, describe, expect, it } from "vitest";
import { BED_PLACES } from "#core/coupon";
import { rungs, TestWorkshop } from "../testWorkshop";
import { gateView } from "./gateView";

/** Places of a bed of 900 by 600. */
const AT = {
  "back-left": { xMm: 50, yMm: 50 },
  "back-right": { xMm: 850, yMm: 50 },
  middle: { xMm: 450, yMm: 300 },
  "front-left": { xMm: 50, yMm: 550 },
  "front-right": { xMm: 850, yMm: 550 },
} as const;

let w: TestWorkshop;
const asked = async (job: Record<string, string | number>) =>
  gateView(
    await w.look(),
    new URLSearchParams({ materialId: "1", setPercent: "60", ...Object.fromEntries(Object.entries(job).map(([k, v]) => [k, String(v)])) }),
  );
const answer = async (job: Record<string, string | number>) => {
  const view = await asked(job);
  if (!view.answer) throw new Error(JSON.stringify(view.errors));
  return view.answer;
};

beforeEach(async () => {
  w = await TestWorkshop.open();
  w.day(1);
  await w.ladder(15, true);
  await w.ladder(15);
});

describe("will it cut through?", () => {
  it("is not worked out before a speed is asked about", async () => {
    expect(gateView(await w.look(), new URLSearchParams()).answer).toBeUndefined();
  });

  it("says yes well below the speed that the ladder dropped at, no well above it, and never likelier for a faster job", async () => {
    expect((await answer({ speedMmPerS: 11 })).headline).toBe("Yes: it should drop out.");
    expect((await answer({ speedMmPerS: 20 })).headline).toBe("No: not like this.");
    const chances = await Promise.all([10, 12, 14, 15, 16, 18].map(async (v) => (await answer({ speedMmPerS: v })).through));
    for (const [i, p] of chances.entries()) if (i > 0) expect(p).toBeLessThan(chances[i - 1] as number);
    // The last rung that dropped was 15: about even odds half a rung above it.
    expect((await answer({ speedMmPerS: 15.5 })).through).toBeGreaterThan(0.25);
    expect((await answer({ speedMmPerS: 15.5 })).through).toBeLessThan(0.75);
  });

  it("takes more power and a pass more for what they are, and the owner's own setting for what is usual", async () => {
    const weak = (await answer({ speedMmPerS: 17 })).through;
    expect((await answer({ speedMmPerS: 17, setPercent: 80 })).through).toBeGreaterThan(weak);
    expect((await answer({ speedMmPerS: 17, passes: 2 })).through).toBeGreaterThan(weak);
    await w.log("setting", { materialId: 1, purpose: "cut", speedMmPerS: 12.5, setPercent: 55 });
    expect((await asked({ speedMmPerS: 17 })).materials[0]).toMatchObject({ speed: "12.5", setPercent: "55" });
  });

  it("puts the cheapest way first: a sure cut as it is, a doubtful one in a dear sheet by anything but that", async () => {
    const sure = await answer({ speedMmPerS: 10, lostMoney: 40, lostMinutes: 60 });
    expect(sure.ways[0]).toMatchObject({ id: "as-is", first: true });
    const dear = await answer({ speedMmPerS: 16, lostMoney: 40, lostMinutes: 60 });
    expect(dear.ways[0]?.id).not.toBe("as-is");
    const slower = dear.ways.find((way) => way.id === "slower");
    expect(Number(/at ([\d.]+) mm/.exec(slower?.name ?? "")?.[1])).toBeLessThan(15);
    expect(slower?.through).toMatch(/9[89] %|nearly|surely/);
    // Money is only told where money can be lost.
    expect(dear.ways.every((way) => way.money !== undefined)).toBe(true);
    expect((await answer({ speedMmPerS: 16 })).ways.every((way) => way.money === undefined)).toBe(true);
  });

  it("offers no speed at which the material burns, and says no figure that no machine has", async () => {
    for (const speedMmPerS of [14, 40, 400]) {
      for (const setPercent of [10, 30, 60]) {
        const { ways, lead } = await answer({ speedMmPerS, setPercent });
        for (const way of ways) expect(Number(/at ([\d.]+) mm/.exec(way.name)?.[1] ?? 99)).toBeGreaterThanOrEqual(4.9);
        expect(Math.max(...[...lead.matchAll(/(\d[\d,.]*) %/g)].map((m) => Number(m[1])))).toBeLessThanOrEqual(150);
      }
    }
  });

  it("offers the clean that pays only where something is dirty", async () => {
    const cleans = async () => (await answer({ speedMmPerS: 16 })).ways.filter((way) => way.id === "clean");
    expect(await cleans()).toEqual([]);
    w.day(12);
    await w.log("hours", { counterHours: 940 });
    await w.log("grade", { station: "lens", phase: "as-found", grade: 2 });
    await w.ladder(13);
    expect(await cleans()).toMatchObject([{ part: "lens", name: "Clean the lens first" }]);
  });

  it("goes by the weakest place of the bed that was mapped, or by the one that is asked about", async () => {
    const before = (await answer({ speedMmPerS: 14 })).through;
    const weakest = BED_PLACES[1]?.id ?? "";
    await w.log("bed-map", {
      materialId: 1,
      setPercent: 60,
      bedWidthMm: 900,
      bedDepthMm: 600,
      places: BED_PLACES.map(({ id }) => ({ place: id, ...AT[id], rungs: rungs(id === weakest ? 12 : 15) })),
    });
    const anywhere = await answer({ speedMmPerS: 14 });
    expect(anywhere.through).toBeLessThan(before - 0.3);
    expect((await answer({ speedMmPerS: 14, place: weakest })).through).toBeCloseTo(anywhere.through, 9);
    expect((await answer({ speedMmPerS: 14, place: BED_PLACES[0]?.id ?? "" })).through).toBeGreaterThan(anywhere.through + 0.3);
    expect(anywhere.lead).toContain("its weakest place");
  });

  it("names the field that cannot be, and answers nothing by guess", async () => {
    const wrong = [
      [{ speedMmPerS: 0 }, "speedMmPerS"],
      [{ speedMmPerS: "fast" }, "speedMmPerS"],
      [{ speedMmPerS: 12, setPercent: -1 }, "setPercent"],
      [{ speedMmPerS: 12, passes: 0 }, "passes"],
      [{ speedMmPerS: 12, lostMinutes: -5 }, "lostMinutes"],
      [{ speedMmPerS: 12, materialId: 99 }, "materialId"],
      [{ speedMmPerS: 1e9 }, "speedMmPerS"],
      [{ speedMmPerS: 12, setPercent: 101 }, "setPercent"],
      [{ speedMmPerS: 12, lostMinutes: 1e12 }, "lostMinutes"],
      // Slower it burns, weaker the tube does not fire.
      [{ speedMmPerS: 1 }, "speedMmPerS"],
      [{ speedMmPerS: 12, setPercent: 1 }, "setPercent"],
    ] as const;
    for (const [job, field] of wrong) {
      const view = await asked(job);
      expect(Object.keys(view.errors)).toEqual([field]);
      expect(view.answer).toBeUndefined();
      expect(view.typed).toMatchObject(Object.fromEntries(Object.entries(job).map(([k, v]) => [k, String(v)])));
    }
  });
});
