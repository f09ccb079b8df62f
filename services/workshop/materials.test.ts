import { describe, expect, it } from "vitest";
import { refusalOf } from "./materials";

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
    ["plastic", /Ask for its sheet/],
    ["clear plastic 3 mm", /Ask for its sheet/],
    ["mystery offcut", /Ask for its sheet/],
    ["bioplastic", /Ask for its sheet/],
  ])("%s is refused whatever it is called besides", (name, why) => {
    for (const kind of ["birch-ply", "cast-acrylic", "plastic"]) expect(refusalOf(name, kind)).toMatch(why);
  });

  it("takes no plastic as wood, and one that is known as what it is", () => {
    for (const name of ["acetal", "POM", "PET sheet", "clear acrylic", "polypropylene", "silicone"]) {
      expect(refusalOf(name, "birch-ply")).toMatch(/That is a plastic/);
      expect(refusalOf(name, "plastic")).toBeUndefined();
    }
    expect(refusalOf("another plastic, by its sheet", "plastic")).toMatch(/Name it/);
    expect(refusalOf("gasket stuff", "plastic")).toMatch(/not known here/);
  });

  it.each([
    ["birch ply", "birch-ply"],
    ["pear veneer", "veneer"],
    ["templates", "card"],
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
