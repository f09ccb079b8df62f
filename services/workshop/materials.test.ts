import { describe, expect, it } from "vitest";
import { FormReader } from "../forms/fields";
import { gateView } from "../gate/gateView";
import { keepEntry } from "../log/keepEntry";
import { TestWorkshop } from "../testWorkshop";
import { materialWord, newMaterial, refusalOf } from "./materials";

describe("what must not be cut", () => {
  it.each([
    ["polycarbonate sheet", /fire/],
    ["PC 2 mm", /fire/],
    ["ABS", /cyanide/],
    ["abs/pc blend", /cyanide|fire/],
    ["uPVC", /chlorine/],
    ["foamed PVC", /chlorine/],
    ["Polyvinylchloride", /chlorine/],
    ["self-adhesive vinyl", /chlorine/],
    ["faux leather", /chlorine/],
    ["neoprene", /chlorine/],
    ["chrome-tanned hide", /chromium/],
    ["nylon felt", /cyanide/],
    ["PU foam", /cyanide/],
    ["expanded polystyrene", /fire/],
    ["PTFE film", /fluorine/],
    ["carbon-fibre plate", /fibres/],
    ["plastic", /data sheet/],
    ["clear plastic 3 mm", /data sheet/],
    ["mystery offcut", /data sheet/],
    ["bioplastic", /data sheet/],
    ["closed-cell board", /chlorine/],
    ["foamed board, white", /chlorine/],
    ["twin-wall roof sheet", /fire/],
    ["shatterproof glazing", /fire/],
  ])("%s is refused whatever it is called besides", (name, why) => {
    for (const kind of ["birch-ply", "cast-acrylic", "plastic"]) expect(refusalOf(name, kind)).toMatch(why);
  });

  it("takes no plastic as wood, and one that is known as what it is", () => {
    for (const name of ["acetal", "POM", "PET sheet", "clear acrylic", "polypropylene", "silicone"]) {
      expect(refusalOf(name, "birch-ply")).toMatch(/That is a plastic/);
      expect(refusalOf(name, "plastic")).toBeUndefined();
    }
    expect(refusalOf("another plastic, by its sheet", "plastic")).toMatch(/name it/);
    expect(materialWord("gasket stuff", "plastic").is).toBe("unknown-plastic");
  });

  it.each(["Brightex", "Vitrolan 3", "board", "sheet", "stuff from the box", "templates", "3 mm white"])(
    "takes “%s”, which says of nothing what it is, neither as ply nor as card nor as felt",
    (name) => {
      for (const kind of ["birch-ply", "card", "felt", "softwood", "leather", "mdf", "rubber", "slate"])
        expect(refusalOf(name, kind)).toMatch(/does not say what it is|data sheet/);
      expect(materialWord(name, "plastic").is).toBe("unknown-plastic");
      expect(materialWord(name, "unknown-plastic").is).toBe("unknown-plastic");
    },
  );

  it("enters an unknown plastic as one, offered nowhere and cut by no entry, until it has a name", async () => {
    const w = await TestWorkshop.open();
    await w.ladder(14, true);
    const add = async (fields: Record<string, string>) => {
      const form = new FormData();
      for (const [k, v] of Object.entries(fields)) form.set(k, v);
      return newMaterial(w.services, (await w.look()).machine, new FormReader(form));
    };
    expect(await add({ kind: "plastic", name: "Brightex", thicknessMm: "3", usualSpeedMmPerS: "9", usualSetPercent: "60" })).toMatchObject({
      said: expect.stringMatching(/do not cut until you know/),
    });
    const g = await w.look();
    const [found] = g.materials.filter((m) => m.kind === "unknown-plastic");
    expect([found?.name, found?.hidden]).toEqual(["Brightex: unknown plastic: do not cut until you know", true]);
    const fields = { materialId: String(found?.id), speedMmPerS: "9", setPercent: "60" };
    expect(gateView(g, new URLSearchParams(fields)).answer).toBeUndefined();
    const form = new FormData();
    for (const [k, v] of Object.entries({ ...fields, kind: "cut", result: "through", requestKey: "cut-00001" })) form.set(k, v);
    expect(await keepEntry(w.services, "larkspur", new FormReader(form))).toMatchObject({
      kept: undefined,
      errors: { materialId: expect.stringMatching(/Do not cut/) },
    });
  });

  it.each([
    ["birch ply", "birch-ply"],
    ["pear veneer", "veneer"],
    ["card templates", "card"],
    ["oak board", "birch-ply"],
    ["Cork, 4 mm", "softwood"],
    ["absorbent felt", "felt"],
    ["spruce, best", "softwood"],
    ["vegetable-tanned leather", "leather"],
    ["cast acrylic", "cast-acrylic"],
    ["card, pale", "card"],
    ["laser rubber", "rubber"],
    ["solid-surface composite", "composite"],
    ["slate, engraved", "slate"],
    ["paper for bellows", "card"],
    ["ash veneer", "veneer"],
    ["carpet felt", "felt"],
  ])("%s may be cut", (name, kind) => {
    expect(refusalOf(name, kind)).toBeUndefined();
  });
});
