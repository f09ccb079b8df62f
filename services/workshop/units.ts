/** A workshop's choice of units, kept with it. */
import { METRIC, type Units, unitsSchema } from "#core/units";
import { check } from "#store/check";
import type { Store } from "#store/database";
import { readSetting, writeSettings } from "#store/settings";
import type { FormReader } from "../forms/fields";
import { showIn } from "../units";

/** Setting that keeps them. */
export const UNITS = "units";

/** Shows figures from now on as the workshop chose; gives its choice. */
export async function takeUnits(store: Store): Promise<Units> {
  const units = (await readSetting<Units>(store, UNITS)) ?? METRIC;
  showIn(units);
  return units;
}

export async function unitsByForm(
  store: Store,
  reader: FormReader,
): Promise<{ said: string } | { errors: Readonly<Record<string, string>> }> {
  const told = Object.fromEntries(Object.keys(METRIC).map((kind) => [kind, reader.text(kind) ?? ""]));
  const checked = check<Units>(unitsSchema, told);
  if (!checked.ok) return { errors: checked.errors };
  await writeSettings(store, { [UNITS]: checked.value });
  showIn(checked.value);
  return { said: "Saved. What was written down stays as it is; only how it is shown has changed." };
}
