/** Whatever a form brings, it is carried out whole or refused with words; what is refused leaves the database as it was. */

import fc from "fast-check";
import { sql } from "kysely";
import { describe, expect, it } from "vitest";
import { LAYOUT_IDS } from "#core/machine";
import { DAY_MS } from "#core/time";
import { openCase } from "#store/cases";
import type { Store } from "#store/database";
import { appendEvents } from "#store/events";
import { aimByForm } from "./aim/act";
import { aimView } from "./aim/aimView";
import { actByForm } from "./cases/act";
import { openByForm } from "./cases/open";
import type { Services } from "./context";
import { makeCoupon } from "./coupons/make";
import { FormReader } from "./forms/fields";
import { keepEntry } from "./log/keepEntry";
import { gather } from "./machine/gather";
import { outlookView } from "./outlook/outlookView";
import { NotHere } from "./refusal";
import { endByForm } from "./rounds/endByForm";
import { startByForm as startRound } from "./rounds/start";
import { startByForm } from "./start/start";
import { broken, rungs, START, TestWorkshop } from "./testWorkshop";
import { todayView } from "./today/todayView";
import { edit } from "./workshop/edit";
import { workshopView } from "./workshop/workshopView";

type Act = (services: Services, reader: FormReader) => Promise<unknown>;
const SLUG = "larkspur";

/** Every form of the application but those that carry files. */
const ACTS: Readonly<Record<string, Act>> = {
  entry: (s, r) => keepEntry(s, SLUG, r),
  coupon: (s, r) => makeCoupon(s, SLUG, r),
  "open a case": (s, r) => openByForm(s, SLUG, r),
  "in a case": (s, r) => actByForm(s, SLUG, 1, r),
  "start a round": (s, r) => startRound(s, SLUG, r),
  "end a round": (s, r) => endByForm(s, SLUG, 1, r),
  aim: (s, r) => aimByForm(s, SLUG, r),
  workshop: async (s, r) => edit(s, (await gather(s, SLUG)).machine, r),
  "another machine": (s, r) => startByForm(s, r),
};

/** What forms have for fields, and what a person, a browser of yesterday or somebody unfriendly may put into them. */
const WORDS: Readonly<Record<string, readonly string[]>> = {
  kind: [
    "hours",
    "job",
    "cut",
    "ladder",
    "power",
    "current",
    "coolant",
    "airflow",
    "tape",
    "grade",
    "service",
    "setting",
    "cost",
    "note",
    "focus",
  ],
  intent: [
    ...["void", "undo", "redo", "decline", "ask-again", "also", "tried", "close", "reopen", "ladder", "piece", "repeat", "start", "mark"],
    ...["turn", "shift", "forget", "back", "finish", "leave", "order", "add", "remove", "restore", "station", "fittings", "shelf"],
    ...["new-material", "material", "machine", "bench", "currency", "save"],
  ],
  station: ["lens", "mirror-1", "mirror-2", "tube", "window", "rails"],
  check: ["known-cut", "lens-look", "focus-gauge", "power@lens", "onset", "lens-swap"],
  outcome: ["clear", "film", "hangs", "through", "right", "value"],
  what: ["cleaned", "replaced", "aimed", "spoiled"],
  sign: ["slowly-weaker", "flame", "bubbles"],
  part: ["lens", "mirror-1", "daily", "aim@1"],
  layout: [...LAYOUT_IDS],
  role: ["mirror", "lens", "tube"],
  result: ["through", "hangs"],
  pieceResult: ["through", "hangs"],
  look: ["crisp", "clear"],
  shift: ['{"kind":"raise","mm":1}', "{", "null", "[]"],
  spot: ["mirror-1:near", "mirror-2:far", "lens"],
  element: ["mirror-1", "tube"],
  screw: ["a", "b", "upper"],
  order: ["lens,tube", "tube-first"],
  since: ["0", "3"],
  safe: ["1"],
  "power-back": ["1"],
  corrects: ["1", "2", "3"],
  name: ["Teasel", "pear veneer"],
  materialKind: ["birch-ply", "pvc"],
};
const FIELDS = [
  ...Object.keys(WORDS),
  ...[
    "at",
    "counterHours",
    "materialId",
    "materialName",
    "minutes",
    "speedMmPerS",
    "setPercent",
    "passes",
    "baseline",
    "note",
    "value",
    "why",
  ],
  ...[
    "rightMm",
    "upMm",
    "amount",
    "travel",
    "currentMa",
    "ductSpeedMps",
    "temperatureC",
    "grade",
    "phase",
    "price",
    "money",
    "thicknessMm",
  ],
  ...[
    "ratedPowerW",
    "ratedTubeHours",
    "tubeHours",
    "distanceMm",
    "apertureMm",
    "spares",
    "currency",
    "bench",
    "madeFrom",
    "pieceMaterialId",
  ],
  ...[
    "finding",
    "entry",
    "caseId",
    "because",
    "dropped",
    "flame",
    "offsetMm",
    "purpose",
    "speed-0",
    "end-0",
    "power-lens",
    "form",
    "speedsMmPerS",
  ],
];
const JUNK = [
  "",
  " ",
  "0",
  "1",
  "-1",
  "14",
  "60",
  "1e9",
  "12,5",
  "1/4 in",
  "n/a",
  "abc",
  "<b>x</b>",
  "é".repeat(600),
  "2026-10-01T09:00",
  "__proto__",
];

