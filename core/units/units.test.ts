/** Units that may be typed in any field: exact, and none that means another thing. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { inUnit, otherUnits } from ".";

describe("a figure in another unit", () => {
  it.each([
    [0.25, "in", "mm", 6.35],
    [30, "in/min", "mm/s", 12.7],
    [68, "F", "°C", 20],
    [-40, "°F", "°C", -40],
    [5, "gal", "L", 18.92705892],
    [9, "°F", "K", 5],
    [100, "cfm", "m³/h", 169.901079552],
    [900, "ft/min", "m/s", 4.572],
    [0.5, "inH2O", "Pa", 124.544455],
    [31, "in²", "cm²", 199.9996],
    [500, "mL", "L", 0.5],
  ])("%f %s in a field of %s is %f", (value, typed, unit, wanted) => {
    expect(inUnit(value, typed, unit)).toBeCloseTo(wanted, 6);
  });

  it("is refused where the unit is of another kind", () => {
    for (const [typed, unit] of [
      ["in", "°C"],
      ["F", "mm"],
      ["gal", "mm"],
      ["cfm", "L/min"],
      ["__proto__", "mm"],
      ["constructor", "L"],
    ] as const)
      expect(inUnit(1, typed, unit)).toBeUndefined();
    expect(inUnit(3, "smoke hours", "smoke hours")).toBe(3);
  });

  it("keeps its order, whatever the unit", () => {
    const units = ["mm", "mm/s", "°C", "K", "L", "L/min", "m/s", "m³/h", "Pa", "cm²"];
    const finite = fc.double({ min: -1e4, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...units), finite, finite, (unit, a, b) => {
        for (const typed of otherUnits(unit)) {
          const [x, y] = [inUnit(Math.min(a, b), typed, unit), inUnit(Math.max(a, b), typed, unit)];
          expect((x as number) <= (y as number)).toBe(true);
        }
      }),
    );
  });
});
