/** What the Workshop's forms do to a machine: each reads its fields, checks them against the one schema, and saves whole or not at all. */
import type { AppLoadContext } from "react-router";
import { materialKinds, refusedMaterials } from "#catalog/materials";
import { STATION_ROLES, type StationRole } from "#core/beam";
import {
  addStation,
  type Fittings,
  fittingsSchema,
  orderStations,
  type Path,
  type PathStation,
  pathProblems,
  pathStationSchema,
  removeStation,
  restoreStation,
  standing,
} from "#core/machine";
import { atOnce } from "#store/database";
import {
  addMaterial,
  changeMachine,
  changeMaterial,
  listMaterials,
  type Machine,
  type Material,
  stationsWithHistory,
} from "#store/machines";
import { knownPhotos } from "#store/photos";
import { check, type FieldErrors, type FormReader } from "../../server/forms";
import { recordId } from "../../server/saving";
import { startingLayout } from "../trade";
import { FITTING_FIELDS, type FieldWords, MATERIAL_FIELDS, NAMEPLATE_FIELDS, STATION_FIELDS } from "./fieldWords";

/** `stale`: another device changed the same thing after the form was made; what it changed in words, and what the form is made from now. */
export type Edited =
  | { readonly said: string }
  | { readonly errors: FieldErrors; readonly stale?: { readonly changed: readonly string[]; readonly madeFrom: string } };

/** A path that cannot be one: thrown inside the transaction, so that nothing is saved. */
class NoPath extends Error {}

/** Thrown inside the transaction, so that nothing is saved over what another device saved. */
class Stale extends Error {
  constructor(
    readonly changed: readonly string[],
    readonly madeFrom: string,
  ) {
    super("changed meanwhile");
  }
}

/**
 * Refuses a form that was made from another state than the present one: nothing that another device saved is overwritten unasked. The
 * form carries what it was made from; sent once more with what it is made from now, it is taken.
 */
function refuseStale(reader: FormReader, now: unknown, words: FieldWords): void {
  const madeFrom = versionText(now);
  const before = reader.text("madeFrom");
  if (before === madeFrom) return;
  if (before === undefined) throw new Stale(["This page is older than the form it shows."], madeFrom);
  throw new Stale(differences(before, now, words), madeFrom);
}

/** The state a form is made from, as text the form can carry. */
export function versionText(state: unknown): string {
  return JSON.stringify(state, (_key, value: unknown) =>
    value !== null && typeof value === "object" && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
}

function differences(before: string, now: unknown, words: FieldWords): string[] {
  let read: unknown;
  try {
    read = JSON.parse(before);
  } catch {
    // Not one of ours; it is no less stale for that.
  }
  if (typeof read !== "object" || read === null) return ["It was changed."];
  const then = read as Record<string, unknown>;
  const present = now as Record<string, unknown>;
  const say = (field: string, value: unknown): string => {
    if (Array.isArray(value)) return value.map((v) => say(field, v)).join(", ") || "none";
    if (value === true) return "yes";
    return value === undefined ? "empty" : (words[field]?.values?.[String(value)] ?? String(value)).slice(0, 80);
  };
  return [...new Set([...Object.keys(then), ...Object.keys(present)])]
    .filter((field) => versionText(then[field] ?? null) !== versionText(present[field] ?? null))
    .map((field) => `${words[field]?.name ?? field}: now ${say(field, present[field])}, was ${say(field, then[field])}`);
}

async function unlessStale(work: () => Promise<Edited>): Promise<Edited> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof Stale)) throw error;
    return {
      errors: {},
      stale: { changed: error.changed, madeFrom: error.madeFrom },
    };
  }
}

const pathOf = (m: Machine): Path => m.path ?? startingLayout(m.layout).path;
const fittingsOf = (m: Machine): Fittings => m.fittings ?? startingLayout(m.layout).fittings;

async function editPath(context: AppLoadContext, machine: Machine, edit: (path: Path) => Path, said: string): Promise<Edited> {
  try {
    await changeMachine(context.store, machine.id, (now) => {
      const path = edit(pathOf(now));
      const problems = pathProblems(path);
      if (problems.length > 0) throw new NoPath(problems.join(" "));
      return { path };
    });
    return { said };
  } catch (error) {
    if (error instanceof NoPath || error instanceof RangeError) return { errors: { path: `${error.message} Nothing was changed.` } };
    throw error;
  }
}

/** Fields of a form that are left out of a record when they are empty. */
function given<T extends object>(fields: T): Partial<T> {
  return Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined)) as Partial<T>;
}

