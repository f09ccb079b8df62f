/** Forms of the materials: a new one, unless it must never be cut; what one is usually cut at; and taking one off the list. */

import {
  HARMS,
  hasWord,
  knownNaturals,
  knownPlastics,
  materialKinds,
  refusedMaterials,
  UNKNOWN_PLASTIC,
  unnamedPlastics,
} from "#catalog/materials";
import { check } from "#store/check";
import { atOnce } from "#store/database";
import { addMaterial, changeMaterial, listMaterials, type Machine, type Material } from "#store/machines";
import type { Services } from "../context";
import { type FormReader, recordId } from "../forms/fields";
import { LIMITS } from "../forms/limits";
import { mayBeCut } from "../machine/usual";
import { lowerFirst } from "../words";
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

/** What is known of a material by its name and the kind it was called. */
export type MaterialWord =
  | { readonly is: "fine" }
  /** Never in the machine, or called what it is not: with the reason. */
  | { readonly is: "refused"; readonly because: string }
  /** A plastic that nobody has named yet. */
  | { readonly is: "unknown-plastic"; readonly because: string };

const ASK = "Ask for its data sheet: some plastics give off chlorine or cyanide.";

/**
 * A plastic is never taken as wood, nor is a name that does not say what it is: what it is must be said, and its own data sheet has the
 * last word.
 */
export function materialWord(name: string | undefined, kindId: string | undefined): MaterialWord {
  const text = name ?? "";
  const refused = refusedMaterials.find((r) => hasWord(text, r.words));
  if (refused) return { is: "refused", because: `Do not cut this with a laser: ${lowerFirst(refused.name)} ${HARMS[refused.harm]}.` };
  const kind = materialKinds.find((k) => k.id === kindId);
  const isKnown = hasWord(text, knownPlastics);
  if (kind?.uncut) return { is: "unknown-plastic", because: ASK };
  if (!isKnown && (hasWord(text, unnamedPlastics) || (kind?.named && text === kind.name)))
    return { is: "unknown-plastic", because: `${ASK} Then name it, for example “acetal”.` };
  if (isKnown && kind && kind.dirt !== "gum")
    return { is: "refused", because: `That is a plastic, and ${kind.name} is not: choose cast acrylic, or another plastic by its sheet.` };
  if (!isKnown && kind?.named) return { is: "unknown-plastic", because: `${ASK} Cut it only if its maker says that a laser may.` };
  if (!isKnown && kind && !hasWord(text, knownNaturals))
    return {
      is: "refused",
      because: `“${text}” does not say what it is made of. Say it in the name, for example “${kind.name}, ${text}”. If it is a plastic, or you are not sure, choose “${unknownPlasticName}”.`,
    };
  return { is: "fine" };
}

const unknownPlasticName = materialKinds.find((k) => k.id === UNKNOWN_PLASTIC)?.name ?? "";

/** Why a material must not be cut; undefined when nothing is known against it. */
export function refusalOf(name: string | undefined, kindId: string | undefined): string | undefined {
  const word = materialWord(name, kindId);
  return word.is === "fine" ? undefined : word.because;
}

export async function newMaterial(services: Services, machine: Machine, reader: FormReader): Promise<Edited> {
  const kind = materialKinds.find((k) => k.id === reader.text("kind"));
  const name = reader.text("name") ?? kind?.name;
  const word = materialWord(name, kind?.id);
  if (word.is === "refused") return { errors: { name: word.because } };
  const unknown = word.is === "unknown-plastic";
  const called = unknown && name !== unknownPlasticName ? `${name ?? ""}: ${unknownPlasticName}` : name;
  const fields = given({
    name: called,
    kind: unknown ? UNKNOWN_PLASTIC : kind?.id,
    thicknessMm: reader.number("thicknessMm", "mm", "3"),
    ...materialFields(reader),
  });
  const checked = check<Parameters<typeof addMaterial>[2]>(newMaterialSchema, fields);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  const added = await addMaterial(services.store, machine.id, checked.value);
  if (added && unknown) return { said: `Entered as “${checked.value.name}”. ${word.because} Until then it is offered nowhere.` };
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
    const material = (await listMaterials(services.store, machine.id)).find((m) => m.id === id);
    if (hide !== "1" && material && !mayBeCut(material))
      return { errors: { hide: `Find out which plastic it is, then add it under its name. ${ASK}` } };
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
