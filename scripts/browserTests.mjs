/** `npm run test:browser`: the browser tests alone, with what they need; `-- log` runs those whose file is named so. */
import { spawnSync } from "node:child_process";
import { ensureBuilt, ensureChromium, ensureInstalled } from "./setup.mjs";

ensureInstalled();
ensureBuilt();
if (!ensureChromium()) process.exit(1);
const args = ["node_modules/@playwright/test/cli.js", "test", ...process.argv.slice(2)];
process.exit(spawnSync(process.execPath, args, { stdio: "inherit" }).status ?? 1);
