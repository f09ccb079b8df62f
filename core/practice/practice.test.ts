import { describe, expect, it } from "vitest";
import { readLadder } from "#core/cuts";
import { BenchMachine, SIMULATED_PATHS, simulateHistory } from "#core/practice";
import { seededRandom } from "#core/random";

const END = Date.parse("2026-11-24T09:00:00Z");
const options = (seed: number) => ({
  seed,
  endMs: END,
  months: 14,
  tubePowerW: 79,
  startTubeHours: 912,
  stations: SIMULATED_PATHS["three-mirror"],
  habits: [
    { part: "lens", plyHours: 8 },
    { part: "mirror-3", plyHours: 11 },
    { part: "mirror-2", plyHours: 38 },
  ],
  walk: ["tube", "lens"],
  chores: [],
  hasCoolant: true,
  jobsPerDay: [2, 4] as const,
  withCases: true,
  v50: 15.4,
  setPercent: 60,
  materials: [
    { materialId: 1, share: 0.7, optics: 1, nozzle: 1 },
    { materialId: 2, share: 0.3, optics: 0.8, nozzle: 2 },
  ],
});

describe("the simulated machine", () => {
  it("loses light to hours and smoke, and gets the smoke's share back with a clean", () => {
    const machine = new BenchMachine(seededRandom(1), 80, 0, SIMULATED_PATHS["three-mirror"]);
    const fresh = machine.effective();
    machine.fire(60, 1, 1);
    const dirty = machine.effective();
    for (const s of ["window", "mirror-1", "mirror-2", "mirror-3", "lens", "nozzle"]) machine.clean(s);
    const cleaned = machine.effective();
    expect(dirty).toBeLessThan(fresh - 0.1);
    expect(cleaned).toBeGreaterThan(dirty + 0.1);
    expect(cleaned).toBeLessThan(fresh);
  });

  it("shows a loss to the meter from its station on, and what only cuts feel to ladders alone", () => {
    const watts = (m: BenchMachine) => ["tube", "mirror-1", "mirror-2", "lens"].map((s) => m.readPower(s, 0));
    const good = watts(new BenchMachine(seededRandom(2), 80, 0, SIMULATED_PATHS["three-mirror"]));
    const clipped = new BenchMachine(seededRandom(2), 80, 0, SIMULATED_PATHS["three-mirror"]);
    clipped.disturb("aim", { station: "mirror-2", lnLoss: 0.3, cutOnly: false });
    const bad = watts(clipped);
    expect(bad[1]! / good[1]!).toBeCloseTo(1, 6);
    expect(bad[2]! / good[2]!).toBeCloseTo(Math.exp(-0.3), 2);
    const blurred = new BenchMachine(seededRandom(2), 80, 0, SIMULATED_PATHS["three-mirror"]);
    blurred.disturb("focus", { station: "focus", lnLoss: 0.3, cutOnly: true });
    expect(watts(blurred)).toEqual(good);
    expect(blurred.effective()).toBeCloseTo(Math.exp(-0.3), 1);
    blurred.mend("focus");
    expect(blurred.effective()).toBeGreaterThan(0.95);
  });

  it("cuts ladders whose v50 follows its power", () => {
    let sum = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const machine = new BenchMachine(seededRandom(seed), 80, 0, SIMULATED_PATHS["three-mirror"]);
      machine.add("lens", 0.2);
      const read = readLadder(machine.cutLadder([8, 9, 10, 11, 12, 13, 14, 15], 15));
      if (read.kind === "estimate") sum += Math.log(read.v50 / (15 * machine.effective())) / 60;
    }
    expect(Math.abs(sum)).toBeLessThan(0.02);
  });

  it("looks worse the more dirt it carries", () => {
    const machine = new BenchMachine(seededRandom(3), 80, 0, SIMULATED_PATHS["three-mirror"]);
    const grades = [0, 0.02, 0.05, 0.2, 0.4].map((more) => {
      machine.add("lens", more);
      return machine.look("lens");
    });
    expect([...grades].sort((a, b) => a - b)).toEqual(grades);
    expect(grades.at(-1)).toBeGreaterThanOrEqual(3);
  });
});

describe("the simulated history", () => {
  it("is the same for the same seed, and another for another", () => {
    expect(simulateHistory(options(5))).toEqual(simulateHistory(options(5)));
    expect(simulateHistory(options(5)).tubeHours).not.toBe(simulateHistory(options(6)).tubeHours);
  });

  it.each([1, 20260])("ends on its day, with a counter that only rises and rounds in between (seed %i)", (seed) => {
    const history = simulateHistory(options(seed));
    const counter = history.events.flatMap((e) => (e.kind === "hours" ? [(e.payload as { counterHours: number }).counterHours] : []));
    expect([...counter].sort((a, b) => a - b)).toEqual(counter);
    expect(counter.at(-1)).toBeGreaterThan(1200);
    for (const e of history.events) expect(e.atMs).toBeLessThanOrEqual(END + 86_400_000);
    expect(history.rounds.length).toBeGreaterThan(25);
    expect(history.cases.map((c) => [c.id, c.closedMs === undefined])).toEqual([
      ["flipped", false],
      ["hose", false],
      ["far-corner", true],
    ]);
    expect(history.trueEffective).toBeLessThan(0.85);
  });

  it("is the same story whatever day it ends on, told from that day", () => {
    const from = (endMs: number) => {
      const { startMs, events, rounds, trueEffective, tubeHours } = simulateHistory({ ...options(20260), endMs });
      return {
        events: events.map((e) => ({ ...e, atMs: e.atMs - startMs })),
        rounds: rounds.map((r) => ({ ...r, atMs: r.atMs - startMs })),
        trueEffective,
        tubeHours,
      };
    };
    const told = from(END);
    for (let day = 1; day <= 7; day++) expect(from(END + day * 86_400_000 + 5 * 3_600_000)).toEqual(told);
  });
});
