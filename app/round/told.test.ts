import { describe, expect, it } from "vitest";
import { keepTold, type LastTold, readTold } from "./told";

function storage(full = false) {
  const kept = new Map<string, string>();
  return {
    kept,
    open: () => ({
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => {
        if (full) throw new Error("full");
        kept.set(key, value);
      },
    }),
  };
}
const told: LastTold = { answers: { "lens.found": { atMs: 5, grade: 2, done: true } }, nowMs: 1000, aheadMs: -20 };

describe("what the server last told of a round", () => {
  it("comes back as it was told, for its own round only", () => {
    const s = storage();
    keepTold(s.open, "a", told);
    expect(readTold(s.open, "a")).toEqual(told);
    expect(readTold(s.open, "b")).toBeUndefined();
  });

  it("is nothing where the browser keeps nothing, or something else lies there", () => {
    const full = storage(true);
    keepTold(full.open, "a", told);
    expect(readTold(full.open, "a")).toBeUndefined();
    const shut = () => {
      throw new Error("no storage here");
    };
    keepTold(shut, "a", told);
    expect(readTold(shut, "a")).toBeUndefined();
    for (const other of ["", "null", "7", "[]", "{", '{"answers":{}}']) {
      const s = storage();
      s.kept.set("a", other);
      expect(readTold(s.open, "a")).toBeUndefined();
    }
  });
});
