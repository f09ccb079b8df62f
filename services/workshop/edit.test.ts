import { describe, expect, it } from "vitest";
import { standing } from "#core/machine";
import { listMachines, listMaterials } from "#store/machines";
import { keepPhoto } from "#store/photos";
import { FormReader } from "../forms/fields";
import { TestWorkshop } from "../testWorkshop";
import { edit } from "./edit";
import { shelfOf, withoutShelf } from "./fittings";
import { settingOf } from "./materials";
import { nameplateOf } from "./nameplate";
import { orderOf } from "./path";
import { versionText } from "./stale";

type Fields = Readonly<Record<string, string | readonly string[]>>;

async function bench() {
  const w = await TestWorkshop.open();
  const machine = async () => (await listMachines(w.store))[0] as Awaited<ReturnType<typeof listMachines>>[number];
  /** What a form that was opened just now is made from. */
  const madeFrom = async ({ intent, station, material }: Fields): Promise<string> => {
    const m = await machine();
    const { path, fittings } = (await w.look()).trade.layout;
    const states: Readonly<Record<string, () => string | Promise<string>>> = {
      order: () => orderOf(path),
      station: () => versionText(path.find((s) => s.id === station) ?? {}),
      fittings: () => versionText(withoutShelf(fittings)),
      shelf: () => versionText(shelfOf(fittings)),
      machine: () => versionText(nameplateOf(m)),
      material: async () => {
        const found = (await listMaterials(w.store, m.id)).find((x) => String(x.id) === material);
        return found ? versionText(settingOf(found)) : "";
      },
    };
    return (await states[String(intent)]?.()) ?? "";
  };
  const send = async (given: Fields) => {
    const form = new FormData();
    const fields = { madeFrom: await madeFrom(given), ...given };
    for (const [name, value] of Object.entries(fields)) for (const v of [value].flat()) form.append(name, v as string);
    return edit(w.services, await machine(), new FormReader(form));
  };
  const ids = async () => standing((await w.look()).trade.layout.path).map((s) => s.id);
  return { w, machine, send, ids, madeFrom };
}

const m2 = {
  intent: "station",
  station: "mirror-2",
  name: "M2",
  coating: "molybdenum",
  mount: "magnet",
  apertureMm: "22",
  distanceMm: "100",
  travelMm: "1 1/2 in",
};

describe("editing the path", () => {
  it("adds, moves, names and takes off stations, and every figure follows", async () => {
    const { w, send, ids } = await bench();
    expect(await send({ intent: "add", role: "mirror", name: "Knee" })).toMatchObject({ said: expect.stringContaining("Added") });
    expect(await ids()).toEqual(["tube", "window", "mirror-1", "mirror-2", "mirror-3", "mirror-4", "lens", "nozzle"]);
    await send({ intent: "order", order: "tube,window,mirror-1,mirror-4,mirror-2,mirror-3,lens,nozzle" });
    const g = await w.look();
    expect(g.trade.layout.names["mirror-4"]).toBe("Knee");
    // The new mirror can be at fault, be looked at and be cleaned; the head mirror is still the one before the lens.
    expect(g.trade.model.faults.map((f) => f.id)).toContain("mirror-dirty@4");
    expect(g.trade.model.checks.map((c) => c.id)).toContain("mirror-look@4");
    expect(g.trade.tasks.find((t) => t.id === "mirror-4")).toMatchObject({ name: "Knee", every: { plyHours: 40 } });
    expect(g.trade.tasks.find((t) => t.id === "mirror-3")).toMatchObject({ every: { plyHours: 16 } });
    expect(await send({ intent: "remove", station: "mirror-4" })).toEqual({ said: "Taken off the path. Bring it back below." });
    expect(await ids()).not.toContain("mirror-4");
  });

  it("hides a station the log speaks of, keeps its records, and brings it back", async () => {
    const { w, send, ids } = await bench();
    await w.log("grade", { station: "mirror-2", phase: "as-found", grade: 2 });
    expect(await send({ intent: "remove", station: "mirror-2" })).toMatchObject({ said: expect.stringContaining("history is kept") });
    expect(await ids()).not.toContain("mirror-2");
    const g = await w.look();
    expect(g.trade.layout.names["mirror-2"]).toBe("M2");
    expect(g.grades.get("mirror-2")).toMatchObject({ grade: 2 });
    expect(g.trade.model.faults.some((f) => f.id === "mirror-dirty@2")).toBe(false);
    await send({ intent: "restore", station: "mirror-2" });
    expect(await ids()).toEqual(["tube", "window", "mirror-1", "mirror-2", "mirror-3", "lens", "nozzle"]);
  });

  it.each([
    [{ intent: "remove", station: "tube" }, /no tube/],
    [{ intent: "remove", station: "lens" }, /no lens/],
    [{ intent: "order", order: "lens,tube,window,mirror-1,mirror-2,mirror-3,nozzle" }, /starts at the tube/],
    [{ intent: "add", role: "lens" }, /has its lens/],
    [{ intent: "add", role: "prism" }, /Choose what to add/],
    [{ intent: "station", station: "mirror-9" }, /not on the path any more/],
  ] as const)("refuses %j and changes nothing", async (fields, why) => {
    const { machine, send } = await bench();
    const before = await machine();
    expect(await send(fields)).toMatchObject({ errors: { path: expect.stringMatching(why) } });
    expect(await machine()).toEqual(before);
  });
});

