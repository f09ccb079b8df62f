/** Starts the real server on a data folder of its own and a port of its own, and stops or kills it. */
import { type ChildProcess, spawn } from "node:child_process";
import { cpSync, mkdtempSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** The day of all browser tests and pictures. */
export const TODAY = "2026-11-24T09:00:00Z";
export const DEMO_MASTER = join(tmpdir(), "clenor-demo-master");

export function emptyFolder(): string {
  return mkdtempSync(join(tmpdir(), "clenor-e2e-"));
}

/** A copy of the demo data that a test may change. */
export function demoFolder(): string {
  const folder = emptyFolder();
  cpSync(DEMO_MASTER, folder, { recursive: true });
  return folder;
}

function freePort(): Promise<number> {
  return new Promise((done, fail) => {
    const probe = createServer();
    probe.once("error", fail);
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => (address && typeof address === "object" ? done(address.port) : fail(new Error("no port"))));
    });
  });
}

export interface RunningServer {
  readonly url: string;
  /** Its data folder. */
  readonly folder: string;
  /** What it printed and logged so far. */
  readonly said: () => string;
  readonly stop: () => Promise<void>;
  /** Ends it without a chance to tidy up, as a power cut would. */
  readonly kill: () => Promise<void>;
}

export interface ServerOptions {
  readonly args?: readonly string[];
  /** Flags of Node itself. */
  readonly node?: readonly string[];
  readonly env?: Readonly<Record<string, string>>;
  /** Address the browser goes to. */
  readonly host?: string;
}

export async function startServer(
  folder: string,
  { args = [], node = [], env = {}, host = "127.0.0.1" }: ServerOptions = {},
): Promise<RunningServer> {
  const port = await freePort();
  const child = spawn(process.execPath, [...node, "build/run/main.mjs", ...args], {
    env: {
      ...process.env,
      NODE_ENV: "production",
      PORT: String(port),
      CLENOR_DATA: folder,
      CLENOR_NOW: TODAY,
      LOG_LEVEL: "warn",
      CLENOR_PLAN_SECONDS: "0",
      ...env,
    },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  for (const stream of [child.stdout, child.stderr]) {
    stream?.on("data", (chunk: Buffer) => {
      said += chunk.toString();
    });
  }
  const end = (signal: NodeJS.Signals) => ended(child, signal);
  await new Promise<void>((done, fail) => {
    child.stdout?.on("data", () => {
      if (said.includes("Clenor is running")) done();
    });
    child.once("exit", (code) => fail(new Error(`the server ended with ${code}: ${said}`)));
  });
  return { url: `http://${host}:${port}`, folder, said: () => said, stop: () => end("SIGTERM"), kill: () => end("SIGKILL") };
}

function ended(child: ChildProcess, signal: NodeJS.Signals): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((done) => {
    child.once("exit", () => done());
    child.kill(signal);
  });
}
