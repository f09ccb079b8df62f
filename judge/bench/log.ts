/**
 * `npm run bench -- log`: what the places' views take on logbooks of three lengths, each after a record was written, against the bare
 * prepared statements they run; with the memory a log takes.
 */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import LibsqlDatabase from "libsql";
import { casesView } from "#services/cases/casesView";
import { caseView } from "#services/cases/caseView";
import type { Services } from "#services/context";
import { lookAtFile, takeIn } from "#services/exchange/importFile";
import { logView } from "#services/log/logView";
import { gatherOnce } from "#services/machine/gather";
import { shellView } from "#services/machine/shellView";
import { outlookView } from "#services/outlook/outlookView";
import { planView } from "#services/plan/planView";
import { choiceView } from "#services/rounds/choiceView";
import { roundView } from "#services/rounds/roundView";
import { todayView } from "#services/today/todayView";
import { workshopView } from "#services/workshop/workshopView";
import { databaseFile } from "#store/database";
import { appendEvents } from "#store/events";
import { type BigLog, writeBigLog } from "./bigLog";

const SIZES = [2_000, 20_000, 200_000] as const;
const TIMES = 30;
/** Wanted: no more than this times the shortest log. */
const GROWTH = 1.5;
const NOW = Date.parse("2026-11-24T09:00:00Z");

interface Statement {
  readonly sql: string;
  readonly parameters: readonly unknown[];
}

