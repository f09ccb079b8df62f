/** Forms of the beam path: its order, a station more or less, and all that is known of one station. */
import type { StationRole } from "#core/beam";
import { type Path, type PathStation, pathProblems, pathStationSchema, standing } from "#core/machine";
import { check } from "#store/check";
import { changeMachine, type Machine } from "#store/machines";
import { knownPhotos } from "#store/photos";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { startingLayout } from "../machine/trade";
import { type Edited, given } from "./edited";
import { STATION_FIELDS } from "./fieldWords";
import { refuseStale } from "./stale";

/** A path that cannot be one: thrown inside the transaction, so that nothing is saved. */
class NoPath extends Error {}

const pathOf = (m: Machine): Path => m.path ?? startingLayout(m.layout).path;

/** Changes the path as it stands at that moment; a path that cannot be one is refused and nothing saved. */
export async function editPath(services: Services, machine: Machine, edit: (path: Path) => Path, said: string): Promise<Edited> {
  try {
    await changeMachine(services.store, machine.id, (now) => {
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

function stationFields(reader: FormReader, role: StationRole): Record<string, unknown> {
  return given({
    name: reader.text("name"),
    coating: reader.text("coating"),
    mount: reader.text("mount"),
    apertureMm: reader.number("apertureMm", "mm", "20"),
    distanceMm: role === "tube" ? 0 : reader.number("distanceMm", "mm", "150"),
    travelMm: role === "tube" ? 0 : reader.number("travelMm", "mm", "600"),
    transmission: percent(reader.optionalNumber("transmissionPercent", "%", "98.5")),
    beamTo: reader.text("beamTo"),
    screwKind: role === "mirror" ? reader.text("screwKind") : undefined,
    screwPitchMm: role === "mirror" ? reader.optionalNumber("screwPitchMm", "mm", "0.5") : undefined,
    screwArmMm: role === "mirror" ? reader.optionalNumber("screwArmMm", "mm", "40") : undefined,
    enclosed: reader.text("enclosed") === "1" ? true : undefined,
    panel: reader.text("panel"),
    warranty: reader.text("warranty") === "1" ? true : undefined,
    keys: reader.text("keys"),
    gantry: reader.text("gantry"),
    wayRound: reader.text("wayRound"),
    wayRoundPhoto: reader.text("wayRoundPhoto"),
    comesOff: reader.text("comesOff"),
    screws: reader.optionalNumber("screws", "", "4"),
    toolPlace: reader.text("toolPlace"),
    spares: reader.optionalNumber("spares", "", "1"),
  });
}
const percent = (value: number | undefined) => (value === undefined ? undefined : value / 100);

export async function editStation(services: Services, machine: Machine, reader: FormReader): Promise<Edited> {
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
  if (photo && !(await knownPhotos(services.store, [photo])).has(photo)) return { errors: { wayRoundPhoto: "That photo is not here." } };
  // Written anew rather than merged, so that an emptied field is empty.
  return editPath(
    services,
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

/** The order of the stations on the path, as the form that changes it carries it. */
export const orderOf = (path: Path): string =>
  standing(path)
    .map((s) => s.id)
    .join(",");