type Fields = readonly (readonly [string, string])[];
const form = (act: string, fields: Readonly<Record<string, string>>): { act: string; fields: Fields } => ({
  act,
  fields: Object.entries(fields),
});

/** Forms as they are filled in; what is drawn spoils some of their fields, leaves some out and adds others. */
const FILLED = [
  form("entry", { kind: "hours", counterHours: "912" }),
  form("entry", { kind: "job", materialId: "1", minutes: "40", dropped: "through" }),
  form("entry", { kind: "cut", materialId: "1", speedMmPerS: "14", setPercent: "60", result: "through" }),
  form("entry", {
    kind: "ladder",
    materialId: "1",
    setPercent: "60",
    "speed-0": "10",
    "end-0": "dropped",
    "speed-1": "12",
    "end-1": "stays",
    baseline: "1",
  }),
  form("entry", { kind: "power", setPercent: "100", "power-lens": "55" }),
  form("entry", { kind: "current", currentMa: "21", setPercent: "100" }),
  form("entry", { kind: "coolant", temperatureC: "21" }),
  form("entry", { kind: "airflow", ductSpeedMps: "4.5" }),
  form("entry", { kind: "grade", station: "lens", grade: "2" }),
  form("entry", { kind: "service", station: "lens", what: "replaced" }),
  form("entry", { kind: "setting", materialId: "1", purpose: "cut", speedMmPerS: "14", setPercent: "60" }),
  form("entry", { kind: "cost", what: "spoiled", money: "12,5" }),
  form("entry", { kind: "note", note: "a note" }),
  form("entry", { kind: "cut", corrects: "2", materialId: "1", speedMmPerS: "13", setPercent: "60", result: "hangs" }),
  form("entry", { intent: "void", corrects: "2" }),
  form("coupon", { kind: "coupon", form: "ladder", materialId: "1", setPercent: "60", speedsMmPerS: "8 9 10 11" }),
  form("open a case", { sign: "flame", since: "3" }),
  form("in a case", { check: "lens-look", outcome: "film" }),
  form("in a case", { check: "focus-gauge", outcome: "value", value: "1.5" }),
  form("in a case", { check: "lens-swap", outcome: "cuts-now" }),
  form("in a case", { intent: "tried" }),
  form("in a case", { intent: "undo", finding: "1" }),
  form("in a case", { intent: "also", sign: "flame" }),
  form("in a case", { intent: "decline", check: "lens-look" }),
  form("in a case", { intent: "close", why: "enough" }),
  form("in a case", { intent: "reopen" }),
  form("start a round", { part: "lens", title: "The lens" }),
  form("start a round", { part: "settings", caseId: "1" }),
  form("end a round", { intent: "piece", pieceMaterialId: "1", pieceResult: "through" }),
  form("end a round", { intent: "repeat", check: "known-cut", outcome: "through" }),
  form("end a round", { why: "no time left" }),
  form("aim", { intent: "start", safe: "1" }),
  form("aim", { intent: "mark", spot: "mirror-1", right: "1.5", up: "-0.5" }),
  form("aim", { intent: "turn", element: "mirror-1", screw: "top-left", amount: "0.25" }),
  form("aim", { intent: "shift", shift: '{"kind":"raise","station":"mirror-1","mm":1}' }),
  form("aim", { intent: "forget", element: "mirror-1" }),
  form("aim", { intent: "back" }),
  form("aim", { intent: "finish", "power-back": "1" }),
  form("aim", { intent: "leave", "power-back": "1" }),
  form("workshop", { intent: "machine", name: "Larkspur", ratedPowerW: "90", ratedTubeHours: "3000" }),
  form("workshop", { intent: "new-material", kind: "mdf", name: "MDF", thicknessMm: "6" }),
  form("workshop", { intent: "material", material: "1", hide: "1" }),
  form("workshop", {
    intent: "station",
    station: "lens",
    name: "The lens",
    mount: "ring",
    apertureMm: "18",
    distanceMm: "50",
    travelMm: "0",
    spares: "2",
  }),
  form("workshop", { intent: "add", role: "mirror", name: "Fourth mirror" }),
  form("workshop", { intent: "remove", station: "mirror-2" }),
  form("workshop", { intent: "currency", currency: "EUR" }),
  form("another machine", {
    name: "Teasel",
    layout: "moving-head",
    ratedPowerW: "45",
    tube: "used",
    tubeHours: "10",
    ratedTubeHours: "2000",
    materialKind: "birch-ply",
    thicknessMm: "3",
  }),
];

