import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Chain } from "#core/events";

/** Lists that reach over a few chunks, with edits of any kind. */
const edit = fc.record({
  what: fc.constantFrom("append", "without", "take"),
  at: fc.double({ min: 0, max: 1, noNaN: true }),
  count: fc.nat(1500),
});

describe("a chain", () => {
  it("is what an array is after the same edits, and leaves the one it was made from as it was", () => {
    fc.assert(
      fc.property(fc.nat(2500), fc.array(edit, { maxLength: 6 }), (length, edits) => {
        let array = Array.from({ length }, (_, i) => i);
        let chain = Chain.from(array);
        for (const { what, at, count } of edits) {
          const before = { chain, items: [...chain] };
          const index = Math.floor(at * array.length);
          const added = Array.from({ length: count }, (_, i) => 10_000 + i);
          if (what === "append") [chain, array] = [chain.append(added), [...array, ...added]];
          if (what === "without" && array.length > 0) [chain, array] = [chain.without(index), array.toSpliced(index, 1)];
          if (what === "take") [chain, array] = [chain.take(index), array.slice(0, index)];
          expect([...before.chain]).toEqual(before.items);
          expect(chain.sharedWith(before.chain)).toBe(sharedBy(array, before.items));
        }
        expect([...chain]).toEqual(array);
        expect(chain.length).toBe(array.length);
        expect(chain.at(-1)).toBe(array.at(-1));
      }),
      { numRuns: 60 },
    );
  });
});

function sharedBy(a: readonly number[], b: readonly number[]): number {
  let i = 0;
  while (i < a.length && i < b.length && a[i] === b[i]) i++;
  return i;
}
