/**
 * `npm run fuzz`: requests that no page of ours sends, at a server of its own on demo data. Seeded and bounded (`-- --seed=7 --count=4000`).
 * Prints the answers by status; ends with 1 when any was of 5xx, or when the server did not live through it.
 */

import { request } from "node:http";
import { EVENT_KINDS } from "#core/events";
import { seededRandom } from "#core/random";
import prepare from "../../e2e/prepare";
import { demoFolder, startServer } from "../../e2e/server";

const asked = (name: string, usual: number) => Number(process.argv.find((a) => a.startsWith(`--${name}=`))?.split("=")[1] ?? usual);
const COUNT = asked("count", 4000);
const SEED = asked("seed", 20261125);
const AT_ONCE = 8;
const SHOWN = 12;

const { uniform: random, pick } = seededRandom(SEED);
const chance = (p: number) => random() < p;

const MACHINES = ["larkspur", "teasel", "burdock", "nobody", "..", "%00", "constructor", "__proto__", "x".repeat(300), "%ff", "start"];
const IDS = ["1", "2", "3", "40", "0", "-1", ".5", "1e999", "999999", "999999999999999999999", "NaN", "1%20", "0x1", "%00", "toString", ""];
const NUMBERS = [
  "12",
  "12,5",
  "0",
  "-3",
  "1e9",
  "1e999",
  "60 constructor",
  "60 __proto__",
  "1/0",
  "1,060",
  "1 1/2/3",
  "NaN",
  "٣",
  "",
  "9".repeat(400),
];
const TEXTS = [
  "felt",
  "",
  " ",
  "\u0000",
  "a\u0007b",
  "\ud800",
  "<script>alert(1)</script>",
  "'; DROP TABLE event; --",
  "x".repeat(5000),
  "😀",
  "{{7*7}}",
  "%s%n",
];
const DATES = [
  "2026-11-24",
  "1000-01-01",
  "1901-01-01",
  "0000-00-00",
  "2026-02-31",
  "2026-11-24 25:61",
  "9999-12-31",
  "-1",
  "now",
  "275760-09-14",
];
const WORDS = [
  "through",
  "hangs",
  "toString",
  "constructor",
  "__proto__",
  "hasOwnProperty",
  "dropped",
  "stays",
  "1",
  "value",
  "ladder",
  "clear",
];
const INTENTS = [
  "void",
  "ladder",
  "piece",
  "repeat",
  "abandon",
  "undo",
  "redo",
  "close",
  "order",
  "add",
  "remove",
  "restore",
  "station",
  "fittings",
  "shelf",
  "material",
  "new-material",
  "machine",
  "end-session",
  "start",
  "mark",
  "turn",
  "shift",
  "back",
  "forget",
  "finish",
  "leave",
  "also",
  "reopen",
  "backup",
  "restore-copy",
  "take-in",
  "stop",
  "bench",
  "currency",
  "out",
  "__proto__",
];
const KINDS = [...EVENT_KINDS, "constructor", "__proto__"];
const CHECKS = [
  "onset",
  "known-cut",
  "power@lens",
  "coolant-temp",
  "mirror-look@2",
  "mirror-look@99",
  "lens-side",
  "bed-map",
  "toString",
  "ladder",
];

const numeric = () => (chance(0.5) ? pick(NUMBERS) : String(Math.round(random() * 2000) / 10));
const key = () => (chance(0.8) ? `fuzz-${Math.floor(random() * 1e9)}` : pick(["round-1:proof", "", "a/b", "x".repeat(200), "fuzz-same"]));

