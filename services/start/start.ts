/** First start: a machine with its hours and one material, all at once. */
import { layouts, RATED_TUBE_HOURS } from "#catalog/layouts";
import { materialKinds } from "#catalog/materials";
import { TUBES, tubeKindOf } from "#core/machine";
import { check, type FieldErrors } from "#store/check";
import { addMachine, listMachines } from "#store/machines";
import { once, rowKey } from "#store/sent";
import type { Services } from "../context";
import { type FormReader, sentAs } from "../forms/fields";
import { startingLayout } from "../machine/trade";
import { refusalOf } from "../workshop/materials";
import { FITTING_WORDS } from "../workshop/words";
import { type FirstMachine, firstMachineSchema } from "./schema";

/** What the form offers. */
export function startView() {
  return {
    layouts: Object.values(layouts).map(({ id, name, describe, ratedPowerW, fittings }) => ({
      id,
      name,
      describe,
      ratedPowerW,
      tube: tubeKindOf(fittings),
    })),
    tubes: TUBES.map((t) => ({ value: t, label: FITTING_WORDS.tube[t], ratedTubeHours: RATED_TUBE_HOURS[t] })),
    kinds: materialKinds.filter((k) => !k.uncut).map((k) => ({ value: k.id, label: k.name })),
  };
}

/** The machine the bare address leads to; undefined on an empty database. */
export async function firstMachine(services: Services): Promise<string | undefined> {
  return (await listMachines(services.store))[0]?.slug;
}

export async function startByForm(
  services: Services,
  reader: FormReader,
): Promise<{ readonly slug: string; readonly next: FirstMachine["next"] } | { readonly errors: FieldErrors }> {
  const noCounter = reader.text("noCounter") !== undefined;
  const input = {
    name: reader.text("name"),
    layout: reader.text("layout"),
    ratedPowerW: reader.number("ratedPowerW", "W", "80"),
    tube: reader.text("tube"),
    // Without a counter its hours come from the jobs; what it ran before may not be known.
    tubeHours: noCounter ? (reader.optionalNumber("tubeHours", "h", "1060") ?? 0) : reader.number("tubeHours", "h", "1060"),
    ratedTubeHours: reader.number("ratedTubeHours", "h", "3000"),
    materialName: materialKinds.find((k) => k.id === reader.text("materialKind"))?.name,
    materialKind: reader.text("materialKind"),
    thicknessMm: reader.number("thicknessMm", "mm", "3"),
    usualSpeedMmPerS: reader.optionalNumber("usualSpeedMmPerS", "mm/s", "14"),
    usualSetPercent: reader.optionalNumber("usualSetPercent", "%", "60"),
    next: reader.text("next"),
  };
  const own = reader.text("materialName");
  const name = own ?? input.materialName;
  const refused = refusalOf(name, input.materialKind);
  if (refused) reader.errors.materialName = refused;
  const plain = Object.fromEntries(Object.entries({ ...input, materialName: name }).filter(([, v]) => v !== undefined));
  const checked = check<FirstMachine>(firstMachineSchema, plain);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  const m = checked.value;
  const machine = {
    name: m.name,
    layout: m.layout,
    ratedPowerW: m.ratedPowerW,
    ratedTubeHours: m.ratedTubeHours,
    tubeHours: m.tubeHours,
    ...(m.tube === undefined && !noCounter
      ? {}
      : {
          fittings: {
            ...startingLayout(m.layout).fittings,
            ...(m.tube === undefined ? {} : { tube: m.tube }),
            ...(noCounter ? { counter: "none" as const } : {}),
          },
        }),
    material: {
      name: m.materialName,
      kind: m.materialKind,
      thicknessMm: m.thicknessMm,
      usualSpeedMmPerS: m.usualSpeedMmPerS,
      usualSetPercent: m.usualSetPercent,
    },
  };
  const sent = sentAs("start", reader);
  const nowMs = services.nowMs();
  const slug = await once(services.store, sent, nowMs, (tx) => addMachine(tx, machine, rowKey(sent), nowMs));
  return { slug, next: m.next };
}
