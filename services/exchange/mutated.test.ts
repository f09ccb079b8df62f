/** A workshop's file with one thing wrong: it is refused with words, or every place of every machine can be read with it. */
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import { beforeAll, describe, expect, it } from "vitest";
import type { WorkshopFile } from "#core/exchange";
import { openSitting, openSittingOf } from "#store/aim";
import { closeCase, openCase } from "#store/cases";
import { openStore } from "#store/database";
import { listMachines } from "#store/machines";
import { endRound, saveAnswers, startRound } from "#store/rounds";
import { writeSettings } from "#store/settings";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import { planOf } from "../machine/plans";
import { unknownSetting } from "../machine/settingNames";
import { everyPlace } from "../testPlaces";
import { TestWorkshop, WEAK_CASE } from "../testWorkshop";
import { lookAtFile, takeIn } from "./importFile";
import { workshopFile } from "./workshopFile";

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** Something of everything: a case that is closed, one that is open, rounds with plans and answers, marks. */
async function everything(): Promise<{ services: Services; text: string }> {
  const w = await TestWorkshop.worked();
  const { trade } = await w.look();
  const done = await openCase(w.store, 1, { ...WEAK_CASE, requestKey: "done" }, w.nowMs);
  await closeCase(w.store, 1, done, { repair: "Lens", faults: ["lens-dirty"], proof: "it drops again" }, w.nowMs);
  const plan = planOf(trade, ["lens"]);
  const ended = await startRound(w.store, 1, { title: "Lens", parts: ["lens"], plan, requestKey: "ended" }, w.nowMs);
  await endRound(w.store, 1, ended, "closed", [], w.nowMs);
  await openCase(w.store, 1, { ...WEAK_CASE, sign: "far-corner", title: "Weak at the far corner" }, w.nowMs);
  const open = await startRound(w.store, 1, { title: "Nozzle", parts: ["nozzle"], plan, requestKey: "open" }, w.nowMs);
  await saveAnswers(w.store, open, [{ stepId: "lens.found", answer: { done: true, grade: 2, atMs: w.nowMs }, requestKey: "a" }], w.nowMs);
  await w.log("grade", { station: "lens", phase: "as-found", grade: 1 });
  await w.log("service", { station: "lens", what: "cleaned" });
  await w.log("cut", { materialId: 1, speedMmPerS: 10, setPercent: 60, result: "hangs" });
  await openSitting(w.store, 1, { requestKey: "sitting", entries: [] }, w.nowMs);
  return { services: w.services, text: await workshopFile(w.services) };
}

/** Every place in a value, as the keys that lead there. */
function places(value: Json, path: readonly string[] = []): (readonly string[])[] {
  if (value === null || typeof value !== "object") return [path];
  return [path, ...Object.entries(value).flatMap(([key, of]) => places(of as Json, [...path, key]))];
}

const WRONG: readonly Json[] = [
  null,
  "",
  "no-such-thing",
  "photos",
  "assets",
  "constructor",
  "__proto__",
  0,
  -1,
  1e15,
  0.5,
  true,
  [],
  {},
  ["x"],
  { x: 1 },
  "x".repeat(500),
  "\u0000",
];

/** A copy with another value at a place, or nothing there. */
function mutated(file: Json, path: readonly string[], wrong: Json | undefined): Json {
  const [key, ...rest] = path;
  if (key === undefined) return wrong ?? null;
  const copy = structuredClone(file) as { [key: string]: Json };
  const inner = copy[key] as Json;
  if (rest.length > 0) copy[key] = mutated(inner, rest, wrong);
  else if (wrong === undefined) {
    if (Array.isArray(copy)) copy.splice(Number(key), 1);
    else delete copy[key];
  } else copy[key] = wrong;
  return copy as Json;
}

let whole: Json;
let text: string;
beforeAll(async () => {
  ({ text } = await everything());
  whole = JSON.parse(text) as Json;
});

