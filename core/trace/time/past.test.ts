import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { threeMirror } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { afterRepair, type CheckSpec, expandModel, type TraceFinding, type TraceInput, trace } from "#core/trace";
import { logPriorWeights } from "../belief/prior";
import { outcomeTable } from "../belief/tables";
import { stillSpeaking } from "./repaired";

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
    const { still, before } = afterRepair(model, findings, ["clean-lens"]);
    const failed = {
      usage: { smokeDoseSinceClean: { lens: 0 } },
      before: [{ repairs: ["clean-lens"], findings: before }],
      mended: ["clean-lens"],
    };
    const after: TraceFinding[] = [...still, { check: "ladder", value: 0.78 }];
    const answer = trace(model, { ...failed, findings: after });
    expect(answer.plan).not.toContain("clean-lens");
    // A clean fails once in twenty times, and that is what is left of a fault that was seen.
    const left = answer.repairs.find((r) => r.id === "clean-lens")?.probability ?? 0;
    expect(left).toBeGreaterThan(0.01);
    expect(left).toBeLessThan(0.35);
    const spots: TraceFinding[] = [...after, { check: "lens-look", outcome: "spots" }];
    const seenAgain = trace(model, { ...failed, findings: spots });
    expect(seenAgain.plan.some((r) => r.endsWith("-lens"))).toBe(true);
  });

  it("the test that failed is made again first, unless a part was seen bad besides or nobody can make it", () => {
    const { still, before } = afterRepair(model, findings, ["clean-lens"]);
    const mended = { before: [{ repairs: ["clean-lens"], findings: before }], mended: ["clean-lens"] };
    const ask = (more: Partial<TraceInput>) => trace(model, { ...mended, findings: still, ...more });
    const due = ask({});
    expect([due.stop.reason, due.repair, due.nextChecks[0]?.check]).toEqual(["proof", null, "known-cut"]);
    expect(ask({ findings: [...still, { check: "power-limit", outcome: "left-low" }] }).stop.reason).toBe("seen");
    expect(ask({ declined: ["known-cut"] }).stop.reason).not.toBe("proof");
    for (const again of [
      { check: "known-cut", outcome: "hangs" },
      { check: "ladder", value: 0.8 },
    ])
      expect(ask({ findings: [...still, again] }).stop.reason).not.toBe("proof");
    // Where a ladder was low, a cut that fails since says as much; one that was harder than the usual one, or that passed once more, does not.
    const low = { ...mended, before: [{ repairs: ["clean-lens"], findings: [{ check: "ladder", value: 0.8 }] }] };
    const reasonWith = (more: TraceFinding[]) => trace(model, { ...low, findings: more }).stop.reason;
    const cut = { check: "known-cut", outcome: "hangs" };
    expect([[], [cut], [{ ...cut, neededLnRatio: model.usualNeedLn + 0.2 }]].map(reasonWith)).toEqual(["proof", "check", "proof"]);
    const passed = { repairs: ["clean-mirror@2"], findings: [{ check: "known-cut", outcome: "through" }] };
    expect(ask({ before: [...mended.before, passed], mended: ["clean-lens", "clean-mirror@2"] }).stop.reason).not.toBe("proof");
  });

  it("what most likely did not take is looked at before anything else is done, and done again once it shows", () => {
    const told: TraceFinding[] = [
      { check: "known-cut", outcome: "surface-only", complaint: true },
      { check: "last-touched", outcome: "cleaned" },
      { check: "nozzle-touch", outcome: "cool" },
      { check: "focus-ramp", value: 7.6 },
    ];
    expect(trace(model, { findings: told }).repair).toBe("seat-lens");
    const { still, before } = afterRepair(model, told, ["seat-lens"]);
    const failed = { before: [{ repairs: ["seat-lens"], findings: before }], mended: ["seat-lens"] };
    const after: TraceFinding[] = [...still, { check: "known-cut", outcome: "surface-only" }];
    const answer = trace(model, { ...failed, findings: after });
    expect(answer.repairs[0]).toMatchObject({ id: "seat-lens" });
    expect(answer.repair).toBeNull();
    const next = answer.nextChecks.find((k) => k.helps);
    expect(["focus-ramp", "kerf", "engraving", "lens-rattle"]).toContain(next?.check);
    expect(trace(model, { ...failed, findings: [...after, { check: "focus-ramp", value: 7.4 }] }).repair).toBe("seat-lens");
    expect(trace(model, { ...failed, findings: [...after, { check: "focus-ramp", value: 0.1 }] }).plan).not.toContain("seat-lens");
  });
});

