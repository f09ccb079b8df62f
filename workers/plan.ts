/** The thread that looks for the plan that takes least, so that no page waits behind the solver. */
import { parentPort } from "node:worker_threads";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";
import { leastPlan, type Plan, type PlanInstance } from "#core/plan";
import { highsSolver } from "#services/plan/highs";

const api = {
  /** What it found in this time counts. */
  least: async (instance: PlanInstance, seconds: number): Promise<Plan> => leastPlan(instance, await highsSolver(seconds)),
};

export type PlanThread = typeof api;

if (!parentPort) throw new TypeError("this file is the start of a thread");
expose(api, nodeEndpoint(parentPort));
