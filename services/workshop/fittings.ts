/** Forms of the fittings and of the shelf, which are one record. */
import { type Fittings, fittingsSchema } from "#core/machine";
import { check, type FieldErrors } from "#store/check";
import { changeMachine, type Machine } from "#store/machines";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { startingLayout } from "../machine/trade";
import { type Edited, given } from "./edited";
import { FITTING_FIELDS } from "./fieldWords";
import { refuseStale } from "./stale";

const fittingsOf = (m: Machine): Fittings => m.fittings ?? startingLayout(m.layout).fittings;

/** Fields of the fittings' form; the shelf and the upkeep have forms of their own. */
export const shelfOf = (fittings: Fittings) => ({ agents: fittings.agents ?? [] });
export const withoutShelf = ({ agents: _, upkeep: __, sums: ___, ...fittings }: Fittings) => fittings;

async function editFittings(
  services: Services,
  machine: Machine,
  reader: FormReader,
  part: (fittings: Fittings) => object,
  change: Partial<Record<keyof Fittings, unknown>>,
): Promise<Edited> {
  let errors: FieldErrors | undefined;
  await changeMachine(services.store, machine.id, (now) => {
    refuseStale(reader, part(fittingsOf(now)), FITTING_FIELDS);
    const before = fittingsOf(now);
    const wished = given({ ...before, ...change });
    const checked = check<Fittings>(fittingsSchema, { ...wished, ...upkeepAfter(services, before, wished) });
    if (checked.ok && Object.keys(reader.errors).length === 0) return { fittings: checked.value };
    errors = { ...(checked.ok ? {} : checked.errors), ...reader.errors };
    return {};
  });
  return errors ? { errors } : { said: "Saved." };
}

/** In another room, or with another exhaust, what was found before says little of how often a part is bad now. */
function upkeepAfter(
  services: Services,
  before: Fittings,
  wished: { readonly room?: unknown; readonly exhaust?: unknown },
): Pick<Fittings, "upkeep"> {
  const what = (["room", "exhaust"] as const).find((f) => (before[f] ?? USUAL[f]) !== (wished[f] ?? USUAL[f]));
  return what === undefined ? {} : { upkeep: { ...before.upkeep, shop: { sinceMs: services.nowMs(), what } } };
}
const USUAL = { room: "clean", exhaust: "usual" } as const;

const CHOICES = ["bearing", "cooling", "tube", "lid", "bed", "beamCorner", "room", "exhaust", "counter", "school", "opticsOrder"] as const;

export const fittingsByForm = (services: Services, machine: Machine, reader: FormReader): Promise<Edited> =>
  editFittings(services, machine, reader, withoutShelf, {
    ...given(Object.fromEntries(CHOICES.map((f) => [f, reader.text(f)]))),
    extras: reader.all("extra"),
    manual: reader.text("manual"),
    bedWidthMm: reader.optionalNumber("bedWidthMm", "mm", "900"),
    bedDepthMm: reader.optionalNumber("bedDepthMm", "mm", "600"),
    // Not said is what it was before anybody asked.
    frostMonth: reader.text("frostMonth") === undefined ? undefined : Number(reader.text("frostMonth")),
  });

export const shelfByForm = (services: Services, machine: Machine, reader: FormReader): Promise<Edited> =>
  editFittings(services, machine, reader, shelfOf, { agents: reader.all("agent") });