/** What may have been begun before. */
const BEGUN = [[], [form("aim", { intent: "start", safe: "1" })], [form("start a round", { part: "set-focus", caseId: "1" })]];

const anyValue = (name: string) => fc.oneof(fc.constantFrom(...(WORDS[name] ?? JUNK)), fc.constantFrom(...JUNK));
const anyForm = fc.constantFrom(...FILLED).chain(({ act, fields }) =>
  fc
    .tuple(
      fc.tuple(
        ...fields.map(([name, value]) =>
          fc.oneof(
            { weight: 12, arbitrary: fc.constant(value) },
            { weight: 1, arbitrary: anyValue(name) },
            { weight: 1, arbitrary: fc.constant(undefined) },
          ),
        ),
      ),
      fc.array(
        fc.constantFrom(...FIELDS).chain((name) => fc.tuple(fc.constant(name), anyValue(name))),
        { maxLength: 1 },
      ),
    )
    .map(([values, more]) => ({
      act,
      fields: [
        ...fields.flatMap(([name], i): [string, string][] => (values[i] === undefined ? [] : [[name, values[i] as string]])),
        ...more,
      ] as Fields,
    })),
);

async function workshop(): Promise<Services> {
  const w = await TestWorkshop.open();
  w.day(30);
  const { services, store, nowMs } = w;
  const ladder = { materialId: 1, setPercent: 60, rungs: rungs(12), baseline: true };
  await appendEvents(store, 1, [{ kind: "ladder", atMs: START + DAY_MS, payload: ladder, requestKey: "l" }], nowMs);
  const findings = [{ check: "known-cut", outcome: "hangs" }];
  await openCase(store, 1, { title: "Weak", sign: "x", symptom: "power", onsetMs: nowMs - DAY_MS, requestKey: "c", findings }, nowMs);
  return services;
}

/** All that the database holds. */
async function contents(store: Store): Promise<string> {
  const tables = await sql<{
    name: string;
  }>`select name from sqlite_master where type = 'table' and name not like 'sqlite_%' order by name`.execute(store);
  const rows = await Promise.all(tables.rows.map(({ name }) => sql`select * from ${sql.table(name)}`.execute(store)));
  return JSON.stringify(rows.map((r, i) => [tables.rows[i]?.name, r.rows]));
}

const isRefused = (result: unknown): boolean =>
  typeof result === "object" && result !== null && ("errors" in result || "problem" in result);

describe("a form", () => {
  it("is carried out whole or refused with words, whatever it brings, and refused it leaves everything as it was", async () => {
    const carriedOut = new Set<string>();
    await fc.assert(
      fc.asyncProperty(fc.array(anyForm, { minLength: 1, maxLength: 12 }), fc.constantFrom(...BEGUN), async (drawn, begun) => {
        const forms = [...begun, ...drawn];
        const services = await workshop();
        for (const [i, { act, fields }] of forms.entries()) {
          const posted = new FormData();
          posted.set("requestKey", `form-key-${i}`);
          for (const [name, value] of fields) posted.append(name, value);
          const before = await contents(services.store);
          let result: unknown;
          try {
            result = await (ACTS[act] as Act)(services, new FormReader(posted));
          } catch (thrown) {
            // What is not there is said so; nothing else is thrown.
            expect(thrown).toBeInstanceOf(NotHere);
            result = { errors: { "": "not here" } };
          }
          const { errors } = result as { errors?: Readonly<Record<string, string>> };
          if (errors) expect(Object.values(errors).every((words) => /[a-z]/i.test(words))).toBe(true);
          if (isRefused(result)) expect(await contents(services.store)).toBe(before);
          else {
            carriedOut.add(act);
            process.stdout.write(`OK ${act} ${posted.get("intent") ?? posted.get("kind") ?? ""}\n`);
          }
        }
        const g = await gather(services, SLUG);
        expect(
          broken([await todayView(services, g), await outlookView(services, g), await aimView(services, g), workshopView(g, "lens")]),
        ).toEqual([]);
      }),
      { numRuns: 8 },
    );
    // It would say nothing if all were refused.
    expect(carriedOut.size).toBeGreaterThan(3);
  });
});
