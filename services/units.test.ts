/** A workshop that reads inches, °F, gallons and cfm: every place in those, and nothing that is kept moves. */
import fc from "fast-check";
import { afterEach, describe, expect, it } from "vitest";
import { understand } from "#core/entry";
import type { EventKind, MachineEvent } from "#core/events";
import { METRIC, shownUnit, type Units } from "#core/units";
import { openCase } from "#store/cases";
import { FormReader } from "./forms/fields";
import { readEntry, typedFrom } from "./log/entries";
import { ENTRY_KINDS, type EntryKind } from "./log/kinds";
import { FULL } from "./log/testRecords";
import { vocabularyOf } from "./log/vocabulary";
import { everyPlace } from "./testPlaces";
import { rungs, TestWorkshop, WEAK_CASE } from "./testWorkshop";
import { showIn, textHere, UNIT_BESIDE, WAS_BESIDE } from "./units";
import { edit } from "./workshop/edit";
import { takeUnits } from "./workshop/units";

const IMPERIAL: Units = { length: "in", speed: "in/min", temperature: "°F", volume: "gal", air: "cfm" };
const anyUnits: fc.Arbitrary<Units> = fc.record({
  length: fc.constantFrom("mm", "in"),
  speed: fc.constantFrom("mm/s", "in/min"),
  temperature: fc.constantFrom("°C", "°F"),
  volume: fc.constantFrom("L", "gal"),
  air: fc.constantFrom("m³/h", "cfm"),
});
afterEach(() => showIn(METRIC));

const formOf = (fields: Readonly<Record<string, string>>): FormReader => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  return new FormReader(form);
};

/** A form as a browser of this workshop sends it: each figure as the page shows it, with what stands beside it. */
function asShown(kept: Readonly<Record<string, string>>, unitOf: ReadonlyMap<string, string>): Record<string, string> {
  const fields = Object.entries(kept).flatMap(([name, value]): [string, string][] => {
    const unit = unitOf.get(name) ?? "";
    const shown = textHere(value, unit);
    if (shown === value) return [[name, value]];
    return [
      [name, shown],
      [`${name}${UNIT_BESIDE}`, shownIn(unit)],
      [`${name}${WAS_BESIDE}`, `${shown}=${value}`],
    ];
  });
  return Object.fromEntries(fields);
}
let inForce = METRIC;
const shownIn = (unit: string) => shownUnit(unit, inForce);
const choose = (units: Units) => {
  inForce = units;
  showIn(units);
};

/** Every sentence of a view that says a figure in a unit that is not read here. */
function metricIn(value: unknown, path = ""): string[] {
  if (typeof value === "string") return /\d (?:mm\/s|mm|°C|L|L\/min|m³\/h|m\/s|mL)(?![\w/³²])/.test(value) ? [`${path}: ${value}`] : [];
  if (value === null || typeof value !== "object") return [];
  return Object.entries(value).flatMap(([key, of]) => metricIn(of, `${path}.${key}`));
}

async function full(): Promise<TestWorkshop> {
  const w = await TestWorkshop.worked();
  for (const kind of ENTRY_KINDS) if (kind !== "hours" && kind !== "coupon") await w.log(kind as EventKind, FULL[kind][0] as never, 20);
  await w.ladder(13);
  await openCase(w.store, 1, WEAK_CASE, w.nowMs);
  return w;
}

