/** Time to serve the pages an owner waits for at the machine, warm, on the demo's fourteen months, against the smallest thing served. */
import prepare from "../e2e/prepare";
import { demoFolder, startServer } from "../e2e/server";

const TIMES = 40;
const BUDGET_MS = 100;

async function medianMs(url: string): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < TIMES + 5; i++) {
    const start = performance.now();
    const reply = await fetch(url);
    await reply.arrayBuffer();
    if (!reply.ok) throw new Error(`${url} answered ${reply.status}`);
    // The first few warm it up.
    if (i >= 5) times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[TIMES / 2] as number;
}

export async function benchPages(): Promise<void> {
  prepare();
  const server = await startServer(demoFolder());
  const form = new URLSearchParams([
    ...["lens", "nozzle", "mirror-4", "rails", "tray"].map((p) => ["part", p]),
    ["requestKey", "bench-round"],
  ]);
  const started = await fetch(`${server.url}/burdock/round`, {
    method: "POST",
    body: form,
    headers: { origin: server.url },
    redirect: "manual",
  });
  const round = started.headers.get("location") ?? "";
  const floor = await medianMs(`${server.url}/mark.svg`);
  const pages = [
    ["a step of an open round", `${server.url}${round}`],
    ["its answers, as devices fetch them", `${server.url}${round}/answers`],
    ["choosing a round", `${server.url}/larkspur/round?scope=full`],
    ["Today", `${server.url}/teasel/today`],
    ["Today with an open trace", `${server.url}/larkspur/today`],
  ] as const;
  process.stdout.write(`pages on the demo's data, warm, ${TIMES} times each; the smallest file served takes ${floor.toFixed(1)} ms\n`);
  for (const [name, url] of pages) {
    const ms = await medianMs(url);
    process.stdout.write(
      `${name.padEnd(36)} median ${ms.toFixed(0).padStart(4)} ms, ${(ms / floor).toFixed(0)} times the floor, ${(ms / BUDGET_MS).toFixed(2)} of ${BUDGET_MS} ms\n`,
    );
  }
  await server.stop();
}
