/** The package ships no types for this file of it. */
declare module "comlink/dist/esm/node-adapter.mjs" {
  import type { MessagePort, Worker } from "node:worker_threads";
  import type { Endpoint } from "comlink";
  export default function nodeEndpoint(port: MessagePort | Worker): Endpoint;
}
