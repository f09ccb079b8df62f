/**
 * `npm run test:crash`: kills servers in the middle of what they do, as power cuts would, and looks what is left: at random moments of
 * all kinds of write, between the parts of each action that writes more than one thing, during a migration, a first start and a demo load.
 * Every write that was acknowledged must be there exactly once, everything else at most once. `-- --kills=60 --seed=1`.
 */
import { type ChildProcess, spawn } from "node:child_process";
import { cpSync, existsSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { join, resolve } from "node:path";
import { seededRandom } from "#core/random";
import { databaseFile } from "#store/database";
import prepare from "../../e2e/prepare";
import { demoFolder, emptyFolder, startServer } from "../../e2e/server";
import { ACTS } from "./crash/acts";
import { count, form, rowsOf } from "./crash/talk";
import { someWrite, type Write } from "./crash/writes";

const asked = (name: string, usual: number) => Number(process.argv.find((a) => a.startsWith(`--${name}=`))?.split("=")[1] ?? usual);
const KILLS = asked("kills", 60);
const random = seededRandom(asked("seed", 1));
const { uniform, integer } = random;
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

const problems: string[] = [];
const table: { what: string; kills: number; acknowledged: number; lost: number; doubled: number; torn: number }[] = [];
const line = (what: string) => {
  const row = { what, kills: 0, acknowledged: 0, lost: 0, doubled: 0, torn: 0 };
  table.push(row);
  return row;
};

/** The file must be whole, and no round may be closed whose proof or case was left behind without a note to weigh it at the next start. */
function torn(folder: string): number {
  const check = rowsOf(folder, "PRAGMA integrity_check")[0]?.integrity_check;
  const keys = rowsOf(folder, "PRAGMA foreign_key_check").length;
  const half = count(
    folder,
    "SELECT count(*) n FROM round r JOIN trace_case c ON c.id = r.case_id WHERE r.status = 'closed' AND r.title LIKE 'crash%' AND c.closed_ms IS NULL AND NOT EXISTS (SELECT 1 FROM setting WHERE name = 'judging-case-' || c.id)",
  );
  if (check !== "ok" || keys > 0 || half > 0)
    problems.push(`${folder}: integrity ${String(check)}, ${keys} broken references, ${half} cases left open`);
  return check === "ok" && keys === 0 && half === 0 ? 0 : 1;
}

let teaselMaterial = "";
let openRound = 0;

async function randomMoments(kills: number): Promise<void> {
  const row = line("any write, at a random moment");
  const folder = demoFolder();
  teaselMaterial = String(
    rowsOf(folder, "SELECT m.id FROM material m JOIN machine ON machine_id = machine.id WHERE slug = 'teasel' LIMIT 1")[0]?.id,
  );
  let pending: Write[] = [];
  for (let k = 0; k < kills; k++) {
    const server = await startServer(folder);
    // What was cut off is sent again, as a device would: then it is there once.
    for (const write of pending) {
      const again = await write.send(server);
      if (again.status >= 400 && write.name !== "material") problems.push(`${write.name} sent again: ${again.status}`);
    }
    const acknowledged: Write[] = [...pending];
    openRound ||= Number(
      (
        await form(server, "/burdock/round", [
          ["part", "lens"],
          ["requestKey", "crash-round"],
        ])
      ).headers
        .get("location")
        ?.split("/")
        .at(-1),
    );
    await form(server, "/teasel/aim", [
      ["intent", "start"],
      ["safe", "1"],
      ["requestKey", "crash-aim"],
    ]);
    pending = [];
    let alive = true;
    const writer = async () => {
      while (alive) {
        const write = await someWrite(random, { teaselMaterial, openRound });
        try {
          const reply = await write.send(server);
          if (reply.status < 400) acknowledged.push(write);
          else problems.push(`${write.name}: ${reply.status}`);
        } catch {
          pending.push(write);
        }
      }
    };
    const writers = [writer(), writer(), writer()];
    await sleep(100 + uniform() * 1200);
    await server.kill();
    alive = false;
    await Promise.all(writers);
    row.kills += 1;
    row.acknowledged += acknowledged.length;
    for (const write of acknowledged) {
      const found = write.found(folder);
      if (found < 1) row.lost += 1;
      if (found > 1) row.doubled += 1;
      if (found !== 1) problems.push(`${write.name} was acknowledged and is there ${found} times`);
    }
    for (const write of pending) {
      const found = write.found(folder);
      if (found !== 0 && found !== 1) {
        row.torn += 1;
        problems.push(`${write.name} was cut off and is there ${found} times`);
      }
    }
    row.torn += torn(folder);
  }
}

/** Rows of every table but the notes of what was sent and who is signed in. */
function shape(folder: string): string {
  const names = rowsOf(folder, "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' ORDER BY name");
  const counts = names.map(({ name }) => `${name} ${count(folder, `SELECT count(*) n FROM "${name}"`)}`);
  const open = rowsOf(
    folder,
    "SELECT (SELECT count(*) FROM round WHERE status = 'open') r, (SELECT count(*) FROM trace_case WHERE closed_ms IS NULL) c",
  )[0];
  return [...counts, JSON.stringify(open)].join(", ");
}

async function betweenParts(): Promise<void> {
  for (const act of ACTS) {
    const row = line(`between the parts of: ${act.name}`);
    const ready = demoFolder();
    const first = await startServer(ready);
    await act.before?.(first);
    await first.stop();
    const before = shape(ready);
    const whole = join(emptyFolder(), "whole");
    cpSync(ready, whole, { recursive: true });
    const full = await startServer(whole);
    const reply = await act.run(full);
    if (reply.status >= 400) problems.push(`${act.name}: ${reply.status} ${(await reply.text()).slice(0, 200)}`);
    await full.stop();
    const after = shape(whole);
    if (after === before) problems.push(`${act.name} changed nothing`);
    for (let at = 1; at < 60; at++) {
      const folder = join(emptyFolder(), "cut");
      cpSync(ready, folder, { recursive: true });
      const server = await startServer(folder, {
        node: ["--import", resolve("judge/server/crashStopper.mjs")],
        env: { STOP_AT: String(at) },
      });
      const { pid } = JSON.parse(readFileSync(join(folder, "in-use.json"), "utf8")) as { pid: number };
      process.kill(pid, "SIGUSR2");
      await sleep(50);
      const answered = await act.run(server).then(
        () => true,
        () => false,
      );
      await server.kill();
      if (answered) break;
      row.kills += 1;
      const left = shape(folder);
      const isNoted = count(folder, "SELECT count(*) n FROM setting WHERE name LIKE 'judging-case-%'") > 0;
      if (left !== before && left !== after && !isNoted) {
        row.torn += 1;
        problems.push(`${act.name}, cut at its part ${at}, left\n  ${left}\n  before: ${before}\n  after:  ${after}`);
      }
      // Sent again to the next server it is done, once.
      const next = await startServer(folder);
      await act.run(next);
      await next.stop();
      row.acknowledged += 1;
      if (shape(folder) !== after) {
        row.lost += 1;
        problems.push(`${act.name}, cut at its part ${at} and sent again:\n  ${shape(folder)}\n  wanted ${after}`);
      }
    }
  }
}

/** Starts something and kills it after a random time; true when it was still at it. */
async function cutOff(child: ChildProcess, ms: number): Promise<boolean> {
  const ended = new Promise<boolean>((done) => child.once("exit", (_, signal) => done(signal === "SIGKILL")));
  await Promise.race([sleep(ms), ended]);
  child.kill("SIGKILL");
  return ended;
}
const quiet = (folder: string) => ({
  env: { ...process.env, NODE_ENV: "production", CLENOR_DATA: folder, CLENOR_NOW: "2026-11-24T09:00:00Z", PORT: "", LOG_LEVEL: "warn" },
  stdio: "ignore" as const,
});

/** Brings a folder to the next version, in a process of its own. */
const toNextVersion = (folder: string): ChildProcess =>
  spawn(process.execPath, ["--import", "tsx", "judge/server/crash/nextVersion.ts", folder], quiet(folder));

/** Starts the server on a folder and stops it; what went wrong where it did not come up. */
const serves = async (folder: string): Promise<string | undefined> => {
  const server = await startServer(folder).catch((error: unknown) => String(error));
  if (typeof server === "string") return server;
  await server.stop();
  return undefined;
};
const reachesNextVersion = (folder: string): Promise<string | undefined> =>
  new Promise((done) => toNextVersion(folder).once("exit", (code) => done(code === 0 ? undefined : `it ended with ${code}`)));

async function starts(
  what: string,
  kills: number,
  folderOf: () => string,
  kill: (folder: string) => Promise<boolean>,
  sound: (f: string) => string | undefined,
  comesUp: (folder: string) => Promise<string | undefined> = serves,
) {
  const row = line(what);
  for (let k = 0; k < kills; k++) {
    const folder = folderOf();
    for (let again = 0; again < 2; again++) if (await kill(folder)) row.kills += 1;
    const wrong = sound(folder);
    const failed = await comesUp(folder);
    if (failed !== undefined) {
      row.lost += 1;
      problems.push(`${what}: afterwards ${failed}`);
      continue;
    }
    row.acknowledged += 1;
    const after = wrong ?? sound(folder);
    if (after) {
      row.torn += 1;
      problems.push(`${what}: ${after}`);
    }
    row.torn += torn(folder);
    const stray = readdirSync(folder).filter((f) => f.endsWith(".part"));
    if (stray.length > 1) problems.push(`${what}: left ${stray.join()}`);
    rmSync(folder, { recursive: true, force: true });
  }
}

prepare();
const events = count(demoFolder(), "SELECT count(*) n FROM event");
const each = Math.max(1, Math.round(KILLS / 20));
await randomMoments(Math.round(KILLS * 0.6));
await betweenParts();
const startAndCut = (folder: string) =>
  cutOff(
    spawn(process.execPath, ["build/run/main.mjs"], {
      ...quiet(folder),
      env: { ...quiet(folder).env, PORT: String(20_000 + integer(0, 20_000)) },
    }),
    100 + uniform() * 1400,
  );
await starts(
  "a migration of fourteen months",
  each,
  demoFolder,
  (f) => cutOff(toNextVersion(f), 300 + uniform() * 900),
  (f) => {
    const found = count(f, "SELECT count(*) n FROM event");
    return found === events ? undefined : `${found} of ${events} events`;
  },
  reachesNextVersion,
);
await starts("a first start on an empty folder", each, emptyFolder, startAndCut, () => undefined);
await starts(
  "a demo load",
  each,
  () => join(emptyFolder(), "demo"),
  (f) => cutOff(spawn(process.execPath, ["--import", "tsx", "scripts/demo-data.ts"], quiet(f)), 300 + uniform() * 3500),
  (f) => {
    if (!existsSync(databaseFile(f))) return undefined;
    const found = existsSync(join(f, "demo-data.json")) ? count(f, "SELECT count(*) n FROM event") : 0;
    return found === events || found === 0 ? undefined : `${found} of ${events} events`;
  },
);

// A line that killed nobody has shown nothing.
for (const r of table) if (r.kills === 0) problems.push(`${r.what}: nothing was cut off`);
process.stdout.write(`${"what was cut off".padEnd(58)} kills  kept  lost  doubled  torn\n`);
for (const r of table)
  process.stdout.write(
    `${r.what.padEnd(58)} ${String(r.kills).padStart(5)} ${String(r.acknowledged).padStart(5)} ${String(r.lost).padStart(5)} ${String(r.doubled).padStart(8)} ${String(r.torn).padStart(5)}\n`,
  );
for (const p of problems.slice(0, 20)) process.stdout.write(`${p}\n`);
const sum = (key: "kills" | "acknowledged") => table.reduce((s, r) => s + r[key], 0);
process.stdout.write(`${sum("kills")} kills, ${sum("acknowledged")} acknowledged writes and starts, ${problems.length} problems\n`);
process.exit(problems.length > 0 ? 1 : 0);
