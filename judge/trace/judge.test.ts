import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { LAYOUT_IDS } from "#core/machine";
import { strength } from "../machines";
import { ownWay } from "./engine";
import { cleanHeadFirst, walkFromTube } from "./fixed";
import { Belief, needsOf, Oracle } from "./oracle";
import { knowAll, oracleWay } from "./oracleWay";
import { strangeWorld } from "./strange";
import { Case, LIMIT_MINUTES, repairedMachine, worldOf } from "./world";

const worlds = LAYOUT_IDS.map(worldOf);
const numberOf = (repair: string) => repair.split("@")[1];
/** What work on a part puts right of others' on the way. */
const onTheWay: Readonly<Record<string, readonly string[]>> = {
  "clean-lens": ["turn-lens"],
  "seat-lens": ["turn-lens"],
  "replace-lens": ["clean-lens", "turn-lens"],
  "replace-mirror@1": ["clean-mirror", "seat-mirror"],
  "replace-mirror@2": ["clean-mirror", "seat-mirror"],
  "replace-mirror@3": ["clean-mirror", "seat-mirror"],
  "replace-mirror@4": ["clean-mirror", "seat-mirror"],
  "replace-side-window": ["clean-side-window"],
  "tube-supplier": ["clean-window"],
};
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
      { numRuns: 8 },
    );
  });

  it("charges a round its repairs, each station opened once, four minutes where it is made safe, and the cut; it is weak no more when all is mended", () => {
    fc.assert(
      fc.property(cases, ({ world, seed }) => {
        const c = new Case(world, seed);
        const all = world.model.faults.filter((f) => c.machine.faults.some((x) => x.id === f.id)).map((f) => f.repair);
        const before = c.minutes;
        const asked = [...new Set(all)];
        const { done, again } = c.round(asked);
        const repairs = done.map(c.repair);
        const shared = repairs.filter((r, i) => r.opens !== undefined && repairs.findIndex((x) => x.opens === r.opens) < i);
        // What another puts right on the way takes no time of its own.
        const isOnTheWay = (id: string) => asked.some((r) => numberOf(r) === numberOf(id) && onTheWay[r]?.includes(id.replace(/@\d+/, "")));
        const minutes = (r: (typeof repairs)[0]) => (isOnTheWay(r.id) ? r.openingMinutes : r.minutes);
        const own = repairs.reduce((sum, r) => sum + minutes(r), 0) - shared.reduce((sum, r) => sum + r.openingMinutes, 0);
        const twice = again.map(c.repair).reduce((sum, r) => sum + r.minutes - r.openingMinutes, 0);
        const safe = repairs.some((r) => r.madeSafe) ? 4 : 0;
        expect(c.minutes - before).toBeCloseTo(safe + c.check("known-cut").minutes + own + twice, 9);
        // A repair fails once in twenty-five times.
        if (c.machine.faults.length === 0) expect(c.mainMended).toBe(true);
        expect(c.needless.size).toBeLessThanOrEqual(done.length);
      }),
      { numRuns: 8 },
    );
  });

  it("tells what an owner without a meter cannot read by leaving it out, and charges the asking", () => {
    const c = new Case(worlds[0] as (typeof worlds)[0], 9_000_003);
    const answer = c.ask("power@lens");
    expect(answer === undefined).toBe(!c.hasMeter);
    expect(c.minutes).toBeGreaterThan(0);
  });
});

