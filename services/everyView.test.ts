/** Whatever a log may hold by its schemas, every place can be read from it, and says no broken figure. */

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EVENT_KINDS, type EventKind, eventSchemas } from "#core/events";
import { LAYOUT_IDS } from "#core/machine";
import { DAY_MS } from "#core/time";
import { openCase } from "#store/cases";
import { appendEvents, type NewEvent } from "#store/events";
import type { Services } from "./context";
import { gather } from "./machine/gather";
import { everyPlace } from "./testPlaces";
import { broken, rungs, START, TestWorkshop } from "./testWorkshop";

const DAYS = 60;
const NOW = START + DAYS * DAY_MS;
const PLACES = ["tube", "window", "mirror-1", "mirror-2", "lens", "nozzle", "side-window", "coolant", "rails", "taken-off"];

type Schema = Readonly<Record<string, unknown>>;

/** Any value that a schema of the log allows; places are those of the trade, and the one material is the workshop's. */
function anyOf(schema: Schema, name = ""): fc.Arbitrary<unknown> {
  const { type } = schema;
  if (name === "station") return fc.constantFrom(...PLACES);
  if (name === "materialId") return fc.constant(1);
  if (name === "place") return fc.constantFrom("middle", "front-left", "back-right", "far");
  if (Array.isArray(schema.enum)) return fc.constantFrom(...(schema.enum as unknown[]));
  if (type === "boolean") return fc.boolean();
  if (type === "string") return fc.constantFrom("a note", "x");
  if (type === "integer" || type === "number") return anyNumber(schema);
  if (type === "array") {
    if (name === "photos") return fc.constant([]);
    const { minItems = 0, maxItems = 5 } = schema as { minItems?: number; maxItems?: number };
    return fc.array(anyOf(schema.items as Schema), { minLength: minItems, maxLength: Math.min(maxItems, minItems + 5) });
  }
  const properties = Object.entries((schema.properties ?? {}) as Record<string, Schema>);
  const required = (schema.required ?? []) as string[];
  const [either] = ((schema.anyOf ?? []) as { required: string[] }[]).map((x) => x.required);
  return fc.record(Object.fromEntries(properties.map(([key, of]) => [key, anyOf(of, key)])), {
    requiredKeys: [...required, ...(either ?? [])],
  });
}

/** The ends of what is allowed come as often as what lies between. */
function anyNumber(schema: Schema): fc.Arbitrary<number> {
  const { minimum, exclusiveMinimum, maximum = 1000 } = schema as Record<string, number | undefined>;
  const least = minimum ?? (exclusiveMinimum ?? 0) + 0.01;
  if (schema.type === "integer")
    return fc.oneof(fc.constantFrom(Math.ceil(least), maximum), fc.integer({ min: Math.ceil(least), max: maximum }));
  return fc.oneof(fc.constantFrom(least, maximum), fc.double({ min: least, max: Math.min(maximum, least + 100), noNaN: true }));
}

const anyRecord = fc.constantFrom(...EVENT_KINDS.filter((kind) => kind !== "coupon")).chain((kind: EventKind) =>
  fc.record({
    kind: fc.constant(kind),
    payload: anyOf(eventSchemas[kind] as Schema),
    day: fc.double({ min: 0, max: DAYS, noNaN: true }),
    corrects: fc.option(fc.nat(20), { nil: undefined, freq: 10 }),
  }),
);

/** Ladders as they are cut: one that is flagged as known good, and some after it. */
const usualLadders = fc
  .array(fc.record({ droppedTo: fc.integer({ min: 7, max: 16 }), day: fc.integer({ min: 2, max: DAYS }) }), { maxLength: 4 })
  .map((later) =>
    [{ droppedTo: 12, day: 1 }, ...later].map(({ droppedTo, day }, i) => ({
      kind: "ladder" as EventKind,
      payload: { materialId: 1, setPercent: 60, rungs: rungs(droppedTo), ...(i === 0 ? { baseline: true } : {}) },
      day,
      corrects: undefined,
    })),
  );
const anyLog = fc
  .tuple(fc.oneof(fc.constant([]), usualLadders), fc.array(anyRecord, { maxLength: 40 }))
  .map(([usual, any]) => [...usual, ...any]);

async function workshopOf(layout: string): Promise<Services> {
  const w = await TestWorkshop.open(layout);
  w.day(DAYS);
  return w.services;
}

type Line = { readonly term: string; readonly text: string };
type Said = { readonly verdict: { readonly headline: string; readonly lead: string; readonly sum: readonly Line[] } };

/** What Today and Outlook say of the same beam: the parts of what is lost add up, and the figure lies in its own range. */
function expectOneStory(today: Said, outlook: { readonly ready?: { readonly sum: readonly Line[] } | undefined }): void {
  const percent = /About (\d+)\s?% of best/.exec(today.verdict.lead)?.[1];
  if (percent === undefined || !outlook.ready) return;
  const points = (lines: readonly Line[], term: string) =>
    Number(/^[−+]?(\d+) %/.exec(lines.find((l) => l.term === term)?.text ?? "")?.[1]);
  const lost = ["Dirt", "Tube", "Neither"].map((term) => points(today.verdict.sum, term));
  const more = [today.verdict.sum, outlook.ready.sum].map((sum) => points(sum, "More than best") || 0);
  expect(100 + (more[0] ?? 0) - lost.reduce((sum, p) => sum + p, 0)).toBe(Number(percent));
  expect(more[1]).toBe(more[0]);
  expect(["Comes back with a clean", "Gone for good", "Neither"].map((term) => points(outlook.ready?.sum ?? [], term))).toEqual(lost);
  expect(points(outlook.ready.sum, "Left")).toBe(Number(percent));
  const [low, high] = (/between (\d+) and (\d+) %/.exec(today.verdict.lead) ?? []).slice(1).map(Number);
  expect(low).toBeLessThanOrEqual(Number(percent));
  expect(high).toBeGreaterThanOrEqual(Number(percent));
}

describe("every place of a machine", () => {
  it("can be read, with no broken figure, whatever its log holds by the log's own schemas", async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...LAYOUT_IDS), anyLog, fc.boolean(), async (layout, records, hasCase) => {
        const services = await workshopOf(layout);
        const sent = records.map((r, i): NewEvent => {
          const corrects = r.corrects !== undefined && r.corrects < i && records[r.corrects]?.kind === r.kind ? r.corrects + 1 : undefined;
          return { kind: r.kind, payload: r.payload, atMs: START + r.day * DAY_MS, requestKey: `r${i}`, corrects } as NewEvent;
        });
        await appendEvents(services.store, 1, sent, NOW);
        const opened = { title: "Weak", sign: "slowly-weaker", symptom: "power", onsetMs: START + 30 * DAY_MS, requestKey: "c" } as const;
        const caseId = hasCase
          ? await openCase(services.store, 1, { ...opened, findings: [{ check: "known-cut", outcome: "hangs" }] }, NOW)
          : undefined;
        const all = await everyPlace(services, await gather(services, "larkspur"), caseId);
        expect(broken(all)).toEqual([]);
        expectOneStory(all.today as Said, all.outlook as Parameters<typeof expectOneStory>[1]);
        // It goes to the browser as it is.
        expect(JSON.parse(JSON.stringify(all))).toEqual(JSON.parse(JSON.stringify(all, (_, v) => (v === undefined ? undefined : v))));
      }),
      { numRuns: 8 },
    );
  });
});
