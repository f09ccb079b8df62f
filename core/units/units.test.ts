/** Units that may be typed in any field: exact, and none that means another thing. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { inShown, inUnit, METRIC, otherUnits, shownFigure, shownUnit, type Units } from ".";

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

describe("a kept figure in the unit a workshop reads", () => {
  const IMPERIAL: Units = { length: "in", speed: "in/min", temperature: "°F", volume: "gal", air: "cfm" };
  it.each([
    [3, "mm", "0.118 in"],
    [14, "mm/s", "33.1 in/min"],
    [20, "°C", "68 °F"],
    [-9, "°C", "15.8 °F"],
    [5, "K", "9 °F"],
    [10, "L", "2.64 gal"],
    [2, "L/min", "0.53 gal/min"],
    [127, "m³/h", "74.7 cfm"],
    [4.5, "m/s", "886 ft/min"],
    [58, "W", "58 W"],
  ])("%f %s is %s", (value, unit, wanted) => {
    expect(`${shownFigure(value, unit, IMPERIAL)} ${shownUnit(unit, IMPERIAL)}`).toBe(wanted);
    expect(shownFigure(value, unit, METRIC)).toBe(String(value));
  });

  it("is the kept one again when it is typed as it is read", () => {
    const kept = fc.double({ min: -1e4, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom("mm", "cm²", "mm/s", "°C", "K", "L", "L/min", "m³/h", "m/s", "W"), kept, (unit, value) => {
        const back = inUnit(inShown(value, unit, IMPERIAL), shownUnit(unit, IMPERIAL), unit);
        expect(back).toBeCloseTo(value, 8);
      }),
    );
  });
});
