import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ownWay } from "./engine";
import { cleanHeadFirst, walkFromTube } from "./fixed";
import { Case, LAYOUTS, LIMIT_MINUTES, worldOf } from "./world";

const worlds = LAYOUTS.map(worldOf);
const cases = fc.record({ world: fc.constantFrom(...worlds), seed: fc.integer({ min: 9_000_000, max: 9_900_000 }) });

describe("a case of the judge", () => {
  it("gets the same answer to the same question, whatever was asked before", () => {
    fc.assert(
      fc.property(cases, fc.nat(), ({ world, seed }, at) => {
        const checks = world.model.checks.filter((c) => !c.id.startsWith("power@"));
        const one = checks[at % checks.length]?.id ?? "";
        const other = checks[(at + 1) % checks.length]?.id ?? "";
        const [first, second] = [new Case(world, seed), new Case(world, seed)];
        second.ask(other);
        expect(second.ask(one)).toEqual(first.ask(one));
      }),
      { numRuns: 30 },
    );
  });

  it("charges a round its repairs, each station opened once, four minutes where it is made safe, and the cut; it is weak no more when all is mended", () => {
    fc.assert(
      fc.property(cases, ({ world, seed }) => {
        const c = new Case(world, seed);
        const all = world.model.faults.filter((f) => c.machine.faults.some((x) => x.id === f.id)).map((f) => f.repair);
        const before = c.minutes;
        const { done, again } = c.round([...new Set(all)]);
        const repairs = done.map(c.repair);
        const shared = repairs.filter((r, i) => r.opens !== undefined && repairs.findIndex((x) => x.opens === r.opens) < i);
        const own = repairs.reduce((sum, r) => sum + r.minutes, 0) - shared.reduce((sum, r) => sum + r.openingMinutes, 0);
        const twice = again.map(c.repair).reduce((sum, r) => sum + r.minutes - r.openingMinutes, 0);
        const safe = repairs.some((r) => r.madeSafe) ? 4 : 0;
        expect(c.minutes - before).toBeCloseTo(safe + c.check("known-cut").minutes + own + twice, 9);
        // A repair fails once in twenty-five times.
        if (c.machine.faults.length === 0) expect(c.mainMended).toBe(true);
        expect(c.needless.size).toBeLessThanOrEqual(done.length);
      }),
      { numRuns: 30 },
    );
  });

  it("tells what an owner without a meter cannot read by leaving it out, and charges the asking", () => {
    const c = new Case(worlds[0] as (typeof worlds)[0], 9_000_003);
    const answer = c.ask("power@lens");
    expect(answer === undefined).toBe(!c.hasMeter);
    expect(c.minutes).toBeGreaterThan(0);
  });
});

describe("the routines", () => {
  it("come to an end within the limit; Clenor's names no repair again without an answer since, and never asks what cannot be asked", () => {
    for (let seed = 9_100_000; seed < 9_100_012; seed++) {
      const world = worlds[seed % worlds.length] as (typeof worlds)[0];
      const [head, walk, own] = [new Case(world, seed), new Case(world, seed), new Case(world, seed)];
      cleanHeadFirst(head);
      walkFromTube(walk);
      const run = ownWay(own);
      expect(run.again).toBe(0);
      expect(run.wattsAsked).toBe(0);
      if (run.gaveUp) expect(own.minutes).toBeGreaterThanOrEqual(LIMIT_MINUTES);
      // Whoever stops before has seen the cut pass.
      for (const c of [head, walk, own]) expect(c.minutes >= LIMIT_MINUTES || c.rounds.length > 0).toBe(true);
    }
  });
});
