/** What its owner counted on the workshop's shelf; what was used since is counted down from the log, never stored. */
import { supplies } from "#catalog/supplies";
import { type Shelf, type Stock, stockSchema } from "#core/supplies";
import { check } from "#store/check";
import { atOnce } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { unitHere, withUnit } from "../units";

/** Setting that keeps the shelf. */
export const SUPPLIES = "supplies";

export const shelfOf = async ({ store }: Pick<Services, "store">): Promise<Shelf> => (await readSetting<Shelf>(store, SUPPLIES)) ?? {};

export type Counted = { readonly said: string } | { readonly errors: Readonly<Record<string, string>> };

/** Writes down what there is of one supply. */
export async function countByForm(services: Services, reader: FormReader): Promise<Counted> {
  const supply = supplies.find((s) => s.id === reader.text("supply"));
  if (!supply) return { errors: { supply: "Choose what you counted." } };
  const [, unit] = supply.unit;
  const amount = reader.number("amount", unit, String(supply.pack));
  const pack = reader.optionalNumber("pack", unit, String(supply.pack));
  const price = reader.optionalNumber("price", "a pack", "12");
  const least = reader.optionalNumber("least", unit, String(supply.least));
  if (pack === 0) reader.errors.pack = "A pack holds more than nothing. Leave it empty where you do not know.";
  if (Object.keys(reader.errors).length > 0) return { errors: reader.errors };
  const given = Object.fromEntries(Object.entries({ amount, pack, price, least }).filter(([, v]) => v !== undefined));
  const checked = check<Stock>(stockSchema, { ...given, sinceMs: services.nowMs() });
  if (!checked.ok) return { errors: checked.errors };
  await atOnce(services.store, async (store) => {
    await writeSettings(store, { [SUPPLIES]: { ...(await shelfOf({ store })), [supply.id]: checked.value } });
  });
  return {
    said: `${supply.name}: ${unitHere(unit) === unit ? `${amount} ${amount === 1 ? supply.unit[0] : unit}` : withUnit(amount ?? 0, unit)} on the shelf.`,
  };
}
