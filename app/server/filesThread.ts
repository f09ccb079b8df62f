/** Files taken in by a thread of their own. */
import { transfer } from "comlink";
import type { Services } from "#services/context";
import type { Importer } from "#services/exchange/importer";
import { besideOwnWriter } from "#store/database";
import { SharedCourse } from "../../workers/course";
import { arrived } from "../../workers/failure";
import type { FilesThread } from "../../workers/files";
import { threadOf } from "./thread";

/** Takes files in, and makes the copy of the day. */
export function threadImporter({ store, folder, nowMs }: Services, start: URL): Importer & { readonly copyDaily: () => Promise<void> } {
  const ask = threadOf<FilesThread>(start, { folder });
  const courses = new Map<string, SharedCourse>();
  return {
    look: (slug, bytes, kind, gone) =>
      besideOwnWriter(store, async () => {
        const course = new SharedCourse();
        if (gone?.aborted) course.stop();
        gone?.addEventListener("abort", () => course.stop(), { once: true });
        return arrived(
          await ask((files) => files.look(nowMs(), slug, transfer(bytes, [bytes.buffer as ArrayBuffer]), kind, course.memory)),
        );
      }),
    takeIn: (id) =>
      besideOwnWriter(store, async () => {
        const course = new SharedCourse();
        courses.set(id, course);
        try {
          return arrived(await ask((files) => files.takeIn(nowMs(), id, course.memory)));
        } finally {
          courses.delete(id);
        }
      }),
    copyDaily: () => besideOwnWriter(store, async () => arrived(await ask((files) => files.copy(nowMs())))),
    share: (id) => courses.get(id)?.share,
    stop: (id) => courses.get(id)?.stop(),
  };
}
