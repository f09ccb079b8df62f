import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { histories, lived } from "../testHistories";
import { DAY, START, TestWorkshop } from "../testWorkshop";
import { shortDay } from "../words";
import { beamLine } from "./beamLine";
import { unmendedOf } from "./unmended";

describe("the beam line", () => {
  it("shows watts with the day they were read on, and none where nobody ever read any", async () => {
    const w = await TestWorkshop.open();
    const bare = beamLine(await w.look(), "k");
    expect([bare.wattsRead, bare.stations.map((s) => s.watts).join("")]).toEqual(["", ""]);
    const walk = (powerW: number) => ({
      setPercent: 100,
      readings: [
        { station: "window", powerW },
        { station: "mirror-2", powerW: powerW - 3 },
        // More than before it: one of the two is off, and what is drawn does not rise.
        { station: "lens", powerW: powerW - 1 },
      ],
    });
    w.day(2);
    await w.log("power", { ...walk(70), baseline: true });
    w.day(400);
    await w.log("power", walk(60));
    w.day(420);
    const line = beamLine(await w.look(), "k");
    expect(line.wattsRead).toBe(`power measured on ${shortDay(START + 400 * DAY, w.nowMs)}`);
    const shown = line.stations.filter((s) => s.watts !== "").map((s) => Number.parseFloat(s.watts));
    expect(shown[0]).toBe(60);
    for (const [i, watts] of shown.entries()) expect(watts).toBeLessThanOrEqual(shown[i - 1] ?? watts);
    const lens = line.stations.find((s) => s.id === "lens");
    expect(lens?.card.find((c) => c.term === "As read")?.text).toMatch(/^59 W/);
  });

  it("loses light from station to station only, more with every hour of smoke, and says of what was seen bad what is to be done", async () => {
    await fc.assert(
      fc.asyncProperty(histories(9), async (steps) => {
        const { w, bad } = await lived(steps);
        const g = await w.look();
        const { stations } = beamLine(g, "k");
        for (const [i, s] of stations.entries()) expect(s.light).toBeLessThanOrEqual((stations[i - 1]?.light ?? 1) + 1e-12);
        const told = new Map(unmendedOf(g).map((u) => [u.station, u]));
        expect([...told.keys()].sort()).toEqual([...bad.keys()].sort());
        for (const { id, status, used } of stations) {
          const u = told.get(id);
          if (u) expect(status).toEqual([u.word, u.isDone ? "past cleaning" : "clean it"]);
          else expect(status.join(" ")).not.toMatch(/clean it|past cleaning|film|spots|damaged/);
          if (used !== undefined) expect(used).toBeGreaterThanOrEqual(0);
        }
        // Smoke for as long as the lens's interval leaves less of it.
        await w.log("hours", { counterHours: 4000 }, 900);
        const later = beamLine(await w.look(), "k");
        expect(later.stations.at(-1)?.light).toBeLessThanOrEqual(stations.at(-1)?.light ?? 0);
      }),
      { numRuns: 8 },
    );
  });
});
