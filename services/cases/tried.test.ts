import { describe, expect, it } from "vitest";
import { addFinding, listFindings, openCase } from "#store/cases";
import { FormReader } from "../forms/fields";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { actByForm } from "./act";
import { answerView } from "./answerView";
import { caseFile } from "./caseFile";
import { caseView } from "./caseView";
import { reportView } from "./reportView";

/** A workshop on day 21 with an open case and what was found in it. */
async function withCase(findings: readonly { check: string; outcome: string }[]) {
  const w = await TestWorkshop.open();
  w.day(1);
  await w.ladder(15, true);
  w.day(21);
  const id = await openCase(w.store, 1, WEAK_CASE, w.nowMs);
  for (const [i, f] of findings.entries()) await addFinding(w.store, id, f, `f${i}`, w.nowMs + i + 1);
  const close = () => {
    const form = new FormData();
    form.set("intent", "tried");
    return actByForm(w.services, "larkspur", id, new FormReader(form));
  };
  const view = async () => {
    const g = await w.look();
    const open = g.openCases.find((c) => c.id === id);
    return open ? answerView({}, g, open, await listFindings(w.store, id)) : undefined;
  };
  const spares = async () => (await w.look()).trade.layout.path.find((s) => s.id === "lens")?.spares;
  return { w, id, close, view, spares };
}

describe("a thing that was tried", () => {
  it("ends the case when it cuts through, and not before", async () => {
    const { w, id, close, view } = await withCase([{ check: "onset", outcome: "new-material" }]);
    expect((await view())?.tried).toBeUndefined();
    expect(await close()).toEqual({ errors: { "": expect.stringMatching(/Nothing that was tried/) } });
    await addFinding(w.store, id, { check: "material-swap", outcome: "cuts-now" }, "swap", w.nowMs + 5);
    const v = await view();
    expect(v?.tried).toMatchObject({ name: "Take another sheet", proof: "other sheet cuts", fitted: undefined });
    expect(v?.headline).toBe("Tried, and it cuts through.");
    expect(v?.lead).toMatch(/^It was this, as far as one test can tell: it is the sheet, not the machine/);
    expect(await close()).toEqual({ done: true });
    const closed = await caseView(w.services, await w.look(), id, null);
    expect(closed.closed).toMatchObject({ repair: "take another sheet", was: expect.stringMatching(/sheet/i), proof: "other sheet cuts" });
  });

  it("stays in where it was a spare lens: the log has it, the shelf has one less, and once only", async () => {
    const { w, id, close, view, spares } = await withCase([
      { check: "lens-look", outcome: "spots" },
      { check: "lens-swap", outcome: "cuts-now" },
    ]);
    expect(await spares()).toBe(1);
    expect((await caseFile(w.services, await w.look(), id)).spares).toEqual(["lens"]);
    expect(await view()).toMatchObject({
      tried: { name: "Fit the spare lens", fitted: "lens", after: expect.stringMatching(/spare stays in/) },
    });
    expect(await close()).toEqual({ done: true });
    expect(await spares()).toBe(0);
    const put = async () => [...(await w.look()).log.kinds.service].filter((e) => e.payload.what === "replaced");
    expect(await put()).toMatchObject([{ payload: { fromShelf: true }, caseId: id }]);
    // A second press, or another device's: the case is closed, and nothing more is taken.
    expect(await close()).toEqual({ done: true });
    expect(await spares()).toBe(0);
    expect(await put()).toHaveLength(1);
    const closed = await caseView(w.services, await w.look(), id, null);
    expect(closed.closed).toMatchObject({ repair: "fit the spare lens", was: expect.stringMatching(/lens/i), proof: "spare lens cuts" });
    expect((await w.look()).found.faults).toHaveProperty("lens-dirty");
    // Its report says what went in.
    const report = await reportView(w.services, await w.look(), id);
    expect(report).toMatchObject({ closed: { repair: "fit the spare lens" }, rounds: [], parts: [expect.stringMatching(/lens/i)] });
    // With none on the shelf it is not asked for.
    const next = await openCase(w.store, 1, { ...WEAK_CASE, requestKey: "next" }, w.nowMs);
    expect((await caseFile(w.services, await w.look(), next)).spares).toEqual([]);
  });

  it("says before it is tried that its answer would be the repair, and what else would come of the other", async () => {
    const { view } = await withCase([
      { check: "onset", outcome: "new-material" },
      { check: "focus-gauge", outcome: "right" },
      { check: "settings", outcome: "usual" },
      { check: "nozzle-touch", outcome: "cool" },
    ]);
    const sheet = (await view())?.next.find((c) => c.title === "Try another sheet");
    expect(sheet?.meanings.find((m) => m.outcome === "cuts now")?.means).toBe("take another sheet: done, and proven");
    expect(sheet?.meanings.find((m) => m.outcome === "the same")?.means).not.toMatch(/done/);
  });
});