/** A form as the places send them, each field sound or not. */
function form(): [string, string][] {
  const fields: [string, string][] = [["requestKey", key()]];
  const put = (name: string, value: () => string, p = 0.7) => {
    if (chance(p)) fields.push([name, chance(0.02) ? pick(TEXTS) : value()]);
  };
  put("kind", () => pick(KINDS));
  put("intent", () => pick(INTENTS), 0.6);
  put("materialId", () => pick(IDS));
  put("pieceMaterialId", () => pick(IDS), 0.3);
  put("pieceResult", () => pick(WORDS), 0.3);
  put("at", () => pick(DATES), 0.6);
  put("corrects", () => pick(IDS), 0.15);
  put("result", () => pick(WORDS));
  put("outcome", () => pick(WORDS), 0.5);
  put("check", () => pick(CHECKS), 0.5);
  put("finding", () => pick(IDS), 0.2);
  put("caseId", () => pick(IDS), 0.3);
  put("sign", () => pick(["far-corner", "fades", "flame", "__proto__"]), 0.3);
  put("since", () => pick(["0", "3", ...NUMBERS]), 0.3);
  put("part", () => pick(["lens", "nozzle", "mirror-2", "constructor", "mirror-look@2"]), 0.5);
  put("order", () => pick(["tube-first", "tube,window,lens", "", ","]), 0.3);
  put("station", () => pick(["lens", "mirror-2", "toString", "__proto__"]), 0.4);
  put("role", () => pick(["mirror", "lens", "constructor"]), 0.2);
  put("because", () => pick(["tube-changed", "toString"]), 0.2);
  put("why", () => pick(TEXTS), 0.3);
  put("note", () => pick(TEXTS), 0.4);
  put("name", () => pick(TEXTS), 0.4);
  put("madeFrom", () => pick(["{}", "null", "[1]", '{"__proto__":1}', "x"]), 0.3);
  put("layout", () => pick(["three-mirror", "constructor"]), 0.3);
  put("materialKind", () => pick(["birch-ply", "toString"]), 0.3);
  put("grade", () => pick(["0", "4", "5", "-1", "1.5"]), 0.3);
  put("baseline", () => "1", 0.2);
  put("here", () => "1", 0.5);
  for (const n of [
    "counterHours",
    "minutes",
    "speedMmPerS",
    "setPercent",
    "value",
    "ratedPowerW",
    "ratedTubeHours",
    "tubeHours",
    "thicknessMm",
    "apertureMm",
    "distanceMm",
    "power-lens",
    "speed-0",
    "usualSpeedMmPerS",
    "smokeOptics",
  ])
    put(n, numeric, 0.4);
  put("end-0", () => pick(WORDS), 0.4);
  put("form", () => pick(["ladder", "bed-map", "ramp", "constructor"]), 0.3);
  put("speedsMmPerS", () => pick(["8 9 10", "9,5; 10", "x", ...NUMBERS]), 0.3);
  put("line", () => pick(["3 mm birch 14 60 hangs", "1590.2 h", "coolant 21.5", ...TEXTS]), 0.3);
  put("copy", () => pick(["../clenor.sqlite", "copy-x.sqlite", "", "__proto__"]), 0.3);
  put("file", () => pick(IDS), 0.3);
  put("price", numeric, 0.2);
  put("spot", () => pick(["mirror-1", "mirror-2+mirror-2", "lens", "mirror-2+mirror-9", "__proto__", "work"]), 0.4);
  put("element", () => pick(["mirror-1", "mirror-2", "tube", "constructor", "mirror-99"]), 0.4);
  put("screw", () => pick(["A", "B", "C", "toString"]), 0.4);
  put("amount", () => pick(["0.125", "0.25", "-1", "NaN", ...NUMBERS]), 0.4);
  put("sense", () => pick(["clockwise", "anticlockwise", "x"]), 0.3);
  put(
    "shift",
    () =>
      pick([
        '{"of":"tube","mm":{"right":1,"up":0}}',
        '{"of":"slide","element":"tube","mm":1}',
        '{"of":"mount","station":"x","mm":1}',
        "{",
        "null",
      ]),
    0.3,
  );
  put("right", numeric, 0.4);
  put("up", numeric, 0.4);
  put("safe", () => "1", 0.6);
  put("power-back", () => "1", 0.6);
  put("sure", () => "1", 0.4);
  put("beamTo", () => pick(["left", "up", "sideways"]), 0.2);
  put("screwKind", () => pick(["right-angle", "none", "toString"]), 0.2);
  put("places", () => pick(["corner 40 40: 9 dropped", "x"]), 0.2);
  return fields;
}

/** Answers to a round, sound or not. */
function answers(): string {
  const answer = () => ({
    ...(chance(0.5) ? { done: pick([true, false, 1]) } : {}),
    ...(chance(0.5) ? { grade: pick([0, 2, 4, 5, -1, "2", 1.5]) } : {}),
    ...(chance(0.3) ? { note: pick(TEXTS) } : {}),
    ...(chance(0.2) ? { photos: [pick(["0".repeat(64), "../../x", ""])] } : {}),
    ...(chance(0.2) ? { timerEndsMs: pick([0, 1e300, -1]) } : {}),
    ...(chance(0.1) ? { constructor: 1 } : {}),
    atMs: pick([Date.now(), 0, -1, 1e300, "x"]),
  });
  const item = () => ({
    stepId: pick(["lens.found", "safe.unplug", "toString", ""]),
    answer: chance(0.9) ? answer() : pick([null, 1, []]),
    requestKey: key(),
  });
  const body = { items: chance(0.9) ? Array.from({ length: Math.floor(random() * 4) }, item) : pick([null, {}, "x"]) };
  return chance(0.9) ? JSON.stringify(body) : pick(["", "{", "null", "[]", '{"items":[', "\u0000"]);
}

