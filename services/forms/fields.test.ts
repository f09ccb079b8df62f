import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { eventSchemas } from "#core/events";
import { check } from "#store/check";
import { FormReader, trouble } from "./fields";
import { readNumber } from "./number";

const form = (fields: Record<string, string>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.set(name, value);
  return new FormReader(data);
};

describe("numbers as people type them", () => {
  it.each([
    ["6,5", "mm", 6.5],
    [" 12 ", "mm/s", 12],
    ["1/4 in", "mm", 6.35],
    ["1 1/2 in", "mm", 38.1],
    ["30 in/min", "mm/s", 12.7],
    ["90 min", "h", 1.5],
    ["58W", "W", 58],
    ["-3 °C", "°C", -3],
  ])("reads %s in %s", (text, unit, value) => {
    const reading = readNumber(text, unit, "1");
    expect(reading).toMatchObject({ ok: true });
    if (reading.ok) expect(reading.value).toBeCloseTo(value, 9);
  });

  it.each([
    ["", "Empty"],
    ["fast", '"fast" is not a number'],
    ["12 kg", '"kg" does not fit'],
    ["1/0", "divides by zero"],
    ["60 constructor", '"constructor" does not fit'],
    ["1 1/2/3", "is not a number"],
    ["1e9", "does not fit"],
  ])("says what is wrong with %j and what would be right", (text, problem) => {
    const reading = readNumber(text, "mm", "3.2");
    expect(reading).toMatchObject({ ok: false, problem: expect.stringContaining(problem) });
    expect(reading).toMatchObject({ problem: expect.stringContaining("3.2") });
  });

  it("asks back where a comma can be read in two ways, and reads it where it cannot", () => {
    expect(readNumber("1,060 h", "h", "1060")).toMatchObject({ ok: false, problem: expect.stringContaining("1060 h, or 1.060 h") });
    expect(readNumber("0,125", "mm", "1")).toMatchObject({ value: 0.125 });
    expect(readNumber("1060,5", "h", "1")).toMatchObject({ value: 1060.5 });
  });

  it("reads back every plain number it is given", () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (value) => {
        const reading = readNumber(value.toFixed(2).replace(".", ","), "W", "1");
        expect(reading.ok && Math.abs(reading.value - value)).toBeLessThan(0.0051);
      }),
    );
  });
});

describe("checked input", () => {
  it("keeps what was typed and names the field that is wrong", () => {
    const reader = form({ minutes: "twenty", note: "long one", requestKey: "k" });
    expect(reader.number("minutes", "min", "25")).toBeUndefined();
    expect(trouble(reader)).toEqual({
      errors: { minutes: expect.stringContaining("twenty") },
      typed: { minutes: "twenty", note: "long one" },
    });
    expect(reader.requestKey).toBe("k");
    expect(() => form({}).requestKey).toThrow();
  });

  it("speaks plainly about what a schema refuses", () => {
    expect(check(eventSchemas.cut, { materialId: 1, speedMmPerS: -3, setPercent: 60, result: "through" })).toMatchObject({
      ok: false,
      errors: { speedMmPerS: "Must be above 0." },
    });
    expect(check(eventSchemas.cut, { materialId: 1, speedMmPerS: 3, setPercent: 160, result: "perhaps" })).toMatchObject({
      errors: { setPercent: "Must be 100 or less.", result: expect.stringContaining("through") },
    });
    expect(check(eventSchemas.hours, {})).toMatchObject({ errors: { counterHours: "Still missing." } });
    expect(check(eventSchemas.ladder, { materialId: 1, setPercent: 60, rungs: [] })).toMatchObject({
      errors: { rungs: "At least 1 needed." },
    });
    expect(check(eventSchemas.note, { note: "x", extra: 1 })).toMatchObject({ errors: { "": '"extra" is not known here.' } });
  });
});
