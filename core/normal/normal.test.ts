import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { erf, erfc, logNormalPdf, normalCdf, normalPdf, tabledNormalCdf } from "#core/normal";
import { seededRandom } from "#core/random";

describe("the normal law", () => {
  it("matches tables of the error function and of the cumulative law", () => {
    expect(erf(0.5)).toBeCloseTo(0.5204998778, 6);
    expect(erf(1)).toBeCloseTo(0.8427007929, 6);
    expect(erfc(3) / 2.209049699858544e-5).toBeCloseTo(1, 6);
    expect(normalCdf(1.6448536)).toBeCloseTo(0.95, 6);
    expect(normalCdf(-2.3263479)).toBeCloseTo(0.01, 6);
    expect(normalPdf(0)).toBeCloseTo(1 / Math.sqrt(2 * Math.PI), 12);
    expect(logNormalPdf(3, 1, 4)).toBeCloseTo(Math.log(normalPdf(1) / 2), 12);
  });

  it("is symmetric, rises, and its table follows it", () => {
    fc.assert(
      fc.property(fc.double({ min: -8, max: 8, noNaN: true }), fc.double({ min: 0, max: 2, noNaN: true }), (z, more) => {
        expect(normalCdf(z) + normalCdf(-z)).toBeCloseTo(1, 6);
        expect(normalCdf(z + more)).toBeGreaterThanOrEqual(normalCdf(z) - 1e-7);
        expect(Math.abs(tabledNormalCdf(z) - normalCdf(z))).toBeLessThan(2e-6);
      }),
    );
  });
});

describe("seeded randomness", () => {
  it("repeats itself for a seed and spreads as it should", () => {
    const draw = (seed: number) => {
      const r = seededRandom(seed);
      return Array.from({ length: 4000 }, () => r.normal());
    };
    expect(draw(9)).toEqual(draw(9));
    expect(draw(9)).not.toEqual(draw(10));
    const values = draw(11);
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    const variance = values.reduce((a, b) => a + (b - mean) ** 2, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.05);
    expect(variance).toBeCloseTo(1, 1);
    const r = seededRandom(3);
    const whole = Array.from({ length: 500 }, () => r.integer(2, 5));
    expect([...new Set(whole)].sort()).toEqual([2, 3, 4, 5]);
    expect(() => r.pick([])).toThrow(/nothing to pick/);
  });
});