describe("editing a station", () => {
  it("reads numbers as people type them, keeps a photo that is here, and empties what was emptied", async () => {
    const { w, send } = await bench();
    const png = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");
    const hash = await keepPhoto(w.store, w.folder, png, w.nowMs);
    await send({ ...m2, wayRound: "notch at lower left", wayRoundPhoto: hash, spares: "2", panel: "side flap", warranty: "1" });
    const station = async () => (await w.look()).trade.layout.path.find((s) => s.id === "mirror-2");
    expect(await station()).toMatchObject({
      mount: "magnet",
      apertureMm: 22,
      travelMm: expect.closeTo(38.1, 6),
      wayRound: "notch at lower left",
      spares: 2,
      warranty: true,
    });
    await send({ ...m2, transmissionPercent: "98" });
    const emptied = await station();
    expect(emptied).toMatchObject({ transmission: 0.98 });
    for (const gone of ["wayRound", "wayRoundPhoto", "spares", "panel", "warranty", "gantry"]) expect(emptied).not.toHaveProperty(gone);
  });

  it("names each field that is wrong, and saves none of it", async () => {
    const { machine, send } = await bench();
    const bad = {
      ...m2,
      name: "",
      apertureMm: "wide",
      travelMm: "-3",
      mount: "glue",
      transmissionPercent: "30",
      wayRoundPhoto: "elsewhere",
    };
    expect(await send(bad)).toMatchObject({
      errors: {
        name: "Still missing.",
        apertureMm: expect.stringContaining('"wide" is not a number'),
        travelMm: "Must be 0 or more.",
        mount: expect.stringContaining("Choose one of"),
        transmissionPercent: "Between 50 and 100 %.",
        wayRoundPhoto: expect.any(String),
      },
    });
    expect(await send({ ...m2, wayRoundPhoto: "a".repeat(64) })).toEqual({ errors: { wayRoundPhoto: "That photo is not here." } });
    expect((await machine()).path).toBeUndefined();
  });
});

describe("fittings, shelf and machine", () => {
  it("decide what is due, what a round asks for, and what a trace can suspect", async () => {
    const { w, send } = await bench();
    await send({ intent: "fittings", cooling: "air", bearing: "open", school: "careful", extra: ["encoder", "camera"] });
    await send({ intent: "shelf", agent: ["isopropyl"] });
    const { trade } = await w.look();
    expect(trade.layout.systems).toEqual(expect.arrayContaining(["fins", "encoder", "camera"]));
    expect(trade.layout.systems).not.toContain("coolant");
    expect(trade.model.faults.map((f) => f.id)).toEqual(expect.arrayContaining(["fins-dirty", "encoder-dirty"]));
    expect(trade.tasks.find((t) => t.id === "lens")?.every).toMatchObject({ days: 1 });
    expect(trade.tasks.some((t) => t.id === "coolant-change")).toBe(false);
    expect(trade.procedures.get("rails")?.steps.map((s) => s.id)).toContain("rails.open");
    expect(trade.layout.fittings).toMatchObject({ agents: ["isopropyl"], lid: "acrylic" });
  });

  it("refuse what they do not know", async () => {
    const { send, machine } = await bench();
    expect(await send({ intent: "fittings", cooling: "hope" })).toMatchObject({ errors: { cooling: expect.stringContaining("chiller") } });
    expect(await send({ intent: "machine", name: "Larkspur", ratedPowerW: "3000", ratedTubeHours: "" })).toMatchObject({
      errors: { ratedPowerW: "Must be 500 or less.", ratedTubeHours: expect.stringContaining("Empty") },
    });
    expect(await send({ intent: "mood" })).toMatchObject({ errors: { "": expect.any(String) } });
    await send({ intent: "machine", name: "Lark", ratedPowerW: "75", ratedTubeHours: "2500" });
    expect(await machine()).toMatchObject({ name: "Lark", slug: "larkspur", ratedPowerW: 75, ratedTubeHours: 2500 });
  });
});

