import { describe, expect, it } from "vitest";
import { checkTemplates } from "#catalog/checks";
import { checkWords } from "#catalog/checkWords";
import { faultTemplates } from "#catalog/faults";
import { faultWords } from "#catalog/faultWords";
import { INTERVAL_PLY_HOURS, layouts } from "#catalog/layouts";
import { repairTemplates } from "#catalog/repairs";
import { signs } from "#catalog/signs";
import { traceSpec } from "#core/machine";
import { expandModel } from "#core/trace";

const sumsToOne = (values: readonly number[]) => expect(values.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);

describe("the trade's data", () => {
  it("gives every check outcomes that sum to one, and words for each of them", () => {
    for (const check of checkTemplates) {
      if (check.outcomes.length > 0) sumsToOne(check.leak);
      expect(check.leak).toHaveLength(check.outcomes.length);
      const words = checkWords[check.id];
      expect(words, check.id).toBeDefined();
      expect(words?.outcomes, check.id).toHaveLength(check.outcomes.length);
      expect(words?.short, check.id).toHaveLength(check.outcomes.length);
    }
  });

  it("gives every fault words, a reason, a repair, and effects that sum to one on checks that exist", () => {
    const ids = new Set(checkTemplates.map((c) => c.id));
    const repairs = new Set(repairTemplates.map((r) => r.id));
    for (const fault of faultTemplates) {
      expect(faultWords[fault.id], fault.id).toBeDefined();
      expect(repairs.has(fault.repair), fault.repair).toBe(true);
      expect(fault.reason.length).toBeGreaterThan(10);
      for (const [key, effect] of Object.entries(fault.effects)) {
        const base = key.replace(/@.*$/, "");
        if (base !== "tape") expect(ids.has(base), `${fault.id} on ${key}`).toBe(true);
        const check = checkTemplates.find((c) => c.id === base);
        for (const e of "kind" in effect ? [effect] : effect) {
          if (e.kind !== "outcomes" || !check) continue;
          for (const p of [e.light, e.heavy]) {
            sumsToOne(p as readonly number[]);
            expect(p, `${fault.id} on ${key}`).toHaveLength(check.outcomes.length);
          }
        }
      }
    }
  });

  it("maps every sign to findings of the three-mirror machine or of a machine with a camera", () => {
    const checks = new Set(
      Object.values(layouts).flatMap((l) =>
        expandModel(traceSpec(l, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates).checks.map((c) => c.id),
      ),
    );
    for (const sign of signs) {
      expect(sign.findings.length).toBeGreaterThan(0);
      for (const f of sign.findings) {
        expect(checks.has(f.check), f.check).toBe(true);
        expect(checkTemplates.find((c) => c.id === f.check)?.outcomes).toContain(f.outcome);
      }
    }
  });
});