function stationFields(reader: FormReader, role: StationRole): Record<string, unknown> {
  return given({
    name: reader.text("name"),
    coating: reader.text("coating"),
    mount: reader.text("mount"),
    apertureMm: reader.number("apertureMm", "mm", "20"),
    distanceMm: role === "tube" ? 0 : reader.number("distanceMm", "mm", "150"),
    travelMm: role === "tube" ? 0 : reader.number("travelMm", "mm", "600"),
    transmission: percent(reader.optionalNumber("transmissionPercent", "%", "98.5")),
    enclosed: reader.text("enclosed") === "1" ? true : undefined,
    panel: reader.text("panel"),
    warranty: reader.text("warranty") === "1" ? true : undefined,
    keys: reader.text("keys"),
    gantry: reader.text("gantry"),
    wayRound: reader.text("wayRound"),
    wayRoundPhoto: reader.text("wayRoundPhoto"),
    toolPlace: reader.text("toolPlace"),
    spares: reader.optionalNumber("spares", "", "1"),
  });
}
const percent = (value: number | undefined) => (value === undefined ? undefined : value / 100);

async function editStation(context: AppLoadContext, machine: Machine, reader: FormReader): Promise<Edited> {
  const id = reader.text("station") ?? "";
  const before = pathOf(machine).find((s) => s.id === id);
  if (!before) return { errors: { path: "This station is not on the path any more." } };
  const fields = stationFields(reader, before.role);
  const checked = check<PathStation>(pathStationSchema, { id: before.id, role: before.role, ...fields });
  if (!checked.ok || Object.keys(reader.errors).length > 0) {
    const { transmission, ...errors } = checked.ok ? {} : (checked.errors as Record<string, string>);
    return { errors: { ...errors, ...(transmission ? { transmissionPercent: "Between 50 and 100 %." } : {}), ...reader.errors } };
  }
  const photo = checked.value.wayRoundPhoto;
  if (photo && !(await knownPhotos(context.store, [photo])).has(photo)) return { errors: { wayRoundPhoto: "That photo is not here." } };
  // Written anew rather than merged, so that an emptied field is empty.
  return editPath(
    context,
    machine,
    (path) => {
      const now = path.find((s) => s.id === id);
      if (!now) throw new RangeError("This station is not on the path any more.");
      refuseStale(reader, now, STATION_FIELDS);
      return path.map((s) => (s.id === id ? { ...checked.value, ...(s.hidden ? { hidden: true } : {}) } : s));
    },
    `${checked.value.name} saved.`,
  );
}

/** Fields of the fittings' form; the shelf has a form of its own. */
export const shelfOf = (fittings: Fittings) => ({ agents: fittings.agents ?? [] });
export const withoutShelf = ({ agents: _, ...fittings }: Fittings) => fittings;

async function editFittings(
  context: AppLoadContext,
  machine: Machine,
  reader: FormReader,
  part: (fittings: Fittings) => object,
  change: Partial<Record<keyof Fittings, unknown>>,
): Promise<Edited> {
  let errors: FieldErrors | undefined;
  await changeMachine(context.store, machine.id, (now) => {
    refuseStale(reader, part(fittingsOf(now)), FITTING_FIELDS);
    const checked = check<Fittings>(fittingsSchema, { ...fittingsOf(now), ...change });
    if (checked.ok) return { fittings: checked.value };
    errors = checked.errors;
    return {};
  });
  return errors ? { errors } : { said: "Saved." };
}

/** The order of the stations on the path, as the form that changes it carries it. */
export const orderOf = (path: Path): string =>
  standing(path)
    .map((s) => s.id)
    .join(",");

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
    name: { type: "string", minLength: 1, maxLength: 60 },
    kind: { enum: materialKinds.map((k) => k.id) },
    thicknessMm: { type: "number", exclusiveMinimum: 0, maximum: 60 },
    usualSpeedMmPerS: { type: "number", exclusiveMinimum: 0, maximum: 2000 },
    usualSetPercent: { type: "number", exclusiveMinimum: 0, maximum: 100 },
    smokeOptics: { type: "number", minimum: 0, maximum: 20 },
    smokeNozzle: { type: "number", minimum: 0, maximum: 20 },
  },
  additionalProperties: false,
} as const;
const newMaterialSchema = { ...materialSchema, required: ["name", "kind", "thicknessMm"] } as const;

/** Why a material must not be cut, by its name; undefined when nothing is known against it. */
export function refusalOf(name: string | undefined): string | undefined {
  const found = refusedMaterials.find((r) => new RegExp(r.pattern, "i").test(name ?? ""));
  return found && `Not in a laser: ${found.because}`;
}

async function newMaterial(context: AppLoadContext, machine: Machine, reader: FormReader): Promise<Edited> {
  const kind = materialKinds.find((k) => k.id === reader.text("kind"));
  const name = reader.text("name") ?? kind?.name;
  const refused = refusalOf(name);
  if (refused) return { errors: { name: refused } };
  const fields = given({ name, kind: kind?.id, thicknessMm: reader.number("thicknessMm", "mm", "3"), ...materialFields(reader) });
  const checked = check<Parameters<typeof addMaterial>[2]>(newMaterialSchema, fields);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  const added = await addMaterial(context.store, machine.id, checked.value);
  return added ? { said: `${checked.value.name} added.` } : { errors: { name: "There is a material of this name and thickness already." } };
}

