/**
 * `npm run bench -- plan-beside`: Today for ten at once while somebody writes every second, once what changes no plan and once what has the
 * solver look for another, on loopback in one run.
 */
import autocannon from "autocannon";
import prepare from "../../e2e/prepare";
import { demoFolder, startServer } from "../../e2e/server";

const SECONDS = 20;

prepare();
const server = await startServer(demoFolder());
const post = (path: string, fields: Record<string, string>) =>
  fetch(server.url + path, {
    method: "POST",
    body: new URLSearchParams(fields),
    headers: { "content-type": "application/x-www-form-urlencoded", origin: server.url },
    redirect: "manual",
  });

async function beside(name: string, write: (k: number) => Promise<unknown>): Promise<number> {
  let k = 0;
  const timer = setInterval(() => void write(k++), 1000);
  const { latency, requests, non2xx } = await autocannon({ url: `${server.url}/larkspur/today`, connections: 10, duration: SECONDS });
  clearInterval(timer);
  process.stdout.write(
    `${name.padEnd(34)} ${requests.average.toFixed(0)} /s, p50 ${latency.p50} ms, p99 ${latency.p99} ms, refused ${non2xx}\n`,
  );
  return latency.p99;
}

const note = (k: number) => post("/larkspur/log", { kind: "note", note: `bench ${k}`, requestKey: `bench-note-${k}` });
const follow = (k: number) => post("/larkspur/plan", { intent: "follow", task: "lens", follows: "own", plyHours: String(5 + (k % 7) / 2) });
await beside("warm-up", note);
const plain = await beside("writing what changes no plan", (k) => note(k + 1000));
const solving = await beside("with the solver at work", follow);
process.stdout.write(`p99 ${(solving / Math.max(1, plain)).toFixed(2)} times (wanted: at most 2)\n`);
await server.stop();
process.exit(0);
