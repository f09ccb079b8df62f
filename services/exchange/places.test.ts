import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { nestsTooDeep, offsetsOf, type Path } from "./places";
import { readWorkshopFile } from "./workshopFile";

function pathsOf(value: unknown, path: Path = []): Path[] {
  if (value === null || typeof value !== "object") return [path];
  const inner = Array.isArray(value) ? value.map((v, i) => [i, v] as const) : Object.entries(value);
  return [path, ...inner.flatMap(([key, of]) => pathsOf(of, [...path, key]))];
}
const at = (value: unknown, path: Path): unknown => path.reduce((v, key) => (v as Record<string | number, unknown>)[key], value);

describe("places in a JSON text", () => {
  it("are where the value stands, whatever the text holds; of what is not there, where the most of it is", () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 4 }), fc.nat(50), (value, n) => {
        const text = JSON.stringify(value);
        const paths = pathsOf(value);
        const path = paths[n % paths.length] as Path;
        const [offset, none] = offsetsOf(text, [path, [...path, "no such key", 3]]);
        expect(text.slice(offset).startsWith(JSON.stringify(at(value, path)))).toBe(true);
        expect(none).toBe(offset);
      }),
    );
  });
});

describe("a file that is made to break its reader", () => {
  it("by nesting is refused with words, and brackets within a text are none", () => {
    for (const deep of ["[".repeat(20_000), `${'{"a":'.repeat(20_000)}1${"}".repeat(20_000)}`]) {
      expect(nestsTooDeep(deep)).toBe(true);
      expect(readWorkshopFile(deep)).toMatchObject({ problems: [{ words: expect.stringMatching(/nests deeper/) }] });
    }
    expect(nestsTooDeep(JSON.stringify({ note: "[".repeat(500), quoted: '"[{\\"'.repeat(50) }))).toBe(false);
  });

  it("by a list of nothing but mistakes is refused with the first of them and their lines", () => {
    const event = { key: "k", kind: "note", atMs: 1, recordedMs: 1, payload: { note: 7 } };
    const machine = {
      key: "m",
      slug: "larkspur",
      name: "Larkspur",
      layout: "three-mirror",
      ratedPowerW: 80,
      ratedTubeHours: 3000,
      createdMs: 1,
      materials: [],
      cases: [],
      rounds: [],
    };
    const file = (events: unknown[]) =>
      JSON.stringify({ format: "clenor-workshop", version: 1, machines: [{ ...machine, events }] }, null, 1);
    const wrong = readWorkshopFile(file(Array.from({ length: 50_000 }, (_, i) => ({ ...event, key: `k${i}` }))));
    expect("problems" in wrong && wrong.problems).toHaveLength(20);
    expect("problems" in wrong && wrong.problems[0]?.words).toMatch(/^note: /);
    const shapeless = readWorkshopFile(file(Array.from({ length: 50_000 }, () => ({ what: "is this" }))));
    expect("problems" in shapeless && shapeless.problems.length).toBeGreaterThan(0);
  });
});
