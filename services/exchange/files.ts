/** The Workshop's files: what can be taken out, copies on this computer, and what its forms do. */
import { EVENT_KINDS } from "#core/events";
import { listBackups, makeBackup, restoreBackup } from "#store/backups";
import type { FieldErrors } from "#store/check";
import { DatabaseRefused } from "#store/database";
import type { Services } from "../context";
import type { FormReader } from "../forms/fields";
import { eventKinds } from "../log/kinds";
import { everyMachineCanBeRead, Unsound } from "../machine/sound";
import { dayAndTime } from "../words";
import { headingsOf } from "./csv";

const WHY: Readonly<Record<string, string>> = {
  copy: "made by hand",
  "before-restore": "before going back to another copy",
  "before-version": "before a new version of the database",
};

/** The copies on this computer, newest first. */
export const copiesView = (services: Pick<Services, "folder">) =>
  listBackups(services.folder).map((b) => ({
    name: b.name,
    at: dayAndTime(b.atMs),
    words: `${Object.entries(WHY).find(([w]) => b.name.startsWith(w))?.[1] ?? ""}, ${(b.bytes / 1e6).toFixed(1)} MB`,
  }));

/** Nothing of it is read where another part of the Workshop is shown. */
export function filesView(services: Services, isShown: boolean) {
  const tables = EVENT_KINDS.map((kind) => ({ value: kind as string, label: eventKinds[kind].name }));
  return {
    tables: isShown ? tables : [],
    headings: Object.fromEntries(isShown ? EVENT_KINDS.map((kind) => [kind, headingsOf(kind)]) : []) as Readonly<Record<string, string[]>>,
    backups: isShown ? copiesView(services) : [],
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
        const before = await restoreBackup(services.store, services.folder, reader.text("copy") ?? "", services.nowMs(), (tx) =>
          everyMachineCanBeRead({ ...services, store: tx }),
        );
        return { said: `Restored. How it was before is kept as ${before}.` };
      }
      default:
        return { errors: { "": "This form is not known here." } };
    }
  } catch (error) {
    if (error instanceof DatabaseRefused || error instanceof Unsound) return { errors: { "": error.message } };
    throw error;
  }
}
