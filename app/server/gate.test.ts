import { mkdtempSync } from "node:fs";
import { createServer, type Server } from "node:http";
import { type AddressInfo, connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import express from "express";
import fc from "fast-check";
import pino from "pino";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStore } from "#store/database";
import routes from "../routes";
import { Door, setPassphrase } from "./door";
import { limitBody, onlyPlain, plainPath } from "./gate";
import { signedInOnly } from "./lan";

/** A second loopback address stands for the workshop's network. */
const ADDRESS = "127.0.0.2";

let server: Server;
let cookie: string;
beforeAll(async () => {
  const store = await openStore(mkdtempSync(join(tmpdir(), "clenor-gate-")));
  await setPassphrase(store, "felt under the reed pan");
  const door = (await Door.open(store, pino({ level: "silent" }), () => 1_000_000)) as Door;
  cookie = (await door.signIn("felt under the reed pan", ADDRESS, "a phone"))?.split(";")[0] ?? "";
  const app = express();
  app.use(onlyPlain);
  app.use("/assets", (_request, response) => void response.status(404).send("no such file"));
  app.use(signedInOnly(door));
  app.use(limitBody);
  // Whatever comes this far would be handed to the router, which resolves its address in its own way.
  app.use((request, response) => void response.send(`inside ${new URL(`http://x${request.originalUrl}`).pathname}`));
  server = createServer(app);
  await new Promise<void>((done) => server.listen(0, ADDRESS, done));
});
afterAll(() => server.close());

/** Sends bytes as they are, and gives the whole answer. */
function raw(head: string, body = ""): Promise<string> {
  return new Promise((done, fail) => {
    const socket = connect((server.address() as AddressInfo).port, ADDRESS);
    let text = "";
    socket.on("data", (chunk) => {
      text += chunk.toString();
    });
    socket.on("close", () => done(text));
    socket.on("error", fail);
    socket.write(`${head}\r\nHost: ${ADDRESS}\r\nConnection: close\r\n\r\n${body}`, "latin1");
  });
}
const get = (path: string, extra = "") => raw(`GET ${path} HTTP/1.1${extra}`);

/** Every path the router knows, with names for its parameters. */
function paths(under = "", list: typeof routes = routes): string[] {
  return list.flatMap((r) => {
    const path = r.path ? `${under}/${r.path.replace(":machine", "larkspur").replace(/:\w+/, "1")}` : under;
    return [path || "/", ...paths(path, r.children ?? [])];
  });
}

describe("the gate", () => {
  const all = [...new Set(paths())];
  const OPEN = ["/sign-in", "/sign-in.data", "/mark.svg"];

  it("knows every route of the application", () =>
    expect(all).toEqual(expect.arrayContaining(["/larkspur/today", "/larkspur/round/1/answers"])));

  it("answers no spelling of any route's path without a session", async () => {
    /** Ways to write a path that a router may take for the path itself. */
    const spelling = fc
      .tuple(
        fc.constantFrom(...all),
        fc.constantFrom(
          "",
          "/assets/..",
          "/assets/%2e%2e",
          "/assets/.%2e",
          "/assets/%2E.",
          "/sign-in/..",
          "/mark.svg/%2e%2e",
          "/assets/..\\",
          "\\..",
          "/.",
          "//",
          "/assets\\..",
          "/%2e",
        ),
        fc.constantFrom(
          "",
          ".data",
          "/",
          "?x=/sign-in",
          "#/assets/x",
          "%00",
          ";/assets/x.js",
          "/../today",
          "/%2e%2e/today",
          "%2f..",
          "/_.data",
        ),
        fc.array(fc.nat(40), { maxLength: 3 }),
        fc.constantFrom("GET", "POST", "HEAD", "PUT"),
      )
      .map(([path, before, after, encoded, method]) => {
        const letters = [...`${before}${path}${after}`];
        for (const i of encoded) {
          const letter = letters[i];
          if (letter && /[\w./-]/.test(letter)) letters[i] = `%${letter.charCodeAt(0).toString(16).padStart(2, "0")}`;
        }
        return { method, target: letters.join("") };
      });
    await fc.assert(
      fc.asyncProperty(spelling, async ({ method, target }) => {
        const answer = await raw(`${method} ${target} HTTP/1.1`);
        if (OPEN.includes(plainPath(target) ?? "")) return;
        expect(answer).toMatch(/^HTTP\/1.1 (303|400|401|403|404|405)/);
        expect(answer).not.toContain("inside");
      }),
      { numRuns: 600 },
    );
  });

  it("lets a session in to each of them, spelled plainly", async () => {
    for (const path of all) expect(await get(path, `\r\nCookie: ${cookie}`)).toContain(`inside ${path}`);
  });

  it("lets nobody in on a request that another server passed on", async () => {
    for (const header of ["X-Forwarded-For: 127.0.0.1", "Forwarded: for=127.0.0.1", "Via: 1.1 x", "X-Forwarded-Host: x"])
      expect(await get("/larkspur/today", `\r\nCookie: ${cookie}\r\n${header}`)).toMatch(/^HTTP\/1.1 403/);
  });
});

describe("a body", () => {
  const post = (path: string, type: string, body: string, length = Buffer.byteLength(body)) =>
    raw(`POST ${path} HTTP/1.1\r\nCookie: ${cookie}\r\nContent-Type: ${type}\r\nContent-Length: ${length}`, body);
  const FORM = "application/x-www-form-urlencoded";
  it.each([
    ["a form too long", "/larkspur/log", FORM, "a".repeat(256 * 1024 + 1), /^HTTP\/1.1 413.*256 kB at most/s],
    ["a form of too many fields", "/larkspur/log", FORM, "a=1&".repeat(2000), /^HTTP\/1.1 413.*2000 fields at most/s],
    ["a long passphrase", "/sign-in", FORM, "a".repeat(5000), /^HTTP\/1.1 413.*4 kB at most/s],
    ["answers too long", "/larkspur/round/1/answers", "application/json", " ".repeat(256 * 1024 + 1), /^HTTP\/1.1 413/],
    ["a form where answers go", "/larkspur/round/1/answers", FORM, "a=1", /^HTTP\/1.1 415.*takes JSON/s],
    ["a form in parts", "/larkspur/log", "multipart/form-data; boundary=x", "--x--", /^HTTP\/1.1 415.*takes a form/s],
    ["a page as a photo", "/photos", "text/html", "<p>", /^HTTP\/1.1 415/],
    ["an honest form", "/larkspur/log", `${FORM};charset=UTF-8`, "kind=note&note=felt", /inside \/larkspur\/log/],
  ])("%s", async (_, path, type, body, answer) => expect(await post(path, type, body)).toMatch(answer));

  it("is refused by its announced length before a byte of it came", async () =>
    expect(await post("/photos", "application/octet-stream", "", 65 * 1024 * 1024)).toMatch(/^HTTP\/1.1 413/));

  it("without an announced length is cut where it goes over", async () => {
    const chunk = "x".repeat(64 * 1024);
    const head = `POST /larkspur/log HTTP/1.1\r\nCookie: ${cookie}\r\nContent-Type: ${FORM}\r\nTransfer-Encoding: chunked`;
    expect(await raw(head, `10000\r\n${chunk}\r\n`.repeat(5)).catch(() => "HTTP/1.1 413 cut")).toMatch(/^HTTP\/1.1 413/);
  });
});
