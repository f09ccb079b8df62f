import { describe, expect, it } from "vitest";
import { surfaces } from "#catalog/agents";
import { checkTemplates } from "#catalog/checks";
import { checkWords } from "#catalog/checkWords";
import { faultTemplates } from "#catalog/faults";
import { faultWords, repairWords } from "#catalog/faultWords";
import { layouts } from "#catalog/layouts";
import { cleaningRepairs, frame, headMirror, lens, nozzle, repairProcedures } from "#catalog/procedures";
import { repairTemplates } from "#catalog/repairs";
import { signs } from "#catalog/signs";
import { gradeAdvice, mergeAnswer, nextStep, planRound, type RoundAnswer, roundRecords } from "#core/rounds";
import { expandModel } from "#core/trace";
import { partsOfRepair, planOf, procedureOf, tradeOf } from "../app/workshop/trade";

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
      Object.values(layouts).flatMap((l) => expandModel(l, faultTemplates, checkTemplates, repairTemplates).checks.map((c) => c.id)),
    );
    for (const sign of signs) {
      expect(sign.findings.length).toBeGreaterThan(0);
      for (const f of sign.findings) {
        expect(checks.has(f.check), f.check).toBe(true);
        expect(checkTemplates.find((c) => c.id === f.check)?.outcomes).toContain(f.outcome);
      }
    }
  });

  it("has a procedure and a name for every repair of every layout", () => {
    for (const id of Object.keys(layouts)) {
      const trade = tradeOf(id);
      for (const repair of trade.model.repairs) {
        expect(repairWords[repair.id.replace(/@\d+$/, "@k")], repair.id).toBeDefined();
        if (repair.id === "clean-side-window") continue; // comes with the other layouts' own rounds
        for (const part of partsOfRepair(repair.id)) expect(procedureOf(trade, part), `${id}: ${part}`).toBeDefined();
      }
    }
    expect(Object.keys(cleaningRepairs).length).toBeGreaterThan(0);
  });

  it("never asks a step to use an agent its surface refuses, and shows only agents it allows", () => {
    const steps = [lens, nozzle, headMirror, ...Object.values(repairProcedures)].flatMap((p) => p.steps);
    for (const step of steps) {
      if (!step.surface) continue;
      const rule = surfaces[step.surface];
      expect(rule, step.surface).toBeDefined();
      for (const agent of step.agents ?? []) {
        expect(rule?.allowed, `${step.id} with ${agent}`).toContain(agent);
        expect(rule?.refused.map((r) => r.agent)).not.toContain(agent);
      }
    }
  });
});

describe("the round for lens and head mirror", () => {
  const trade = tradeOf("three-mirror");
  const plan = planOf(trade, ["lens", "nozzle", "mirror-3"]);

  it("goes in the order that works: safe first, proof last", () => {
    expect(plan.steps.map((s) => s.id)).toEqual([
      "make-safe",
      "lay-out",
      "lens-out",
      "lens-found",
      "lens-clean",
      "lens-left",
      "lens-way",
      "nozzle-clean",
      "mirror@3-found",
      "mirror@3-clean",
      "mirror@3-left",
      "reassemble",
      "focus-gauge",
      "power-on",
      "power-back",
      "proof",
    ]);
    expect(plan.apart).toBe(true);
    expect(plan.minutes).toBeCloseTo(
      plan.steps.reduce((s, x) => s + x.minutes, 0),
      1,
    );
    expect(plan.tools).toContain("lens tool");
  });

  it("does what runs on a whole machine after power on, and puts the limit back where power was turned down", () => {
    const ids = planOf(trade, ["aim@1", "mirror-2"]).steps.map((s) => s.id);
    expect(ids.indexOf("aim@1-do")).toBeGreaterThan(ids.indexOf("power-on"));
    expect(ids.indexOf("power-back")).toBeGreaterThan(ids.indexOf("aim@1-do"));
    expect(planOf(trade, ["set-focus"]).apart).toBe(false);
    expect(planRound([], frame).steps.map((s) => s.id)).toEqual(["proof"]);
  });

  it("goes on at the first step without an answer, and a grade alone is not one", () => {
    const answers = new Map<string, RoundAnswer>([
      ["make-safe", { done: true, atMs: 1 }],
      ["lay-out", { skipped: "laid out already", atMs: 2 }],
      ["lens-out", { grade: 1, atMs: 3 }],
    ]);
    expect(nextStep(plan.steps, answers)).toBe(2);
    expect(nextStep(plan.steps, new Map(plan.steps.map((s) => [s.id, { done: true, atMs: 1 } as RoundAnswer])))).toBe(plan.steps.length);
  });

  it("takes answers in parts, in whatever order they arrive", () => {
    const done = { done: true, grade: 2, atMs: 5 } as const;
    expect(mergeAnswer(done, { grade: 2, atMs: 4 })).toMatchObject({ done: true, grade: 2 });
    expect(mergeAnswer(done, { grade: 1, atMs: 6 })).toMatchObject({ done: true, grade: 1 });
    expect(mergeAnswer(done, { skipped: "cap stuck", atMs: 6 })).toEqual({ skipped: "cap stuck", grade: 2, atMs: 6 });
    expect(mergeAnswer({ skipped: "cap stuck", atMs: 6 }, { done: true, atMs: 7 })).toEqual({ done: true, atMs: 7 });
    expect(mergeAnswer(undefined, { grade: 0, atMs: 1 })).toEqual({ grade: 0, atMs: 1 });
  });

  it("leaves grades and services in the log, and nothing for what was skipped", () => {
    const answers = new Map<string, RoundAnswer>([
      ["lens-found", { done: true, grade: 2, atMs: 5 }],
      ["lens-clean", { done: true, atMs: 6 }],
      ["mirror@3-clean", { skipped: "cap stuck", atMs: 7 }],
    ]);
    expect(roundRecords(plan.steps, answers).map((r) => [r.kind, r.payload])).toEqual([
      ["grade", { station: "lens", phase: "as-found", grade: 2 }],
      ["service", { station: "lens", what: "cleaned" }],
    ]);
  });

  it("stops at a broken optic, and at burnt-in spots on the exit window", () => {
    expect(gradeAdvice("lens", "as-found", 4)).toMatchObject({ stop: true });
    expect(gradeAdvice("lens", "as-found", 3)).toMatchObject({ stop: false });
    expect(gradeAdvice("lens", "as-left", 3)?.text).toContain("spare");
    expect(gradeAdvice("window", "as-left", 3)).toMatchObject({ stop: true });
    expect(gradeAdvice("mirror-2", "as-left", 3)?.text).toContain("every round");
    expect(gradeAdvice("lens", "as-left", 1)).toBeUndefined();
  });
});