describe("a strange world", () => {
  it("tells otherwise, of every check alike each time, and loses no answer", () => {
    const usual = worldOf("three-mirror");
    const outcomes = { clear: 0.8, narrowed: 0.15, blocked: 0.05 };
    const told = [3, 4, 3].map((seed) => strangeWorld(usual, seed).told?.("nozzle-bore", { outcomes })?.outcomes ?? {});
    expect(told[0]).toEqual(told[2]);
    expect(told[0]).not.toEqual(told[1]);
    for (const each of told) expect(Object.values(each).reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
    const drawn = (world: typeof usual) => Array.from({ length: 60 }, (_, i) => new Case(world, 900 + i).machine.faults[0]?.id);
    expect(drawn(strangeWorld(usual, 3))).not.toEqual(drawn(usual));
  });
});

describe("a round of one who looks first", () => {
  it("leaves alone what is clear, unless it was looked at before, and still puts the lens back the right way up", () => {
    const world = worlds[0] as (typeof worlds)[0];
    let left = 0;
    for (let seed = 9_200_000; seed < 9_200_150; seed++) {
      const c = new Case(world, seed);
      const was = c.machine;
      const spent = c.minutes;
      const round = c.round(["clean-lens"], true);
      const isOnly = was.faults.some((f) => f.id === "lens-dirty") && c.machine.faults.some((f) => f.id === "lens-dirty");
      if (round.alone.length === 0) continue;
      left++;
      expect(round.asFound[0]).toEqual({ check: "lens-look", outcome: "clear" });
      expect(c.machine.film).toEqual(was.film);
      if (was.faults.some((f) => f.id === "lens-dirty")) expect(isOnly).toBe(true);
      const wiped = new Case(world, seed);
      wiped.round(["clean-lens"], true, [{ check: "lens-look", outcome: "clear" }]);
      expect(wiped.machine.film.lens).toBe(0.001);
      expect(c.minutes - spent).toBeLessThan(wiped.minutes);
    }
    expect(left).toBeGreaterThan(20);
    const flipped = Array.from({ length: 1000 }, (_, i) => new Case(world, 9_300_000 + i)).filter((c) =>
      c.machine.faults.some((f) => f.id === "lens-flipped"),
    );
    for (const c of flipped) c.round(["clean-lens"], true);
    const still = flipped.filter((c) => c.machine.faults.some((f) => f.id === "lens-flipped")).length;
    expect(still / flipped.length).toBeLessThan(0.2);
  });
});

describe("what is tried in vain", () => {
  it("stays: the known sheet is cut on, but no spare is", () => {
    let [in_, out] = [0, 0];
    for (let seed = 9_500_000; seed < 9_500_400; seed++) {
      const c = new Case(worlds[0] as (typeof worlds)[0], seed);
      const has = (fault: string) => c.machine.faults.some((f) => f.id === fault);
      if (!has("material-varies") || c.brings({ check: "material-swap", outcome: "same" })) continue;
      in_ += 1;
      if (!has("material-varies")) out += 1;
      const before = c.machine;
      expect(c.brings({ check: "lens-swap", outcome: "same" })).toBe(false);
      expect(c.machine).toBe(before);
    }
    expect(in_).toBeGreaterThan(10);
    expect(out / in_).toBeGreaterThan(0.85);
  });
});

describe("the routines", () => {
  it("come to an end within the limit; Clenor's names no repair again without an answer since, and never asks what cannot be asked", () => {
    for (let seed = 9_100_000; seed < 9_100_006; seed++) {
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

describe("one who knows", () => {
  it("every fault mends what the cut needs, and no more: it drops then, and would not without the last of it", () => {
    fc.assert(
      fc.property(cases, ({ world, seed }) => {
        const { machine } = new Case(world, seed);
        const needs = needsOf(world, machine, 3).map((r) => world.model.repairs[r]?.id ?? "");
        const mendedBy = (repairs: readonly string[]) => repairedMachine(world, machine, repairs, [], { uniform: () => 0 });
        expect(needs.length).toBeGreaterThan(0);
        expect(strength(mendedBy(needs))).toBeGreaterThan(machine.needLn);
        expect(strength(mendedBy(needs.slice(0, -1)))).toBeLessThan(machine.needLn);
        const c = new Case(world, seed);
        knowAll(c);
        expect(c.asked).toBe(0);
        expect(c.rounds[0]).toEqual(expect.arrayContaining(needs));
      }),
      { numRuns: 60 },
    );
  });

  it("the simulator believes more in what is so with every answer, and takes less time than to clean everything", () => {
    const world = worlds[0] as (typeof worlds)[0];
    const oracle = new Oracle(world, 800, 31);
    let [before, after, his, fixed] = [0, 0, 0, 0];
    const machines = 5;
    for (let seed = 9_400_000; seed < 9_400_000 + machines; seed++) {
      const c = new Case(world, seed);
      const belief = new Belief(oracle, c.machine);
      const inTruth = () => {
        const { at, weights } = belief.now();
        const isRight = (n: number) => belief.needs(n).some((r) => c.mainRepairs.has(world.model.repairs[r]?.id ?? ""));
        return at.reduce((sum, n, i) => sum + (isRight(n) ? (weights[i] as number) : 0), 0);
      };
      before += inTruth();
      for (const { id } of world.model.checks.filter((k) => !k.id.startsWith("power@"))) {
        const found = c.ask(id);
        if (found) belief.see(found);
      }
      after += inTruth();
      const [one, other] = [new Case(world, seed), new Case(world, seed)];
      oracleWay(one, oracle);
      cleanHeadFirst(other);
      his += Math.min(LIMIT_MINUTES, one.minutes);
      fixed += Math.min(LIMIT_MINUTES, other.minutes);
      expect(one.gaveUp || one.rounds.length > 0).toBe(true);
    }
    expect(before / machines).toBeLessThan(0.3);
    expect(after / machines).toBeGreaterThan(0.55);
    expect(his).toBeLessThan(0.85 * fixed);
  });
});
