import { describe, expect, it } from "vitest";
import { clockFrom } from "./clock";

describe("the clock of a server", () => {
  it("runs on from a set moment, and refuses one it cannot read", () => {
    const start = Date.parse("2026-11-24T09:00:00Z");
    expect(clockFrom("2026-11-24T09:00:00Z")() - start).toBeLessThan(1000);
    expect(Math.abs(clockFrom(undefined)() - Date.now())).toBeLessThan(1000);
    expect(() => clockFrom("next Tuesday")).toThrow(/CLENOR_NOW/);
  });
});
