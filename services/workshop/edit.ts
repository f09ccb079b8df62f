/** What the Workshop's forms do to a machine: each reads its fields, checks them against the one schema, and saves whole or not at all. */
import { STATION_ROLES } from "#core/beam";
import { addStation, orderStations, removeStation, restoreStation } from "#core/machine";
import { type Machine, stationsWithHistory } from "#store/machines";
import { writeSettings } from "#store/settings";
import type { Services } from "../context";
import { fileByForm } from "../exchange/files";
import type { FormReader } from "../forms/fields";
import { findMachine } from "../machine/gather";
import { BENCH, CURRENCY } from "../machine/settingNames";
import type { Edited } from "./edited";
import { fittingsByForm, shelfByForm } from "./fittings";
import { editMaterial, newMaterial } from "./materials";
import { editMachine } from "./nameplate";
import { editPath, editStation, orderOf } from "./path";
import { unlessStale } from "./stale";
import { unitsByForm } from "./units";
import { ADDED, TAKEN_OFF } from "./words";

/** Carries out one form of the Workshop on a machine. Throws NotHere. */
export async function editByForm(services: Services, slug: string, reader: FormReader): Promise<Edited> {
  const { machine } = await findMachine(services, slug);
  return edit(services, machine, reader);
}

/** Carries out one form of the Workshop. */
export const edit = (services: Services, machine: Machine, reader: FormReader): Promise<Edited> =>
  unlessStale(() => carryOut(services, machine, reader));

async function carryOut(services: Services, machine: Machine, reader: FormReader): Promise<Edited> {
  const id = reader.text("station") ?? "";
  switch (reader.text("intent")) {
    case "order": {
      const ids = (reader.text("order") ?? "").split(",");
      const from = reader.text("madeFrom");
      return editPath(
        services,
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
      let added: string | undefined;
      const edited = await editPath(
        services,
        machine,
        (path) => {
          const next = addStation(path, role, reader.text("name")?.slice(0, 40));
          added = next.find((s) => !path.some((before) => before.id === s.id))?.id;
          return next;
        },
        ADDED,
      );
      return "said" in edited && added !== undefined ? { ...edited, added } : edited;
    }
    case "remove": {
      // Hidden, with or without a history: what was taken off by mistake is brought back as it was.
      const kept = (await stationsWithHistory(services.store, machine.id)).has(id);
      const said = kept ? TAKEN_OFF.withHistory : TAKEN_OFF.bare;
      return editPath(services, machine, (path) => removeStation(path, id), said);
    }
    case "restore":
      return editPath(services, machine, (path) => restoreStation(path, id), "Back on the path.");
    case "station":
      return editStation(services, machine, reader);
    case "fittings":
      return fittingsByForm(services, machine, reader);
    case "shelf":
      return shelfByForm(services, machine, reader);
    case "new-material":
      return newMaterial(services, machine, reader);
    case "material":
      return editMaterial(services, machine, reader);
    case "machine":
      return editMachine(services, machine, reader);
    case "backup":
    case "restore-copy":
    case "copies-folder":
      return fileByForm(services, reader);
    case "bench": {
      await writeSettings(services.store, { [BENCH]: reader.text("bench") === "1" });
      return { said: "Saved." };
    }
    case "currency": {
      const currency = reader.text("currency") ?? "";
      if (currency.length > 8) return { errors: { currency: "At most 8 characters." } };
      await writeSettings(services.store, { [CURRENCY]: currency });
      return { said: "Saved." };
    }
    case "units":
      return unitsByForm(services.store, reader);
    default:
      return { errors: { "": "This form is not known here." } };
  }
}
