import { beforeEach, describe, expect, it } from "vitest";
import { aimPathOf, spotId, spotsOf } from "#core/aim";
import { entriesOf, openSittingOf, sittingsOf } from "#store/aim";
import { listFindings, openCase } from "#store/cases";
import { importWorkshop } from "#store/portable/whole";
import { findRound, openRoundOf, startRound } from "#store/rounds";
import { readWorkshopFile, workshopFile } from "../exchange/workshopFile";
import { FormReader } from "../forms/fields";
import { planOf } from "../machine/plans";
import { TestWorkshop } from "../testWorkshop";
import { aimByForm } from "./act";
import { aimView } from "./aimView";

let w: TestWorkshop;
let n = 0;
const act = (intent: string, fields: Readonly<Record<string, string>> = {}) => {
  const form = new FormData();
  for (const [name, value] of Object.entries({ intent, requestKey: `aim-test-${++n}`, ...fields })) form.set(name, value);
  return aimByForm(w.services, "larkspur", new FormReader(form));
};
/** Sent twice, as after a lost answer: it takes one entry back all the same. */
const undo = async () => {
  const entry = String((await entriesOf(w.store, 1)).findLast((e) => !e.withdrawn)?.id);
  await act("undo", { entry });
  await act("undo", { entry });
};
const view = async () => aimView(w.services, await w.look());
const mark = (spot: string, right: string, up: string) => act("mark", { spot, right, up });
const turn = (screw: string, amount: string, sense = "clockwise") => act("turn", { element: "mirror-1", screw, amount, sense });

/** Marks that all meet, made twice. */
async function allMeet() {
  const { trade } = await w.look();
  const path = aimPathOf(trade.layout.path);
  for (let i = 0; i < 3; i++) for (const spot of spotsOf(path)) await mark(spotId(spot), "0.1", "-0.1");
}

beforeEach(async () => {
  w = await TestWorkshop.open();
  w.day(3);
});

