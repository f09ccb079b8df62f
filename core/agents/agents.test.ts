import { describe, expect, it } from "vitest";
import { matrix } from "#catalog/agents";
import { mayMix, mayUse } from "#core/agents";

describe("may I use this here?", () => {
  it.each([
    ["znse-lens", "isopropyl", "allowed"],
    ["znse-lens", "vinegar", "never"],
    ["znse-lens", "paper-towel", "never"],
    ["exit-window", "lens-tissue", "only-if"],
    ["exit-window", "lens-spray", "allowed"],
    ["exit-window", "canned-air", "allowed"],
    ["small-window", "microfibre", "only-if"],
    ["slats", "paper-towel", "allowed"],
    ["sealed-rails", "paper-towel", "allowed"],
    ["glass-lid", "isopropyl", "allowed"],
    ["acrylic-lid", "ethanol", "never"],
    ["sealed-rails", "penetrating-oil", "never"],
    ["open-rails", "penetrating-oil", "only-if"],
    ["znse-lens", "skin-wipe", "unknown"],
    ["fan", "lighter-fluid", "unknown"],
    ["fan", "low-pressure-air", "allowed"],
    ["molybdenum-mirror", "acetone", "allowed"],
    ["coated-mirror", "acetone", "never"],
    ["nozzle-metal", "acetone", "only-if"],
    ["acrylic-lid", "isopropyl", "never"],
    ["glass-lid", "glass-cleaner", "allowed"],
    ["sealed-rails", "light-oil", "never"],
    ["open-rails", "lithium-grease", "allowed"],
    ["belts", "silicone", "never"],
    ["bed-resin", "oven-cleaner", "only-if"],
    ["coolant-loop", "tap-water", "never"],
  ] as const)("%s with %s: %s, with its reason", (surface, agent, verdict) => {
    const ruling = mayUse(matrix, surface, agent);
    expect(ruling.verdict).toBe(verdict);
    expect(ruling.reason.length).toBeGreaterThan(4);
  });

  it("does not know what nothing vouches for, on any surface", () => {
    for (const surface of matrix.surfaces) {
      for (const agent of matrix.agents) {
        const listed = [surface.allowed, surface.onlyIf, surface.never].some((rules) => agent.id in rules);
        expect(mayUse(matrix, surface.id, agent.id).verdict === "unknown", `${agent.id} on ${surface.id}`).toBe(!listed);
      }
    }
    expect(() => mayUse(matrix, "cheese", "isopropyl")).toThrow(RangeError);
    expect(() => mayUse(matrix, "belts", "cheese")).toThrow(RangeError);
  });

  it("has no surface that both allows and refuses an agent, and names only agents it knows", () => {
    const known = new Set(matrix.agents.map((a) => a.id));
    for (const s of matrix.surfaces) {
      const named = [...Object.keys(s.allowed), ...Object.keys(s.onlyIf), ...Object.keys(s.never)];
      for (const id of named) expect(known.has(id), `${id} on ${s.id}`).toBe(true);
      expect(new Set(named).size, s.id).toBe(named.length);
    }
  });
});

describe("may these two meet?", () => {
  it.each([
    ["hypochlorite", "vinegar"],
    ["hypochlorite", "glass-cleaner"],
    ["hypochlorite", "oven-cleaner"],
    ["hypochlorite", "isopropyl"],
    ["hypochlorite", "acetone"],
    ["oven-cleaner", "vinegar"],
  ])("%s with %s: never", (a, b) => expect(mayMix(matrix, a, b).verdict).toBe("never"));

  it("answers the same either way round, and makes flammables wait for power", () => {
    for (const a of matrix.agents) for (const b of matrix.agents) expect(mayMix(matrix, a.id, b.id)).toEqual(mayMix(matrix, b.id, a.id));
    expect(mayMix(matrix, "isopropyl", "lens-tissue")).toMatchObject({ verdict: "only-if", needs: "dry-before-power" });
    expect(mayMix(matrix, "dish-soap", "distilled-water").verdict).toBe("allowed");
  });
});
