import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import type { Grade } from "#core/beam";
import type { GivenGrade } from "#core/rounds";
import { TestWorkshop } from "../testWorkshop";
import type { Gathered } from "./gathered";
import { unmendedOf } from "./unmended";

let g: Gathered;
beforeAll(async () => {
  g = await (await TestWorkshop.open()).look();
});
const grades: readonly Grade[] = [0, 1, 2, 3, 4];
const given = (grade: Grade, phase: GivenGrade["phase"] = "as-found", seen?: string): GivenGrade => ({ grade, phase, atMs: g.nowMs, seen });
const of = (...seen: (readonly [string, GivenGrade])[]) => unmendedOf({ ...g, grades: new Map(seen) });

describe("what was seen bad", () => {
  it("is kept from film on, for every part this machine has, each once and in its own words, what is past cleaning first", () => {
    const stations = g.trade.layout.stations.map((s) => s.id);
    const some = fc.uniqueArray(
      fc.record({ station: fc.constantFrom(...stations), grade: fc.constantFrom(...grades), left: fc.boolean() }),
      { selector: (x) => x.station, maxLength: stations.length },
    );
    fc.assert(
      fc.property(some, (seen) => {
        const kept = of(...seen.map((x) => [x.station, given(x.grade, x.left ? "as-left" : "as-found")] as const));
        const bad = seen.filter((x) => x.grade >= 2).map((x) => x.station);
        // What is past cleaning stands first, and each kind along the path, in whatever order it was seen.
        const [past, other] = [true, false].map((isDone) =>
          stations.filter((s) => bad.includes(s) && kept.some((u) => u.station === s && u.isDone === isDone)),
        );
        expect(kept.map((u) => u.station)).toEqual([...(past ?? []), ...(other ?? [])]);
        expect(kept).toHaveLength(bad.length);
        for (const u of kept) {
          expect(u.word).not.toMatch(/^$|clear|haze|clean/i);
          // Nothing that is past cleaning is offered a clean, and the other way round.
          expect(u.isDone ? u.clean : u.replace).toBeUndefined();
        }
      }),
    );
  });

  it("is cleaned while that can help: spots on a lens as it was found, but a spare once they stayed, and always after damage", () => {
    expect(of(["lens", given(3)])[0]).toMatchObject({ isDone: false, clean: "lens" });
    expect(of(["lens", given(3, "as-left")])[0]).toMatchObject({ isDone: true, replace: "replace-lens" });
    expect(of(["lens", given(4)])[0]).toMatchObject({ isDone: true, replace: "replace-lens" });
    expect(of(["mirror-2", given(3, "as-left")])[0]).toMatchObject({ isDone: false, clean: "mirror-2" });
    expect(of(["mirror-2", given(4)])[0]).toMatchObject({ isDone: true, replace: "replace-mirror@2" });
  });

  it("offers no owner a new tube: a burnt exit window is its supplier's", () => {
    expect(of(["window", given(4)])[0]).toMatchObject({ isDone: true, clean: undefined, replace: undefined });
  });

  it("is no matter of parts that this machine has not", () => {
    expect(of(["side-window", given(4)], ["no-such", given(4)])).toEqual([]);
  });

  it("in the words of an answer stays in them, and leads on to what a trace of it begins with", () => {
    const asked = [...g.trade.procedures.values()]
      .flatMap((p) => p.steps)
      .flatMap((s) => (s.seen ?? []).map((o) => ({ station: s.station ?? "", ...o })))
      .filter(
        (o) =>
          o.trace && (o.grade ?? 0) >= 2 && g.trade.layout.systems.concat(g.trade.layout.stations.map((s) => s.id)).includes(o.station),
      );
    expect(asked.length).toBeGreaterThan(2);
    for (const { station, label, trace, grade } of asked) {
      const [kept] = of([station, given(grade as Grade, "as-found", label)]);
      expect(kept?.word).toBe(label);
      expect(kept?.trace).toEqual(trace);
      const check = g.trade.model.checks.find((c) => c.id === trace?.check);
      expect(check?.outcomes).toContain(trace?.outcome);
    }
  });
});