/** What the form of a material shows. */
export const settingOf = ({ usualSpeedMmPerS, usualSetPercent, smokeOptics, smokeNozzle }: Material) => ({
  usualSpeedMmPerS,
  usualSetPercent,
  smokeOptics,
  smokeNozzle,
});

async function editMaterial(context: AppLoadContext, machine: Machine, reader: FormReader): Promise<Edited> {
  const id = recordId(reader.text("material")) ?? 0;
  const hide = reader.text("hide");
  if (hide !== undefined) {
    await changeMaterial(context.store, machine.id, id, { hidden: hide === "1" });
    return { said: hide === "1" ? "No longer offered; the log keeps it." : "Offered again." };
  }
  const fields = materialFields(reader);
  const checked = check<typeof fields>(materialSchema, given(fields));
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  await atOnce(context.store, async (tx) => {
    const now = (await listMaterials(tx, machine.id)).find((m) => m.id === id);
    if (now) refuseStale(reader, settingOf(now), MATERIAL_FIELDS);
    await changeMaterial(tx, machine.id, id, fields);
  });
  return { said: "Saved." };
}

const machineSchema = {
  type: "object",
  properties: {
    name: { type: "string", minLength: 1, maxLength: 40 },
    ratedPowerW: { type: "number", minimum: 5, maximum: 500 },
    ratedTubeHours: { type: "number", minimum: 100, maximum: 100000 },
  },
  required: ["name", "ratedPowerW", "ratedTubeHours"],
  additionalProperties: false,
} as const;

/** What the machine's own form shows. */
export const nameplateOf = ({ name, ratedPowerW, ratedTubeHours }: Machine) => ({ name, ratedPowerW, ratedTubeHours });

async function editMachine(context: AppLoadContext, machine: Machine, reader: FormReader): Promise<Edited> {
  const fields = given({
    name: reader.text("name"),
    ratedPowerW: reader.number("ratedPowerW", "W", "80"),
    ratedTubeHours: reader.number("ratedTubeHours", "h", "3000"),
  });
  const checked = check<{ name: string; ratedPowerW: number; ratedTubeHours: number }>(machineSchema, fields);
  if (!checked.ok || Object.keys(reader.errors).length > 0) return { errors: { ...(checked.ok ? {} : checked.errors), ...reader.errors } };
  await changeMachine(context.store, machine.id, (now) => {
    refuseStale(reader, nameplateOf(now), NAMEPLATE_FIELDS);
    return checked.value;
  });
  return { said: "Saved." };
}

/** Carries out one form of the Workshop. */
export const edit = (context: AppLoadContext, machine: Machine, reader: FormReader): Promise<Edited> =>
  unlessStale(() => carryOut(context, machine, reader));

async function carryOut(context: AppLoadContext, machine: Machine, reader: FormReader): Promise<Edited> {
  const id = reader.text("station") ?? "";
  switch (reader.text("intent")) {
    case "order": {
      const ids = (reader.text("order") ?? "").split(",");
      const from = reader.text("madeFrom");
      return editPath(
        context,
        machine,
        (path) => {
          if (from !== orderOf(path)) throw new RangeError("The order was changed on another device: this is how it stands now.");
          return orderStations(path, ids);
        },
        "Order saved.",
      );
    }
    case "add": {
      const role = STATION_ROLES.find((r) => r === reader.text("role"));
      if (!role) return { errors: { path: "Choose what to add." } };
      return editPath(context, machine, (path) => addStation(path, role, reader.text("name")?.slice(0, 40)), "Added. Say how it is held.");
    }
    case "remove": {
      const spoken = await stationsWithHistory(context.store, machine.id);
      const kept = spoken.has(id);
      const said = kept ? "Taken off the path. Its history is kept; bring it back below." : "Taken off the path.";
      return editPath(context, machine, (path) => removeStation(path, id, kept), said);
    }
    case "restore":
      return editPath(context, machine, (path) => restoreStation(path, id), "Back on the path.");
    case "station":
      return editStation(context, machine, reader);
    case "fittings":
      return editFittings(context, machine, reader, withoutShelf, {
        ...given(
          Object.fromEntries(["bearing", "cooling", "lid", "bed", "school", "opticsOrder"].map((f) => [f, reader.text(f)])) as Record<
            string,
            string
          >,
        ),
        extras: reader.all("extra"),
      });
    case "shelf":
      return editFittings(context, machine, reader, shelfOf, { agents: reader.all("agent") });
    case "new-material":
      return newMaterial(context, machine, reader);
    case "material":
      return editMaterial(context, machine, reader);
    case "machine":
      return editMachine(context, machine, reader);
    default:
      return { errors: { "": "This form is not known here." } };
  }
}
