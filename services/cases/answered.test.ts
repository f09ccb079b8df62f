/** A page in haste comes with the answer there is, says so, and never with one to another case. */
import { describe, expect, it, vi } from "vitest";
import { type TraceInput, type TraceModel, trace } from "#core/trace";
import { addFinding, openCase } from "#store/cases";
import { inHaste } from "../context";
import { gather } from "../machine/gather";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { todayView, weighedToday } from "../today/todayView";
import { caseView } from "./caseView";

/** A tracer that answers when it is let. */
function heldTracer() {
  let waiting: (() => void)[] = [];
  let holds = false;
  return {
    hold: () => {
      holds = true;
    },
    release: () => {
      holds = false;
      for (const go of waiting) go();
      waiting = [];
    },
    tracer: async (model: TraceModel, input: TraceInput) => {
      if (holds) await new Promise<void>((go) => waiting.push(go));
      return trace(model, input);
    },
  };
}

async function withCase() {
  const w = await TestWorkshop.open();
  w.day(1);
  await w.ladder(15, true);
  w.day(21);
  const id = await openCase(w.store, 1, WEAK_CASE, w.nowMs);
  const { tracer, ...held } = heldTracer();
  const services = { ...w.services, tracer };
  const page = async () => {
    const hasty = inHaste(services);
    const view = await caseView(hasty, await gather(hasty, "larkspur"), id, null);
    return { view: view.view, isBehind: hasty.haste.isBehind };
  };
  const today = async () => {
    const hasty = inHaste(services);
    const view = await todayView(hasty, await gather(hasty, "larkspur"));
    return { first: view.first, isBehind: hasty.haste.isBehind };
  };
  return { w, id, held, services, page, today };
}

describe("a page in haste", () => {
  it("comes with the answer there was while what was told is weighed, and then with the new one", async () => {
    const { w, id, held, services, page, today } = await withCase();
    const before = await page();
    expect(before.isBehind).toBe(false);
    const [asked] = before.view.next;
    held.hold();
    await addFinding(w.store, id, { check: "lens-look", outcome: "film" }, "f1", w.nowMs + 1);
    const during = await page();
    expect(during).toMatchObject({
      isBehind: true,
      view: { isBehind: true, headline: before.view.headline, answered: before.view.answered + 1 },
    });
    expect(await today()).toMatchObject({ isBehind: true, first: { kind: "case", title: "Go on with the case", caseId: id } });
    held.release();
    // Whoever waits is told what came of it, and the next page has it.
    const weighed = await weighedToday(services, await gather(services, "larkspur"));
    const after = await page();
    expect(after.isBehind).toBe(false);
    expect(after.view.isBehind).toBe(false);
    expect(after.view.faults.map((f) => f.chance)).not.toEqual(before.view.faults.map((f) => f.chance));
    expect(await today()).toMatchObject({ isBehind: false, first: weighed.first });
    expect(after.view.next[0]?.id).not.toBe(asked?.id === "lens-look" ? "lens-look" : "");
  });

  it("has each answer to the question asked next ready, while nobody asks anything else", async () => {
    const { w, id, services, page } = await withCase();
    // A question of its own: those of the other tests are known.
    await addFinding(w.store, id, { check: "smoke", outcome: "clears" }, "f0", w.nowMs);
    let traced = 0;
    const tracer = async (model: TraceModel, input: TraceInput) => {
      traced += 1;
      return trace(model, input);
    };
    Object.assign(services, { tracer });
    const { view } = await page();
    const [asked] = view.next;
    const outcomes = asked?.outcomes.map((o) => o.id) ?? [];
    expect(outcomes.length).toBeGreaterThan(1);
    await vi.waitFor(() => expect(traced).toBe(1 + outcomes.length), { timeout: 20_000, interval: 100 });
    await addFinding(w.store, id, { check: asked?.id ?? "", outcome: outcomes[0] as string }, "f1", w.nowMs + 1);
    const after = await page();
    expect(after).toMatchObject({ isBehind: false, view: { answered: view.answered + 1 } });
    expect(traced).toBe(1 + outcomes.length);
  });

  it("is not behind for ever: the clock alone asks no new question, though use goes on by its pace", async () => {
    const { w, page } = await withCase();
    await w.log("hours", { counterHours: 905 }, 2);
    await w.log("hours", { counterHours: 960 }, 20);
    await page();
    for (let i = 0; i < 3; i++) {
      w.nowMs += 61_000;
      expect((await page()).isBehind).toBe(false);
    }
  });

  it("waits for the first answer to a case: another case's is none", async () => {
    const { w, held, services, page } = await withCase();
    await page();
    held.hold();
    const other = await openCase(
      w.store,
      1,
      {
        ...WEAK_CASE,
        title: "Another",
        sign: "slowly-weaker",
        requestKey: "other",
        // Asked nowhere else: what is answered once is answered for every test.
        findings: [
          { check: "known-cut", outcome: "hangs" },
          { check: "mirror-look@1", outcome: "haze" },
          { check: "air-feel", outcome: "weak" },
        ],
      },
      w.nowMs,
    );
    const hasty = inHaste(services);
    const waited = caseView(hasty, await gather(hasty, "larkspur"), other, null);
    expect(await Promise.race([waited, new Promise((r) => setTimeout(r, 100, "waits"))])).toBe("waits");
    held.release();
    await waited;
    expect(hasty.haste.isBehind).toBe(false);
  });
});
