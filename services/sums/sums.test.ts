/** Sums on a machine's own log: what is in the loop, what the air lost, what a wash takes; and what is refused. */
import { describe, expect, it } from "vitest";
import { type RoundAnswer, roundRecords } from "#core/rounds";
import { changeMachine } from "#store/machines";
import { FormReader } from "../forms/fields";
import { planOf } from "../machine/plans";
import { DAY, START, TestWorkshop } from "../testWorkshop";
import { actOnSums } from "./act";
import { airView } from "./airView";
import { coolantView, fillWords } from "./coolantView";
import { shareNow } from "./share";
import { washView } from "./washView";

let n = 0;
const act = async (w: TestWorkshop, fields: Record<string, string>, figures: readonly string[] = []) => {
  const data = new FormData();
  for (const f of figures) data.append("figure", f);
  for (const [name, value] of Object.entries({ requestKey: `sum-${n++}`, ...fields })) data.append(name, value);
  return actOnSums(w.services, await w.look(), new FormReader(data));
};
const none = new URLSearchParams();
const coolant = async (w: TestWorkshop, search = "") => coolantView(await w.look(), new URLSearchParams(search));

describe("the coolant of a machine", () => {
  const loop = (w: TestWorkshop, loopL: string, nightC: string) => act(w, { intent: "sums", loopL, nightC }, ["loopL", "nightC"]);

  it("is not known until it is told, then follows every top-up", async () => {
    const w = await TestWorkshop.worked();
    expect((await coolant(w)).headline).toMatch(/not known/);
    await loop(w, "10", "-9");
    expect((await coolant(w)).todo).toEqual([
      { term: "A new fill", text: expect.stringMatching(/first 3 L of propylene glycol, then 7 L/) },
    ]);
    expect(fillWords(await w.look())).toMatch(/^For this loop: first 3 L/);
    expect(await act(w, { kind: "coolant", filledL: "10", glycolPercent: "30" })).toEqual({ said: "Saved in the log." });
    expect((await coolant(w)).headline).toBe("Safe for −9 °C: it freezes at −14 °C.");
    w.nowMs += 3_600_000;
    await act(w, { kind: "coolant", toppedUpL: "0,5", lost: "leaked" });
    w.nowMs += 3_600_000;
    await act(w, { kind: "coolant", toppedUpL: "0,5", lost: "evaporated" });
    const g = await w.look();
    expect(shareNow(g.log, 10, w.nowMs)).toMatchObject({ low: expect.closeTo(0.285, 9), high: expect.closeTo(0.285, 9) });
    expect((await coolant(w)).headline).toMatch(/^Too close/);
    expect((await coolant(w)).todo[1]?.text).toMatch(/drain 2\d\d mL/);
    // Nobody said what for: it may have been either.
    w.nowMs += 3_600_000;
    await act(w, { kind: "coolant", toppedUpL: "1" });
    expect((await coolant(w)).lead).toMatch(/between 26 and 2[89] %/);
    // A tester settles it; a change without a word makes it unknown again.
    w.nowMs += 3_600_000;
    await act(w, { kind: "coolant", freezingC: "-8" });
    expect((await coolant(w)).headline).toBe("Not safe: it freezes at −8 °C.");
    w.nowMs += 24 * 3_600_000;
    await w.log("service", { station: "coolant", what: "replaced", task: "coolant-change" });
    expect((await coolant(w)).headline).toMatch(/not known/);
  });

  it("needs none where it never freezes, and is drained where nothing helps", async () => {
    const w = await TestWorkshop.worked();
    await loop(w, "10", "6");
    expect(fillWords(await w.look())).toMatch(/10 L of distilled water, no glycol/);
    await loop(w, "10", "-35");
    expect((await coolant(w)).headline).toMatch(/^Drain the loop/);
    expect(fillWords(await w.look())).toMatch(/drained/);
  });

  it("says the flow from the rise, and where the tube sweats", async () => {
    const w = await TestWorkshop.worked();
    await w.log("coolant", { temperatureC: 12, flowLpm: 2 });
    const view = await coolant(w, "roomC=25&humidity=60&riseK=2.8");
    expect(view.temperature).toMatchObject({ isBad: true, state: expect.stringMatching(/sweats/) });
    expect(view.dew?.text).toMatch(/16.7 °C/);
    expect(view.heat.find((l) => /So the flow/.test(l.term))?.text).toMatch(/1\.8\d L\/min/);
    expect((await coolant(w, "humidity=140&riseK=-3")).errors).toMatchObject({
      humidity: expect.stringMatching(/1 and 100/),
      riseK: expect.any(String),
    });
  });
});

