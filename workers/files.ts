/** The thread that takes files in: reads, checks and writes them over a connection of its own, so that no page waits for it. */
import { parentPort, workerData } from "node:worker_threads";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import type { EventKind } from "#core/events";
import type { Services } from "#services/context";
import { copyDaily } from "#services/exchange/daily";
import { lookAtFile, takeIn } from "#services/exchange/importFile";
import { joinStore } from "#store/database";
import { SharedCourse } from "./course";
import { answered } from "./failure";

const { folder } = workerData as { readonly folder: string };

/** A connection for one piece of work: what is kept beside it cannot grow old under another thread's writes. */
async function withStore<T>(nowMs: number, work: (services: Services) => Promise<T>): Promise<T> {
  const store = joinStore(folder);
  try {
    return await work({ store, folder, nowMs: () => nowMs });
  } finally {
    await store.destroy();
  }
}

const api = {
  look: (nowMs: number, slug: string, bytes: Uint8Array, kind: EventKind | undefined, memory: SharedArrayBuffer) =>
    answered(() => withStore(nowMs, (services) => lookAtFile(services, slug, bytes, kind, new SharedCourse(memory)))),
  takeIn: (nowMs: number, id: string, memory: SharedArrayBuffer) =>
    answered(() => withStore(nowMs, (services) => takeIn(services, id, new SharedCourse(memory)))),
  copy: (nowMs: number) => answered(() => withStore(nowMs, copyDaily)),
};

export type FilesThread = typeof api;

if (!parentPort) throw new TypeError("this file is the start of a thread");
expose(api, nodeEndpoint(parentPort));