describe("a sitting at the mirrors", () => {
  it("begins only when it is safe to fire, and never while the machine is apart", async () => {
    expect(await act("start")).toMatchObject({ errors: { safe: expect.stringContaining("Tick it") } });
    const { trade } = await w.look();
    await startRound(w.store, 1, { title: "Lens", parts: ["lens"], plan: planOf(trade, ["lens"]), requestKey: "r" }, w.nowMs);
    const g = await w.look();
    if (g.openRound?.apart) expect(await act("start", { safe: "1" })).toMatchObject({ errors: { "": expect.stringContaining("apart") } });
    expect(await openSittingOf(w.store, 1)).toBeUndefined();
  });

  it("asks about a mark far outside the part and keeps it only when told that it is there", async () => {
    await act("start", { safe: "1" });
    expect(await mark("mirror-1", "26", "4")).toMatchObject({ errors: { sure: expect.stringMatching(/26.3 mm .* far outside M1/) } });
    expect(await mark("mirror-1", "90", "0")).toMatchObject({ errors: { right: expect.stringContaining("off any tape") } });
    expect(await mark("mirror-1", "x", "0")).toMatchObject({ errors: { right: expect.stringContaining("not a number") } });
    expect(await mark("mirror-7", "1", "0")).toMatchObject({ errors: { "": expect.stringContaining("no such place") } });
    expect((await entriesOf(w.store, 1)).length).toBe(0);
    await act("mark", { spot: "mirror-1", right: "26", up: "4", sure: "1" });
    expect((await entriesOf(w.store, 1)).map((e) => e.entry)).toEqual([
      { kind: "mark", spot: { at: "mirror-1", far: [] }, mark: { right: 26, up: 4 } },
    ]);
  });

  it("begins with the marks of the log that still hold, where its owner wants them", async () => {
    const told = (station: string, travel: "near" | "far" | undefined, rightMm: number, days: number) =>
      w.log("tape", { station, ...(travel ? { travel } : {}), rightMm, upMm: 0 }, days);
    w.day(20);
    await told("mirror-1", undefined, 9, 5);
    await told("mirror-2", "near", 7, 18);
    await w.log("service", { station: "mirror-1", what: "aimed" }, 18.5);
    await told("mirror-1", undefined, 0.2, 19);
    await told("mirror-2", "near", 0.4, 19);
    await told("mirror-2", "far", 4.4, 19);
    await told("nozzle", undefined, 0.3, 19);
    await w.log("service", { station: "lens", what: "seat-opened" }, 19.2);
    await told("mirror-3", undefined, 1, 19);
    await told("mirror-3", "far", 150, 19);
    expect((await view()).fromLog).toEqual([
      "M1: +0.2, 0.0 mm, yesterday",
      "M2, gantry near: +0.4, 0.0 mm, yesterday",
      "M2, gantry far: +4.4, 0.0 mm, yesterday",
    ]);
    await act("start", { safe: "1", take: "1" });
    expect((await view()).open?.headline).toMatch(/^M1, screw A: .* turn/);
    expect((await entriesOf(w.store, 1)).map((e) => e.entry.kind)).toEqual(["mark", "mark", "mark"]);
    await act("leave", { "power-back": "1" });
    await act("start", { safe: "1" });
    expect((await view()).open?.headline).toMatch(/^Make a mark at M1/);
  });

  it("does not hold to marks from before a mirror was out: it asks for them again, and ends nothing as good", async () => {
    await act("start", { safe: "1" });
    await allMeet();
    expect((await view()).open?.good).toBe(true);
    w.nowMs += 60_000;
    await w.log("service", { station: "mirror-2", what: "cleaned" });
    expect((await view()).open?.good).toBe(true);
    await w.log("service", { station: "mirror-2", what: "seat-opened" });
    w.nowMs += 60_000;
    const { open } = await view();
    expect(open?.good).toBe(false);
    expect(open?.lead).toMatch(/was out since its mark was made/);
    expect(open?.legs.find((l) => /M1/.test(l.name))?.status).not.toBe("unknown");
    await act("finish");
    expect((await openSittingOf(w.store, 1))?.endedMs).toBeUndefined();
    await allMeet();
    expect((await view()).open?.good).toBe(true);
  });

  it("names the sides of the machine, and says what the marks say", async () => {
    await act("start", { safe: "1" });
    await mark("mirror-1", "0.1", "0");
    await mark("mirror-2", "0.4", "0");
    expect((await view()).open?.step).toMatchObject({ kind: "mark", spot: "M2, gantry far", sides: { right: "machine's left", up: "up" } });
    await mark("mirror-2+mirror-2", "4.4", "0");
    const { open } = await view();
    expect(open?.headline).toMatch(/^M1, screw A: .* turn/);
    expect(open?.lead).toMatch(/moves \d(\.\d)? mm to the machine's left; 0.6 mm would do/);
    // The sum of a leg and the sentence above it say the same.
    expect(open?.legs.find((l) => l.id === "mirror-1")?.words).toMatch(/marks \d(\.\d)? mm apart/);
  });

  it("refuses what this path does not have, so that nothing is kept that cannot be read again", async () => {
    await act("start", { safe: "1" });
    for (const shift of ['{"of":"slide","element":"tube","mm":1}', '{"of":"mount","station":"mirror-9","mm":{"right":1,"up":0}}', "{"])
      expect(await act("shift", { shift })).toMatchObject({ errors: { "": expect.any(String) } });
    expect(await act("turn", { element: "mirror-1", screw: "C", amount: "0.25" })).toMatchObject({ errors: { "": expect.any(String) } });
    expect((await view()).open?.entries).toBe(0);
  });

  it("takes the last entry back, and leads back to the best state", async () => {
    await act("start", { safe: "1" });
    for (const [spot, right] of [
      ["mirror-1", "0"],
      ["mirror-2", "0"],
      ["mirror-2+mirror-2", "2"],
    ] as const)
      await mark(spot, right, "0");
    await turn("A", "0.25");
    await mark("mirror-2+mirror-2", "6.5", "0");
    expect((await view()).open?.back).toEqual([{ words: "M1, screw A: 1/4 turn anticlockwise" }]);
    await act("back");
    expect((await entriesOf(w.store, 1)).at(-1)?.entry).toMatchObject({ kind: "turn", screw: "A", turns: -0.25 });
    await undo();
    expect((await view()).open?.back).toHaveLength(1);
  });

  it("remembers on another day what a screw does, until told that it is another screw", async () => {
    await act("start", { safe: "1" });
    for (const [spot, right] of [
      ["mirror-1", "0"],
      ["mirror-2", "0"],
      ["mirror-2+mirror-2", "4"],
    ] as const)
      await mark(spot, right, "0");
    await turn("A", "0.25");
    await mark("mirror-2+mirror-2", "8.6", "0");
    expect(await act("leave")).toMatchObject({ errors: { "power-back": expect.stringContaining("power limit back") } });
    await act("leave", { "power-back": "1" });
    w.day(200);
    await act("start", { safe: "1" });
    const screws = async () => (await view()).screws.find((s) => s.id === "mirror-1")?.screws.map((s) => s.does);
    expect(await screws()).toEqual([
      expect.stringMatching(/a quarter clockwise moves the far mark 4(\.\d)? mm to the machine's left/),
      undefined,
    ]);
    for (const [spot, right] of [
      ["mirror-1", "0"],
      ["mirror-2", "0"],
      ["mirror-2+mirror-2", "4"],
    ] as const)
      await mark(spot, right, "0");
    expect((await view()).open?.step).toMatchObject({ kind: "turn", screw: "A", isTrial: false });
    await act("forget", { element: "mirror-1" });
    expect(await screws()).toEqual([undefined, undefined]);
  });
});

describe("a sitting that ends good", () => {
  it("says of a screw whose turn moved the mark too little that it was turned, and asks for another turn of it", async () => {
    await act("start", { safe: "1" });
    await mark("mirror-1", "0.3", "-0.2");
    await mark("mirror-2", "0.4", "0.1");
    await mark("mirror-2+mirror-2", "3.1", "0.5");
    expect((await view()).open?.step).toMatchObject({ kind: "turn", screw: "A", isTrial: true, wasTried: false });
    await turn("A", "0.1875", "anticlockwise");
    await mark("mirror-2+mirror-2", "2.2", "0.4");
    const { open, screws } = await view();
    expect(open?.step).toMatchObject({ kind: "turn", screw: "A", isTrial: true, wasTried: true });
    const tried = screws.find((m) => m.id === "mirror-1")?.screws.map((s) => [s.screw, s.wasTried]);
    expect(tried).toEqual(
      expect.arrayContaining([
        ["A", true],
        ["B", false],
      ]),
    );
  });

  it("must put the power limit back, and leaves its services in the log where no round carries them", async () => {
    await act("start", { safe: "1" });
    await mark("mirror-1", "0", "0");
    await turn("A", "0.125");
    await allMeet();
    expect((await view()).open?.headline).toMatch(/^Good enough/);
    expect(await act("finish")).toMatchObject({ errors: { "power-back": expect.any(String) } });
    expect(await act("finish", { "power-back": "1" })).toEqual({ to: "aim" });
    const services = (await w.look()).log.kinds.service.slice(0).map((e) => [e.payload.station, e.payload.what, e.payload.task]);
    expect(services).toContainEqual(["mirror-1", "aimed", undefined]);
    expect(services).toContainEqual(["mirror-1", "checked", "aim-check"]);
    expect((await sittingsOf(w.store, 1)).map((s) => s.ending?.good)).toEqual([true]);
    // Sent once more it does nothing twice.
    expect(await act("finish", { "power-back": "1" })).toMatchObject({ errors: { "": expect.stringContaining("ended") } });
  });

  it("is for the newest case that a beam off its middle can be the cause of, where none is named", async () => {
    const of = (title: string, symptom: "power" | "cooling", requestKey: string) =>
      openCase(w.store, 1, { title, sign: requestKey, symptom, onsetMs: w.nowMs, requestKey, findings: [] }, w.nowMs);
    await of("Cloudy water", "cooling", "water");
    expect((await view()).openCase).toBeUndefined();
    const weak = await of("Weak", "power", "weak");
    await of("Bubbles", "cooling", "bubbles");
    expect((await view()).openCase?.id).toBe(weak);
  });

  it("feeds its case and starts the round that proves it, with what was done answered", async () => {
    const caseId = await openCase(
      w.store,
      1,
      {
        title: "Weak at the far corner",
        sign: "weak-far",
        symptom: "power",
        onsetMs: w.nowMs,
        requestKey: "c",
        findings: [{ check: "bed-map", outcome: "falls-with-distance" }],
      },
      w.nowMs,
    );
    await act("start", { safe: "1", caseId: String(caseId) });
    // Another case that is opened meanwhile has nothing to do with it.
    const other = { title: "Jerky", sign: "jerky", symptom: "motion", onsetMs: w.nowMs, requestKey: "c2", findings: [] } as const;
    await openCase(w.store, 1, other, w.nowMs);
    await mark("mirror-1", "0", "0");
    await turn("A", "0.125");
    await allMeet();
    const done = await act("finish", { "power-back": "1" });
    const round = await openRoundOf(w.store, 1);
    expect(done).toEqual({ to: `round/${round?.id}` });
    const { answers, caseId: ofCase, parts } = (await findRound(w.store, 1, round?.id ?? 0)) ?? {};
    expect(ofCase).toBe(caseId);
    expect(parts).toContain("aim@1");
    expect(answers?.get("aim@1.again")).toMatchObject({ done: true, choice: "meet" });
    // What protects people stays to be walked.
    expect(answers?.get("power-back")).toBeUndefined();
    expect((await listFindings(w.store, caseId)).map((f) => f.check)).toEqual(expect.arrayContaining(["tape-travel@2", "tape-travel@3"]));
    // That M1 was aimed is the round's to say, once.
    expect((await w.look()).log.kinds.service.slice(0).map((e) => e.payload.what)).toEqual(["checked"]);
  });
});

it("goes out and comes in with the workshop's file, entries taken back and all", async () => {
  await act("start", { safe: "1" });
  await mark("mirror-1", "1", "0");
  await mark("mirror-1", "2", "0");
  await undo();
  const read = readWorkshopFile(await workshopFile(w.services));
  if ("problems" in read) throw new Error(read.problems.map((p) => p.words).join());
  const other = await TestWorkshop.open();
  await other.store.deleteFrom("event").execute();
  await other.store.deleteFrom("material").execute();
  await other.store.deleteFrom("machine").execute();
  await importWorkshop(other.store, read.file);
  const machineId = (await other.store.selectFrom("machine").select("id").executeTakeFirstOrThrow()).id;
  const plain = (list: Awaited<ReturnType<typeof entriesOf>>) => list.map((e) => [e.entry, e.atMs, e.withdrawn]);
  expect(plain(await entriesOf(other.store, machineId))).toEqual(plain(await entriesOf(w.store, 1)));
});
