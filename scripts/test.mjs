/** `npm test`: sets itself up, runs types, lint, unit and browser tests, and ends with one line over all of them. */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { ensureBuilt, ensureChromium, ensureInstalled } from "./setup.mjs";

const REPORTS = "test-results";
let passed = 0;
let failed = 0;

function heading(text) {
  process.stdout.write(`\n== ${text}\n`);
}

/** Steps that pass or fail as a whole, side by side; each says its piece when it is done. */
async function steps(list) {
  const run = ([name, command, args]) =>
    new Promise((done) => {
      const said = [];
      const child = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"] });
      child.stdout.on("data", (chunk) => said.push(chunk));
      child.stderr.on("data", (chunk) => said.push(chunk));
      child.on("close", (code) => {
        heading(name);
        process.stdout.write(Buffer.concat(said));
        if (code === 0) passed++;
        else failed++;
        done();
      });
    });
  await Promise.all(list.map(run));
}

/** A runner that counts its own tests into a JSON report; one that dies without a report is one failure. */
function runner(name, args, report, read, env = {}) {
  heading(name);
  rmSync(report, { force: true });
  const result = spawnSync(process.execPath, args, { stdio: ["ignore", "inherit", "inherit"], env: { ...process.env, ...env } });
  const counts = existsSync(report) ? read(JSON.parse(readFileSync(report, "utf8"))) : { passed: 0, failed: 0 };
  passed += counts.passed;
  failed += counts.failed;
  if (result.status !== 0 && counts.failed === 0) failed++;
}

ensureInstalled();
ensureBuilt();
mkdirSync(REPORTS, { recursive: true });
const bin = (name) => `node_modules/.bin/${name}`;

await steps([["types: route types", bin("react-router"), ["typegen"]]]);
await steps([
  ["types", bin("tsc"), ["--noEmit"]],
  ["lint", bin("biome"), ["check", "."]],
  [
    "lint: the architecture's arrows",
    bin("depcruise"),
    ["core", "catalog", "store", "devices", "services", "app", "scripts", "--config", ".dependency-cruiser.cjs"],
  ],
  ["lint: nothing unused", bin("knip"), []],
]);
runner(
  "unit tests",
  ["node_modules/vitest/vitest.mjs", "run", "--reporter=default", "--reporter=json", `--outputFile.json=${REPORTS}/unit.json`],
  `${REPORTS}/unit.json`,
  (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests + r.numFailedTestSuites * (r.numFailedTests === 0 ? 1 : 0),
  }),
);
if (ensureChromium()) {
  runner(
    "browser tests",
    ["node_modules/@playwright/test/cli.js", "test"],
    `${REPORTS}/browser.json`,
    (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected }),
    { PLAYWRIGHT_JSON_OUTPUT_NAME: `${REPORTS}/browser.json` },
  );
} else failed++;

process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed === 0 ? 0 : 1);
