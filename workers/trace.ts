/** The thread that answers cases, so that nobody's page waits behind a trace. A machine's model is sent once and kept under its key. */
import { parentPort } from "node:worker_threads";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";

const models = new Map<number, TraceModel>();
/** More machines than a workshop has. */
const MOST_MODELS = 40;

const api = {
  know: (key: number, model: TraceModel): void => {
    if (models.size >= MOST_MODELS) models.clear();
    models.set(key, model);
  },
  /** Undefined where the model is not known, or not any more. */
  answer: (key: number, input: TraceInput): TraceAnswer | undefined => {
    const model = models.get(key);
    return model && trace(model, input);
  },
};

export type TraceThread = typeof api;

if (!parentPort) throw new TypeError("this file is the start of a thread");
expose(api, nodeEndpoint(parentPort));
