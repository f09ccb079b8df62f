/**
 * `npm test`: sets itself up, runs types, lint, unit and browser tests, and ends with one line over all of them.
 *
 * Browser tests wait for pages most of their time, so all that needs no browser runs beside them: it is kept back and said as a
 * whole, the browser tests say theirs as they go.
 */
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ensureInstalled } from "./setup.mjs";

const REPORTS = "test-results";
const bin = (name) => `node_modules/.bin/${name}`;
let passed = 0;
let failed = 0;

const heading = (text) => process.stdout.write(`\n== ${text}\n`);

/** Runs a command to its end; what it says goes out under its heading, at once when it is live and as a whole when not. */
function run(name, command, args, { env = {}, live = false } = {}) {
  return new Promise((done) => {
    const said = [];
    if (live) heading(name);
    const child = spawn(command, args, {
      stdio: ["ignore", live ? "inherit" : "pipe", live ? "inherit" : "pipe"],
      env: { ...process.env, ...env },
    });
    child.stdout?.on("data", (chunk) => said.push(chunk));
    child.stderr?.on("data", (chunk) => said.push(chunk));
    child.on("error", (error) => said.push(Buffer.from(`${error.message}\n`)));
    child.on("close", (code) => {
      if (!live) {
        heading(name);
        process.stdout.write(Buffer.concat(said));
      }
      done(code === 0);
    });
  });
}

/** A step that passes or fails as a whole. */
async function step(name, command, args) {
  if (await run(name, command, args)) passed++;
  else failed++;
}

/** A runner that counts its own tests into a JSON report; one that dies without a report is one failure. */
async function runner(name, args, report, read, options) {
  rmSync(report, { force: true });
  const well = await run(name, process.execPath, args, options);
  const counts = existsSync(report) ? read(JSON.parse(readFileSync(report, "utf8"))) : { passed: 0, failed: 0 };
  passed += counts.passed;
  failed += counts.failed;
  if (!well && counts.failed === 0) failed++;
}

async function withoutBrowser() {
  await step("types: route types", bin("react-router"), ["typegen"]);
  await Promise.all([
    step("types", bin("tsc"), ["--noEmit"]),
    step("lint", bin("biome"), ["check", "."]),
    step("lint: the architecture's arrows", bin("depcruise"), [
      ...["core", "catalog", "store", "devices", "services", "workers", "app", "scripts", "judge"],
      ...["--config", ".dependency-cruiser.cjs"],
    ]),
    step("lint: nothing unused", bin("knip"), []),
  ]);
  await runner(
    "unit tests",
    ["node_modules/vitest/vitest.mjs", "run", "--reporter=default", "--reporter=json", `--outputFile.json=${REPORTS}/unit.json`],
    `${REPORTS}/unit.json`,
    (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + r.numFailedTestSuites * (r.numFailedTests === 0 ? 1 : 0),
    }),
  );
}

/** The build and, where it is missing, Chromium are part of it. */
const withBrowser = () =>
  runner(
    "browser tests",
    ["scripts/browserTests.mjs", "--reporter=list,json"],
    `${REPORTS}/browser.json`,
    (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected }),
    { live: true, env: { PLAYWRIGHT_JSON_OUTPUT_NAME: `${REPORTS}/browser.json` } },
  );

ensureInstalled();
mkdirSync(REPORTS, { recursive: true });
// Every test works in a folder of its own: they go with the run.
process.env.TMPDIR = mkdtempSync(join(tmpdir(), "clenor-tests-"));
try {
  await Promise.all([withoutBrowser(), withBrowser()]);
} finally {
  rmSync(process.env.TMPDIR, { recursive: true, force: true });
}

process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
