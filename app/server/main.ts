/** Starts the application: opens the store, binds to loopback (with --lan to the workshop's network), serves, stops gracefully. */
import { createServer, type Server } from "node:http";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import pino from "pino";
import { pinoHttp } from "pino-http";
import QRCode from "qrcode";
import type { ServerBuild } from "react-router";
import { read } from "read";
import { closeStore, DatabaseRefused, openStore, type Store } from "#store/database";
import { clockFrom } from "./clock";
import "./context";
import { Door, hasPassphrase, SHORTEST_PASSPHRASE, setPassphrase } from "./door";
import { sameOriginOnly, securityHeaders } from "./guards";
import { isLocal, lanAddresses, lanAsked, lanNames, limitSignIn, signedInOnly } from "./lan";

const FIRST_PORT = 4173;
const PORTS_TRIED = 20;

const log = pino({ level: process.env.LOG_LEVEL ?? "info" }, pino.destination({ dest: 2, sync: true }));

function listen(server: Server, port: number, host: string): Promise<void> {
  return new Promise((done, fail) => {
    server.once("error", fail);
    server.listen(port, host, () => {
      server.off("error", fail);
      done();
    });
  });
}

/** The asked port, or from the default on the next free one. */
async function bind(server: Server, host: string): Promise<number> {
  const asked = process.env.PORT;
  if (asked !== undefined) {
    const port = Number(asked);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new Error(`PORT must be a whole number from 1 to 65535, found "${asked}"`);
    await listen(server, port, host);
    return port;
  }
  for (let port = FIRST_PORT; port < FIRST_PORT + PORTS_TRIED; port++) {
    try {
      await listen(server, port, host);
      return port;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE") throw error;
    }
  }
  throw new Error(`ports ${FIRST_PORT} to ${FIRST_PORT + PORTS_TRIED - 1} are all taken; set PORT to a free one`);
}

/** The door, with a passphrase from CLENOR_PASSPHRASE, the one set before, or asked for here. Throws with what to do when there is none. */
async function openDoor(store: Store, nowMs: () => number): Promise<Door> {
  const given = process.env.CLENOR_PASSPHRASE;
  const renew = process.argv.includes("--new-passphrase");
  if (given !== undefined) await setPassphrase(store, given);
  else if (renew || !(await hasPassphrase(store))) {
    if (!process.stdin.isTTY)
      throw new CannotStart("--lan needs a passphrase: start it once in a terminal to choose one, or set CLENOR_PASSPHRASE.");
    const ask = (prompt: string) => read({ prompt, silent: true, replace: "*" });
    const first = await ask(`A passphrase for the workshop's network (${SHORTEST_PASSPHRASE} characters or more): `);
    if (first !== (await ask("\nOnce more: "))) throw new CannotStart("\nThe two are not the same. Nothing was changed.");
    process.stdout.write("\n");
    await setPassphrase(store, first);
  }
  const door = await Door.open(store, log, nowMs);
  if (!door) throw new CannotStart("The passphrase could not be read back.");
  return door;
}

/** Something its owner can mend; the message says how. */
class CannotStart extends Error {}

async function main(): Promise<void> {
  const folder = resolve(process.env.CLENOR_DATA ?? "data");
  const store = openStore(folder);
  const nowMs = clockFrom(process.env.CLENOR_NOW);
  const build = (await import(pathToFileURL(resolve("build/server/index.js")).href)) as ServerBuild;

  const lan = lanAsked(process.argv);
  const door = lan && (await openDoor(store, nowMs));
  const addresses = () => (lan ? (lan.address ? [lan.address] : lanAddresses()) : []);

  const app = express();
  const server = createServer(app);
  const port = await bind(server, lan ? "0.0.0.0" : "127.0.0.1");
  const lanUrls = () => addresses().map((a) => `http://${a}:${port}/`);

  app.disable("x-powered-by");
  app.use(
    pinoHttp<express.Request, express.Response, never>({
      logger: log,
      autoLogging: { ignore: (request) => request.url?.startsWith("/assets/") ?? false },
      customLogLevel: (_request, response, error) => (error || response.statusCode >= 500 ? "error" : "debug"),
    }),
  );
  app.use(sameOriginOnly(port, () => (lan ? lanNames(addresses()) : [])));
  app.use(securityHeaders({ overPlainHttp: lan !== undefined }));
  if (door) {
    app.post(["/sign-in", "/sign-in.data"], limitSignIn());
    app.use(signedInOnly(door));
  }
  app.use(compression());
  app.use("/assets", express.static("build/client/assets", { immutable: true, maxAge: "1y" }));
  app.use(express.static("build/client", { maxAge: "1h" }));
  app.use(
    createRequestHandler({
      build,
      getLoadContext: (request, response) => ({
        store,
        nowMs,
        folder,
        log,
        door,
        lanUrls: lanUrls(),
        signedIn: response.locals.signedIn === true,
        address: request.socket.remoteAddress ?? "",
        local: isLocal(request),
        nonce: response.locals.nonce as string,
      }),
    }),
  );

  let said = `Clenor is running: http://127.0.0.1:${port}/\n`;
  if (lan && lanUrls().length === 0) said += "This machine has no address in a network: only it can reach Clenor.\n";
  for (const url of lanUrls()) {
    said += `In the workshop's network, with the passphrase: ${url}\n${await QRCode.toString(url, { type: "terminal", small: true })}\n`;
  }
  process.stdout.write(said);

  const stop = (signal: string) => {
    log.info({ signal }, "stopping");
    server.close(() => {
      void closeStore(store).then(() => process.exit(0));
    });
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 3000).unref();
  };
  process.once("SIGINT", () => stop("SIGINT"));
  process.once("SIGTERM", () => stop("SIGTERM"));
}

main().catch((error: unknown) => {
  if (error instanceof DatabaseRefused || error instanceof CannotStart || error instanceof RangeError)
    process.stderr.write(`${error.message}\n`);
  else log.fatal(error instanceof Error ? error : new Error(String(error)));
  process.exit(1);
});
