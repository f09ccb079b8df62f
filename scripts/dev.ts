/**
 * `npm run dev`: the application with hot reload, on loopback, for who works on it. Pages are translated as they are asked for; the
 * guards of the real server that would stand in the way of that (its content security policy) are left out.
 */
import { randomUUID } from "node:crypto";
import express from "express";
import pino from "pino";
import type { ServerBuild } from "react-router";
import { createServer } from "vite";
import { clockFrom } from "../app/server/clock";
import { threadImporter } from "../app/server/filesThread";
import { limitBody } from "../app/server/gate";
import { servePages } from "../app/server/pages";
import { threadPlanner } from "../app/server/planThread";
import { threadTracer } from "../app/server/traceThread";
import { openStore } from "../store/database";
import { lockFolder } from "../store/folder";

const PORT = Number(process.env.PORT ?? 5173);
const folder = process.env.CLENOR_DATA ?? "demo-data";
const lock = lockFolder(folder);
const services = { store: await openStore(folder), folder, nowMs: clockFrom(process.env.CLENOR_NOW) };
const ours = {
  ...services,
  tracer: threadTracer(new URL("../workers/trace.source.mjs", import.meta.url), console.warn),
  planner: threadPlanner(new URL("../workers/plan.source.mjs", import.meta.url), 8, console.warn),
  importer: threadImporter(services, new URL("../workers/files.source.mjs", import.meta.url)),
  log: pino({ level: "warn" }),
  door: undefined,
  lanUrls: [],
  isPage: () => true,
  sessionId: undefined,
  signedIn: false,
  address: "127.0.0.1",
  local: true,
};
const vite = await createServer({ server: { middlewareMode: true }, appType: "custom" });
let served: { readonly build: unknown; readonly serve: ReturnType<typeof servePages> } | undefined;

const app = express();
app.use(vite.middlewares);
app.use(limitBody);
app.use(async (request, response, next) => {
  try {
    const build = (await vite.ssrLoadModule("virtual:react-router/server-build")) as unknown as ServerBuild;
    // Pages that were kept are those of the code they were made by.
    if (served?.build !== build) served = { build, serve: servePages(build, () => ours) };
    response.locals.nonce = randomUUID();
    await served.serve(request, response, next);
  } catch (error) {
    next(error);
  }
});
app.listen(PORT, "127.0.0.1", () => {
  lock.answersAt(`http://127.0.0.1:${PORT}/`);
  process.stdout.write(`Clenor, with hot reload: http://127.0.0.1:${PORT}/\n`);
});
