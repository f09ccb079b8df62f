import { beforeAll, describe, expect, it } from "vitest";
import { understand } from "#core/entry";
import type { EventKind, MachineEvent } from "#core/events";
import { FormReader } from "../forms/fields";
import type { Gathered } from "../machine/gathered";
import { TestWorkshop } from "../testWorkshop";
import { describeEvent } from "./describeEvent";
import { readEntry, typedFrom } from "./entries";
import { ENTRY_KINDS, type EntryKind } from "./kinds";
import { FULL } from "./testRecords";
import { vocabularyOf } from "./vocabulary";

let g: Gathered;
beforeAll(async () => {
  g = await (await TestWorkshop.open()).look();
});

describe("every kind of record", () => {
  it.each(ENTRY_KINDS)("%s reads back as words, and from its own form as it was kept", (kind) => {
    const [payload, says] = FULL[kind];
    const event = { id: 1, kind, atMs: g.nowMs, payload } as MachineEvent & { kind: EntryKind };
    expect(describeEvent(event, g).text).toMatch(says);
    const form = new FormData();
    for (const [name, value] of Object.entries(typedFrom(event))) form.set(name, value);
    expect(readEntry(kind, new FormReader(form), g, g.nowMs)).toEqual({ ok: true, kind, payload });
  });

  it.each([
    ["coolant", {}, "temperatureC", /at least one/],
    ["cost", { what: "part" }, "money", /what it cost/],
    ["airflow", { ductSpeedMps: "fast" }, "ductSpeedMps", /not a number/],
    ["tape", { station: "elsewhere", rightMm: "1", upMm: "1" }, "station", /part of the path/],
    ["coupon", { form: "ladder", setPercent: "60", speedsMmPerS: "10" }, "speedsMmPerS", /Two speeds/],
    ["bed-map", { materialId: "1", setPercent: "60", bedWidthMm: "900", bedDepthMm: "600" }, "places", /Three places/],
    ["setting", { materialId: "1", purpose: "weld", speedMmPerS: "10", setPercent: "20" }, "purpose", /what it is for/],
  ] as const)("%s says which field is wrong", (kind: EventKind, fields, field, words) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.set(name, value);
    const read = readEntry(kind as EntryKind, new FormReader(form), g, g.nowMs);
    expect(read.ok ? {} : read.errors).toMatchObject({ [field]: expect.stringMatching(words) });
  });

  it.each([
    "3 mm birch 14 60 hangs",
    "900.5 h",
    "coolant 21.5",
    "coolant changed",
    "22 mA",
    "duct 5.8",
    "m1 58 lens 52 W",
    "lens haze",
    "rails cleaned",
    "new lens 50.8 for 32.50",
    "tape m2 far 1.2 -0.5",
    "focus +1.5",
    "cost 12.50 wipes",
    "ladder birch to 12",
    "birch 25 min",
  ])("is kept from one line as the line says: %s", (line) => {
    const found = understand(line, vocabularyOf(g));
    expect(found?.missing).toEqual([]);
    const form = new FormData();
    for (const [name, value] of Object.entries(found?.fields ?? {})) form.set(name, value);
    expect(readEntry(found?.kind as EntryKind, new FormReader(form), g, g.nowMs)).toMatchObject({ ok: true });
  });
});
