/**
 * `npm run bench -- load`: fifty people at once, on loopback. Today, a round's page, and answers of devices; then Today while somebody writes
 * a log entry every second; beside a bare Express server that sends the same HTML, in the same run. `-- --seconds=60` makes it longer.
 */
import { spawn } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import autocannon, { type Options, type Result } from "autocannon";
import prepare from "../../e2e/prepare";
import { demoFolder, emptyFolder, startServer } from "../../e2e/server";

const SECONDS = Number(process.argv.find((a) => a.startsWith("--seconds="))?.split("=")[1] ?? 60);
const CLIENTS = 50;
const FORM = { "content-type": "application/x-www-form-urlencoded" };

const memoryMB = (pid: number) => Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0) / 1024);
const cpuSeconds = (pid: number) => {
  const fields = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]?.split(" ") ?? [];
  return (Number(fields[11]) + Number(fields[12])) / 100;
};

prepare();
const server = await startServer(demoFolder());
const { pid } = JSON.parse(readFileSync(join(server.folder, "in-use.json"), "utf8")) as { pid: number };
const origin = { origin: server.url };
const post = (path: string, fields: Record<string, string>) =>
  fetch(server.url + path, { method: "POST", body: new URLSearchParams(fields), headers: { ...FORM, ...origin }, redirect: "manual" });

const round = (await post("/burdock/round", { part: "lens", requestKey: "bench-round" })).headers.get("location") ?? "";
const html = await (await fetch(`${server.url}/larkspur/today`)).text();
const page = join(emptyFolder(), "today.html");
writeFileSync(page, html);

async function load(name: string, url: string, options: Partial<Options> = {}, seconds = SECONDS): Promise<Result> {
  const [memory, cpu] = [memoryMB(pid), cpuSeconds(pid)];
  const result = await autocannon({ url, connections: CLIENTS, duration: seconds, ...options });
  const { p50, p97_5, p99, max } = result.latency;
  const bad = result.errors + result.timeouts + result.non2xx;
  const n = result.requests.total;
  process.stdout.write(
    `${name.padEnd(44)} ${result.requests.average.toFixed(0).padStart(6)} /s  p50 ${p50} ms  p97.5 ${p97_5}  p99 ${p99}  max ${max}  p99/p50 ${(p99 / Math.max(1, p50)).toFixed(1)}  errors ${bad}` +
      (url.startsWith(server.url)
        ? `  ${((1000 * (cpuSeconds(pid) - cpu)) / n).toFixed(1)} ms processor each  memory ${memory} to ${memoryMB(pid)} MB`
        : "") +
      "\n",
  );
  return result;
}

/** Fifty devices that each give an answer a second, not all at the same moment: how long each answer takes to be kept. */
async function devices(url: string): Promise<void> {
  const [memory, cpu] = [memoryMB(pid), cpuSeconds(pid)];
  const took: number[] = [];
  let bad = 0;
  const device = async (d: number) => {
    await new Promise((done) => setTimeout(done, (1000 * d) / CLIENTS));
    for (let i = 0; i < SECONDS; i++) {
      const start = performance.now();
      const items = [{ stepId: "lens.found", answer: { atMs: 1, note: `${d} ${i}` }, requestKey: `bench-${d}-${i}` }];
      const reply = await fetch(url, {
        method: "POST",
        headers: { "content-type": "application/json", ...origin },
        body: JSON.stringify({ items }),
      });
      await reply.arrayBuffer();
      took.push(performance.now() - start);
      if (!reply.ok) bad += 1;
      await new Promise((done) => setTimeout(done, Math.max(0, 1000 - (performance.now() - start))));
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, (_, d) => device(d)));
  took.sort((a, b) => a - b);
  const at = (share: number) => took[Math.min(took.length - 1, Math.floor(share * took.length))] as number;
  process.stdout.write(
    `${"answers given, one a second and device".padEnd(44)} ${(took.length / SECONDS).toFixed(0).padStart(6)} /s  p50 ${at(0.5).toFixed(1)} ms  p97.5 ${at(0.975).toFixed(1)}  p99 ${at(0.99).toFixed(1)}  max ${at(1).toFixed(0)}  p99/p50 ${(at(0.99) / at(0.5)).toFixed(1)}  errors ${bad}  ${((1000 * (cpuSeconds(pid) - cpu)) / took.length).toFixed(1)} ms processor each  memory ${memory} to ${memoryMB(pid)} MB\n`,
  );
}

process.stdout.write(`${CLIENTS} clients, ${SECONDS} s each; Today is ${Math.round(html.length / 1024)} kB of HTML\n`);
// Once through, so that what is compared is warm on both sides.
for (const path of ["/larkspur/today", round, `${round}/answers`]) await fetch(server.url + path);

const bareServer = spawn(process.execPath, ["--import", "tsx", "judge/bench/bareServer.ts", page], {
  env: { ...process.env, NODE_ENV: "production" },
  stdio: ["ignore", "pipe", "inherit"],
});
const barePort = await new Promise<string>((done) => bareServer.stdout.once("data", (chunk: Buffer) => done(chunk.toString().trim())));
await load("(warming the bare server)", `http://127.0.0.1:${barePort}/`, {}, 3);
const bare = await load("the same HTML from bare Express", `http://127.0.0.1:${barePort}/`);
const today = await load("Today", `${server.url}/larkspur/today`);
await load("a round's page", server.url + round);
await load("answers, as devices ask for them", `${server.url}${round}/answers`);
await devices(`${server.url}${round}/answers`);
let entries = 0;
const writing = setInterval(() => {
  entries += 1;
  void post("/larkspur/log", { kind: "note", note: `entry ${entries}`, requestKey: `bench-note-${entries}` });
}, 1000);
await load("Today, while the log is written every second", `${server.url}/larkspur/today`);
clearInterval(writing);
bareServer.kill();
await server.stop();
process.stdout.write(
  `pages a second against the bare server: ${(today.requests.average / bare.requests.average).toFixed(2)} (wanted: 0.25 or more); p99/p50 wanted: 4 or less\n`,
);
