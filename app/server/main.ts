/** Starts the application: opens the store, binds to loopback, serves the built pages, stops gracefully. */
import { createServer, type Server } from "node:http";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express from "express";
import pino from "pino";
import { pinoHttp } from "pino-http";
import type { ServerBuild } from "react-router";
import { closeStore, DatabaseRefused, openStore } from "#store/database";
import { clockFrom } from "./clock";
import "./context";
import { sameOriginOnly, securityHeaders } from "./guards";

const FIRST_PORT = 4173;
const PORTS_TRIED = 20;

const log = pino({ level: process.env.LOG_LEVEL ?? "info" }, pino.destination({ dest: 2, sync: true }));

function listen(server: Server, port: number): Promise<void> {
  return new Promise((done, fail) => {
    server.once("error", fail);
    server.listen(port, "127.0.0.1", () => {
      server.off("error", fail);
      done();
    });
  });
}

/** The asked port, or from the default on the next free one. */
async function bind(server: Server): Promise<number> {
  const asked = process.env.PORT;
  if (asked !== undefined) {
    const port = Number(asked);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new Error(`PORT must be a whole number from 1 to 65535, found "${asked}"`);
    await listen(server, port);
    return port;
  }
  for (let port = FIRST_PORT; port < FIRST_PORT + PORTS_TRIED; port++) {
    try {
      await listen(server, port);
      return port;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE") throw error;
    }
  }
  throw new Error(`ports ${FIRST_PORT} to ${FIRST_PORT + PORTS_TRIED - 1} are all taken; set PORT to a free one`);
}

async function main(): Promise<void> {
  const folder = resolve(process.env.CLENOR_DATA ?? "data");
  const store = openStore(folder);
  const nowMs = clockFrom(process.env.CLENOR_NOW);
  const build = (await import(pathToFileURL(resolve("build/server/index.js")).href)) as ServerBuild;

  const app = express();
  const server = createServer(app);
  const port = await bind(server);

  app.disable("x-powered-by");
  app.use(
    pinoHttp<express.Request, express.Response, never>({
      logger: log,
      autoLogging: { ignore: (request) => request.url?.startsWith("/assets/") ?? false },
      customLogLevel: (_request, response, error) => (error || response.statusCode >= 500 ? "error" : "debug"),
    }),
  );
  app.use(sameOriginOnly(port));
  app.use(securityHeaders());
  app.use(compression());
  app.use("/assets", express.static("build/client/assets", { immutable: true, maxAge: "1y" }));
  app.use(express.static("build/client", { maxAge: "1h" }));
  app.use(
    createRequestHandler({
      build,
      getLoadContext: (_request, response) => ({ store, nowMs, folder, log, nonce: response.locals.nonce as string }),
    }),
  );

  process.stdout.write(`Clenor is running: http://127.0.0.1:${port}/\n`);

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
  if (error instanceof DatabaseRefused) process.stderr.write(`${error.message}\n`);
  else log.fatal(error instanceof Error ? error : new Error(String(error)));
  process.exit(1);
});
