/**
 * Taking files in as a place sees it: a look, then all of it or nothing, with its share asked for and a stop meanwhile. Where it is done
 * is the server's affair: in a thread of its own, so that nobody waits for a large file.
 */
import type { EventKind } from "#core/events";
import type { Services } from "../context";
import { type Looked, lookAtFile, type TakenIn, takeIn } from "./importFile";

export interface Importer {
  /** What taking the file in would change, or what is wrong in it. `slug` is the machine a table belongs to; whoever sent it may go. Throws NotHere. */
  look(slug: string, bytes: Uint8Array, kind: EventKind | undefined, gone?: AbortSignal): Promise<Looked>;
  /** Takes in what was looked at. */
  takeIn(id: string): Promise<TakenIn>;
  /** Share written so far, 0 to 1; undefined when it is not being taken in. */
  share(id: string): number | undefined;
  /** Asks it to stop. What comes of it is the answer of `takeIn`. */
  stop(id: string): void;
}

/** In the thread that asks. */
export function importerHere(services: Services): Importer {
  return {
    look: (slug, bytes, kind) => lookAtFile(services, slug, bytes, kind),
    takeIn: (id) => takeIn(services, id),
    share: () => undefined,
    stop: () => undefined,
  };
}