describe("the air of a machine", () => {
  it("is set against clean, told blocked from tired, and each service says what it gained", async () => {
    const w = await TestWorkshop.worked();
    expect(airView(await w.look()).headline).toMatch(/not known/);
    await w.log("airflow", { ductSpeedMps: 6, pressurePa: 100, baseline: true }, 2);
    await w.log("airflow", { ductSpeedMps: 4, pressurePa: 110 }, 18);
    expect(airView(await w.look())).toMatchObject({ headline: expect.stringMatching(/blocked/), lead: expect.stringMatching(/^67 %/) });
    await w.log("service", { station: "exhaust", what: "cleaned", task: "duct" }, 18.5);
    await w.log("airflow", { ductSpeedMps: 5.8, pressurePa: 100 }, 19);
    const view = airView(await w.look());
    expect(view.headline).toBe("The air is as it was when clean.");
    expect(view.gains).toEqual([{ term: expect.any(String), text: expect.stringMatching(/^gained 42 m³\/h/) }]);
    await w.log("airflow", { ductSpeedMps: 3, pressurePa: 40 }, 20);
    expect(airView(await w.look()).headline).toMatch(/fan is tired/);
  });

  it("is read in the round itself, before the machine is unplugged and after it has power again, where a meter is at hand", async () => {
    const w = await TestWorkshop.worked();
    const without = planOf((await w.look()).trade, ["duct"]);
    expect(without.steps.some((s) => s.reading)).toBe(false);
    const { fittings } = (await w.look()).trade.layout;
    await changeMachine(w.store, 1, () => ({ fittings: { ...fittings, extras: [...fittings.extras, "air-meter"] } }));
    const { trade } = await w.look();
    const { steps, minutes } = planOf(trade, ["duct"]);
    const place = (id: string) => steps.findIndex((s) => s.id === id);
    expect(place("air-before")).toBe(0);
    expect(place("make-safe")).toBe(1);
    expect(place("air-after")).toBeGreaterThan(place("power-on"));
    expect(minutes).toBe(without.minutes + 2);
    expect(planOf(trade, ["lens"]).steps.some((s) => s.reading)).toBe(false);
    const read = (airMps: number, atMs: number): RoundAnswer => ({ done: true, airMps, atMs });
    const at = w.nowMs;
    const answers = new Map([
      ["air-before", read(4, at)],
      ["duct.vacuum", { done: true as const, atMs: at + 60_000 }],
      ["air-after", read(5.5, at + 120_000)],
    ]);
    await w.log("airflow", { ductSpeedMps: 6, baseline: true }, 2);
    w.nowMs += 600_000;
    for (const r of roundRecords(steps, answers)) await w.log(r.kind, r.payload, (r.atMs - START) / DAY);
    expect(airView(await w.look()).gains).toEqual([{ term: expect.any(String), text: expect.stringMatching(/^gained 35 m³\/h/) }]);
  });

  it("is too little where the cabinet needs more, whatever it was when clean", async () => {
    const w = await TestWorkshop.worked();
    await w.log("airflow", { ductSpeedMps: 5, baseline: true }, 2);
    await w.log("airflow", { ductSpeedMps: 5 }, 3);
    await act(w, { intent: "sums", makerM3h: "400" }, ["makerM3h"]);
    expect(airView(await w.look()).headline).toBe("Too little air for this cabinet.");
  });
});

describe("a bed wash", () => {
  it("is mixed from the product's strength for this bed, never with what the surface refuses first", async () => {
    const g = await (await TestWorkshop.worked()).look();
    const view = washView(g, none);
    expect(view.ways[0]).toMatchObject({ verdict: "allowed", id: "dish-soap" });
    const strong = washView(g, new URLSearchParams({ "strength-oven-cleaner": "100", coats: "2" }));
    expect(strong.ways.find((x) => x.id === "oven-cleaner")?.mix).toMatch(/100 to 25 g\/L/);
    const w = await TestWorkshop.worked();
    expect(washView(await w.look(), none).washed).toMatchObject({ part: "bed", last: undefined });
    const [before, after] = ["a".repeat(64), "b".repeat(64)];
    expect(await act(w, { kind: "service", part: "bed", what: "cleaned", photo: before, photoAfter: after })).toHaveProperty("said");
    expect(washView(await w.look(), none).washed?.last).toMatchObject({ before, after });
    const weak = washView(g, new URLSearchParams({ "strength-oven-cleaner": "20", widthMm: "0", cellMm: "a" }));
    expect(weak.errors).toMatchObject({
      "strength-oven-cleaner": expect.stringMatching(/stronger/),
      widthMm: expect.any(String),
      cellMm: expect.any(String),
    });
  });
});

describe("figures of the sums", () => {
  it("are refused with what would be right, and nothing is saved", async () => {
    const w = await TestWorkshop.worked();
    for (const [field, value, why] of [
      ["loopL", "0", /0.1 and 500/],
      ["loopL", "-3", /0.1 and 500/],
      ["nightC", "-80", /−60/],
      ["ductMm", "0", /20 and 1000/],
      ["openCm2", "0", /between 1 and/],
      ["loopL", "ten", /./],
    ] as const)
      expect(await act(w, { intent: "sums", [field]: value }, [field])).toMatchObject({ errors: { [field]: expect.stringMatching(why) } });
    expect((await w.look()).machine.fittings?.sums ?? {}).toEqual({});
    expect(await act(w, { kind: "coolant", glycolPercent: "55" })).toMatchObject({
      errors: { glycolPercent: expect.stringMatching(/At most 50/) },
    });
    expect(await act(w, { kind: "coolant", lost: "leaked" })).toMatchObject({ errors: { toppedUpL: expect.stringMatching(/How many/) } });
    expect(await act(w, { kind: "coolant" })).toMatchObject({ errors: { temperatureC: expect.stringMatching(/at least one/) } });
  });
});
