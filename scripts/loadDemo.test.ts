import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { allEvents } from "#core/events";
import type { AnswerView } from "#services/cases/answerView";
import { caseView } from "#services/cases/caseView";
import { beamLine } from "#services/machine/beamLine";
import { gather } from "#services/machine/gather";
import { offerOf } from "#services/rounds/offer";
import { openStore, type Store } from "#store/database";
import { listCases, listRounds } from "#store/testLists";
import { type DemoMachine, demoMachines } from "./demoMachines";
import { loadDemo, simulateDemo } from "./loadDemo";

const NOW = Date.parse("2026-11-24T09:00:00Z");
const folder = join(mkdtempSync(join(tmpdir(), "clenor-demo-")), "data");
let store: Store;
beforeAll(async () => {
  expect(await loadDemo(folder, NOW, false)).toBe(true);
  store = await openStore(folder);
});
afterAll(() => store.destroy());
const look = (slug: string) => gather({ store, folder, nowMs: () => NOW }, slug);
const larkspur = () => look("larkspur");

describe("the demo", () => {
  it("is left alone when it is there already", async () => {
    expect(await loadDemo(folder, NOW, false)).toBe(false);
  });

  it("ends today, with two settled cases and an open one", async () => {
    const g = await larkspur();
    expect(NOW - (allEvents(g.log).at(-1)?.atMs ?? 0)).toBeLessThan(5 * 86_400_000);
    expect((await listCases(store, g.machine.id)).map((c) => [c.number, c.closing?.faults ?? "open"])).toEqual([
      [3, "open"],
      [2, ["air-weak"]],
      [1, ["lens-flipped"]],
    ]);
    // A closed case keeps how it was told before its repair, which is what was repaired.
    for (const closing of (await listCases(store, g.machine.id)).flatMap((c) => c.closing ?? []))
      expect((closing.report as AnswerView).faults[0]?.id).toBe(closing.faults[0]);
    expect((await listRounds(store, g.machine.id)).every((r) => r.status === "closed")).toBe(true);
    expect([...g.log.kinds.hours].every((e) => g.usage.stepOf(e)?.unexplained === false)).toBe(true);
  });

  it("lets the far-corner case be led by M1's aim and film on M2", async () => {
    const g = await larkspur();
    const open = g.openCase;
    if (!open) throw new Error("no open case");
    const { view } = await caseView({ store, folder, nowMs: () => NOW }, g, open.id, null);
    expect(
      view.faults
        .slice(0, 2)
        .map((f) => f.id)
        .sort(),
    ).toEqual(["aim-off@1", "mirror-dirty@2"]);
  });

  it("says about how strong the simulated machine truly is, with the truth in its range", async () => {
    const { condition } = await larkspur();
    // Truth: tube, dirt and the misaligned beam of the open case, from the simulator's own state.
    const truth = simulateDemo(demoMachines[0] as DemoMachine, NOW, [1, 2, 3, 4, 5]).trueEffective;
    expect(truth).toBeGreaterThan((condition?.low as number) - 0.03);
    expect(truth).toBeLessThan((condition?.high as number) + 0.03);
  });

  it.each(["teasel", "burdock"])("gives %s a verdict, a beam line of its own and an offer that fits a morning", async (slug) => {
    const g = await look(slug);
    expect(g.condition?.ratio).toBeGreaterThan(0.8);
    expect(beamLine(g, "key").stations.map((s) => s.id)).toEqual(g.trade.layout.stations.map((s) => s.id));
    expect(beamLine(g, "key").stations.at(-2)?.watts).toMatch(/W$/);
    expect([...g.log.kinds.hours].every((e) => g.usage.stepOf(e)?.unexplained === false)).toBe(true);
    expect(offerOf(g).minutes).toBeLessThan(90);
  });
});
