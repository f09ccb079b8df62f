/** A shelf counted down: what is left, when it runs low, and what to buy so that it does not. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { belowAt, leftOf, packsToBuy } from ".";

const uses = fc.array(fc.record({ at: fc.integer({ min: 1, max: 60 }), amount: fc.double({ min: 0, max: 9, noNaN: true }) }), {
  maxLength: 12,
});
const figure = fc.double({ min: 0, max: 200, noNaN: true });

describe("a shelf", () => {
  it("counts only what was used after it was counted, and never below nothing", () => {
    expect(
      leftOf({ amount: 10, sinceMs: 5 }, [
        { at: 4, amount: 3 },
        { at: 6, amount: 2 },
      ]),
    ).toBe(8);
    expect(leftOf({ amount: 1, sinceMs: 0 }, [{ at: 6, amount: 2 }])).toBe(0);
  });

  it("runs low on the day of the use that brings it there, and not with what is bought for it", () => {
    fc.assert(
      fc.property(figure, figure, uses, fc.double({ min: 0.5, max: 50, noNaN: true }), (left, level, planned, pack) => {
        const packs = packsToBuy(left, level, planned, pack);
        const day = belowAt(left, level, planned);
        expect(belowAt(left + packs * pack, level, planned)).toBeUndefined();
        // One pack less would not do, where any is bought.
        if (packs > 0 && planned.length > 0 && left >= level) expect(belowAt(left + (packs - 1) * pack, level, planned)).toBeDefined();
        if (day === undefined) return;
        const until = (d: number) => planned.filter((u) => u.at <= d).reduce((s, u) => s + u.amount, 0);
        expect(left - until(day)).toBeLessThan(level);
      }),
    );
  });
});