/** A workshop of another machine, into which the file is taken. */
async function elsewhere(layout: string): Promise<Services> {
  if (layout === "empty") {
    const folder = mkdtempSync(join(tmpdir(), "clenor-mutated-"));
    return { store: await openStore(folder), folder, nowMs: () => Date.parse("2026-11-30T09:00:00Z") };
  }
  const w = await TestWorkshop.open(layout);
  await w.ladder(14, true);
  w.day(60);
  return w.services;
}

async function read(services: Services): Promise<void> {
  for (const { slug } of await listMachines(services.store)) {
    const g = await gather(services, slug);
    await everyPlace(services, g, g.openCase?.id);
    await openSittingOf(services.store, g.machine.id);
  }
}

describe("a workshop's file", () => {
  it("is sound as it is", async () => {
    const services = await elsewhere("empty");
    const looked = await lookAtFile(services, "start", new TextEncoder().encode(text));
    expect(looked).toMatchObject({ changes: true });
    expect(await takeIn(services, "id" in looked ? looked.id : "")).toHaveProperty("said");
    await read(services);
  });

  it("with one thing wrong is refused with words and changes nothing, or can be read in every place", async () => {
    const all = places(whole);
    let refused = 0;
    let taken = 0;
    await fc.assert(
      fc.asyncProperty(
        fc.nat(all.length - 1),
        fc.option(fc.constantFrom(...WRONG), { nil: undefined, freq: 6 }),
        fc.constantFrom("empty", "moving-head"),
        async (at, wrong, layout) => {
          const services = await elsewhere(layout);
          const had = JSON.stringify(await listMachines(services.store));
          const file = mutated(whole, all[at] as readonly string[], wrong);
          const looked = await lookAtFile(services, "larkspur", new TextEncoder().encode(JSON.stringify(file)));
          const answer = "id" in looked ? await takeIn(services, looked.id) : undefined;
          if (answer && "said" in answer) {
            taken += 1;
            await read(services);
            // None took an address of the application's own.
            for (const { slug } of await listMachines(services.store))
              expect(["photos", "assets", "start", "copies", "exchange"]).not.toContain(slug);
            return;
          }
          refused += 1;
          const words =
            "problems" in looked ? looked.problems.map((p) => p.words).join(" ") : answer && "problem" in answer ? answer.problem : "";
          expect(words).toMatch(/[a-z]{3,}.*\.$/s);
          expect(words).not.toMatch(/undefined|\[object|TypeError|Cannot read prop/);
          expect(JSON.stringify(await listMachines(services.store))).toBe(had);
        },
      ),
      { numRuns: 40 },
    );
    expect(Math.min(refused, taken)).toBeGreaterThan(3);
  });
});

it("brings what nobody knows in a case, and refuses a character that cannot be kept, by its line", async () => {
  const { services } = await everything();
  await writeSettings(services.store, { [unknownSetting(2)]: ["onset"] });
  const file = await workshopFile(services);
  const there = await elsewhere("empty");
  const looked = await lookAtFile(there, "start", new TextEncoder().encode(file));
  await takeIn(there, "id" in looked ? looked.id : "");
  expect((await gather(there, "larkspur")).openCases[0]?.unknown).toEqual(["onset"]);
  const bad = file.replace('"title": "Nozzle"', '"title": "Noz\\u0000zle"');
  const refused = await lookAtFile(await elsewhere("empty"), "start", new TextEncoder().encode(bad));
  const line = file.split("\n").findIndex((l) => l.includes('"title": "Nozzle"')) + 1;
  expect(refused).toMatchObject({ problems: [{ line, words: expect.stringMatching(/cannot be kept/) }] });
});

it("that could not be taken in is still there to be sent again", async () => {
  const there = await elsewhere("empty");
  const looked = await lookAtFile(there, "start", new TextEncoder().encode(text));
  const id = "id" in looked ? looked.id : "";
  const stopped = await takeIn(there, id, { wrote: () => undefined, isStopped: () => true });
  expect(stopped).toEqual({ stopped: true });
  expect(await takeIn(there, id)).toHaveProperty("said");
  expect(await takeIn(there, id)).toHaveProperty("problem");
});

it("is a file", () => expect((whole as unknown as WorkshopFile).machines).toHaveLength(1));
