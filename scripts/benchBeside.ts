/**
 * `npm run bench:beside`: what somebody else waits for Teasel's Today while Larkspur's work is done, against the same with nothing going on,
 * in one run: while 100,000 rows are looked at and taken in, and while each record of a long log asks for a new fit.
 */
import prepare from "../e2e/prepare";
import { demoFolder, startServer } from "../e2e/server";

const ROWS = 100_000;
const EACH_MS = 15;
prepare();
const server = await startServer(demoFolder());
const origin = { origin: server.url };
const post = (path: string, fields: Record<string, string>) =>
  fetch(server.url + path, { method: "POST", body: new URLSearchParams(fields), headers: origin, redirect: "manual" });

/** Asks for Today until the work is done, for `leastMs` at least. */
async function today(work: Promise<unknown>, leastMs: number): Promise<number[]> {
  const took: number[] = [];
  const from = performance.now();
  let done = false;
  void work.finally(() => {
    done = true;
  });
  while (!done || performance.now() - from < leastMs) {
    const start = performance.now();
    await (await fetch(`${server.url}/teasel/today`)).arrayBuffer();
    took.push(performance.now() - start);
    await new Promise((next) => setTimeout(next, EACH_MS));
  }
  return took.sort((a, b) => a - b);
}

const at = (took: readonly number[], share: number) => took[Math.min(took.length - 1, Math.floor(share * took.length))] ?? Number.NaN;
function say(name: string, took: readonly number[], without: readonly number[]): void {
  process.stdout.write(
    `${name.padEnd(52)} ${String(took.length).padStart(5)} times  p50 ${at(took, 0.5).toFixed(1)} ms  p99 ${at(took, 0.99).toFixed(1)}  max ${at(took, 1).toFixed(1)}  p99 against nothing ${(at(took, 0.99) / at(without, 0.99)).toFixed(2)}\n`,
  );
}

/** A note of Larkspur's every quarter of a second; each asks for its Outlook anew, and so for a fit. */
async function records(seconds: number, name: string): Promise<void> {
  for (let i = 0; i < seconds * 4; i++) {
    await post("/larkspur/log", { kind: "hours", counterHours: String(1600 + i / 10), requestKey: `${name}-${i}` });
    await (await fetch(`${server.url}/larkspur/outlook`)).arrayBuffer();
    await new Promise((next) => setTimeout(next, 250));
  }
}

const table = `when,material,speed_mm_per_s,set_percent,result,note\n${Array.from(
  { length: ROWS },
  (_, i) => `${new Date(Date.UTC(2023, 0, 1) + i * 600_000).toISOString()},"3 mm birch ply",${8 + (i % 90) / 10},60,through,n`,
).join("\n")}\n`;

await today(Promise.resolve(), 2000);
const nothing = await today(Promise.resolve(), 5000);
say("nothing else", nothing, nothing);
say("while each record of 14 months asks for a fit", await today(records(5, "before"), 5000), nothing);
const looking = fetch(`${server.url}/larkspur/exchange/upload`, {
  method: "POST",
  body: table,
  headers: { ...origin, "content-type": "application/octet-stream" },
}).then((r) => r.json());
say(`while ${ROWS} rows are looked at`, await today(looking, 0), nothing);
const { id } = (await looking) as { id: string };
const taking = post("/larkspur/exchange/take-in", { intent: "take-in", file: id });
say(`while ${ROWS} rows are taken in`, await today(taking, 0), nothing);
if (!(await taking).ok) throw new Error("they were not taken in");
say("while each record of that log asks for a fit", await today(records(5, "after"), 5000), nothing);
await server.stop();
