import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { LAYOUT_IDS, traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, type TraceInput, trace } from "#core/trace";
import { posterior } from "../belief/posterior";
import { heaviest } from "../belief/sets";
import { sortFindings } from "../light/findings";
import { BINS, candidateOf, compared, minutesOf } from "./candidates";

const models = LAYOUT_IDS.map((id) => {
  const layout = layouts[id];
  if (!layout) throw new RangeError(`no layout ${id}`);
  return expandModel(traceSpec(layout, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
});
const [model] = models as [(typeof models)[number]];
const complaint: TraceFinding = { check: "known-cut", outcome: "hangs", complaint: true };

describe("what a check could answer", () => {
  it("is one answer of all there are, under every set of faults on every layout, a figure in its bins as well", () => {
    for (const m of models) {
      const found = sortFindings(m, { findings: [complaint], baseline: undefined }, 0);
      const post = posterior({ model: m, usages: [{}], earlier: undefined, maxFaults: 2, found, symptom: "power", withEvidence: false });
      const { faultSets: sets } = post;
      const top = heaviest(post.sets, 400);
      const over = compared(sets, top, post);
      for (const check of m.checks) {
        const candidate = candidateOf(m, check, post, over, []);
        if (!candidate) {
          // Only what has nothing to be compared with cannot be foreseen.
          expect([check.id, typeof check.value?.usual]).toEqual([check.id, "object"]);
          continue;
        }
        expect(candidate.labels).toHaveLength(check.kind !== "loss" || check.outcomes.length > 0 ? check.outcomes.length || BINS : BINS);
        const out = new Float64Array(candidate.labels.length);
        const alone = new Float64Array(candidate.labels.length);
        candidate.fill(-1, alone);
        for (let i = 0; i < top.length; i += 7) {
          const n = top[i] as number;
          const [a, b] = [sets.first[n] as number, sets.second[n] as number];
          candidate.fill(i, out);
          expect(out.every((p) => p >= 0 && p <= 1 + 1e-9)).toBe(true);
          expect(out.reduce((sum, p) => sum + p, 0)).toBeCloseTo(1, 6);
          // Faults that it is said not to show change nothing of it.
          const shows = candidate.touched === undefined || [a, b].some((s) => s >= 0 && candidate.touched?.[s] === 1);
          if (!shows) expect(Array.from(out)).toEqual(Array.from(alone));
        }
      }
    }
  });

  it("is as likely as it then turns out: over its answers, what would be believed after each is what is believed now", () => {
    const told = fc
      .constantFrom("in-run", "flame", "nozzle-touch", "air-feel", "lens-look", "mirror-look@3", "settings")
      .chain((id) =>
        fc.constantFrom(...(model.checks.find((c) => c.id === id)?.outcomes ?? [])).map((outcome) => ({ check: id, outcome })),
      );
    fc.assert(
      fc.property(fc.uniqueArray(told, { selector: (f) => f.check, maxLength: 4 }), (findings) => {
        const input: TraceInput = { findings: [complaint, ...findings], maxFaults: 2 };
        const now = trace(model, input);
        // A figure's answers are foreseen in thirds, and are no answers one could give.
        const named = now.nextChecks.filter(
          (k) => k.meanings.length > 0 && model.checks.some((c) => c.id === k.check && c.outcomes.length > 0),
        );
        for (const { check, meanings } of named) {
          expect(meanings.reduce((sum, m) => sum + m.probability, 0)).toBeCloseTo(1, 6);
          const after = meanings.map((m) => ({
            p: m.probability,
            of: new Map(
              trace(model, { ...input, findings: [...(input.findings ?? []), { check, outcome: m.outcome }] }).faults.map((f) => [
                f.id,
                f.probability,
              ]),
            ),
          }));
          // As near as the sets that a ranking leaves out allow.
          for (const { id, probability } of now.faults.slice(0, 6))
            expect(Math.abs(after.reduce((sum, a) => sum + a.p * (a.of.get(id) ?? 0), 0) - probability)).toBeLessThan(0.06);
        }
      }),
      { numRuns: 5 },
    );
  });

  it("takes less where it is open already", () => {
    const lens = model.checks.filter((c) => c.needsOpen === "lens" && c.minutesOpened !== undefined);
    expect(lens.length).toBeGreaterThan(0);
    for (const c of lens) expect(minutesOf(c, ["lens"])).toBeLessThan(minutesOf(c, []));
    for (const c of model.checks) expect(minutesOf(c, ["no such place"])).toBe(c.minutes);
  });
});
