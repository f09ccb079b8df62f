/** Starts the application: opens the store, binds to loopback (with --lan to the workshop's network), serves, stops gracefully. */
import { createServer, type Server } from "node:http";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import compression from "compression";
import express from "express";
import precompressed from "express-static-gzip";
import pino from "pino";
import { pinoHttp } from "pino-http";
import QRCode from "qrcode";
import { matchRoutes, type RouteObject, type ServerBuild } from "react-router";
import { read } from "read";
import { HOUR_MS, MINUTE_MS } from "#core/time";
import { COPIES_FOLDER } from "#services/exchange/daily";
import { finishJudging } from "#services/rounds/close";
import { sweepCopies, sweepOrphans } from "#store/backups";
import { closeStore, DatabaseRefused, openStore, type Store } from "#store/database";
import { FolderInUse, type FolderLock, keepPrivate, lockFolder } from "#store/folder";
import { sweepPhotos } from "#store/photos";
import { readSetting } from "#store/settings";
import { troubleOf } from "#store/trouble";
import { clockFrom } from "./clock";
import "./context";
import { Door, hasPassphrase, SHORTEST_PASSPHRASE, setPassphrase } from "./door";
import { limitGuesses, serveFeed, withoutSecret } from "./feed";
import { threadImporter } from "./filesThread";
import { limitBody, onlyPlain, plainPath } from "./gate";
import { sameOriginOnly, securityHeaders } from "./guards";
import { isLocal, lanAddresses, lanAsked, lanNames, limitSignIn, signedInOnly } from "./lan";
import { servePages } from "./pages";
import { planSeconds, threadPlanner } from "./planThread";
import { threadTracer } from "./traceThread";

const FIRST_PORT = 4173;
const PORTS_TRIED = 20;
const KEPT_ALIVE_MS = 310_000;

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

/** Listens on one port at every address named, or on none of them. */
async function listenAt(app: express.Express, port: number, hosts: readonly string[]): Promise<Server[]> {
  const servers: Server[] = [];
  try {
    for (const host of hosts) {
      const server = createServer(app);
      // Longer than any browser keeps a line it does not use: whoever closes first, a form sent at that moment is lost.
      server.keepAliveTimeout = KEPT_ALIVE_MS;
      server.headersTimeout = KEPT_ALIVE_MS + 5000;
      await listen(server, port, host);
      servers.push(server);
    }
    return servers;
  } catch (error) {
    for (const server of servers) server.close();
    if ((error as NodeJS.ErrnoException).code === "EADDRNOTAVAIL")
      throw new CannotStart(
        `This machine has no address ${(error as { address?: string }).address}. Those it has: ${lanAddresses().join(", ") || "none"}.`,
      );
    throw error;
  }
}

