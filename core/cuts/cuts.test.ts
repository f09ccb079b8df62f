import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { censoredRatio, effectiveRatio, type Rung, readLadder, suggestedSpeed, suggestRungs } from "#core/cuts";

const ladder = (dropped: number, hangs?: number): Rung[] =>
  [8, 9, 10, 11, 12, 13, 14, 15].map((v) => ({ speedMmPerS: v, end: v <= dropped ? "dropped" : v === hangs ? "hangs" : "stays" }));
const point = (rungs: Rung[], setPercent = 60) => ({ result: readLadder(rungs), setPercent });

describe("reading a ladder", () => {
  it("matches the reference ladders", () => {
    const one = readLadder(ladder(11, 12));
    expect(one).toMatchObject({ kind: "estimate", outOfOrder: false });
    if (one.kind !== "estimate") throw new Error("no estimate");
    expect(one.v50).toBeCloseTo(11.98, 2);
    expect(one.seLn).toBeCloseTo(0.0496, 4);
    const two = readLadder(ladder(12));
    expect(two.kind === "estimate" && two.v50).toBeCloseTo(12.48, 2);
  });

  it("gives a bound, never a number, when all or none dropped", () => {
    expect(readLadder(ladder(15))).toEqual({ kind: "at-least", speedMmPerS: 15 });
    expect(readLadder(ladder(7))).toEqual({ kind: "at-most", speedMmPerS: 8 });
    expect(readLadder([])).toMatchObject({ kind: "none", reason: expect.stringContaining("one rung") });
    expect(readLadder([{ speedMmPerS: 0, end: "stays" }])).toMatchObject({ kind: "none" });
  });

  it("notices a slower rung that stayed while a faster one dropped", () => {
    expect(
      readLadder([
        { speedMmPerS: 8, end: "stays" },
        { speedMmPerS: 9, end: "dropped" },
        { speedMmPerS: 10, end: "stays" },
      ]),
    ).toMatchObject({ outOfOrder: true });
  });

  it("does not care in which order the rungs are given, and moves up when one more drops", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 8, max: 13 }),
        fc.shuffledSubarray([0, 1, 2, 3, 4, 5, 6, 7], { minLength: 8, maxLength: 8 }),
        (last, order) => {
          const rungs = ladder(last);
          const shuffled = readLadder(order.map((i) => rungs[i] as Rung));
          const plain = readLadder(rungs);
          const more = readLadder(ladder(last + 1));
          if (shuffled.kind !== "estimate" || plain.kind !== "estimate" || more.kind !== "estimate") throw new Error("no estimate");
          expect(shuffled.v50).toBeCloseTo(plain.v50, 9);
          expect(more.v50).toBeGreaterThan(plain.v50);
        },
      ),
    );
  });

  it("stays finite and honest on wide gaps", () => {
    const wide = readLadder([
      { speedMmPerS: 5, end: "dropped" },
      { speedMmPerS: 50, end: "stays" },
    ]);
    expect(wide.kind === "estimate" && wide.seLn).toBeGreaterThan(0.3);
  });
});

describe("effective power", () => {
  it("is the ratio of two v50, with both errors in it", () => {
    const r = effectiveRatio(point(ladder(10)), point(ladder(12)));
    if (r.kind !== "ratio") throw new Error("no ratio");
    expect(r.ratio).toBeCloseTo(10.488 / 12.48, 3);
    expect(r.seLn).toBeGreaterThan(0.065);
    expect(r.low).toBeLessThan(r.ratio);
    expect(r.high).toBeGreaterThan(r.ratio);
  });

  it("accounts for another power setting and for a material's exponent", () => {
    const r = effectiveRatio(point(ladder(12), 80), point(ladder(12), 60));
    expect(r.kind === "ratio" && r.ratio).toBeCloseTo(0.75, 9);
    const plain = effectiveRatio(point(ladder(10)), point(ladder(12)));
    const squared = effectiveRatio(point(ladder(10)), point(ladder(12)), 2);
    if (plain.kind !== "ratio" || squared.kind !== "ratio") throw new Error("no ratio");
    expect(squared.ratio).toBeCloseTo(plain.ratio ** 2, 9);
    expect(squared.seLn).toBeCloseTo(2 * plain.seLn, 9);
  });

  it("says why when the baseline is only a bound, and passes bounds through", () => {
    expect(effectiveRatio(point(ladder(10)), point(ladder(15)))).toMatchObject({
      kind: "none",
      reason: expect.stringContaining("baseline"),
    });
    expect(effectiveRatio(point(ladder(7)), point(ladder(12)))).toMatchObject({ kind: "at-most" });
  });

  it("reads single cuts as bounds on the same quantity", () => {
    const base = point(ladder(12));
    const cut = { speedMmPerS: 11, setPercent: 60 } as const;
    expect(censoredRatio({ ...cut, result: "through" }, base)).toMatchObject({ side: "above" });
    expect(censoredRatio({ ...cut, result: "surface-only" }, base)).toMatchObject({ side: "below" });
    expect(censoredRatio({ ...cut, result: "hangs" }, base)?.lnRatio).toBeCloseTo(Math.log(11 / 12.48), 3);
    expect(censoredRatio({ ...cut, result: "part-through", depthShare: 0.5 }, base)).toMatchObject({ side: "about", sd: 0.15 });
    expect(censoredRatio({ ...cut, result: "through" }, point(ladder(15)))).toBeUndefined();
  });

  it("suggests a slower speed for a weaker beam and rungs that rise around the expected one", () => {
    expect(suggestedSpeed(14, 0.8)).toBeCloseTo(14 * 0.8 * 0.92, 9);
    for (const v of [1.2, 3, 8, 15, 60]) {
      const rungs = suggestRungs(v);
      expect(rungs).toHaveLength(8);
      expect(Math.min(...rungs)).toBeLessThan(v);
      expect(Math.max(...rungs)).toBeGreaterThan(v);
      expect([...rungs].sort((a, b) => a - b)).toEqual(rungs);
    }
  });
});
