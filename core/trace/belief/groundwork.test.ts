import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceFinding, type TraceInput, trace } from "#core/trace";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);

describe("what is kept from one answer to the next", () => {
  it("changes no answer, whatever changed in between: an answer, a figure, the use, the complaint, a repair", () => {
    const outcome = fc
      .constantFrom(...model.checks.filter((c) => c.outcomes.length > 0))
      .chain((c) => fc.constantFrom(...c.outcomes).map((o): TraceFinding => ({ check: c.id, outcome: o })));
    const figure = fc.oneof(
      fc.constantFrom(0.6, 0.8, 1).map((value): TraceFinding => ({ check: "ladder", value })),
      fc.constantFrom("through", "part-through", "surface-only").map((cut): TraceFinding => ({ check: "known-cut", outcome: cut })),
    );
    const step = fc.oneof(
      {
        weight: 5,
        arbitrary: outcome.map(
          (f) =>
            (i: TraceInput): TraceInput => ({ ...i, findings: [...(i.findings ?? []), f] }),
        ),
      },
      {
        weight: 2,
        arbitrary: figure.map(
          (f) =>
            (i: TraceInput): TraceInput => ({ ...i, findings: [...(i.findings ?? []), f] }),
        ),
      },
      fc.constantFrom(300, 2500).map(
        (tubeHours) =>
          (i: TraceInput): TraceInput => ({ ...i, usage: { ...i.usage, tubeHours } }),
      ),
      fc.constantFrom("power" as const, "cut-quality" as const).map(
        (symptom) =>
          (i: TraceInput): TraceInput => ({ ...i, symptom }),
      ),
      fc.constantFrom("clean-lens", "aim@1").map(
        (repair) =>
          (i: TraceInput): TraceInput => ({
            ...i,
            mended: [...(i.mended ?? []), repair],
            findings: [],
            before: [...(i.before ?? []), { repairs: [repair], findings: i.findings ?? [] }],
          }),
      ),
      fc.constant((i: TraceInput): TraceInput => ({ ...i, found: { cases: 9, faults: { "lens-dirty": 4 } } })),
      fc.constantFrom<1 | 2>(1, 2).map(
        (maxFaults) =>
          (i: TraceInput): TraceInput => ({ ...i, maxFaults }),
      ),
    );
    fc.assert(
      fc.property(fc.array(step, { minLength: 2, maxLength: 6 }), (steps) => {
        let input: TraceInput = { findings: [{ check: "known-cut", outcome: "hangs" }], maxFaults: 1 };
        for (const change of steps) {
          input = change(input);
          // A model of its own has nothing kept for it.
          expect(trace(model, input)).toEqual(trace({ ...model }, input));
        }
      }),
      { numRuns: 4 },
    );
  });
});
