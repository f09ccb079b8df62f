import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pino from "pino";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { listFindings } from "#store/cases";
import { openStore, type Store } from "#store/database";
import { caseView } from "../app/trace/view";
import { gather } from "../app/workshop/gather";
import { loadDemo } from "./loadDemo";

const NOW = Date.parse("2026-11-24T09:00:00Z");
const folder = join(mkdtempSync(join(tmpdir(), "clenor-demo-")), "data");
let store: Store;
beforeAll(async () => {
  expect(await loadDemo(folder, NOW, false)).toBe(true);
  store = openStore(folder);
});
afterAll(() => store.destroy());
const larkspur = () => gather({ store, nowMs: () => NOW, nonce: "", log: pino({ level: "silent" }) }, "larkspur");

describe("the demo", () => {
  it("is left alone when it is there already", async () => {
    expect(await loadDemo(folder, NOW, false)).toBe(false);
  });

  it("ends today, with two settled cases and an open one", async () => {
    const g = await larkspur();
    expect(NOW - (g.events.at(-1)?.atMs ?? 0)).toBeLessThan(5 * 86_400_000);
    expect(g.cases.map((c) => [c.number, c.closing?.faults ?? "open"])).toEqual([
      [3, "open"],
      [2, ["air-weak"]],
      [1, ["lens-flipped"]],
    ]);
    expect(g.rounds.every((r) => r.status === "closed")).toBe(true);
    expect(g.usage.steps.every((s) => !s.unexplained)).toBe(true);
  });

  it("lets the far-corner case be led by M1's aim and film on M2", async () => {
    const g = await larkspur();
    const open = g.openCase;
    if (!open) throw new Error("no open case");
    const view = caseView(g, open, await listFindings(store, open.id));
    expect(
      view.faults
        .slice(0, 2)
        .map((f) => f.id)
        .sort(),
    ).toEqual(["aim-off@1", "mirror-dirty@2"]);
  });

  it("says about how strong the simulated machine truly is, with the truth in its range", async () => {
    const { condition } = await larkspur();
    const { simulateHistory } = await import("#core/practice");
    expect(condition?.ratio).toBeLessThan(0.8);
    expect(condition?.low).toBeLessThan(condition?.high as number);
    // Truth: tube, dirt and the misaligned beam of the open case, from the simulator's own state.
    const truth = simulateHistory({
      seed: 20260,
      endMs: NOW,
      months: 14,
      tubePowerW: 79,
      startTubeHours: 912,
      v50: 15.4,
      setPercent: 60,
      materials: DEMO_MATERIALS,
    }).trueEffective;
    expect(truth).toBeGreaterThan((condition?.low as number) - 0.03);
    expect(truth).toBeLessThan((condition?.high as number) + 0.03);
  });
});

/** Smoke of the demo's sheets, in its order. */
const DEMO_MATERIALS = [
  { materialId: 1, share: 0.5, optics: 1, nozzle: 1 },
  { materialId: 2, share: 0.16, optics: 0.8, nozzle: 2 },
  { materialId: 3, share: 0.14, optics: 0.5, nozzle: 0.5 },
  { materialId: 4, share: 0.12, optics: 0.9, nozzle: 0.9 },
  { materialId: 5, share: 0.08, optics: 1, nozzle: 1 },
];
