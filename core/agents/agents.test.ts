import { describe, expect, it } from "vitest";
import { matrix } from "#catalog/agents";
import { mayFollow, mayMix, mayUse } from "#core/agents";

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
    ["sealed-rails", "hypochlorite", "never"],
    ["open-rails", "hypochlorite", "never"],
    ["wheels", "hypochlorite", "never"],
    ["coated-mirror", "silicone", "never"],
    ["bed-resin", "wheel-cleaner", "only-if"],
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

  it("says never without an exception in the same breath, and of propellant and silicone what they do to optics", () => {
    for (const s of matrix.surfaces)
      for (const [id, reason] of Object.entries(s.never)) expect(reason, `${id} on ${s.id}`).not.toMatch(/only if|unless|except/i);
    for (const s of matrix.surfaces) {
      expect(s.allowed["canned-air"] ?? "upright", s.id).toMatch(/upright/i);
      expect(s.allowed.silicone ?? "optics", s.id).toMatch(/optics/);
    }
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
    ["hypochlorite", "wheel-cleaner"],
  ])("%s with %s: never", (a, b) => expect(mayMix(matrix, a, b).verdict).toBe("never"));

  it("and one after the other on one surface: between two washes stands a rinse, whatever is in them", () => {
    const washes = ["dish-soap", "wheel-cleaner", "oven-cleaner", "hypochlorite", "solvent-spray", "degreasing-dish-spray"];
    for (const a of washes) for (const b of washes) expect(mayFollow(matrix, a, b).verdict === "never", `${a}, ${b}`).toBe(a !== b);
    expect(mayFollow(matrix, "isopropyl", "lens-tissue").verdict).not.toBe("never");
  });

  it("answers the same either way round, and makes flammables wait for power", () => {
    for (const a of matrix.agents) for (const b of matrix.agents) expect(mayMix(matrix, a.id, b.id)).toEqual(mayMix(matrix, b.id, a.id));
    expect(mayMix(matrix, "isopropyl", "lens-tissue")).toMatchObject({ verdict: "only-if", needs: "dry-before-power" });
    expect(mayMix(matrix, "dish-soap", "distilled-water").verdict).toBe("allowed");
  });
});
