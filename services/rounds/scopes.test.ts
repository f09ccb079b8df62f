import { describe, expect, it } from "vitest";
import { TestWorkshop } from "../testWorkshop";
import { openAnyway, partChoices, scopeChoices, validParts } from "./scopes";

/** A workshop that has fired so many hours since everything was clean. */
async function fired(hours: number, days = 6) {
  const w = await TestWorkshop.open();
  w.day(days);
  await w.log("hours", { counterHours: 900 + hours });
  return w.look();
}

describe("the scopes on offer", () => {
  it("begin with what is due, and grow from a look to everything", async () => {
    const choices = scopeChoices(await fired(11));
    expect(choices.map((c) => c.id)).toEqual(["due", "daily", "weekly", "monthly", "full"]);
    const minutes = choices.slice(1).map((c) => Number(c.minutes));
    expect([...minutes].sort((a, b) => a - b)).toEqual(minutes);
    const parts = choices.slice(2).map((c) => new Set(c.parts));
    for (let i = 1; i < parts.length; i++)
      for (const p of parts[i - 1] ?? []) expect(parts[i]?.has(p), `${p} in ${choices[i + 2]?.id}`).toBe(true);
    expect(choices.map((c) => c.order).slice(1)).toEqual(["head-first", "head-first", "tube-first", "tube-first"]);
  });

  it("leave out what is due when nothing is, and the bed and the water until they are", async () => {
    const early = scopeChoices(await fired(0, 1));
    expect(early[0]?.id).toBe("daily");
    const full = (choices: typeof early) => choices.find((c) => c.id === "full")?.parts ?? [];
    expect(full(early)).not.toContain("bed");
    const late = full(scopeChoices(await fired(400, 200)));
    expect(late).toContain("bed");
    expect(late).toContain("coolant-change");
  });
});

describe("a choice of one's own", () => {
  it("offers every part but repairs, with what is due and what is chosen", async () => {
    const parts = partChoices(await fired(11), ["lens"]);
    expect(parts.find((p) => p.id === "lens")).toMatchObject({ chosen: true, due: "3 h of smoke over" });
    expect(parts.find((p) => p.id === "nozzle-look")).toMatchObject({ name: "Nozzle, a look", chosen: false });
    expect(parts.some((p) => p.id === "turn-lens" || p.id.includes("@"))).toBe(false);
    expect(new Set(parts.map((p) => p.name)).size).toBe(parts.length);
  });

  it("names what is well used up behind the same opening", async () => {
    const g = await fired(30, 10);
    expect(openAnyway(g, ["mirror-1"]).map((p) => p.id)).toEqual([]);
    expect(openAnyway(g, ["lens"]).map((p) => p.id)).toEqual(expect.arrayContaining(["nozzle", "mirror-3"]));
    expect(openAnyway(g, ["lens", "nozzle", "mirror-3"])).toEqual([]);
    expect(openAnyway(await fired(0, 1), ["lens"])).toEqual([]);
  });

  it("takes only parts the machine has, each once", async () => {
    const { trade } = await fired(0, 1);
    expect(validParts(trade, ["lens", "lens", "rails"])).toEqual(["lens", "rails"]);
    for (const bad of [[], ["fins"], ["lens", "mirror-7"], ["../etc"]]) expect(validParts(trade, bad)).toBeUndefined();
  });
});
