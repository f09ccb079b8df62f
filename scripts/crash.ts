/**
 * `npm run test:crash`: kills servers in the middle of what they do, as power cuts would, and looks what is left: at random moments of
 * all kinds of write, between the parts of each action that writes more than one thing, during a migration, a first start and a demo load.
 * Every write that was acknowledged must be there exactly once, everything else at most once. `-- --kills=60 --seed=1`.
 */
import { type ChildProcess, spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { cpSync, existsSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { join, resolve } from "node:path";
import LibsqlDatabase from "libsql";
import sharp from "sharp";
import { seededRandom } from "#core/random";
import { databaseFile } from "#store/database";
import * as initial from "#store/migrations/0001-initial";
import * as wholeMachine from "#store/migrations/0002-whole-machine";
import prepare from "../e2e/prepare";
import { demoFolder, emptyFolder, type RunningServer, startServer } from "../e2e/server";

const asked = (name: string, usual: number) => Number(process.argv.find((a) => a.startsWith(`--${name}=`))?.split("=")[1] ?? usual);
const KILLS = asked("kills", 60);
const { uniform, integer, pick } = seededRandom(asked("seed", 1));
const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

type Row = Record<string, unknown>;
function rowsOf(folder: string, query: string, ...values: unknown[]): Row[] {
  const database = new LibsqlDatabase(databaseFile(folder));
  try {
    return database.prepare(query).all(values) as Row[];
  } finally {
    database.close();
  }
}
const count = (folder: string, query: string, ...values: unknown[]) => Number(rowsOf(folder, query, ...values)[0]?.n);

const problems: string[] = [];
const table: { what: string; kills: number; acknowledged: number; lost: number; doubled: number; torn: number }[] = [];
const line = (what: string) => {
  const row = { what, kills: 0, acknowledged: 0, lost: 0, doubled: 0, torn: 0 };
  table.push(row);
  return row;
};

/** The file must be whole, and no round may be closed whose proof or case was left behind. */
function torn(folder: string): number {
  const check = rowsOf(folder, "PRAGMA integrity_check")[0]?.integrity_check;
  const keys = rowsOf(folder, "PRAGMA foreign_key_check").length;
  const half = count(
    folder,
    "SELECT count(*) n FROM round r JOIN trace_case c ON c.id = r.case_id WHERE r.status = 'closed' AND r.title LIKE 'crash%' AND c.closed_ms IS NULL",
  );
  if (check !== "ok" || keys > 0 || half > 0)
    problems.push(`${folder}: integrity ${String(check)}, ${keys} broken references, ${half} cases left open`);
  return check === "ok" && keys === 0 && half === 0 ? 0 : 1;
}

const form = (server: RunningServer, path: string, fields: readonly (readonly [string, string])[]) =>
  fetch(server.url + path, {
    method: "POST",
    body: new URLSearchParams(fields.map(([n, v]) => [n, v])),
    headers: { origin: server.url },
    redirect: "manual",
  });
const json = (server: RunningServer, path: string, body: unknown) =>
  fetch(server.url + path, {
    method: "POST",
    body: JSON.stringify(body),
    headers: { origin: server.url, "content-type": "application/json" },
  });

const newMachine = (name: string, key: string): [string, string][] => [
  ["name", name],
  ["layout", "periscope"],
  ["ratedPowerW", "60"],
  ["tubeHours", "10"],
  ["ratedTubeHours", "3000"],
  ["materialKind", "birch-ply"],
  ["thicknessMm", "3"],
  ["next", "today"],
  ["requestKey", key],
];

/** A write that can be sent again: how, and how often it is in the database. */
interface Write {
  readonly name: string;
  readonly send: (server: RunningServer) => Promise<Response>;
  readonly found: (folder: string) => number;
}

let n = 0;
let teaselMaterial = "";
async function someWrite(): Promise<Write> {
  n += 1;
  const mark = `crash-${n}-${Math.floor(uniform() * 1e9)}`;
  const event = (fields: [string, string][]): Write => ({
    name: fields[0]?.[1] ?? "",
    send: (s) => form(s, "/teasel/log", [...fields, ["note", mark], ["requestKey", mark]]),
    found: (f) => count(f, "SELECT count(*) n FROM event WHERE payload LIKE ?", `%${mark}%`),
  });
  const kinds: (() => Write | Promise<Write>)[] = [
    () => event([["kind", "note"]]),
    () =>
      event([
        ["kind", "job"],
        ["materialId", teaselMaterial],
        ["minutes", "12"],
      ]),
    () =>
      event([
        ["kind", "grade"],
        ["station", "lens"],
        ["grade", "1"],
      ]),
    () => ({
      name: "answers",
      send: (s) =>
        json(s, `/burdock/round/${openRound}/answers`, {
          items: [1, 2, 3].map((i) => ({
            stepId: "lens.found",
            answer: { atMs: Date.now() + i, note: `${mark}-${i}` },
            requestKey: `${mark}-${i}`,
          })),
        }),
      // All three or none: counted as one.
      found: (f) => count(f, "SELECT count(*) n FROM round_answer WHERE answer LIKE ?", `%${mark}%`) / 3,
    }),
    () => ({
      name: "material",
      send: (s) =>
        form(s, "/teasel/workshop", [
          ["intent", "new-material"],
          ["kind", "birch-ply"],
          ["name", mark],
          ["thicknessMm", "3"],
        ]),
      found: (f) => count(f, "SELECT count(*) n FROM material WHERE name = ?", mark),
    }),
    () => ({
      name: "file taken in",
      send: async (s) => {
        const rows = [1, 2, 3].map((i) => `2026-11-2${i} 10:00,"${mark}"`);
        const looked = await fetch(`${s.url}/teasel/exchange/upload?kind=note`, {
          method: "POST",
          body: `when,note\n${rows.join("\n")}\n`,
          headers: { origin: s.url, "content-type": "application/octet-stream" },
        });
        const { id } = (await looked.json()) as { id?: string };
        return form(s, "/teasel/exchange/take-in", [
          ["intent", "take-in"],
          ["file", id ?? ""],
        ]);
      },
      // All three or none: counted as one.
      found: (f) => count(f, "SELECT count(*) n FROM event WHERE payload LIKE ?", `%${mark}%`) / 3,
    }),
    () => ({
      name: "test file",
      send: (s) =>
        form(s, "/teasel/coupons", [
          ["kind", "coupon"],
          ["form", "ladder"],
          ["materialId", teaselMaterial],
          ["setPercent", "45"],
          ["speedsMmPerS", "40 45 50"],
          ["requestKey", mark],
        ]),
      found: (f) => count(f, "SELECT count(*) n FROM event WHERE kind = 'coupon' AND request_key LIKE ?", `%${mark}%`),
    }),
    () => ({
      name: "machine",
      send: (s) => form(s, "/start", newMachine(mark, mark)),
      found: (f) => count(f, "SELECT count(*) n FROM machine JOIN material ON machine_id = machine.id WHERE machine.name = ?", mark),
    }),
    async () => {
      const bytes = await sharp({
        create: { width: 40, height: 30, channels: 3, background: { r: n % 256, g: (n >> 8) % 256, b: integer(0, 255) } },
      })
        .jpeg()
        .toBuffer();
      const size = bytes.length;
      return {
        name: "photo",
        send: (s) =>
          fetch(`${s.url}/photos`, {
            method: "POST",
            body: new Uint8Array(bytes),
            headers: { origin: s.url, "content-type": "image/jpeg" },
          }),
        found: (f) => {
          const hash = createHash("sha256").update(bytes).digest("hex");
          const file = join(f, "photos", hash.slice(0, 2), hash);
          const rows = count(f, "SELECT count(*) n FROM photo WHERE hash = ?", hash);
          if (rows > 0 && (!existsSync(file) || readFileSync(file).length !== size)) return 0;
          return rows;
        },
      };
    },
  ];
  return pick(kinds)();
}
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
    pending = [];
    let alive = true;
    const writer = async () => {
      while (alive) {
        const write = await someWrite();
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

interface Act {
  readonly name: string;
  readonly before?: (server: RunningServer) => Promise<unknown>;
  readonly run: (server: RunningServer) => Promise<Response>;
}

const LADDER: [string, string][] = [
  ["materialId", "1"],
  ["setPercent", "60"],
  ...Array.from({ length: 10 }, (_, i): [string, string][] => [
    [`speed-${i}`, String(6 + 2 * i)],
    [`end-${i}`, i < 9 ? "dropped" : "stays"],
  ]).flat(),
];
const repairRound = async (s: RunningServer) => {
  await form(s, "/larkspur/round", [
    ["part", "mirror-2"],
    ["title", "crash repair"],
    ["caseId", "3"],
    ["requestKey", "crash-repair"],
  ]);
  const [round] = rowsOf(s.folder, "SELECT id, plan FROM round WHERE status = 'open' AND title = 'crash repair'");
  const { steps } = JSON.parse(String(round?.plan)) as { steps: { id: string; kind: string; seen?: { id: string }[] }[] };
  // Every step is walked: what protects people cannot be skipped.
  await json(s, `/larkspur/round/${String(round?.id)}/answers`, {
    items: steps
      .filter((step) => step.kind !== "proof")
      .map((step) => ({
        stepId: step.id,
        answer: {
          atMs: Date.now(),
          done: true,
          ...(step.kind === "grade" ? { grade: 1 } : {}),
          ...(step.seen?.[0] ? { choice: step.seen[0].id } : {}),
        },
        requestKey: `crash-${step.id.replaceAll(/[^a-z0-9]/g, "-")}`,
      })),
  });
};
const roundOf = (s: RunningServer) => String(rowsOf(s.folder, "SELECT id FROM round WHERE title = 'crash repair'")[0]?.id);
const ACTS: readonly Act[] = [
  {
    name: "a machine with its material and hours",
    run: (s) => form(s, "/start", newMachine("Crash", "crash-act")),
  },
  {
    name: "a case with its sign's findings",
    run: (s) =>
      form(s, "/teasel/trace", [
        ["sign", "flame"],
        ["since", "0"],
        ["requestKey", "crash-act"],
      ]),
  },
  {
    name: "five answers at once",
    before: repairRound,
    run: (s) =>
      json(s, `/larkspur/round/${roundOf(s)}/answers`, {
        items: [1, 2, 3, 4, 5].map((i) => ({
          stepId: "mirror-2.found",
          answer: { atMs: Date.now() + i, note: `n${i}` },
          requestKey: `crash-act-${i}`,
        })),
      }),
  },
  {
    name: "a repair round and its case",
    before: repairRound,
    run: (s) => form(s, `/larkspur/round/${roundOf(s)}`, [["intent", "ladder"], ...LADDER, ["requestKey", "crash-act"]]),
  },
  {
    name: "a repair round by its repeated test",
    before: repairRound,
    run: (s) =>
      form(s, `/larkspur/round/${roundOf(s)}`, [
        ["intent", "repeat"],
        ["check", "known-cut"],
        ["outcome", "through"],
        ["requestKey", "crash-act"],
      ]),
  },
  {
    name: "a late grade to a closed round",
    before: async (s) => {
      await repairRound(s);
      await form(s, `/larkspur/round/${roundOf(s)}`, [
        ["intent", "abandon"],
        ["why", "no scrap"],
        ["requestKey", "crash-before"],
      ]);
    },
    run: (s) =>
      json(s, `/larkspur/round/${roundOf(s)}/answers`, {
        items: [{ stepId: "mirror-2.found", answer: { atMs: 1, done: true, grade: 4 }, requestKey: "crash-act-late" }],
      }),
  },
];

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
      const server = await startServer(folder, { node: ["--import", resolve("scripts/crashStopper.mjs")], env: { STOP_AT: String(at) } });
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
      if (left !== before && left !== after) {
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

/** A demo folder as the version before the newest left it. */
function olderFolder(): string {
  const folder = emptyFolder();
  const database = new LibsqlDatabase(databaseFile(folder));
  for (const s of [...initial.statements, ...wholeMachine.statements]) database.exec(s);
  database.exec(`PRAGMA application_id = ${0x434c4e52}`);
  database.exec("PRAGMA user_version = 2");
  database.exec(`ATTACH '${databaseFile(demoFolder())}' AS demo`);
  database.exec("PRAGMA foreign_keys = OFF");
  for (const name of ["machine", "material", "trace_case", "round", "round_answer", "finding", "event"])
    database.exec(`INSERT INTO ${name} SELECT * FROM demo.${name}`);
  database.exec("DETACH demo");
  database.close();
  return folder;
}

async function starts(
  what: string,
  kills: number,
  folderOf: () => string,
  kill: (folder: string) => Promise<boolean>,
  sound: (f: string) => string | undefined,
) {
  const row = line(what);
  for (let k = 0; k < kills; k++) {
    const folder = folderOf();
    for (let again = 0; again < 2; again++) if (await kill(folder)) row.kills += 1;
    const wrong = sound(folder);
    const server = await startServer(folder).catch((error: unknown) => String(error));
    if (typeof server === "string") {
      row.lost += 1;
      problems.push(`${what}: afterwards ${server}`);
      continue;
    }
    await server.stop();
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
await starts("a migration of fourteen months", each, olderFolder, startAndCut, (f) => {
  const found = count(f, "SELECT count(*) n FROM event");
  return found === events ? undefined : `${found} of ${events} events`;
});
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

process.stdout.write(`${"what was cut off".padEnd(58)} kills  kept  lost  doubled  torn\n`);
for (const r of table)
  process.stdout.write(
    `${r.what.padEnd(58)} ${String(r.kills).padStart(5)} ${String(r.acknowledged).padStart(5)} ${String(r.lost).padStart(5)} ${String(r.doubled).padStart(8)} ${String(r.torn).padStart(5)}\n`,
  );
for (const p of problems.slice(0, 20)) process.stdout.write(`${p}\n`);
const sum = (key: "kills" | "acknowledged") => table.reduce((s, r) => s + r[key], 0);
process.stdout.write(`${sum("kills")} kills, ${sum("acknowledged")} acknowledged writes and starts, ${problems.length} problems\n`);
process.exit(problems.length > 0 ? 1 : 0);
