/** What a round is answered reaches the trace: every choice that means a fault, by its own id, whatever it is called. */
import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import { EXTRAS } from "#core/machine";
import { roundRecords, type Step } from "#core/rounds";
import { openCase } from "#store/cases";
import { tradeOf } from "../machine/trade";
import { saidOf, unmendedOf } from "../machine/unmended";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { everFound } from "./caseInput";

/** A machine of a layout, with a case since yesterday, and a record of one step's answer as a round leaves it. */
async function told(layout: string, step: Step, choice: string) {
  const w = await TestWorkshop.open(layout);
  w.day(21);
  await openCase(w.store, 1, WEAK_CASE, w.nowMs);
  w.nowMs += 60_000;
  for (const r of roundRecords([step], new Map([[step.id, { done: true, choice, atMs: w.nowMs }]])))
    if (r.kind === "grade") await w.log("grade", r.payload);
  const g = await w.look();
  const found = g.openCase && everFound(g, g.openCase, []).map(({ check, outcome }) => ({ check, outcome }));
  return { g, found: found ?? [] };
}

describe("an answer of a round", () => {
  it.each(Object.keys(layouts))("that means a fault is a finding of the case that is open, on %s", async (layout) => {
    const trade = tradeOf({ layout });
    const asked = trade.steps.flatMap((step) =>
      (step.seen ?? []).flatMap((said) => (said.trace ? [{ step, said, trace: said.trace }] : [])),
    );
    expect(asked.length).toBeGreaterThan(5);
    for (const { step, said, trace } of asked) {
      expect(said.grade, `${step.id}: ${said.id} is not kept without a grade`).toBeGreaterThanOrEqual(2);
      if (!trade.model.checks.some((c) => c.id === trace.check)) continue;
      const { g, found } = await told(layout, step, said.id);
      expect(found, `${step.id}: ${said.id}`).toContainEqual(trace);
      // And it stays on Today, in the words it was given in.
      expect(unmendedOf(g).map((u) => u.word)).toContain(said.label);
    }
  });

  it("is known by its id when its words have changed since, and a good one says that the check is as usual", async () => {
    const trade = tradeOf({ layout: "three-mirror" });
    const step = trade.steps.find((s) => s.id === "belts.wipe") as Step;
    expect(saidOf(trade, "motion", { step: "belts.wipe", choice: "slack", seen: "hangs down" })?.trace).toEqual({
      check: "belt",
      outcome: "slack",
    });
    expect((await told("three-mirror", step, "taut")).found).toContainEqual({ check: "belt", outcome: "taut" });
  });

  it("can be had for every check that a round may ask about: none leads to one that no machine has", () => {
    const known = new Set(
      Object.values(layouts).flatMap((l) =>
        tradeOf({ layout: l.id, fittings: { ...l.fittings, extras: [...EXTRAS] } }).model.checks.map((c) => c.id),
      ),
    );
    for (const layout of Object.keys(layouts))
      for (const step of tradeOf({ layout }).steps)
        for (const said of step.seen ?? [])
          if (said.trace) expect(known.has(said.trace.check), `${step.id}: ${said.trace.check}`).toBe(true);
  });
});