/** The asked port, or from the default on the next free one. */
async function bind(app: express.Express, hosts: readonly string[]): Promise<{ servers: Server[]; port: number }> {
  const asked = process.env.PORT;
  if (asked !== undefined) {
    const port = Number(asked);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new CannotStart(`PORT must be a whole number from 1 to 65535, found "${asked}".`);
    return { servers: await listenAt(app, port, hosts), port };
  }
  for (let port = FIRST_PORT; port < FIRST_PORT + PORTS_TRIED; port++) {
    try {
      return { servers: await listenAt(app, port, hosts), port };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE") throw error;
    }
  }
  throw new CannotStart(`Ports ${FIRST_PORT} to ${FIRST_PORT + PORTS_TRIED - 1} are all taken; set PORT to a free one.`);
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

/** Pages one may be led to after signing in: what the router knows, but for what only scripts ask. */
function pagesOf(build: ServerBuild): (path: string) => boolean {
  const { routes } = build;
  const under = (parentId: string | undefined): RouteObject[] =>
    Object.values(routes).flatMap((r) =>
      r && r.parentId === parentId
        ? [{ id: r.id, path: r.path, ...(r.index ? { index: true as const } : { children: under(r.id) }) } as RouteObject]
        : [],
    );
  const tree = under(undefined);
  return (to) => {
    const path = to.length <= 500 && /^[!-~]+$/.test(to) ? plainPath(to) : undefined;
    const last = path === undefined ? undefined : matchRoutes(tree, path)?.at(-1)?.route.id;
    return last !== undefined && !/^(root|signin|photos|exchange|bench)\b|answers|\/file/.test(last);
  };
}

async function main(): Promise<void> {
  // What this process writes is for its owner alone.
  process.umask(0o077);
  const folder = resolve(process.env.CLENOR_DATA ?? "data");
  const lan = lanAsked(process.argv);
  const lock = takeFolder(folder);
  const store = await openStore(folder);
  sweepPhotos(folder);
  sweepCopies(folder);
  await sweepOrphans(store, folder, await readSetting<string>(store, COPIES_FOLDER));
  const nowMs = clockFrom(process.env.CLENOR_NOW);
  const build = (await import(pathToFileURL(resolve("build/run/pages.mjs")).href)) as ServerBuild;

  const door = lan && (await openDoor(store, nowMs));
  const addresses = () => (lan ? (lan.address ? [lan.address] : lanAddresses()) : []);
  const app = express();
  const hosts = lan === undefined ? ["127.0.0.1"] : lan.address === undefined ? ["0.0.0.0"] : [...new Set(["127.0.0.1", lan.address])];
  const { servers, port } = await bind(app, hosts);
  lock.answersAt(`http://127.0.0.1:${port}/`);
  const lanUrls = () => addresses().map((a) => `http://${a}:${port}/`);
  const importer = threadImporter({ store, nowMs, folder }, pathToFileURL(resolve("build/run/files.mjs")));
  const tracer = threadTracer(pathToFileURL(resolve("build/run/trace.mjs")), (error) =>
    log.warn(error, "a case was answered without its thread"),
  );
  const seconds = planSeconds(process.env.CLENOR_PLAN_SECONDS);
  const planner =
    seconds === 0
      ? {}
      : {
          planner: threadPlanner(pathToFileURL(resolve("build/run/plan.mjs")), seconds, (error) => log.warn(error, "a quick plan stands")),
        };
  const ours = { store, nowMs, folder, log, door, importer, tracer, onlyAsked: seconds === 0, ...planner, isPage: pagesOf(build) };
  const half = await finishJudging({ ...ours, ...NOBODY });
  if (half > 0) log.warn({ cases: half }, "cases closed whose repair was proven before this server was last stopped");

  app.disable("x-powered-by");
  app.disable("etag");
  app.use(
    pinoHttp<express.Request, express.Response, never>({
      logger: log,
      autoLogging: { ignore: (request) => request.url?.startsWith("/assets/") ?? false },
      customLogLevel: (_request, { statusCode }, error) =>
        // A disk or a lock that refused was told to whoever asked; it is nothing that broke in here.
        statusCode === 503 || statusCode === 507 ? "warn" : error || statusCode >= 500 ? "error" : "debug",
      // Never what was typed, nor the cookies it came with.
      serializers: {
        req: ({ method, url, remoteAddress }: { method: string; url: string; remoteAddress: string }) => ({
          method,
          url: withoutSecret(url),
          remoteAddress,
        }),
        res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
        err: (error: Error) => (error.message.startsWith("failed with status code") ? undefined : pino.stdSerializers.err(error)),
      },
    }),
  );
  app.use(onlyPlain);
  app.use(sameOriginOnly(port, () => (lan ? lanNames(addresses()) : [])));
  app.use(securityHeaders({ overPlainHttp: lan !== undefined }));
  app.use(
    "/assets",
    precompressed("build/client/assets", {
      enableBrotli: true,
      orderPreference: ["br", "gzip"],
      index: false,
      serveStatic: { immutable: true, maxAge: "1y", redirect: false },
    }),
  );
  app.use("/assets", (_request, response) => void response.status(404).type("text").send("There is no such file.\n"));
  if (door) {
    app.post(["/sign-in", "/sign-in.data"], limitSignIn());
    app.get("/feed/:secret", limitGuesses(), serveFeed(ours));
    app.use(signedInOnly(door));
  }
  app.use(limitBody);
  app.use(compression());
  app.use(express.static("build/client", { maxAge: "1h", index: false, redirect: false }));
  app.use(
    servePages(build, (request, response) => ({
      ...ours,
      lanUrls: lanUrls(),
      sessionId: response.locals.sessionId as number | undefined,
      signedIn: response.locals.sessionId !== undefined,
      address: request.socket.remoteAddress ?? "",
      local: isLocal(request),
    })),
  );
  app.use(lastResort);

  let said = `Clenor is running: http://127.0.0.1:${port}/\n`;
  if (lan && lanUrls().length === 0) said += "This machine has no address in a network: only it can reach Clenor.\n";
  for (const url of lanUrls()) {
    said += `In the workshop's network, with the passphrase: ${url}\n${await QRCode.toString(url, { type: "terminal", small: true })}\n`;
  }
  process.stdout.write(said);
  keepCopies(importer.copyDaily);

  const stop = (signal: string) => {
    log.info({ signal }, "stopping");
    const closed = servers.map((server) => new Promise((done) => server.close(done)));
    for (const server of servers) server.closeIdleConnections();
    void Promise.all(closed)
      .then(() => closeStore(store))
      // The log is whole as it is; folding it into the file can wait for the next start.
      .catch((error: unknown) => log.warn(error instanceof Error ? error.message : String(error)))
      .then(() => {
        lock.release();
        process.exit(0);
      });
    setTimeout(() => process.exit(0), 3000).unref();
  };
  process.once("SIGINT", () => stop("SIGINT"));
  process.once("SIGTERM", () => stop("SIGTERM"));
}

/** A copy a day, asked for soon and every hour: whichever hour the computer is on. */
function keepCopies(copyDaily: () => Promise<void>): void {
  const copy = () => void copyDaily().catch((error: unknown) => log.warn(error, "the copy of the day was not made"));
  setTimeout(copy, MINUTE_MS).unref();
  setInterval(copy, HOUR_MS).unref();
}

/** What is asked by the server itself, of nobody's behalf. */
const NOBODY = {
  lanUrls: [],
  sessionId: undefined,
  signedIn: false,
  address: "",
  local: true,
  nonce: "",
  now: "",
  freshKey: () => "",
  personal: () => undefined,
};

/** Takes the folder for this server, made private first. */
function takeFolder(folder: string): FolderLock {
  try {
    for (const problem of keepPrivate(folder)) log.warn(problem);
    return lockFolder(folder);
  } catch (error) {
    const trouble = troubleOf(error);
    if (!trouble) throw error;
    throw new CannotStart(`The data folder ${folder} cannot be used. ${trouble.message.replace(": nothing was saved", "")}`);
  }
}

/** An error nobody foresaw: logged, and answered without what is inside. */
function lastResort(error: unknown, _request: express.Request, response: express.Response, _next: express.NextFunction): void {
  log.error(error instanceof Error ? error : new Error(String(error)), "request failed");
  if (response.headersSent) response.destroy();
  else response.status(500).type("text").send("Something went wrong here. Nothing of it was saved.\n");
}

main().catch((error: unknown) => {
  const forItsOwner = [DatabaseRefused, CannotStart, FolderInUse, RangeError].some((kind) => error instanceof kind);
  if (forItsOwner) process.stderr.write(`${(error as Error).message}\n`);
  else log.fatal(error instanceof Error ? error : new Error(String(error)));
  process.exit(1);
});