const nothing = new URLSearchParams();
/** What each place asks for, the bar and the beam line included. */
const places = {
  Today: (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => todayView(s, g),
  Round: (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => choiceView(s, g, nothing),
  "a round done": (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => roundView(s, g, 3, null),
  Log: (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => logView(s, g, nothing),
  "Log, its ladders": (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => logView(s, g, new URLSearchParams("show=ladder")),
  "Trace, cases": (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => casesView(s, g),
  "Trace, the open case": (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>, log: BigLog) => caseView(s, g, log.caseId, null),
  Plan: (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => planView(s, g, nothing),
  "Plan, a task": (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => planView(s, g, new URLSearchParams("tab=tasks&task=lens")),
  Outlook: (s: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => outlookView(s, g),
  Workshop: async (_: Services, g: Awaited<ReturnType<typeof gatherOnce>>) => workshopView(g, null),
} as const;
type Place = keyof typeof places;

const median = (times: number[]) => times.sort((a, b) => a - b)[times.length >> 1] as number;

/** Notes every statement the store runs while it is asked. */
function listen(log: BigLog): { readonly heard: Statement[]; readonly stop: () => void } {
  const heard: Statement[] = [];
  const executor = log.store.getExecutor();
  const before = executor.executeQuery;
  executor.executeQuery = ((query: Statement, ...more: unknown[]) => {
    heard.push({ sql: query.sql, parameters: query.parameters });
    return (before as (...args: unknown[]) => unknown).call(executor, query, ...more);
  }) as typeof before;
  return { heard, stop: () => (executor.executeQuery = before) };
}

let written = 0;
async function write(log: BigLog): Promise<void> {
  written += 1;
  const job = {
    kind: "job",
    atMs: log.nowMs - 1000 + written / 100,
    payload: { materialId: 1, minutes: 3 },
    requestKey: `bench-${written}`,
  } as const;
  await appendEvents(log.store, log.machineId, [job], log.nowMs);
}

async function view(log: BigLog, place: Place): Promise<void> {
  const services: Services = { store: log.store, folder: "", nowMs: () => log.nowMs };
  const g = await gatherOnce(services, log.slug);
  await shellView(g, "key");
  await places[place](services, g, log);
}

/** Milliseconds of a view, each time after a record was written. */
async function msOfView(log: BigLog, place: Place): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < TIMES + 5; i++) {
    await write(log);
    const start = performance.now();
    await view(log, place);
    if (i >= 5) times.push(performance.now() - start);
  }
  return median(times);
}

/** Milliseconds of the statements a view runs, prepared and with nothing done to their rows. */
async function msOfStatements(log: BigLog, place: Place, file: string): Promise<number> {
  await write(log);
  const { heard, stop } = listen(log);
  await view(log, place);
  stop();
  const bare = new LibsqlDatabase(file);
  const prepared = heard.map((s) => ({ statement: bare.prepare(s.sql), parameters: s.parameters }));
  const times: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const start = performance.now();
    for (const { statement, parameters } of prepared) statement.all(...parameters);
    times.push(performance.now() - start);
  }
  bare.close();
  return median(times);
}

interface Row {
  readonly view: number;
  readonly bare: number;
}

async function measure(count: number): Promise<Map<Place, Row>> {
  const folder = mkdtempSync(join(tmpdir(), "clenor-log-"));
  const log = await writeBigLog(folder, count, NOW);
  global.gc?.();
  const before = process.memoryUsage().heapUsed;
  const start = performance.now();
  await view(log, "Today");
  const first = performance.now() - start;
  global.gc?.();
  const mb = (process.memoryUsage().heapUsed - before) / 1024 / 1024;
  process.stdout.write(
    `${count} events: read for the first time in ${first.toFixed(0)} ms${global.gc ? `, kept in ${mb.toFixed(0)} MB` : ""}\n`,
  );
  const rows = new Map<Place, Row>();
  for (const place of Object.keys(places) as Place[])
    rows.set(place, { view: await msOfView(log, place), bare: await msOfStatements(log, place, databaseFile(folder)) });
  await log.store.destroy();
  rmSync(folder, { recursive: true });
  return rows;
}

const measured: Map<Place, Row>[] = [];
for (const size of SIZES) measured.push(await measure(size));
const [small] = measured;
process.stdout.write(
  `\nmedian of ${TIMES}, each after one more record; bare: its prepared statements alone; wanted: at most ${GROWTH} times the shortest log\n`,
);
process.stdout.write(`${"".padEnd(22)}${SIZES.map((s) => `${s}: view  bare`.padStart(22)).join("")}   times, view   times bare + own\n`);
for (const place of Object.keys(places) as Place[]) {
  const rows = measured.map((m) => m.get(place) as Row);
  const base = small?.get(place) as Row;
  const last = rows.at(-1) as Row;
  const own = last.bare + (base.view - base.bare);
  const figures = rows.map((r) => `${r.view.toFixed(1).padStart(15)}${r.bare.toFixed(1).padStart(7)}`).join("");
  process.stdout.write(
    `${place.padEnd(22)}${figures}${(last.view / base.view).toFixed(2).padStart(14)}${(last.view / own).toFixed(2).padStart(19)}\n`,
  );
}

/** Outlook when nothing changed since it was last asked for, against its bare statements and one fit. */
async function measureUnchanged(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "clenor-unchanged-"));
  const log = await writeBigLog(folder, 20_000, NOW);
  await view(log, "Outlook");
  const bare = await msOfStatements(log, "Outlook", databaseFile(folder));
  const fresh = async (isChanged: boolean) => {
    const times: number[] = [];
    for (let i = 0; i < TIMES; i++) {
      if (isChanged) await write(log);
      const services: Services = { store: log.store, folder: "", nowMs: () => log.nowMs };
      const start = performance.now();
      (await gatherOnce(services, log.slug)).condition;
      times.push(performance.now() - start);
    }
    return median(times);
  };
  const fit = (await fresh(true)) - (await fresh(false));
  await view(log, "Outlook");
  const times: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const start = performance.now();
    await view(log, "Outlook");
    times.push(performance.now() - start);
  }
  const unchanged = median(times);
  await log.store.destroy();
  rmSync(folder, { recursive: true });
  process.stdout.write(
    `\nOutlook on 20000 events with nothing new: its view ${unchanged.toFixed(1)} ms; its bare statements ${bare.toFixed(1)} ms and one fit ${fit.toFixed(1)} ms, ${(unchanged / (bare + fit)).toFixed(2)} times (wanted: at most 1.5; the server sends the page it kept and asks for neither)\n`,
  );
}
await measureUnchanged();

/** Rows of one table, taken in whole, against the same rows written bare in one transaction. */
const ROWS = 100_000;
async function measureImport(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "clenor-import-"));
  const log = await writeBigLog(folder, 200, NOW);
  const services: Services = { store: log.store, folder, nowMs: () => log.nowMs };
  const rows = Array.from({ length: ROWS }, (_, i) => ({
    atMs: NOW - 86_400_000 * 900 + i * 600_000,
    speed: 8 + (i % 90) / 10,
    result: i % 3 === 0 ? "hangs" : "through",
  }));
  const table = `when,material,speed_mm_per_s,set_percent,result,note\n${rows.map((r) => `${new Date(r.atMs).toISOString()},3 mm birch ply,${r.speed},60,${r.result},n`).join("\n")}\n`;
  const start = performance.now();
  const looked = await lookAtFile(services, log.slug, new TextEncoder().encode(table));
  if (!("id" in looked)) throw new Error(JSON.stringify(looked));
  const seen = performance.now();
  await takeIn(services, looked.id);
  const done = performance.now();
  await log.store.destroy();
  const bare = new LibsqlDatabase(join(folder, "bare.sqlite"));
  bare.exec("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL");
  const { sql } = new LibsqlDatabase(databaseFile(folder)).prepare("SELECT sql FROM sqlite_master WHERE name = 'event'").get() as {
    sql: string;
  };
  bare.exec(sql.replace(/REFERENCES \w+\(id\)/g, ""));
  for (const index of ["machine_id", "corrects", "round_id"]) bare.exec(`CREATE INDEX by_${index} ON event (${index})`);
  const from = performance.now();
  bare.exec("BEGIN");
  const insert = bare.prepare(
    "INSERT INTO event (machine_id, kind, at_ms, recorded_ms, payload, voids, request_key) VALUES (1, 'cut', ?, ?, ?, 0, ?)",
  );
  for (const [i, r] of rows.entries())
    insert.run(
      r.atMs,
      NOW,
      JSON.stringify({ materialId: 1, speedMmPerS: r.speed, setPercent: 60, result: r.result, note: "n" }),
      `csv-${i}-0123456789abcdef0123456789abcdef`,
    );
  bare.exec("COMMIT");
  const plain = performance.now() - from;
  bare.close();
  rmSync(folder, { recursive: true });
  process.stdout.write(
    `\n${ROWS} rows of CSV: looked at in ${(seen - start).toFixed(0)} ms, taken in in ${(done - seen).toFixed(0)} ms; the same rows bare in one transaction ${plain.toFixed(0)} ms; taken in / bare ${((done - seen) / plain).toFixed(2)}, both together / bare ${((done - start) / plain).toFixed(2)} (wanted: at most 3)\n`,
  );
}
await measureImport();
