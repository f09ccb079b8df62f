import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { layouts } from "#catalog/layouts";
import type { StationRole } from "#core/beam";
import {
  addStation,
  changeStation,
  headMirrorOf,
  movingMirrorsOf,
  orderStations,
  type Path,
  pathProblems,
  removeStation,
  restoreStation,
  standing,
} from "#core/machine";

const three = layouts["three-mirror"]?.path as Path;

describe("a path", () => {
  it.each(Object.values(layouts).map((l) => [l.id, l.path] as const))("of the starting layout %s lets light through", (_, path) => {
    expect(pathProblems(path)).toEqual([]);
  });

  it("without a tube or a lens is no path, and says so", () => {
    const bare = removeStation(removeStation(three, "tube"), "lens");
    expect(pathProblems(bare)).toEqual(["The path has no tube: add one.", "The path has no lens: add one."]);
  });

  it("says which station stands in the wrong place", () => {
    const order = (...ids: string[]) => pathProblems(orderStations(three, ids));
    expect(order("window", "tube")).toEqual([expect.stringContaining("starts at the tube")]);
    expect(order("tube", "mirror-1", "window")).toEqual([expect.stringContaining("right after the tube")]);
    expect(order("tube", "window", "lens", "mirror-1", "mirror-2", "mirror-3")).toEqual([expect.stringContaining("after the lens")]);
    expect(order("tube", "window", "mirror-1", "mirror-2", "mirror-3", "nozzle", "lens")).toEqual([
      expect.stringContaining("after the lens"),
    ]);
  });

  it("gives a new mirror a number never used, before the lens, and knows the head mirror by place", () => {
    const more = addStation(removeStation(three, "mirror-3"), "mirror", "Knee mirror");
    expect(standing(more).map((s) => s.id)).toEqual(["tube", "window", "mirror-1", "mirror-2", "mirror-4", "lens", "nozzle"]);
    expect(headMirrorOf(more)?.name).toBe("Knee mirror");
    expect(() => addStation(three, "lens")).toThrow(RangeError);
  });

  it("brings a hidden station back with all it had", () => {
    const noted = changeStation(three, "nozzle", { wayRound: "flat to the front", id: "lens" } as never);
    const gone = removeStation(noted, "nozzle");
    expect(standing(gone).some((s) => s.id === "nozzle")).toBe(false);
    for (const back of [addStation(gone, "nozzle"), restoreStation(gone, "nozzle")])
      expect(standing(back).at(-1)).toMatchObject({ id: "nozzle", wayRound: "flat to the front" });
  });

  it("finds the mirrors whose distance changes with travel", () => {
    expect(Object.values(layouts).map((l) => movingMirrorsOf(l.path))).toEqual([[2, 3], [1], [3, 4]]);
  });

  it("loses no station, and keeps every id single, under any edits", () => {
    const edit = fc.oneof(
      fc.record({ kind: fc.constant("add" as const), role: fc.constantFrom<StationRole>("mirror", "side-window", "nozzle", "lens") }),
      fc.record({ kind: fc.constant("remove" as const), at: fc.nat(9) }),
      fc.record({ kind: fc.constant("order" as const), order: fc.shuffledSubarray(three.map((s) => s.id)) }),
    );
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 20 }), (edits) => {
        let path: Path = three;
        for (const e of edits) {
          if (e.kind === "order") path = orderStations(path, e.order);
          else if (e.kind === "remove") {
            const id = path[e.at % Math.max(1, path.length)]?.id;
            if (id === undefined) continue;
            path = removeStation(path, id);
          } else if (e.role === "mirror" || !standing(path).some((s) => s.role === e.role)) path = addStation(path, e.role);
        }
        const ids = path.map((s) => s.id);
        expect(new Set(ids).size).toBe(ids.length);
        for (const { id } of three) expect(ids).toContain(id);
      }),
    );
  });
});
