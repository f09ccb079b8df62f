/** What a case cannot see is said with its chance; who may open it is asked once, and what was said holds. */
import { describe, expect, it } from "vitest";
import { addFinding, listFindings, openCase } from "#store/cases";
import { FormReader } from "../forms/fields";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { actByForm } from "./act";
import { answerView } from "./answerView";

/** A periscope's case in which all that can be seen is clear. */
async function withClosedPanels() {
  const w = await TestWorkshop.open("periscope");
  w.day(21);
  const id = await openCase(w.store, 1, WEAK_CASE, w.nowMs);
  for (const [i, check] of ["lens-look", "mirror-look@3", "mirror-look@4", "side-window-look"].entries())
    await addFinding(w.store, id, { check, outcome: "clear" }, `f${i}`, w.nowMs + 1 + i);
  const view = async () => {
    const g = await w.look();
    if (!g.openCase) throw new Error("no case");
    return answerView({}, g, g.openCase, await listFindings(w.store, id));
  };
  const act = (fields: Readonly<Record<string, string>>) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.set(name, value);
    return actByForm(w.services, "larkspur", id, new FormReader(form));
  };
  const looks = async () => {
    const { next, others } = await view();
    return [...next, ...others].map((c) => c.id).filter((check) => check === "mirror-look@1");
  };
  return { view, act, looks };
}

describe("closed panels", () => {
  it("are named with what may be behind them, and asked of once", async () => {
    const { view, act, looks } = await withClosedPanels();
    const before = await view();
    expect(before.panels?.words).toMatch(/^Behind the closed .*panel.*Lower mirror.*\d+\s%/);
    expect(before.panels?.ask).toBe(true);
    expect(await looks()).toEqual([]);
    await act({ intent: "panels", panels: "service" });
    const after = await view();
    expect(after.panels).toEqual({ ...before.panels, ask: false });
    const kept = after.declined.find((d) => /panels/.test(d.title));
    // Taken back, it is asked again.
    await act({ intent: "ask-again", check: kept?.id ?? "" });
    expect(await view()).toMatchObject({ panels: { ask: true }, declined: [] });
  });

  it("that may be opened are looked behind like all else", async () => {
    const { view, act, looks } = await withClosedPanels();
    await act({ intent: "panels", panels: "mine" });
    expect((await view()).panels).toBeUndefined();
    expect(await looks()).toEqual(["mirror-look@1"]);
  });
});

describe("why it is not what is guessed first", () => {
  it("says the chance that stands beside the beam line, what speaks against it, and what would tell", async () => {
    const { view } = await withClosedPanels();
    const { whyNot, suspicion, faults } = await view();
    expect(whyNot?.length).toBeGreaterThan(1);
    for (const guess of whyNot ?? []) {
      expect(guess.chance).toBe(suspicion[guess.id]?.chance);
      expect(guess.wouldTell ?? guess.against[0]).toBeDefined();
    }
    expect(whyNot?.find((w) => w.id === "lens")?.against.map((e) => e.words)).toContain("lens looked clear");
    expect(whyNot?.map((w) => w.name)).not.toContain(faults[0]?.name);
  });
});
