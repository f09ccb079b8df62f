/** Forms of the materials: a new one, unless it must never be cut; what one is usually cut at; and taking one off the list. */

import { HARMS, hasWord, knownPlastics, materialKinds, refusedMaterials, unnamedPlastics } from "#catalog/materials";
import { check } from "#store/check";
import { atOnce } from "#store/database";
import { addMaterial, changeMaterial, listMaterials, type Machine, type Material } from "#store/machines";
import type { Services } from "../context";
import { type FormReader, recordId } from "../forms/fields";
import { LIMITS } from "../forms/limits";
import { type Edited, given } from "./edited";
import { MATERIAL_FIELDS } from "./fieldWords";
import { refuseStale } from "./stale";

function materialFields(reader: FormReader) {
  return {
    usualSpeedMmPerS: reader.optionalNumber("usualSpeedMmPerS", "mm/s", "14"),
    usualSetPercent: reader.optionalNumber("usualSetPercent", "%", "60"),
    smokeOptics: reader.optionalNumber("smokeOptics", "", "1"),
    smokeNozzle: reader.optionalNumber("smokeNozzle", "", "1"),
  };
}

const materialSchema = {
  type: "object",
  properties: {
    name: LIMITS.materialName,
    kind: { enum: materialKinds.map((k) => k.id) },
    thicknessMm: LIMITS.thicknessMm,
    usualSpeedMmPerS: LIMITS.usualSpeedMmPerS,
    usualSetPercent: LIMITS.usualSetPercent,
    smokeOptics: LIMITS.smoke,
    smokeNozzle: LIMITS.smoke,
  },
  additionalProperties: false,
} as const;
const newMaterialSchema = { ...materialSchema, required: ["name", "kind", "thicknessMm"] } as const;

/**
 * Why a material must not be cut, by its name and the kind it was called; undefined when nothing is known against it. A plastic is never
 * taken as wood: what it is must be said, and its own data sheet has the last word.
 */
export function refusalOf(name: string | undefined, kindId: string | undefined): string | undefined {
  const text = name ?? "";
  const refused = refusedMaterials.find((r) => hasWord(text, r.words));
  if (refused) return `Not in a laser: ${refused.name} ${HARMS[refused.harm]}.`;
  const kind = materialKinds.find((k) => k.id === kindId);
  const isKnown = hasWord(text, knownPlastics);
  if (!isKnown && (hasWord(text, unnamedPlastics) || (kind?.named && text === kind.name)))
    return "Which plastic is it? Ask for its sheet: some give off chlorine or cyanide. Name it, for example “acetal”.";
  if (isKnown && kind && kind.dirt !== "gum")
    return `That is a plastic, and ${kind.name} is not: choose cast acrylic, or another plastic by its sheet.`;
  if (!isKnown && kind?.named)
    return "This plastic is not known here. Ask for its sheet, and cut it only if its maker says that a laser may.";
  return undefined;
}

export async function newMaterial(services: Services, machine: Machine, reader: FormReader): Promise<Edited> {
  const kind = materialKinds.find((k) => k.id === reader.text("kind"));
  const name = reader.text("name") ?? kind?.name;
  const refused = refusalOf(name, kind?.id);
  if (refused) return { errors: { name: refused } };
  const fields = given({ name, kind: kind?.id, thicknessMm: reader.number("thicknessMm", "mm", "3"), ...materialFields(reader) });
  const checked = check<Parameters<typeof addMaterial>[2]>(newMaterialSchema, fields);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  const added = await addMaterial(services.store, machine.id, checked.value);
  return added ? { said: `${checked.value.name} added.` } : { errors: { name: "There is a material of this name and thickness already." } };
}

/** What the form of a material shows. */
export const settingOf = ({ usualSpeedMmPerS, usualSetPercent, smokeOptics, smokeNozzle }: Material) => ({
  usualSpeedMmPerS,
  usualSetPercent,
  smokeOptics,
  smokeNozzle,
});

export async function editMaterial(services: Services, machine: Machine, reader: FormReader): Promise<Edited> {
  const id = recordId(reader.text("material")) ?? 0;
  const hide = reader.text("hide");
  if (hide !== undefined) {
    await changeMaterial(services.store, machine.id, id, { hidden: hide === "1" });
    return { said: hide === "1" ? "No longer offered; the log keeps it." : "Offered again." };
  }
  const fields = materialFields(reader);
  const checked = check<typeof fields>(materialSchema, given(fields));
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  await atOnce(services.store, async (tx) => {
    const now = (await listMaterials(tx, machine.id)).find((m) => m.id === id);
    if (now) refuseStale(reader, settingOf(now), MATERIAL_FIELDS);
    await changeMaterial(tx, machine.id, id, fields);
  });
  return { said: "Saved." };
}
