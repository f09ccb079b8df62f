/** A thread of the server's own, started when it is first asked and anew after it fell. */
import { Worker } from "node:worker_threads";
import { type Remote, wrap } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";

/** Asks the thread; throws when it falls meanwhile, since then no answer comes. */
export type Ask<Api> = <T>(work: (api: Remote<Api>) => Promise<T>) => Promise<T>;

export function threadOf<Api>(start: URL, workerData: unknown): Ask<Api> {
  let running: { readonly api: Remote<Api>; readonly fallen: Promise<never> } | undefined;
  const begin = () => {
    const worker = new Worker(start, { workerData });
    const fallen = new Promise<never>((_, fail) => {
      worker.once("error", fail);
      worker.once("exit", (code) => fail(new Error(`the thread of ${start.pathname} ended with ${code}`)));
    });
    fallen.catch(() => {
      running = undefined;
    });
    worker.unref();
    return { api: wrap<Api>(nodeEndpoint(worker)), fallen };
  };
  return (work) => {
    running ??= begin();
    return Promise.race([work(running.api), running.fallen]);
  };
}
