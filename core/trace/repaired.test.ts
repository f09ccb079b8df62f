import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, stillSpeaking, type TraceFinding, trace } from "#core/trace";

const model = expandModel(traceSpec(threeMirror, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const findings: TraceFinding[] = [
  { check: "known-cut", outcome: "part-through" },
  { check: "onset", outcome: "gradual" },
  { check: "lens-look", outcome: "film" },
  { check: "mirror-look@2", outcome: "clear" },
  { check: "tape@2", outcome: "centred" },
];
const checks = (list: readonly { check: string }[]) => list.map((f) => f.check);

describe("after a repair that did not bring it back", () => {
  it("what was seen of the part it served says nothing more, nor what the cut was like; what nobody touched does", () => {
    expect(checks(stillSpeaking(model, findings, ["clean-lens"]))).toEqual(["onset", "mirror-look@2", "tape@2"]);
    expect(checks(stillSpeaking(model, findings, ["aim@1"]))).toEqual(["onset", "lens-look", "mirror-look@2"]);
    expect(stillSpeaking(model, findings, [])).toEqual(findings);
  });

  it("a seat that was opened for it may be wrong since; light read before the part, and heat it has no share in, are as they were", () => {
    const asked = ["lens-side", "in-run", "power@tube", "power@mirror-3", "power@lens", "air-feel"].map((check) => ({ check }));
    expect(checks(stillSpeaking(model, asked, ["clean-lens"]))).toEqual(["power@tube", "power@mirror-3", "air-feel"]);
    expect(checks(stillSpeaking(model, asked, ["restore-air"]))).toEqual(checks(asked.slice(0, 5)));
  });

  it("another repair is named, and the same one only where something new speaks for it", () => {
    expect(trace(model, { findings }).plan[0]).toBe("clean-lens");
    const after: TraceFinding[] = [...stillSpeaking(model, findings, ["clean-lens"]), { check: "ladder", value: 0.78 }];
    const usage = { smokeDoseSinceClean: { lens: 0 } };
    const answer = trace(model, { usage, findings: after, mended: ["clean-lens"] });
    expect(answer.plan).not.toContain("clean-lens");
    expect(answer.repairs.find((r) => r.id === "clean-lens")?.probability ?? 0).toBeLessThan(0.05);
    const spots: TraceFinding[] = [...after, { check: "lens-look", outcome: "spots" }];
    const seenAgain = trace(model, { usage, findings: spots, mended: ["clean-lens"] });
    expect(seenAgain.plan.some((r) => r.endsWith("-lens"))).toBe(true);
  });
});
