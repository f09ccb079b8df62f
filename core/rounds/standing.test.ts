/** What stands after looks and work, against a plain account of the same: each thing of a system by itself, each part of the path as one. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Grade } from "#core/beam";
import { allOf, BAD, gradesAfter, isLiftedBy, type StepOf } from ".";
import type { RoundRecord } from "./answers";

/** Belts and rails of one system, its flow asked at two steps; a lens is one thing whoever looks. */
const STEPS: Readonly<Record<string, ReturnType<StepOf> & { readonly station: string }>> = {
  "belts.wipe": { station: "motion", thing: "belts", mendedBy: ["belts", "tension-belt"], seen: choices("belt") },
  "rails.found": { station: "motion", thing: "rails", mendedBy: ["rails"] },
  block: { station: "motion", thing: "block", seen: choices("raster-edge") },
  "coolant-level.look": { station: "coolant", thing: "coolant-level", mendedBy: ["coolant-change"], seen: choices("bubbles") },
  "flow-seen": { station: "coolant", thing: "flow-seen", seen: choices("bubbles") },
};
function choices(check: string) {
  return [
    { id: "good", label: "good", grade: 0 as const },
    { id: "bad", label: "bad", grade: 2 as const, trace: { check, outcome: "x" } },
  ];
}
const stepOf: StepOf = (id) => STEPS[id];

interface Deed {
  readonly atMs: number;
  readonly what: "look" | "work" | "told" | "told work";
  readonly step: string;
  readonly grade: Grade;
  readonly task: string;
}

const deeds = fc
  .array(
    fc.record({
      what: fc.constantFrom<Deed["what"]>("look", "look", "look", "work", "told", "told work"),
      step: fc.constantFrom(...Object.keys(STEPS)),
      grade: fc.constantFrom<Grade>(0, 1, 2, 3),
      task: fc.constantFrom("belts", "tension-belt", "rails", "lubricate", "coolant-change", "bleed-coolant"),
    }),
    { maxLength: 14 },
  )
  .map((list) => list.map((d, i): Deed => ({ ...d, atMs: 1000 + i })));

const stationOf = (d: Deed) => STEPS[d.step]?.station ?? "";

function recordOf(d: Deed): RoundRecord {
  const base = { atMs: d.atMs, key: `${d.atMs}`, stepId: d.what === "look" ? d.step : `work-${d.atMs}` };
  if (d.what === "work" || d.what === "told work")
    return {
      ...base,
      kind: "service",
      payload: { station: stationOf(d), what: "cleaned", ...(d.what === "work" ? { task: d.task } : {}) },
    };
  const seen = d.what === "look" && STEPS[d.step]?.seen !== undefined;
  return {
    ...base,
    kind: "grade",
    payload: {
      station: stationOf(d),
      phase: "as-found",
      grade: d.grade,
      ...(d.what === "look" ? { step: d.step } : {}),
      ...(seen ? { choice: d.grade >= BAD ? "bad" : "good", seen: "said" } : {}),
    },
  };
}

/** By the words of the rule: is what this deed saw bad taken back by any that came after it? */
function stillStands(seen: Deed, later: readonly Deed[]): boolean {
  const of = STEPS[seen.step];
  const check = seen.what === "look" ? of?.seen?.find((o) => o.id === "bad")?.trace?.check : undefined;
  return !later.some((d) => {
    if (stationOf(d) !== stationOf(seen)) return false;
    const other = STEPS[d.step];
    if (d.what === "told" || (d.what === "look" && seen.what === "told")) return true;
    if (d.what === "look")
      return other?.thing === of?.thing || (check !== undefined && other?.seen?.some((o) => o.trace?.check === check) === true);
    return d.what === "told work" || seen.what === "told" || of?.mendedBy === undefined || of.mendedBy.includes(d.task);
  });
}

describe("what was seen bad", () => {
  it("stands until it was seen good or worked on, thing by thing, and the worst of it is what the station shows", () => {
    fc.assert(
      fc.property(deeds, (list) => {
        const grades = gradesAfter(new Map(), list.map(recordOf), stepOf);
        for (const station of ["motion", "coolant"]) {
          const bad = list.filter(
            (d, i) =>
              (d.what === "look" || d.what === "told") && d.grade >= BAD && stationOf(d) === station && stillStands(d, list.slice(i + 1)),
          );
          const entry = grades.get(station);
          const standing = (entry ? allOf(entry) : []).filter((g) => g.grade >= BAD);
          expect(standing.map((g) => g.atMs).sort()).toEqual(bad.map((d) => d.atMs).sort());
          if (bad.length > 0) expect(entry?.grade).toBe(Math.max(...bad.map((d) => d.grade)));
        }
      }),
    );
  });

  it("is the same whether a round's records come all at once or one after the other", () => {
    fc.assert(
      fc.property(deeds, (list) => {
        const once = gradesAfter(new Map(), list.map(recordOf), stepOf);
        let step = new Map() as ReturnType<typeof gradesAfter>;
        for (const d of list) step = gradesAfter(step, [recordOf(d)], stepOf);
        const some = (of: typeof once) =>
          Object.fromEntries(
            [...of].flatMap(([station, g]) => {
              const bad = allOf(g).filter((x) => x.grade >= BAD);
              return bad.length > 0 ? [[station, bad.map((x) => x.atMs).sort()]] : [];
            }),
          );
        expect(some(step)).toEqual(some(once));
      }),
      { numRuns: 400 },
    );
  });

  it("and stops the beam is lifted by no work at all, but by a new part, or once it is seen good", () => {
    const stops = { grade: 3 as Grade, atMs: 1, phase: "as-found" as const, stops: true, thing: "flow-seen" };
    for (const what of ["cleaned", "adjusted", "aimed"] as const) {
      expect(isLiftedBy(stops, { what })).toBe(false);
      expect(isLiftedBy(stops, { what, task: "coolant-change" })).toBe(false);
      expect(isLiftedBy({ ...stops, stops: undefined }, { what })).toBe(true);
    }
    expect(isLiftedBy(stops, { what: "replaced", task: "coolant-change" })).toBe(false);
    expect(isLiftedBy({ ...stops, thing: undefined }, { what: "replaced" })).toBe(true);
    expect(isLiftedBy({ ...stops, stops: undefined }, { what: "checked" })).toBe(false);
    // Damage, and what was left so after a clean, is not clean by a note of one.
    expect(isLiftedBy({ ...stops, stops: undefined, grade: 4 }, { what: "cleaned" })).toBe(false);
    expect(isLiftedBy({ ...stops, stops: undefined, phase: "as-left" }, { what: "cleaned" })).toBe(false);
  });
});