describe("a case before and after a repair", () => {
  const round = (repairs: string[], found: TraceFinding[]) => ({ repairs, findings: found });
  const chance = (input: TraceInput, id: string) =>
    trace(model, { maxFaults: 1, ...input }).faults.find((f) => f.id === id)?.probability ?? 0;

  it("is what two hidden states with one repair between them give, worked out by hand", () => {
    // One look before and one after, single faults alone: film then, haze now, the lens cleaned in between.
    const lens = model.faults.findIndex((f) => f.id === "lens-dirty");
    const look = model.checks.find((c) => c.id === "lens-look");
    const prior = logPriorWeights(model, {}).map(Math.exp);
    const law = (state: number, outcome: string): number => {
      const out = new Float64Array(5);
      outcomeTable(model, look as CheckSpec).fill(state, -1, -1, out);
      return out[(look as CheckSpec).outcomes.indexOf(outcome)] as number;
    };
    let still = 0;
    let all = law(-1, "film") * law(-1, "haze");
    prior.forEach((p, s) => {
      if (s >> 1 === lens) {
        still += 0.05 * p * law(s, "film") * law(s, "haze");
        all += 0.95 * p * law(s, "film") * law(-1, "haze");
      } else if (!/^lens-(flipped|loose|seat)$/.test(model.faults[s >> 1]?.id ?? "")) all += p * law(s, "film") * law(s, "haze");
      // A seat that was opened may have been put back wrong since, which the look before knew nothing of.
      else all += p * law(s, "film") * law(s, "haze") + 5 * p * law(-1, "film") * law(s, "haze");
    });
    const answer = trace(model, {
      maxFaults: 1,
      symptom: "power",
      before: [round(["clean-lens"], [{ check: "lens-look", outcome: "film" }])],
      findings: [{ check: "lens-look", outcome: "haze" }],
    });
    const known = answer.faults.find((f) => f.id === "lens-dirty")?.probability ?? 0;
    expect(known / (1 - answer.none)).toBeCloseTo(still / (all + still), 9);
  });

  it("does not take what was seen right before its seat was opened for right now", () => {
    const side: TraceFinding = { check: "lens-side", outcome: "right" };
    const ramp: TraceFinding = { check: "focus-ramp", value: 1.5 };
    const kept = chance({ findings: [side, ramp] }, "lens-flipped");
    const opened = chance({ before: [round(["clean-lens"], [side])], findings: [ramp] }, "lens-flipped");
    expect(kept).toBeLessThan(0.02);
    expect(opened).toBeGreaterThan(5 * kept);
  });

  it("takes a spare for a clean one, and a lens that was cleaned for one that was put back the right way up", () => {
    const was = (findings: TraceFinding[], repairs: string[], fault: string) =>
      chance({ before: [round(repairs, findings)] }, fault) / chance({ findings }, fault);
    const spots: TraceFinding[] = [{ check: "lens-look", outcome: "spots" }];
    expect(was(spots, ["replace-lens"], "lens-dirty")).toBeLessThan(0.15);
    expect(was([{ check: "mirror-look@2", outcome: "spots" }], ["replace-mirror@2"], "mirror-dirty@2")).toBeLessThan(0.15);
    const ramp: TraceFinding[] = [
      { check: "focus-ramp", value: 1.5 },
      { check: "focus-gauge", outcome: "right" },
    ];
    expect(was(ramp, ["clean-lens"], "lens-flipped")).toBeLessThan(0.3);
    // Another focal seat is not seen by who cleans.
    expect(was([{ check: "focus-ramp", value: 5 }], ["clean-lens"], "lens-seat")).toBeGreaterThan(0.5);
    expect(was(spots, ["clean-mirror@2"], "lens-dirty")).toBeGreaterThan(0.7);
  });

  it("keeps what speaks of a fault that is gone from speaking of another: heat that it explained says no more of the nozzle", () => {
    const hot: TraceFinding = { check: "nozzle-touch", outcome: "hot" };
    const spots: TraceFinding = { check: "lens-look", outcome: "spots" };
    const unexplained = chance({ maxFaults: 2, before: [round(["clean-mirror@1"], [hot])] }, "nozzle-clip");
    const explained = chance({ maxFaults: 2, before: [round(["clean-lens"], [hot, spots])] }, "nozzle-clip");
    expect(explained).toBeLessThan(unexplained / 1.5);
  });

  it("takes what was mended and no more as before: repairs without their findings are those of `mended`", () => {
    const findings: TraceFinding[] = [{ check: "known-cut", outcome: "hangs" }];
    const plain = trace(model, { findings, mended: ["clean-mirror@2"] });
    const told = trace(model, { findings, mended: ["clean-mirror@2"], before: [round(["clean-mirror@2"], [])] });
    expect(told.faults).toEqual(plain.faults);
    const never = trace(model, { findings }).faults.find((f) => f.id === "mirror-dirty@2")?.probability ?? 0;
    expect(told.faults.find((f) => f.id === "mirror-dirty@2")?.probability).toBeLessThan(never / 5);
  });

  it("names its faults once, sums to no more than one fault each, and says of which time a reason is", () => {
    const repairs = fc.uniqueArray(fc.constantFrom(...model.repairs.map((r) => r.id)), { minLength: 1, maxLength: 2 });
    const finding = fc
      .constantFrom(...model.checks.filter((c) => c.outcomes.length > 0))
      .chain((c) => fc.constantFrom(...c.outcomes).map((outcome): TraceFinding => ({ check: c.id, outcome })));
    const some = fc.uniqueArray(finding, { maxLength: 4, selector: (f) => f.check });
    fc.assert(
      fc.property(fc.array(fc.tuple(repairs, some), { minLength: 1, maxLength: 2 }), some, (rounds, now) => {
        const before = rounds.map(([done, found]) => round(done, found));
        const answer = trace(model, { maxFaults: 2, before, findings: now, mended: before.flatMap((b) => b.repairs) });
        expect(answer.faults.map((f) => f.id).sort()).toEqual(model.faults.map((f) => f.id).sort());
        for (const { probability } of answer.faults) expect(probability).toBeLessThanOrEqual(1);
        for (const e of answer.evidence) {
          const list = e.before === undefined ? now : (before[e.before]?.findings ?? []);
          expect(list.map((f) => f.check)).toContain(e.check);
        }
        for (const { check } of answer.nextChecks) expect(model.checks.map((c) => c.id)).toContain(check);
        for (const s of answer.sets) for (const id of s.faults) expect(model.faults.map((f) => f.id)).toContain(id);
      }),
      { numRuns: 8 },
    );
  });

  it("refuses what this machine has not", () => {
    expect(() => trace(model, { before: [round(["clean-lens"], [{ check: "no-such", outcome: "x" }])] })).toThrow(/no-such/);
  });
});