describe("a workshop's units", () => {
  it.each(ENTRY_KINDS)("leave a record of %s to the last digit as it was, when its form is sent as it stands", async (kind) => {
    const g = await (await TestWorkshop.open()).look();
    const payload = FULL[kind][0];
    const kept = typedFrom({ id: 1, kind, atMs: g.nowMs, payload } as MachineEvent & { kind: EntryKind });
    const metric = formOf(kept);
    readEntry(kind, metric, g, g.nowMs);
    fc.assert(
      fc.property(anyUnits, (units) => {
        choose(units);
        expect(readEntry(kind, formOf(asShown(kept, metric.units)), g, g.nowMs)).toEqual({ ok: true, kind, payload });
      }),
      { numRuns: 10 },
    );
  });

  it("are what every place speaks in, and change no verdict, no due date and nothing that is kept", async () => {
    const w = await full();
    const before = await everyPlace(w.services, await w.look(), 1);
    const due = JSON.stringify((await w.look()).due);
    choose(IMPERIAL);
    const g = await w.look();
    expect(JSON.stringify(g.due)).toBe(due);
    const imperial = await everyPlace(w.services, g, 1);
    // What another device changed is told in the units of the fields' names; a file and a form carry what is kept.
    expect(metricIn(imperial)).toEqual([]);
    choose(METRIC);
    const after = await everyPlace(w.services, await w.look(), 1);
    expect(JSON.stringify(after)).toBe(JSON.stringify(before));
  });

  it("are chosen in the Workshop, kept, and refused where they are none", async () => {
    const w = await TestWorkshop.open();
    const { machine } = await w.look();
    expect(await edit(w.services, machine, formOf({ intent: "units", ...IMPERIAL, madeFrom: "x" }))).toMatchObject({ said: /Saved/ });
    showIn(METRIC);
    expect(await takeUnits(w.store)).toEqual(IMPERIAL);
    expect(await edit(w.services, machine, formOf({ intent: "units", ...IMPERIAL, length: "yd" }))).toHaveProperty("errors.length");
    expect(await takeUnits(w.store)).toEqual(IMPERIAL);
  });

  it("say what is wrong with a figure in the unit of its field", async () => {
    const g = await (await TestWorkshop.open()).look();
    choose(IMPERIAL);
    const fields = { materialId: "1", setPercent: "60", result: "through", [`speedMmPerS${UNIT_BESIDE}`]: "in/min" };
    const none = readEntry("cut", formOf({ ...fields, speedMmPerS: "quick" }), g, g.nowMs);
    expect(none).toMatchObject({ errors: { speedMmPerS: '"quick" is not a number. Give a number in in/min, such as 33.1.' } });
    const read = readEntry("cut", formOf({ ...fields, speedMmPerS: "33" }), g, g.nowMs);
    expect(read).toMatchObject({ ok: true, payload: { speedMmPerS: 13.97 } });
    // Another unit typed behind it wins; a form of a page from before the change carries its own.
    expect(readEntry("cut", formOf({ ...fields, speedMmPerS: "14 mm/s" }), g, g.nowMs)).toMatchObject({ payload: { speedMmPerS: 14 } });
    expect(readEntry("cut", formOf({ materialId: "1", setPercent: "60", result: "through", speedMmPerS: "14" }), g, g.nowMs)).toMatchObject(
      { payload: { speedMmPerS: 14 } },
    );
  });

  it.each([
    ["1/8 in birch 33 60 through", { speedMmPerS: "13.97", setPercent: "60" }],
    ["0.118 in birch 33 in/min 60 % hangs", { speedMmPerS: "13.97", result: "hangs" }],
    ["3 mm birch 14 mm/s 60 through", { speedMmPerS: "14" }],
    ["coolant 70", { temperatureC: "21.111" }],
    ["coolant topped up 0.1", { toppedUpL: "0.379" }],
    ["coolant freezes at 7", { freezingC: "-13.889" }],
    ["duct 1100", { ductSpeedMps: "5.588" }],
    ["m2 far 1/4 in 0.1 in", undefined],
    ["tape m2 far -0.05 0.02", { rightMm: "-1.27", upMm: "0.508" }],
  ])("are those of a bare figure in a line: %s", async (text, fields) => {
    const w = await TestWorkshop.open();
    choose(IMPERIAL);
    const found = understand(text, vocabularyOf(await w.look()));
    if (fields === undefined) expect(found?.missing ?? ["not understood"]).not.toEqual([]);
    else {
      expect(found?.fields).toMatchObject(fields);
      expect(found?.missing).toEqual([]);
      expect(metricIn(found?.says)).toEqual([]);
    }
  });

  it("are those of a ladder's squares, which stay what the coupon was cut with", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(12, true);
    choose(IMPERIAL);
    const found = understand("ladder birch to 28.3", vocabularyOf(await w.look()));
    expect(found?.missing).toEqual([]);
    const ends = Object.entries(found?.fields ?? {}).filter(([name]) => name.startsWith("end-"));
    const speeds = Object.entries(found?.fields ?? {}).filter(([name]) => name.startsWith("speed-"));
    expect(speeds.length).toBe(ends.length);
    expect(speeds.every(([, v]) => rungs(12).some((r) => String(r.speedMmPerS) === v) || Number.isFinite(Number(v)))).toBe(true);
  });
});
