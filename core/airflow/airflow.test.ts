/** Air and washing against the reference values of M9 and M10. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { coatLitres, dilute, fills, soakBySide, wettedArea } from "#core/washing";
import { airVerdict, changesAMinute, filterShare, flowOf, meanSpeed, neededFlow } from ".";

describe("air in a duct", () => {
  it("is mean speed times area, a centre reading taken down", () => {
    expect(flowOf(4.5, 100)).toBeCloseTo(127, 0);
    expect(flowOf(meanSpeed([5.5], "centre"), 100)).toBeCloseTo(127.5, 0);
    expect(meanSpeed([4, 5, 4.5], "traverse")).toBeCloseTo(4.5, 9);
    expect(() => meanSpeed([], "traverse")).toThrow(/a reading/);
    expect(neededFlow(0.02)).toBeCloseTo(36, 9);
    expect(changesAMinute(127, 0.216)).toBeCloseTo(9.8, 1);
  });

  it("says what the filter takes of what is lost", () => {
    expect(filterShare(90, 118, 127)).toBeCloseTo(0.757, 3);
    expect(filterShare(127, 127, 127)).toBeUndefined();
  });

  it("tells a blocked duct from a tired fan by flow and suction together", () => {
    expect(airVerdict(0.95, 0.95)).toBe("good");
    expect(airVerdict(0.7, 1.1)).toBe("blocked");
    expect(airVerdict(0.7, 0.5)).toBe("tired-fan");
    expect(airVerdict(0.7, undefined)).toBe("weak");
    expect(airVerdict(1, 0.5)).toBe("leak");
  });
});

describe("a wash of the bed", () => {
  const honeycomb = { widthMm: 900, depthMm: 600, kind: "honeycomb", cellMm: 6, heightMm: 10 } as const;

  it("wets its walls, and a fifth more runs off", () => {
    expect(wettedArea(honeycomb) / 0.54).toBeCloseTo(6.67, 2);
    expect(coatLitres(wettedArea(honeycomb), 0)).toBeCloseTo(0.36, 9);
    expect(coatLitres(wettedArea(honeycomb))).toBeCloseTo(0.43, 2);
    expect(fills(0.86, 0.5)).toBe(2);
    expect(fills(1, 0.5)).toBe(2);
    expect(soakBySide(20)).toEqual([5, 5, 5, 5]);
  });

  it("is diluted from the product's strength, never made stronger by water", () => {
    expect(dilute(1, 50, 25)).toEqual({ productL: 0.5, waterL: 0.5 });
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 20, noNaN: true }),
        fc.double({ min: 1, max: 100, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (litres, product, part) => {
          const { productL, waterL } = dilute(litres, product, product * part);
          expect(productL + waterL).toBeCloseTo(litres, 9);
          expect((productL * product) / litres).toBeCloseTo(product * part, 6);
        },
      ),
    );
    expect(() => dilute(1, 25, 50)).toThrow(/weaker/);
  });
});
