import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, trace } from "../index";
import { cutLikelihood, cutsLikelihood } from "./cutReading";

const model = expandModel(traceSpec(layouts["three-mirror"] as never, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const cut = (outcome: string, complaint?: true): TraceFinding => ({ check: "known-cut", outcome, ...(complaint ? { complaint } : {}) });

/** Integral of the product over the light that all cuts share, by the trapezoid rule over eight deviations either way. */
function integrated(cuts: readonly { outcome: number; neededLnRatio: number }[], mean: number, variance: number): number {
  const sd = Math.sqrt(variance);
  const steps = 4000;
  let sum = 0;
  for (let i = 0; i <= steps; i++) {
    const z = -8 + (16 * i) / steps;
    const product = cuts.reduce((p, c) => p * cutLikelihood(mean + z * sd, 0, c.outcome, c.neededLnRatio), 1);
    sum += product * Math.exp(-0.5 * z * z) * (i === 0 || i === steps ? 0.5 : 1);
  }
  return (sum * (16 / steps)) / Math.sqrt(2 * Math.PI);
}

describe("cuts of the same light", () => {
  it("share what is missing and err each by itself", () => {
    const one = fc.record({
      outcome: fc.integer({ min: 0, max: 3 }),
      neededLnRatio: fc.double({ min: -0.5, max: 0.1, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(one, { minLength: 1, maxLength: 4 }),
        fc.double({ min: -0.8, max: 0.05, noNaN: true }),
        fc.double({ min: 0.01, max: 0.12, noNaN: true }),
        (cuts, mean, sd) => {
          const expected = integrated(cuts, mean, sd * sd);
          // Nodes are few and the table's steps are a hundredth; a likelihood needs no more.
          expect(Math.abs(cutsLikelihood(cuts)(mean, sd * sd) - expected)).toBeLessThan(0.002 + 0.02 * expected);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("add up: each that fails again leaves less room for nothing wrong", () => {
    const left = [1, 2, 3, 4].map((n) => trace(model, { findings: Array.from({ length: n }, () => cut("part-through")) }).nothingWrong);
    for (const [i, p] of left.entries()) if (i > 0) expect(p).toBeLessThan(0.6 * (left[i - 1] as number));
  });

  it("of a complaint counts as cuts that failed more than once, until the cut is made again", () => {
    const nothing = (...findings: TraceFinding[]) => trace(model, { findings }).nothingWrong;
    expect(nothing(cut("surface-only", true))).toBeCloseTo(nothing(cut("surface-only"), cut("surface-only")), 12);
    // "It does not cut through" does not say how far it came.
    expect(nothing(cut("hangs", true))).toBeLessThan(nothing(cut("hangs"), cut("hangs")));
    expect(nothing(cut("hangs", true), cut("through"))).toBeCloseTo(nothing(cut("through")), 12);
  });
});
