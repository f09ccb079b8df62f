/**
 * `npm run bench -- pages`: what a page weighs and costs. Its JavaScript before anything is fetched later, its style sheets, how much it
 * shifts while it comes; and the server's processor time for a page made anew, beside the same page kept, in one run. Before that, how
 * long a start takes to its first answer, beside Node started with nothing to do; and a phone's first visit, `--beside=http://…` in turns with
 * that of another server, of the version before.
 */
import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { type Browser, chromium } from "@playwright/test";
import prepare from "../../e2e/prepare";
import { demoFolder, startServer } from "../../e2e/server";
import config from "../../playwright.config";
import { visits } from "./firstVisit";

const TIMES = 60;
/** Wanted at most: kB of JavaScript, and the shift of the layout. */
const WANTED: Readonly<Record<string, number>> = { Today: 352, Log: 400, Round: 315 };
const WANTED_SHIFT = 0.02;

const cpuMs = (pid: number): number => {
  const fields = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]?.split(" ") ?? [];
  return 10 * (Number(fields[11]) + Number(fields[12]));
};

/** kB, compressed, of the files a page names in its head. */
async function weight(url: string, base: string): Promise<{ js: number; css: number; html: number }> {
  const html = await (await fetch(url)).text();
  const named = (pattern: RegExp) => [...new Set([...html.matchAll(pattern)].map((m) => m[1] as string))];
  const size = async (paths: string[]) => {
    let bytes = 0;
    for (const path of paths) bytes += gzipSync(Buffer.from(await (await fetch(base + path)).arrayBuffer())).length;
    return bytes / 1024;
  };
  return {
    js: await size(named(/(?:href|src)="(\/assets\/[^"]+\.js)"/g)),
    css: await size(named(/href="(\/assets\/[^"]+\.css)"/g)),
    html: gzipSync(html).length / 1024,
  };
}

/** Sum of layout shifts of a page that comes to a browser that has nothing of it, on a phone's size and on a desk's. */
async function shift(browser: Browser, url: string, viewport: { width: number; height: number }): Promise<number> {
  const page = await browser.newPage({ viewport });
  await page.addInitScript(() => {
    const seen = window as unknown as { shifted: number };
    seen.shifted = 0;
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as unknown as { value: number; hadRecentInput: boolean }[])
        if (!entry.hadRecentInput) seen.shifted += entry.value;
    }).observe({ type: "layout-shift", buffered: true });
  });
  await page.goto(url, { waitUntil: "networkidle" });
  await page.waitForTimeout(500);
  const shifted = await page.evaluate(() => (window as unknown as { shifted: number }).shifted);
  await page.close();
  return shifted;
}

/** Processor time (ms) of a page: made anew each time, or the kept one. */
async function processor(pid: number, url: string, anew: boolean): Promise<number> {
  const get = async (i: number) => {
    const reply = await fetch(anew ? `${url}${url.includes("?") ? "&" : "?"}anew=${i}` : url);
    await reply.arrayBuffer();
    if (!reply.ok) throw new Error(`${url} answered ${reply.status}`);
  };
  // The first few warm it up.
  for (let i = 0; i < 20; i++) await get(-1 - i);
  const before = cpuMs(pid);
  for (let i = 0; i < TIMES; i++) await get(i);
  return (cpuMs(pid) - before) / TIMES;
}

/** Median of what some tries take, in ms. */
async function median(tries: number, work: () => Promise<number>): Promise<number> {
  const took: number[] = [];
  for (let i = 0; i < tries; i++) took.push(await work());
  return took.sort((a, b) => a - b)[tries >> 1] as number;
}

async function startToAnswer(folder: string): Promise<number> {
  const before = performance.now();
  const started = await startServer(folder);
  const reply = await fetch(`${started.url}/larkspur/today`);
  await reply.arrayBuffer();
  const took = performance.now() - before;
  await started.stop();
  return took;
}

async function bareStart(): Promise<number> {
  const before = performance.now();
  spawnSync(process.execPath, ["-e", ""]);
  return performance.now() - before;
}

prepare();
const folder = demoFolder();
const start = await median(5, () => startToAnswer(folder));
const bare = await median(5, bareStart);
process.stdout.write(
  `start to the first page answered: ${start.toFixed(0)} ms; Node with nothing to do: ${bare.toFixed(0)} ms (${(start / bare).toFixed(1)} times)\n`,
);
const server = await startServer(folder);
const { pid } = JSON.parse(readFileSync(join(server.folder, "in-use.json"), "utf8")) as { pid: number };
const form = new URLSearchParams([...["lens", "nozzle", "mirror-4"].map((p) => ["part", p]), ["requestKey", "bench-round"]]);
const started = await fetch(`${server.url}/burdock/round`, {
  method: "POST",
  body: form,
  headers: { origin: server.url },
  redirect: "manual",
});
const round = started.headers.get("location") ?? "";
const pages = {
  Today: "/larkspur/today",
  Log: "/larkspur/log",
  Round: "/larkspur/round",
  "a step": round,
  Trace: "/larkspur/trace/3",
  Workshop: "/larkspur/workshop",
} as const;

const browser = await chromium.launch(config.use?.launchOptions ?? {});
const beside = process.argv.find((a) => a.startsWith("--beside="))?.split("=")[1];
process.stdout.write(
  `a phone's first visit (processor 4 times slower, 12 Mbit/s): drawn, awake (wanted 2.5 s), held up (0.3 s), kB by then, in all (450)\n`,
);
for (const path of ["/larkspur/today", "/larkspur/round", "/larkspur/log", "/larkspur/trace/3"]) {
  const bases = [server.url, ...(beside ? [beside] : [])];
  const seen = await visits(
    browser,
    bases.map((base) => base + path),
    5,
  );
  const told = seen.map(
    (v) =>
      `${[v.paintMs, v.awakeMs, v.blockedMs].map((ms) => (ms / 1000).toFixed(2)).join(" ")} s  ${v.kB.toFixed(0)}  ${v.kBInAll.toFixed(0)} kB`,
  );
  process.stdout.write(`${path.padEnd(20)} ${told.join("   beside: ")}\n`);
}
process.stdout.write(
  `kB compressed; shift of the layout at 1280 and at 390 wide (wanted ${WANTED_SHIFT}); ms of processor a page, ${TIMES} times each\n`,
);
for (const [name, path] of Object.entries(pages)) {
  const url = server.url + path;
  const { js, css, html } = await weight(url, server.url);
  const shifts = [await shift(browser, url, { width: 1280, height: 800 }), await shift(browser, url, { width: 390, height: 844 })];
  const [anew, kept] = [await processor(pid, url, true), await processor(pid, url, false)];
  const wanted = WANTED[name];
  process.stdout.write(
    `${name.padEnd(10)} script ${js.toFixed(0).padStart(4)}${wanted ? ` of ${wanted}` : "       "}  styles ${css.toFixed(0).padStart(3)}  page ${html.toFixed(0).padStart(3)}  shift ${shifts.map((s) => s.toFixed(3)).join(" ")}  made anew ${anew.toFixed(1).padStart(5)} ms, kept ${kept.toFixed(1)} (${(anew / Math.max(0.1, kept)).toFixed(0)} times)\n`,
  );
}
await browser.close();
await server.stop();