describe("materials", () => {
  it("carry their own smoke where their owner knows better, and are hidden, never gone", async () => {
    const { w, send } = await bench();
    await w.log("hours", { counterHours: 910 }, 2);
    w.day(2);
    const dose = async () => (await w.look()).doses.get("lens") ?? 0;
    await w.log("job", { materialId: 1, minutes: 60 }, 1);
    const before = await dose();
    await send({ intent: "material", material: "1", smokeOptics: "2", usualSpeedMmPerS: "14" });
    expect(await dose()).toBeCloseTo(2 * before, 6);
    await send({ intent: "material", material: "1", usualSpeedMmPerS: "" });
    expect((await listMaterials(w.store, 1))[0]).toMatchObject({ smokeOptics: undefined, usualSpeedMmPerS: undefined });
    await send({ intent: "material", material: "1", hide: "1" });
    expect((await listMaterials(w.store, 1))[0]).toMatchObject({ name: "birch ply", hidden: true });
    await send({ intent: "material", material: "1", hide: "0" });
    expect((await listMaterials(w.store, 1))[0]).toMatchObject({ hidden: false });
  });

  it.each(["soft PVC", "Neoprene pad", "chrome-tanned hide", "vinyl record"])("refuse %s", async (name) => {
    const { w, send } = await bench();
    const reply = await send({ intent: "new-material", kind: "rubber", name, thicknessMm: "2" });
    expect(reply).toMatchObject({ errors: { name: expect.stringMatching(/^Do not cut this with a laser/) } });
    expect(await listMaterials(w.store, 1)).toHaveLength(1);
  });

  it("are added once", async () => {
    const { send } = await bench();
    const card = { intent: "new-material", kind: "card", thicknessMm: "0,8" };
    expect(await send(card)).toEqual({ said: "card added." });
    expect(await send(card)).toMatchObject({ errors: { name: expect.stringContaining("already") } });
    expect(await send({ ...card, thicknessMm: "0" })).toMatchObject({ errors: { thicknessMm: "Must be above 0." } });
  });
});

describe("a form opened before another device saved the same thing", () => {
  const forms = [
    [
      m2,
      { ...m2, mount: "screw-cell", apertureMm: "25" },
      ["Clear aperture, mm: now 22, was 20", "Held by: now magnets with a notch (keeps its aim)"],
    ],
    [{ intent: "shelf", agent: ["isopropyl"] }, { intent: "shelf", agent: ["lens-tissue"] }, ["On the shelf: now"]],
    [
      { intent: "fittings", cooling: "air", extra: "camera" },
      { intent: "fittings", cooling: "bucket", extra: "camera" },
      ["Cooling: now air, finned tube"],
    ],
    [
      { intent: "machine", name: "Larkspur", ratedPowerW: "90", ratedTubeHours: "3000" },
      { intent: "machine", name: "Larkspur", ratedPowerW: "70", ratedTubeHours: "3000" },
      ["Rated power, W: now 90, was 80"],
    ],
    [
      { intent: "material", material: "1", usualSpeedMmPerS: "16" },
      { intent: "material", material: "1", usualSpeedMmPerS: "12" },
      ["Usual speed, mm/s: now 16, was 14"],
    ],
  ] as const;
  it.each(forms)("%j does not undo it unasked: it says what changed, and is taken when it is sent again", async (theirs, mine, changed) => {
    const { machine, send, madeFrom, w } = await bench();
    const opened = await madeFrom(mine);
    expect(await send(theirs)).toHaveProperty("said");
    const saved = [await machine(), await listMaterials(w.store, 1)];
    const refused = await send({ ...mine, madeFrom: opened });
    expect([await machine(), await listMaterials(w.store, 1)]).toEqual(saved);
    if (!("errors" in refused) || !refused.stale) throw new Error("it was not refused");
    for (const words of changed) expect(refused.stale.changed.join("\n")).toContain(words);
    expect(await send({ ...mine, madeFrom: refused.stale.madeFrom })).toHaveProperty("said");
    expect([await machine(), await listMaterials(w.store, 1)]).not.toEqual(saved);
  });

  it("is refused without saying what it was made from, and an order made from another one as well", async () => {
    const { machine, send } = await bench();
    const before = await machine();
    expect(await send({ intent: "shelf", agent: "isopropyl", madeFrom: "" })).toHaveProperty("stale");
    expect(
      await send({ intent: "order", order: "tube,window,mirror-2,mirror-1,mirror-3,lens,nozzle", madeFrom: "tube,lens" }),
    ).toMatchObject({
      errors: { path: expect.stringContaining("changed on another device") },
    });
    expect(await machine()).toEqual(before);
  });
});
