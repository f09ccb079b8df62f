import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DAY_MS } from "#core/time";
import { chance, leftWords, number, percentOf, ratioWords, shortDay, sinceDay } from "./words";

const now = Date.parse("2026-11-27T12:00:00");
const dates = fc.integer({ min: Date.parse("2019-01-01T12:00:00"), max: now });
const numbers = (text: string) => [...text.matchAll(/\d+(?:\.\d+)?/g)].map(([n]) => Number(n));

describe("a day in words", () => {
  it("is never mistaken for that of another year", () => {
    fc.assert(
      fc.property(dates, (ms) => {
        const year = new Date(ms).getFullYear();
        for (const words of [shortDay(ms, now), ...(now - ms > 8 * DAY_MS ? [sinceDay(ms, now)] : [])]) {
          expect(words).toContain(String(new Date(ms).getDate()));
          expect(words.includes(String(year))).toBe(year !== 2026);
        }
      }),
    );
    expect([shortDay(Date.parse("2026-03-30T12:00:00"), now), shortDay(Date.parse("2025-03-30T12:00:00"), now)]).toEqual([
      "Mon 30 Mar",
      "30 Mar 2025",
    ]);
  });

  it("is today, yesterday, a day of the week, then a date", () => {
    const told = [0, 1, 4, 40, 400].map((days) => sinceDay(now - days * DAY_MS, now));
    expect(told).toEqual(["today", "yesterday", "Monday", "18 Oct", "23 Oct 2025"]);
    // A clock that was set back does not make a record one of tomorrow.
    expect(sinceDay(now + 2 * DAY_MS, now)).toBe("today");
  });
});

describe("a figure in words", () => {
  it("is a chance that is neither never nor always, and rises with what it tells", () => {
    const shares = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(shares, shares, (p, q) => {
        for (const words of [chance(p), chance(q)]) {
          expect(words).toMatch(/^(under 1|over 99|[1-9]\d?|100) %$/);
          expect(words).not.toMatch(/^(0|100) %$/);
        }
        const order = (x: number) =>
          chance(x).startsWith("under") ? 0 : chance(x).startsWith("over") ? 100 : (numbers(chance(x))[0] as number);
        if (p <= q) expect(order(p)).toBeLessThanOrEqual(order(q));
      }),
    );
    expect([percentOf(0.614), number(2.5), number(3.04), number(12, 0)]).toEqual(["61 %", "2.5", "3", "12"]);
  });

  it("is what is left of an interval in its own unit, and what is over as such", () => {
    const units = fc.constantFrom("ply-hours" as const, "hours" as const, "days" as const);
    fc.assert(
      fc.property(units, fc.double({ min: -400, max: 400, noNaN: true }), (unit, amount) => {
        const words = leftWords({ left: { unit, amount }, state: amount <= 0 ? "due" : "ahead" });
        if (amount > -0.5 && amount <= 0) {
          expect(words).toBe("due now");
          return;
        }
        if (unit === "days" && amount > 0 && amount < 1) {
          expect(words).toBe("due today");
          return;
        }
        expect(words.startsWith("due in ")).toBe(amount > 0);
        expect(words.endsWith(" overdue")).toBe(amount <= 0);
        expect(Math.abs((numbers(words)[0] as number) - Math.abs(amount))).toBeLessThanOrEqual(0.5);
        expect(words.includes("smoke")).toBe(unit === "ply-hours");
      }),
    );
  });

  it("is a strength with the range it lies in, or no more than the bound that is known", () => {
    const ratio = { kind: "ratio" as const, ratio: 0.873, seLn: 0.045, low: 0.811, high: 0.938 };
    expect(ratioWords(ratio)).toBe("about 87 % of best (between 81 and 94 %)");
    expect(ratioWords({ kind: "at-least", ratio: 0.9 })).toBe("at least 90 % of best");
    expect(ratioWords({ kind: "at-most", ratio: 0.4 })).toBe("at most 40 % of best");
  });
});
