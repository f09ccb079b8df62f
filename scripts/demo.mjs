/** `npm run demo`: from a fresh machine to the running application with demo data. `-- --fresh` makes the data anew. */
import { existsSync } from "node:fs";
import { join } from "node:path";
import { ensureBuilt, ensureInstalled, runScript, serve } from "./setup.mjs";

ensureInstalled();
ensureBuilt();
const args = process.argv.slice(2);
const folder = process.env.CLENOR_DATA ?? "demo-data";
const there = ["clenor.sqlite", "demo-data.json"].every((name) => existsSync(join(folder, name)));
// Where the data are there already, no compiler is started to find that out.
if (there && !args.includes("--fresh")) process.stdout.write("Demo data is there already (npm run demo -- --fresh makes it anew).\n");
else runScript("scripts/demo-data.ts", args, { CLENOR_DATA: folder });
serve({ CLENOR_DATA: folder }, args);
