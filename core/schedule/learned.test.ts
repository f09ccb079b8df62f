/** Intervals against the reference values of M5, and what no history may do to them. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cheapestInterval, costPerPlyHour } from "./cheapest";
import { learnedInterval, type Run } from "./learned";

const good = (dose: number): Run => ({ goodTo: dose });
const bad = (dose: number): Run => ({ goodTo: 0, badAt: dose });
const at8 = (runs: readonly Run[], target = 0.1) => learnedInterval(runs, { school: 8, target }).interval;
const times = (n: number, run: Run) => Array.from({ length: n }, () => run);

describe("a learned interval", () => {
  it("is the school's without a history, and moves with the chance its owner accepts", () => {
    expect(at8([])).toBeCloseTo(8, 3);
    expect(at8([], 0.02)).toBeCloseTo(3.32, 2);
    expect(at8([], 0.3)).toBeCloseTo(16.56, 2);
  });

  it("grows where it is found good and shrinks where it is found bad, by the reference values", () => {
    expect(at8(times(5, good(8)))).toBeCloseTo(10.84, 2);
    expect(at8(times(10, good(8)))).toBeCloseTo(12.42, 2);
    expect(at8(times(3, bad(8)))).toBeCloseTo(2.52, 2);
    expect(at8([good(8), good(8), bad(8), good(8), bad(8)])).toBeCloseTo(4.97, 2);
  });

  it("keeps to its caps", () => {
    const { interval, uncapped } = learnedInterval(times(10, good(8)), { school: 8, target: 0.1, least: 1, most: 9 });
    expect(interval).toBe(9);
    expect(uncapped).toBeGreaterThan(12);
    expect(learnedInterval(times(9, bad(2)), { school: 8, target: 0.1, least: 3, most: 20 }).interval).toBe(3);
  });

  const runs = fc.array(
    fc
      .tuple(fc.double({ min: 0.1, max: 20, noNaN: true }), fc.double({ min: 0.01, max: 20, noNaN: true }), fc.boolean())
      .map(([to, more, isBad]): Run => (isBad ? { goodTo: to, badAt: to + more } : { goodTo: to })),
    { maxLength: 12 },
  );
  it("is never longer for a run found bad from the start, nor shorter for one found good", () => {
    fc.assert(
      fc.property(runs, fc.double({ min: 0.5, max: 6, noNaN: true }), (history, dose) => {
        const before = at8(history);
        expect(at8([...history, good(dose)])).toBeGreaterThanOrEqual(before - 1e-6);
        expect(at8([...history, bad(Math.min(dose, before))])).toBeLessThanOrEqual(before + 1e-6);
      }),
      { numRuns: 60 },
    );
  });

  it("knows it the surer the more was seen, and does not hang on the unit", () => {
    const width = (n: number) => {
      const { low, high } = learnedInterval(times(n, good(8)).concat(times(n, bad(16))), { school: 8, target: 0.1 });
      return high / low;
    };
    expect(width(8)).toBeLessThan(0.7 * width(1));
    const days = learnedInterval([good(80), bad(100)], { school: 80, target: 0.1 }).interval;
    expect(days).toBeCloseTo(10 * at8([good(8), bad(10)]), 3);
  });

  it("refuses a run that is bad before it is good, and targets nobody should have", () => {
    expect(() => at8([{ goodTo: 9, badAt: 4 }])).toThrow(RangeError);
    expect(() => at8([], 0.5)).toThrow(/0.02 and 0.3/);
    expect(() => learnedInterval([], { school: 0, target: 0.1 })).toThrow(/more than nought/);
  });
});

describe("the cheapest interval", () => {
  const cost = (minutes: number, lossPerPlyHour: number, badMinutes = 0, school = 8) => ({
    minutes,
    badMinutes,
    lossPerPlyHour,
    // A scale that is known: a tenth is bad at the school's interval.
    chanceBad: (dose: number) => 1 - 0.9 ** ((dose / school) ** 2),
  });

  it.each([
    [cost(5, 0.006), 5.27, 1.897, 8, 2.065],
    [cost(5, 0.006, 25), 4.78, 2.099, 8, 2.378],
    [cost(2, 0.0012, 10, 40), 7.39, 0.542, 40, 1.515],
  ])("meets the reference values", (c, dose, minutes, other, there) => {
    const found = cheapestInterval(c, 0.5, 200);
    expect(found.dose).toBeCloseTo(dose, 2);
    expect(Math.abs(found.minutesPerPlyHour - minutes)).toBeLessThan(0.00051);
    expect(Math.abs(costPerPlyHour(c, other) - there)).toBeLessThan(0.00051);
  });

  it("is the root of 2m over 60 φ where a bad one costs nothing more, and nowhere costs less", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 30, noNaN: true }),
        fc.double({ min: 0.0005, max: 0.02, noNaN: true }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        (m, phi, k) => {
          expect(cheapestInterval(cost(m, phi), 0.1, 1000).dose).toBeCloseTo(Math.sqrt((2 * m) / (60 * phi)), 3);
          const c = cost(m, phi, k);
          const least = cheapestInterval(c, 0.1, 1000).minutesPerPlyHour;
          for (let x = 0.2; x < 800; x *= 1.3) expect(costPerPlyHour(c, x)).toBeGreaterThanOrEqual(least - 1e-9);
        },
      ),
      { numRuns: 40 },
    );
    expect(() => cheapestInterval(cost(5, 0), 1, 100)).toThrow(/a loss/);
  });
});
