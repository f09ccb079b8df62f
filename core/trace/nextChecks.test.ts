import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, trace } from "#core/trace";
import { entropyBits, straightMinutes } from "./decision";
import { heaviest } from "./nextChecks";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const findings: TraceFinding[] = [
  { check: "known-cut", outcome: "hangs" },
  { check: "onset", outcome: "sudden" },
  { check: "last-touched", outcome: "cleaned" },
];

/** Decision probabilities, with "nothing" and "none of these" as the catalog's answer leaves them. */
function decisionOf(input: readonly TraceFinding[]): number[] {
  const answer = trace(model, { findings: input });
  const repairs = model.repairs.map((r) => answer.repairs.find((x) => x.id === r.id)?.probability ?? 0);
  const nothing = 1 - answer.none - repairs.reduce((a, b) => a + b, 0);
  return [...repairs, Math.max(0, nothing), answer.none];
}

describe("expected information", () => {
  it.each(["lens-side", "lens-look", "mirror-look@3", "bed-map", "focus-ramp", "air-feel"])(
    "of %s is what asking and answering it would bring on average",
    (check) => {
      const spec = model.checks.find((c) => c.id === check);
      const now = trace(model, { findings });
      const shown = now.nextChecks.find((c) => c.check === check);
      const before = entropyBits(decisionOf(findings), 1);
      // The chance of each outcome follows from what it does to the odds of one fault: P(o) = [p - p(not o)] by total probability
      // over all outcomes, solved here by weighing each outcome's posterior so that they average to the present one.
      const after = (spec?.outcomes ?? []).map((outcome) => decisionOf([...findings, { check, outcome }]));
      const present = decisionOf(findings);
      const weights = mixtureWeights(after, present);
      const expected = before - after.reduce((sum, d, i) => sum + weights[i]! * entropyBits(d, 1), 0);
      expect(shown?.bits).toBeGreaterThan(0);
      expect(Math.abs((shown?.bits ?? 0) - expected)).toBeLessThan(0.03 + 0.1 * expected);
    },
  );

  it("is nothing for a check that no suspect can show in", () => {
    const sure = trace(model, { findings: [{ check: "raster-edge", outcome: "wavy" }] });
    expect(sure.nextChecks.find((c) => c.check === "window-look")?.bits).toBeLessThan(0.01);
    expect(sure.nextChecks[0]?.check).toMatch(/rail-touch|bearing-push|belt/);
  });
});

/** Non-negative weights, summing to 1, with which the outcomes' posteriors average to the present one (least squares). */
function mixtureWeights(after: readonly number[][], present: readonly number[]): number[] {
  let w = after.map(() => 1 / after.length);
  for (let step = 0; step < 20_000; step++) {
    const mean = present.map((_, k) => after.reduce((s, d, i) => s + w[i]! * d[k]!, 0));
    // Expectation-maximisation for mixture weights: exact when the posteriors do average to the present.
    w = w.map((wi, i) => wi * present.reduce((s, p, k) => s + (mean[k]! > 1e-15 ? (p * (after[i] as number[])[k]!) / mean[k]! : 0), 0));
    const total = w.reduce((a, b) => a + b, 0);
    w = w.map((wi) => wi / total);
  }
  return w;
}

describe("going straight to repairs", () => {
  const index = (id: string) => model.repairs.findIndex((r) => r.id === id);
  const weights = (given: Record<string, number>) => model.repairs.map((r) => given[r.id] ?? 0);
  it("costs the repair and its proof when it is certain", () => {
    const lens = model.repairs[index("clean-lens")];
    expect(straightMinutes(model, weights({ "clean-lens": 1 }), 1)).toBeCloseTo((lens?.minutes ?? 0) + (lens?.proofMinutes ?? 0), 9);
  });

  it("tries the likelier per minute first, and charges for what no repair mends", () => {
    const both = straightMinutes(model, weights({ "clean-lens": 0.7, "set-focus": 0.3 }), 1);
    // Clean the lens first (14 min), then the focus (9 min) in three cases of ten... or the other way round, whichever is cheaper.
    expect(both).toBeCloseTo(Math.min(14 + 0.3 * 9, 9 + 0.7 * 14), 6);
    expect(straightMinutes(model, weights({ "clean-lens": 0.5 }), 1)).toBeGreaterThan(30);
    expect(straightMinutes(model, weights({ "clean-lens": 5, "set-focus": 5 }), 10)).toBeCloseTo(
      straightMinutes(model, weights({ "clean-lens": 0.5, "set-focus": 0.5 }), 1),
      9,
    );
  });

  it("looks at the heaviest sets, heaviest first", () => {
    const w = Float64Array.from({ length: 9000 }, (_, i) => ((i * 7919) % 9000) / 9000 ** 2);
    const top = heaviest(w, 100);
    expect(top).toHaveLength(100);
    const best = [...w].sort((a, b) => b - a).slice(0, 100);
    expect([...top].map((n) => w[n])).toEqual(best);
  });
});
