import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { completions, understand } from ".";
import { vocabulary as v } from "./corpus.fixture";

const read = (text: string) => understand(text, v);

describe("one line", () => {
  it.each([
    ["3 mm birch 14 60 hangs", "cut", { materialId: "1", speedMmPerS: "14", setPercent: "60", result: "hangs" }],
    ["3 birch at 60 % 14,5 mm/s fell", "cut", { materialId: "1", speedMmPerS: "14.5", setPercent: "60", result: "through" }],
    [
      "acrylic 7 through 2x charred",
      "cut",
      { materialId: "2", speedMmPerS: "7", setPercent: "65", result: "through", passes: "2", edge: "charred" },
    ],
    ["felt through", "cut", { materialId: "4", result: "through" }],
    ["4 mm birch 25 min", "job", { materialId: "3", minutes: "25" }],
    ["job acrylic 40 through", "job", { materialId: "2", minutes: "40", dropped: "through" }],
    ["1590.2 h", "hours", { counterHours: "1590.2" }],
    ["1590,2", "hours", { counterHours: "1590.2" }],
    ["counter 3 new tube", "hours", { counterHours: "3", because: "tube-changed" }],
    ["coolant 21.5", "coolant", { temperatureC: "21.5" }],
    ["21 °C 2.1 l/min", "coolant", { temperatureC: "21", flowLpm: "2.1" }],
    ["coolant topped up 0.5 l", "coolant", { toppedUpL: "0.5" }],
    ["water cloudy", "coolant", { look: "cloudy" }],
    ["coolant changed", "service", { part: "coolant-change", what: "replaced" }],
    ["22 mA", "current", { currentMa: "22", setPercent: "100" }],
    ["duct 5.8 without filter", "airflow", { ductSpeedMps: "5.8", prefilter: "out" }],
    ["power m1 58 lens 52 at 90 %", "power", { "power-mirror-1": "58", "power-lens": "52", setPercent: "90" }],
    ["52 W lens", "power", { "power-lens": "52", setPercent: "100" }],
    ["lens haze", "grade", { station: "lens", grade: "1" }],
    ["lens film, cleaned", "service", { part: "lens", what: "cleaned", found: "2" }],
    ["exit window spots at the rim", "grade", { station: "window", grade: "3", note: "rim" }],
    ["rails greased", "service", { part: "rails", what: "adjusted" }],
    ["new lens 50.8 for 32.50", "service", { part: "lens", what: "replaced", focalMm: "50.8", price: "32.5" }],
    ["tape m3 far 1.2 -0.5", "tape", { station: "mirror-3", travel: "far", rightMm: "1.2", upMm: "-0.5" }],
    ["focus +1.5", "focus", { offsetMm: "1.5" }],
    ["cost 12.50 wipes", "cost", { what: "supplies", money: "12.5", note: "wipes" }],
    ["lost 40 sheet spoiled", "cost", { what: "spoiled", minutes: "40" }],
    ["note new batch of ply", "note", { note: "new batch of ply" }],
  ])("%s is %s", (text, kind, fields) => {
    const found = read(text);
    expect(found?.kind).toBe(kind);
    expect(found?.fields).toMatchObject(fields);
    expect(found?.missing).toEqual([]);
  });

  it("reads a ladder by where dropping ends: the others stay, one may hang", () => {
    const found = read("ladder 3 mm birch to 11 12 hangs");
    expect(found?.says).toBe("Ladder: 3 mm birch ply, 60 %, 9, 10, 11, 12, 13, 14, 15, 16 mm/s: dropped to 11, 12 hangs, the others stay");
    expect([0, 2, 3, 4].map((i) => found?.fields[`end-${i}`])).toEqual(["dropped", "dropped", "hangs", "stays"]);
  });

  it("says what is missing instead of guessing: which sheet, how it went, a thickness that is not on the list", () => {
    expect(read("birch 14 60 hangs")?.missing.join()).toMatch(/which material/);
    expect(read("6 mm birch 14 60 hangs")?.missing.join()).toMatch(/which material/);
    expect(read("3 mm birch 14 60")?.missing).toEqual(["how it went"]);
    expect(read("what a day")).toBeUndefined();
    // A figure too many is not made into a setting, nor kept beside it.
    expect(read("3 mm birch 14 60 5 hangs")?.missing.join()).toMatch(/what “5” means/);
  });

  it("takes a cut's figures in any order once they have units, and what it takes is what was typed", () => {
    const cut = fc.record({
      speed: fc.integer({ min: 1, max: 3999 }),
      set: fc.integer({ min: 1, max: 100 }),
      passes: fc.integer({ min: 1, max: 9 }),
    });
    fc.assert(
      fc.property(cut, fc.shuffledSubarray([0, 1, 2, 3, 4], { minLength: 5 }), fc.boolean(), ({ speed, set, passes }, order, comma) => {
        const v = String(speed / 10);
        const pieces = ["3 mm birch", `${comma ? v.replace(".", ",") : v} mm/s`, `${set} %`, `${passes} passes`, "hangs"];
        expect(read(order.map((i) => pieces[i]).join(" "))?.fields).toEqual({
          materialId: "1",
          speedMmPerS: v,
          setPercent: String(set),
          passes: String(passes),
          result: "hangs",
        });
      }),
    );
  });

  it("stands whatever is typed, and completes to lines that begin with it", () => {
    const word = fc.constantFrom(
      "birch",
      "lens",
      "3",
      "mm",
      "hangs",
      "%",
      "to",
      "coolant",
      "21,5",
      "h",
      "new",
      "ladder",
      "-",
      "°C",
      "m3",
      "far",
      "é",
      "12..15",
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(word, { maxLength: 7 }).map((w) => w.join(" ")),
        ),
        (text) => {
          const found = read(text);
          for (const value of Object.values(found?.fields ?? {})) expect(value).not.toMatch(/NaN|undefined|Infinity/);
          for (const c of completions(text, v))
            expect(text.trim() === "" || c.startsWith(text.trimEnd().replace(/[\p{L}-]*$/u, ""))).toBe(true);
        },
      ),
    );
    expect(completions("3 mm bir", v)).toContain("3 mm birch ply");
    expect(completions("3 mm birch 14 60 ", v)).toContain("3 mm birch 14 60 hangs");
    expect(completions("le", v)).toContain("lens cleaned");
  });
});
