/** The forms of the sums: what a machine's loop, duct and bed are, and readings that go into the log. */
import { type Fittings, fittingsSchema, type Sums } from "#core/machine";
import { check } from "#store/check";
import { changeMachine } from "#store/machines";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { keepEntry } from "../log/keepEntry";
import type { Gathered } from "../machine/gathered";
import { startingLayout } from "../machine/trade";
import { betweenHere } from "../units";

export type SumsActed = { readonly said: string } | { readonly errors: Readonly<Record<string, string>> };

/** What a form that went into the log says; it is empty then. */
export const LOGGED = "Saved in the log.";

/** What each figure is, in its unit, what it looks like and what it may be. */
const FIGURES: {
  readonly [K in keyof Sums]-?: readonly [unit: string, example: string, least: number, most: number, why: (range: string) => string];
} = {
  loopL: ["L", "10", 0.1, 500, (r) => `A loop holds ${r}: measure it by what goes in at a fill.`],
  nightC: ["°C", "-9", -60, 40, (r) => `A coldest night lies ${r}.`],
  ductMm: ["mm", "100", 20, 1000, (r) => `A duct is ${r} wide inside.`],
  openCm2: ["cm²", "200", 1, 100_000, (r) => `The open area lies ${r}: gaps and inlets together.`],
  cabinetL: ["L", "216", 1, 20_000, (r) => `A cabinet holds ${r}: width × depth × height.`],
  makerM3h: ["m³/h", "150", 1, 20_000, (r) => `It lies ${r}, as the maker's manual says.`],
  cellMm: ["mm", "6", 0.5, 200, (r) => `A cell is ${r} wide.`],
  bedHeightMm: ["mm", "10", 0.5, 200, (r) => `A bed is ${r} high.`],
  sprayerL: ["L", "0.75", 0.05, 50, (r) => `A sprayer holds ${r}.`],
};

export async function actOnSums(services: Services, g: Gathered, reader: FormReader): Promise<SumsActed> {
  if (reader.text("intent") === "sums") return saveSums(services, g, reader);
  const kept = await keepEntry(services, g.machine.slug, reader);
  if (kept.kept === "new") return { said: LOGGED };
  return { errors: kept.kept === undefined || kept.kept === "meanwhile" ? kept.errors : { "": "Nothing was saved." } };
}

/** Saves the figures a form shows; one that is emptied is not known any more. */
async function saveSums(services: Services, g: Gathered, reader: FormReader): Promise<SumsActed> {
  const shown = reader.all("figure").filter((f): f is keyof Sums => Object.hasOwn(FIGURES, f));
  const errors: Record<string, string> = {};
  const told: Record<string, number | undefined> = {};
  for (const f of shown) {
    const [unit, example, least, most, why] = FIGURES[f];
    const value = reader.optionalNumber(f, unit, example);
    if (value !== undefined && (value < least || value > most)) errors[f] = why(betweenHere(least, most, unit));
    told[f] = value;
  }
  const wrong = { ...reader.errors, ...errors };
  if (Object.keys(wrong).length > 0) return { errors: wrong };
  let refused: Readonly<Record<string, string>> | undefined;
  await changeMachine(services.store, g.machine.id, (now) => {
    const fittings: Fittings = now.fittings ?? startingLayout(now.layout).fittings;
    const sums = Object.fromEntries(Object.entries({ ...fittings.sums, ...told }).filter(([, v]) => v !== undefined));
    const checked = check<Fittings>(fittingsSchema, { ...fittings, sums });
    if (checked.ok) return { fittings: checked.value };
    refused = checked.errors;
    return {};
  });
  return refused ? { errors: refused } : { said: "Saved." };
}