const ACTIONS = [
  "aim",
  "aim",
  "round",
  "log",
  "trace",
  "workshop",
  "round/1",
  "round/2",
  "round/3",
  "trace/1",
  "trace/2",
  "trace/3",
  "round/999",
  "round/2/answers",
  "round/60/answers",
  "round/61/answers",
  "coupons",
  "gate",
  "exchange/take-in",
  "exchange/upload",
];
const PLACES = [
  "today",
  "round",
  "log",
  "trace",
  "aim",
  "aim",
  "trace/3/report",
  "trace/3/case.json",
  "mixes",
  "workshop",
  "round/sheet",
  "",
  "nowhere",
  "today.data",
  "log.data",
  "gate",
  "outlook",
  "coupons",
  "bench/read/hours",
  "exchange/table/cut.csv",
];
const QUERIES = () =>
  chance(0.5)
    ? ""
    : `?${pick(["kind", "edit", "upto", "show", "step", "check", "part", "scope", "tab", "station", "round", "order", "_routes", "index", "to", "material", "speed", "line", "file", "form"])}=${encodeURIComponent(pick([...IDS, ...WORDS, ...CHECKS]))}`;

function path(): string {
  const machine = pick(MACHINES.slice(0, chance(0.8) ? 3 : undefined));
  const inner = () => {
    const r = random();
    if (r < 0.5) return `/${machine}/${pick(PLACES)}`;
    if (r < 0.65) return `/${machine}/round/${pick(IDS)}${chance(0.5) ? "/answers" : ""}`;
    if (r < 0.8) return `/${machine}/trace/${pick(IDS)}`;
    if (r < 0.85) return `/${machine}/coupons/${pick(IDS)}${pick(["", "/sheet", "/file/svg", "/file/dxf", "/file/__proto__"])}`;
    if (r < 0.88) return `/${machine}/exchange/table/${pick([...KINDS.map((k) => `${k}.csv`), "../x.csv", "%00"])}`;
    return pick([
      "/",
      "/start",
      "/sign-in",
      "/photos",
      `/photos/${pick(IDS)}`,
      `/photos/${"0".repeat(64)}`,
      "/assets/../x",
      "/%zz",
      "//x",
      "/__manifest",
      "/_root.data",
      "/sign-in.data",
    ]);
  };
  return inner() + QUERIES();
}

const TYPES = [
  "application/x-www-form-urlencoded",
  "application/x-www-form-urlencoded;charset=UTF-8",
  "application/json",
  "multipart/form-data; boundary=x",
  "multipart/form-data",
  "text/plain",
  "application/octet-stream",
  "image/png",
  "",
  "x",
  "application/x-www-form-urlencoded; charset=\u00ff",
];

/** Files that come in: sound, broken, and not what they say they are. */
const FILES: readonly (string | Buffer)[] = [
  "when,material,speed_mm_per_s,set_percent,result\n2026-11-23 10:00,3 mm birch ply,12,60,through\n",
  "when,hours\n2026-11-23 10:00,=1+1\n",
  '{"clenor":1}',
  "[",
  "\ufeff",
  "",
  '"'.repeat(5000),
  Buffer.from([0x50, 0x4b, 3, 4, 1, 2, 3]),
  Buffer.from([0xff, 0xfe, 0, 0]),
  `when\n${"x,".repeat(20_000)}`,
];

interface Sent {
  readonly method: string;
  readonly path: string;
  readonly type: string | undefined;
  readonly body: string | Buffer | undefined;
}

