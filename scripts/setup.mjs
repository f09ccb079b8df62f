/**
 * What the commands need before they can run, on a fresh machine with nothing but Node and npm: dependencies, the build, and (for
 * the browser tests) Chromium. Plain Node, because it runs before anything is installed.
 */
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
process.chdir(ROOT);

const BUILT_FROM = [
  "app",
  "core",
  "catalog",
  "store",
  "services",
  "devices",
  "workers",
  "public",
  "package-lock.json",
  "vite.config.ts",
  "vite.server.config.ts",
  "scripts/bundle.mjs",
  "react-router.config.ts",
  "tsconfig.json",
];
/** The shell without a window starts in a third of the time; either will do. */
const CHROMIUMS = JSON.parse(readFileSync("e2e/chromium.json", "utf8"));

function run(command, args, env = {}) {
  const result = spawnSync(command, args, { stdio: ["ignore", "inherit", "inherit"], env: { ...process.env, ...env } });
  if (result.status !== 0) {
    process.stderr.write(`"${command} ${args.join(" ")}" failed${result.error ? `: ${result.error.message}` : ""}.\n`);
    process.exit(result.status ?? 1);
  }
}

function files(path) {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path)
    .sort()
    .flatMap((name) => files(join(path, name)));
}

function fingerprint(paths) {
  const hash = createHash("sha256");
  for (const file of paths.filter(existsSync).flatMap(files)) {
    if (/\.test\.tsx?$/.test(file)) continue;
    hash.update(file).update(readFileSync(file));
  }
  return hash.digest("hex");
}

const stampIs = (file, value) => existsSync(file) && readFileSync(file, "utf8") === value;

export function ensureInstalled() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    process.stderr.write(`Clenor needs Node 20.19 or newer; this is ${process.versions.node}.\n`);
    process.exit(1);
  }
  const stamp = "node_modules/.clenor-installed";
  const wanted = fingerprint(["package-lock.json"]);
  if (stampIs(stamp, wanted)) return;
  process.stdout.write("Installing dependencies…\n");
  // Not `npm ci`: it insists on the binaries of other platforms, which a lock file made behind a partial registry lacks.
  run("npm", ["install", "--no-save", "--no-audit", "--no-fund"]);
  writeFileSync(stamp, wanted);
}

export function ensureBuilt() {
  const stamp = "build/.clenor-built";
  const wanted = fingerprint(BUILT_FROM);
  if (stampIs(stamp, wanted)) return;
  process.stdout.write("Building…\n");
  for (const args of [
    ["node_modules/@react-router/dev/bin.js", "build"],
    ["node_modules/vite/bin/vite.js", "build", "--config", "vite.server.config.ts"],
    ["scripts/bundle.mjs"],
  ]) {
    const result = spawnSync(process.execPath, args, { encoding: "utf8", env: { ...process.env, NODE_ENV: "production" } });
    if (result.status !== 0) {
      process.stderr.write(`${result.stdout}\n${result.stderr}\nThe build failed.\n`);
      process.exit(1);
    }
  }
  mkdirSync("build", { recursive: true });
  writeFileSync(stamp, wanted);
}

/** True when Chromium is there or could be installed; says what to do when not. */
export function ensureChromium() {
  const there = () => CHROMIUMS.some((path) => existsSync(path));
  if (there()) return true;
  const root = process.getuid?.() === 0;
  if (root && spawnSync("apt-get", ["--version"]).status === 0) {
    process.stdout.write("Installing Chromium for the browser tests…\n");
    const quiet = { stdio: ["ignore", "ignore", "inherit"], env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } };
    spawnSync("apt-get", ["update", "-qq"], quiet);
    for (const name of ["chromium-headless-shell", "chromium"]) {
      spawnSync("apt-get", ["install", "-y", "-qq", name], quiet);
      if (there()) return true;
    }
  }
  process.stderr.write("The browser tests need Debian's Chromium. Install it with: sudo apt-get install chromium-headless-shell\n");
  return false;
}

/** Runs a TypeScript file with the project's runner, to its end. */
export function runScript(file, args = [], env = {}) {
  run(process.execPath, ["--import", "tsx", file, ...args], env);
}

/** Runs the server until it is stopped, handing signals on. */
export function serve(env = {}, args = []) {
  const child = spawn(process.execPath, ["build/run/main.mjs", ...args], {
    stdio: "inherit",
    env: { ...process.env, NODE_ENV: "production", ...env },
  });
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
}
