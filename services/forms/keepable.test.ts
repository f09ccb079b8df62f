import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isKeepable, unkeepableIn } from "./keepable";

describe("a text", () => {
  it("can be kept when it comes back as it went in, through a database and a file", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), (text) => {
        if (isKeepable(text)) expect(new TextDecoder("utf-8", { fatal: true }).decode(new TextEncoder().encode(text))).toBe(text);
      }),
    );
    for (const bad of ["a\u0000b", "\u0007", "\ud800", "x\uffff"]) expect(isKeepable(bad)).toBe(false);
    for (const good of ["", "two\nlines\twith a tab", "½ mm, 20 °C, π", "😀"]) expect(isKeepable(good)).toBe(true);
  });

  it("that cannot is found wherever it stands, in the name of a field too", () => {
    const bad = "a\u0000b";
    expect([...unkeepableIn({ a: [{ b: "ok" }, { b: bad }], c: bad })]).toEqual([["a", "1", "b"], ["c"]]);
    expect([...unkeepableIn({ [bad]: 1 })]).toEqual([[]]);
    expect([...unkeepableIn({ n: 1, t: true, none: null, list: ["fine"] })]).toEqual([]);
  });
});
