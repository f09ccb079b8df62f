/**
 * `npm run bench -- beside`: what somebody else waits for Teasel's Today while Larkspur's work is done, against the same with nothing going on,
 * in one run: while 100,000 rows are looked at and taken in; and while records are written, with pages that ask for a new fit each against pages
 * that ask for none.
 */
import prepare from "../../e2e/prepare";
import { demoFolder, startServer } from "../../e2e/server";

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
    `${name.padEnd(52)} ${String(took.length).padStart(5)} times  p50 ${at(took, 0.5).toFixed(1)} ms  p99 ${at(took, 0.99).toFixed(1)}  max ${at(took, 1).toFixed(1)}  p99 against the compared ${(at(took, 0.99) / at(without, 0.99)).toFixed(2)}\n`,
  );
}

/** A record of Larkspur's every quarter of a second, and a page of it asked for anew: Outlook, which needs a fit, or Mixes, which does not. */
async function records(seconds: number, name: string, page: "outlook" | "mixes"): Promise<void> {
  for (let i = 0; i < seconds * 4; i++) {
    const counterHours = String(1600 + i / 10 + (page === "outlook" ? 0 : 10) + (name === "after" ? 30 : 0));
    await post("/larkspur/log", { kind: "hours", counterHours, requestKey: `${name}-${page}-${i}` });
    await (await fetch(`${server.url}/larkspur/${page}`)).arrayBuffer();
    await new Promise((next) => setTimeout(next, 250));
  }
}

const table = `when,material,speed_mm_per_s,set_percent,result,note\n${Array.from(
  { length: ROWS },
  (_, i) => `${new Date(Date.UTC(2023, 0, 1) + i * 600_000).toISOString()},"3 mm birch ply",${8 + (i % 90) / 10},60,through,n`,
).join("\n")}\n`;

/** The same rows, a minute later each: none of them is known yet. */
const later = table.replaceAll(":00.000Z", ":30.000Z");

await today(Promise.resolve(), 2000);
const nothing = await today(Promise.resolve(), 5000);
say("nothing else", nothing, nothing);
await records(2, "warm", "outlook");
const pages = await today(records(5, "before", "mixes"), 5000);
say("while records are written and pages made", pages, nothing);
say("the same of 14 months with a fit for each", await today(records(5, "before", "outlook"), 5000), pages);
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
// While the rows are written a note waits for its turn, and the next after it: what only reads waits for none of them.
const { id: more } = (await fetch(`${server.url}/larkspur/exchange/upload`, {
  method: "POST",
  body: later,
  headers: { ...origin, "content-type": "application/octet-stream" },
}).then((r) => r.json())) as { id: string };
const again = post("/larkspur/exchange/take-in", { intent: "take-in", file: more });
let notes = 0;
const waiting = (async () => {
  for (; notes < 20; notes++)
    if ((await post("/burdock/log", { kind: "note", note: "waits", requestKey: `waits-${notes}` })).status >= 400) return;
})();
say("while they are taken in and notes wait to be saved", await today(Promise.all([again, waiting]), 0), nothing);
if (!(await again).ok || notes < 20) throw new Error("they were not taken in, or a note was not saved");
say("the same of that log with a fit for each", await today(records(5, "after", "outlook"), 5000), pages);
await server.stop();
