/** A shelf at the planned rounds: counted, counted down by what was done, and bought again in time. */
import { describe, expect, it } from "vitest";
import { readWorkshopFile, workshopFile } from "../exchange/workshopFile";
import { FormReader } from "../forms/fields";
import { TestWorkshop } from "../testWorkshop";
import { countByForm } from "./shelf";
import { shoppingText, suppliesView } from "./suppliesView";

const count = async (w: TestWorkshop, fields: Record<string, string>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.set(name, value);
  return countByForm(w.services, new FormReader(data));
};
const swabs = async (w: TestWorkshop) => (await suppliesView(w.services, await w.look())).lines.find((l) => l.id === "fresh-swab");

describe("supplies", () => {
  it("are not known until they are counted, then go down with each clean in the log", async () => {
    const w = await TestWorkshop.worked();
    expect(await swabs(w)).toMatchObject({ left: "not counted yet", low: "", buy: "" });
    expect(await count(w, { supply: "fresh-swab", amount: "200", price: "9,50" })).toEqual({ said: "Swabs: 200 swabs on the shelf." });
    expect(await swabs(w)).toMatchObject({ left: "200 swabs" });
    w.nowMs += 3_600_000;
    await w.log("service", { station: "lens", what: "cleaned" });
    expect(await swabs(w)).toMatchObject({ left: "197 swabs" });
    // What was cleaned before it was counted is in the count.
    await w.log("service", { station: "lens", what: "cleaned" }, 3);
    expect(await swabs(w)).toMatchObject({ left: "197 swabs" });
  });

  it("that will not last are on the list with whole packs and what they cost, and the list as text", async () => {
    const w = await TestWorkshop.worked();
    await count(w, { supply: "fresh-swab", amount: "25", pack: "50", price: "6" });
    const view = await suppliesView(w.services, await w.look());
    const line = view.lines.find((l) => l.id === "fresh-swab");
    expect(line?.low).toMatch(/^low (now|on )/);
    expect(line?.buy).toMatch(/^\d+ × 50 swabs, \d+\.00/);
    expect(shoppingText(view.list, "Tue 1 Dec")).toMatch(/^To buy, Tue 1 Dec\n- Swabs: /);
    expect(view.money).toMatch(/a month/);
  });

  it("are refused with what would be right", async () => {
    const w = await TestWorkshop.open();
    for (const [fields, field, why] of [
      [{ supply: "luck", amount: "3" }, "supply", /Choose/],
      [{ supply: "fresh-swab" }, "amount", /./],
      [{ supply: "fresh-swab", amount: "-3" }, "amount", /./],
      [{ supply: "fresh-swab", amount: "3", pack: "0" }, "pack", /more than nothing/],
    ] as const)
      expect(await count(w, fields)).toMatchObject({ errors: { [field]: expect.stringMatching(why) } });
  });

  it("go out with the workshop's file and come back", async () => {
    const w = await TestWorkshop.worked();
    await count(w, { supply: "fresh-swab", amount: "25" });
    const read = readWorkshopFile(await workshopFile(w.services));
    expect(read).toMatchObject({ file: { supplies: { "fresh-swab": { amount: 25 } } } });
  });
});