function next(): Sent {
  const method = chance(0.35) ? "GET" : chance(0.9) ? "POST" : pick(["PUT", "PATCH", "DELETE", "HEAD", "OPTIONS", "TRACE", "PROPFIND"]);
  const aimed = method === "POST" && chance(0.7);
  const to = aimed ? `/${pick(MACHINES.slice(0, 3))}/${pick(ACTIONS)}${chance(0.3) ? ".data" : ""}${QUERIES()}` : path();
  if (method === "GET" || method === "HEAD") return { method, path: to, type: undefined, body: undefined };
  const fit = to.includes("/answers")
    ? "application/json"
    : to.startsWith("/photos") || to.includes("/upload")
      ? "application/octet-stream"
      : TYPES[0];
  const type = chance(0.85) ? fit : pick(TYPES);
  const body = to.includes("/answers")
    ? answers()
    : to.startsWith("/photos")
      ? Buffer.from(Array.from({ length: Math.floor(random() * 400) }, () => Math.floor(random() * 256)))
      : to.includes("/upload")
        ? pick(FILES)
        : type?.startsWith("multipart")
          ? pick(["--x\r\n", "--x--", '--x\r\nContent-Disposition: form-data; name="a"\r\n\r\nb\r\n--x--\r\n'])
          : chance(0.05)
            ? pick(["%", "&&&&", "=".repeat(3000), "a=%ff%fe", "a".repeat(300_000), "a=1&".repeat(5000)])
            : new URLSearchParams(form()).toString();
  return { method, path: to, type, body };
}

/** Status of an answer; 0 where the line was cut. */
function send(url: string, { method, path, type, body }: Sent): Promise<{ status: number; text: string }> {
  const { hostname, port } = new URL(url);
  return new Promise((done) => {
    const headers = {
      host: `${hostname}:${port}`,
      // Node leaves it out where a method usually has no body.
      ...(body === undefined ? {} : { "content-length": String(Buffer.byteLength(body)) }),
      origin: url,
      ...(type === undefined ? {} : { "content-type": Buffer.from(type).toString("latin1") }),
    };
    const outgoing = request({ hostname, port, method, path, headers, timeout: 30_000 }, (reply) => {
      let text = "";
      reply.on("data", (chunk: Buffer) => {
        text += chunk.toString();
      });
      reply.on("end", () => done({ status: reply.statusCode ?? 0, text }));
      reply.on("error", () => done({ status: 0, text }));
    });
    outgoing.on("timeout", () => outgoing.destroy(new Error("no answer in 30 s")));
    outgoing.on("error", (error) => done({ status: 0, text: error.message }));
    outgoing.end(body);
  });
}

prepare();
const server = await startServer(demoFolder());
// Two rounds and a case to aim at, one of them closed.
const post = (to: string, fields: Record<string, string>) =>
  send(server.url, { method: "POST", path: to, type: TYPES[0], body: new URLSearchParams(fields).toString() });
await post("/teasel/round", { part: "lens", requestKey: "fuzz-begin" });
await post("/larkspur/round", { part: "lens", requestKey: "fuzz-begin" });
await post("/burdock/aim", { intent: "start", safe: "1", requestKey: "fuzz-begin" });

const counts = new Map<number, number>();
const cuts = new Map<string, number>();
const bad: string[] = [];
let sent = 0;
await Promise.all(
  Array.from({ length: AT_ONCE }, async () => {
    while (sent < COUNT) {
      sent += 1;
      const one = next();
      const { status, text } = await send(server.url, one);
      counts.set(status, (counts.get(status) ?? 0) + 1);
      const cut = `${one.method} ${one.path.slice(0, 60)} ${one.type ?? ""} ${one.body?.length ?? 0} bytes: ${text}`;
      if (status === 0) cuts.set(cut, (cuts.get(cut) ?? 0) + 1);
      if (status >= 500)
        bad.push(`${status} ${one.method} ${one.path} ${one.type ?? ""} ${String(one.body ?? "").slice(0, 400)}\n   ${text.slice(0, 160)}`);
    }
  }),
);
const alive = (await send(server.url, { method: "GET", path: "/larkspur/today", type: undefined, body: undefined })).status;
await server.stop();

process.stdout.write(`${COUNT} requests, seed ${SEED}, ${AT_ONCE} at once\n`);
for (const [status, n] of [...counts].sort(([a], [b]) => a - b)) process.stdout.write(`${status === 0 ? "cut" : status}  ${n}\n`);
for (const [why, n] of cuts) process.stdout.write(`     cut: ${why}, ${n}\n`);
for (const words of bad.slice(0, SHOWN)) process.stdout.write(`${words}\n`);
process.stdout.write(`answers of 5xx: ${bad.length}; Today afterwards: ${alive}\n`);
if (bad.length > 0 || alive !== 200) {
  process.stdout.write(server.said().slice(-6000));
  process.exit(1);
}
