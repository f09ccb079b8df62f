/** Files that go out: tables of a kind, the whole workshop, its photos. */
import { Zip, ZipPassThrough } from "fflate";
import type { EventKind } from "#core/events";
import { findPhoto, listPhotos } from "#store/photos";
import { keysInFile } from "#store/portable/keys";
import type { Services } from "../context";
import { gather } from "../machine/gather";
import { csvOf } from "./csv";

export async function tableOf(services: Services, slug: string, kind: EventKind): Promise<string> {
  const g = await gather(services, slug);
  return csvOf(g, kind, await keysInFile(services.store, g.machine.id, kind));
}

/** Every photo in one archive, made piece by piece as it is sent. */
export function photoArchive({ store, folder }: Services): ReadableStream<Uint8Array> {
  return new ReadableStream({
    async start(controller) {
      const zip = new Zip((error, chunk, isLast) => {
        if (error) controller.error(error);
        else controller.enqueue(chunk);
        if (isLast) controller.close();
      });
      for (const { hash } of await listPhotos(store)) {
        const photo = await findPhoto(store, folder, hash);
        if (!photo) continue;
        // Pictures are packed already.
        const file = new ZipPassThrough(`photos/${hash}.${photo.mime.split("/")[1]}`);
        zip.add(file);
        file.push(photo.bytes, true);
      }
      zip.end();
    },
  });
}
