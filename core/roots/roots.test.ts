import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { rootOf } from "./index";

describe("where a rising function passes nought", () => {
  it("is found where it is smooth, flat on one side, or a step", () => {
    expect(rootOf((x) => x * x - 2, 0, 2, 1e-9)).toBeCloseTo(Math.SQRT2, 8);
    expect(rootOf((x) => Math.max(0, x - 1) ** 5 - 1e-9, -5, 40, 1e-7)).toBeCloseTo(1 + 1e-9 ** 0.2, 5);
    expect(rootOf((x) => (x > 0.3 ? 1 : -1), 0, 1, 1e-6)).toBeCloseTo(0.3, 5);
  });

  it("lies at the nearer end where it is passed outside", () => {
    expect(rootOf((x) => x - 9, 0, 2, 1e-6)).toBe(2);
    expect(rootOf((x) => x + 9, 0, 2, 1e-6)).toBe(0);
  });

  it("is within what was asked for any sum of steps and slopes, in few looks", () => {
    const curve = fc.array(fc.record({ at: fc.double({ min: -3, max: 3, noNaN: true }), width: fc.constantFrom(1e-6, 0.01, 0.3, 2) }), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(curve, fc.double({ min: 0.03, max: 0.97, noNaN: true }), (parts, share) => {
        let looks = 0;
        const rising = (x: number) => {
          looks++;
          return parts.reduce((sum, { at, width }) => sum + 0.5 + 0.5 * Math.tanh((x - at) / width), 0) / parts.length - share;
        };
        const x = rootOf(rising, -20, 20, 1e-5);
        expect(looks).toBeLessThan(60);
        expect(rising(x - 3e-5)).toBeLessThanOrEqual(1e-12);
        expect(rising(x + 3e-5)).toBeGreaterThanOrEqual(-1e-12);
      }),
      { numRuns: 300 },
    );
  });
});
