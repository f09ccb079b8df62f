/**
 * `npm run release`: what a workshop's own small computer needs and no more, as release/clenor-VERSION.tgz: the built server and pages, and a
 * package.json with the three packages that bring binaries of their platform. docs/running.md says how it is set up.
 */
import { spawnSync } from "node:child_process";
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { ensureBuilt, ensureInstalled } from "./setup.mjs";

/** Packages that stay outside the bundle (scripts/bundle.mjs). */
const OUTSIDE = ["libsql", "sharp", "highs"];

ensureInstalled();
ensureBuilt();
const whole = JSON.parse(readFileSync("package.json", "utf8"));
const installed = (name) => JSON.parse(readFileSync(`node_modules/${name}/package.json`, "utf8")).version;
const name = `clenor-${whole.version}`;
const folder = `release/${name}`;
rmSync("release", { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
for (const path of ["build/client", "build/run", "deploy", "docs/running.md", "LICENSE", "SECURITY.md", "CHANGELOG.md"])
  cpSync(path, `${folder}/${path}`, { recursive: true });
const { version, description, engines } = whole;
writeFileSync(
  `${folder}/package.json`,
  `${JSON.stringify(
    {
      ...{ name: "clenor", version, private: true, type: "module", description, engines },
      scripts: { start: "node build/run/main.mjs" },
      dependencies: Object.fromEntries(OUTSIDE.map((n) => [n, installed(n)])),
    },
    null,
    2,
  )}\n`,
);
const packed = spawnSync("tar", ["-czf", `${name}.tgz`, name], { cwd: "release", stdio: "inherit" });
if (packed.status !== 0) process.exit(1);
process.stdout.write(`release/${name}.tgz\n`);
