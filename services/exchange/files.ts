/** The Workshop's files: what can be taken out, copies on this computer, and what its forms do. */
import { EVENT_KINDS } from "#core/events";
import { copiesOf, listCopies, makeBackup, restoreBackup } from "#store/backups";
import type { FieldErrors } from "#store/check";
import { DatabaseRefused } from "#store/database";
import { listMachines } from "#store/machines";
import { dropSetting, readSetting, writeSettings } from "#store/settings";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { eventKinds } from "../log/kinds";
import { everyMachineCanBeRead, Unsound } from "../machine/sound";
import { dayAndTime } from "../words";
import { headingsOf } from "./csv";
import { COPIES_FOLDER, folderProblem } from "./daily";

const WHY: Readonly<Record<string, string>> = {
  copy: "made by hand",
  daily: "made by itself",
  "before-restore": "before going back to another copy",
  "before-version": "before a new version of the database",
};

/** Copies a workshop could be gone back to where the data folder holds no machine; none where it does. */
export const lostCopies = async (services: Pick<Services, "store" | "folder">): Promise<number> =>
  (await listMachines(services.store)).length > 0 ? 0 : (await copiesView(services)).list.length;

/** The copies on this computer, newest first: beside the database, and in the folder its owner named. */
export async function copiesView({ store, folder }: Pick<Services, "store" | "folder">) {
  const own = await readSetting<string>(store, COPIES_FOLDER);
  const places = [{ place: copiesOf(folder), isOwn: false }, ...(own === undefined ? [] : [{ place: own, isOwn: true }])];
  return {
    folder: own ?? "",
    list: places
      .flatMap(({ place, isOwn }) => seen(place).map((c) => ({ ...c, isOwn })))
      .sort((a, b) => b.atMs - a.atMs)
      .map((c) => ({
        id: `${c.isOwn ? "own" : "here"}/${c.name}`,
        at: dayAndTime(c.atMs),
        words: `${Object.entries(WHY).find(([w]) => c.name.startsWith(w))?.[1] ?? ""}, ${(c.bytes / 1e6).toFixed(1)} MB${c.isOwn ? `, in ${own}` : ""}`,
      })),
  };
}

/** A stick that is out holds none. */
function seen(place: string) {
  try {
    return listCopies(place);
  } catch {
    return [];
  }
}

/** Nothing of it is read where another part of the Workshop is shown. */
export async function filesView(services: Services, isShown: boolean) {
  const tables = EVENT_KINDS.map((kind) => ({ value: kind as string, label: eventKinds[kind].name }));
  return {
    tables: isShown ? tables : [],
    headings: Object.fromEntries(isShown ? EVENT_KINDS.map((kind) => [kind, headingsOf(kind)]) : []) as Readonly<Record<string, string[]>>,
    copies: isShown ? await copiesView(services) : { folder: "", list: [] },
  };
}

type Filed = { readonly said: string } | { readonly errors: FieldErrors };

/** Carries out one form of the files. */
export async function fileByForm(services: Services, reader: FormReader): Promise<Filed> {
  try {
    switch (reader.text("intent")) {
      case "backup":
        return { said: `Copied: ${await makeBackup(services.store, services.folder, services.nowMs())}.` };
      case "restore-copy": {
        const [where, name = ""] = (reader.text("copy") ?? "").split("/");
        const place = where === "own" ? await readSetting<string>(services.store, COPIES_FOLDER) : undefined;
        const before = await restoreBackup(services.store, services.folder, { place, name }, services.nowMs(), (tx) =>
          everyMachineCanBeRead({ ...services, store: tx }),
        );
        return { said: `Restored. How it was before is kept as ${before}.` };
      }
      case "copies-folder": {
        const folder = reader.text("folder");
        const problem = folder === undefined ? undefined : folderProblem(folder);
        if (problem !== undefined) return { errors: { folder: problem } };
        if (folder === undefined) await dropSetting(services.store, COPIES_FOLDER);
        else await writeSettings(services.store, { [COPIES_FOLDER]: folder });
        return {
          said: folder === undefined ? "Saved: copies are kept beside the data only." : `Saved: a copy a day goes to ${folder} as well.`,
        };
      }
      default:
        return { errors: { "": "This form is not known here." } };
    }
  } catch (error) {
    if (error instanceof DatabaseRefused || error instanceof Unsound) return { errors: { "": error.message } };
    throw error;
  }
}
