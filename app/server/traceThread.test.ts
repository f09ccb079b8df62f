import { pathToFileURL } from "node:url";
import { describe, expect, it } from "vitest";
import { type Layout, layouts } from "#catalog/layouts";
import { checkTemplates, faultTemplates, repairTemplates } from "#catalog/subjects/index";
import { INTERVAL_PLY_HOURS } from "#catalog/tasks";
import { traceSpec } from "#core/machine";
import { expandModel, type TraceInput, trace } from "#core/trace";
import { threadTracer } from "./traceThread";

const modelOf = (id: string) =>
  expandModel(traceSpec(layouts[id] as Layout, INTERVAL_PLY_HOURS), faultTemplates, checkTemplates, repairTemplates);
const input: TraceInput = {
  findings: [
    { check: "known-cut", outcome: "hangs" },
    { check: "lens-look", outcome: "film" },
  ],
  maxFaults: 3,
};

describe("a case answered by the thread", () => {
  it("is answered as it is here, for several machines at once, while this thread goes on", async () => {
    const answer = threadTracer(pathToFileURL("workers/trace.source.mjs"), (error) => {
      throw error;
    });
    const models = ["three-mirror", "periscope"].map(modelOf);
    let ticks = 0;
    const ticking = setInterval(() => {
      ticks += 1;
    }, 5);
    const answers = await Promise.all([...models, ...models].map((m) => answer(m, input)));
    clearInterval(ticking);
    expect(answers).toEqual([...models, ...models].map((m) => trace(m, input)));
    expect(ticks).toBeGreaterThan(10);
  }, 30_000);

  it("is answered here when the thread cannot be started, and that is said", async () => {
    const said: unknown[] = [];
    const model = modelOf("three-mirror");
    const answer = threadTracer(pathToFileURL("workers/no-such-file.mjs"), (error) => said.push(error));
    expect((await answer(model, input)).plan).toEqual(trace(model, input).plan);
    expect(said).toHaveLength(1);
  });
});
