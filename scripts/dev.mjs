/** `npm run dev`: installs where needed, makes the demo data where there is none, and serves with hot reload. */
import { existsSync } from "node:fs";
import { ensureInstalled, runScript } from "./setup.mjs";

ensureInstalled();
const folder = process.env.CLENOR_DATA ?? "demo-data";
if (process.env.CLENOR_DATA === undefined && !existsSync(`${folder}/clenor.sqlite`))
  runScript("scripts/demo-data.ts", [], { CLENOR_DATA: folder });
runScript("scripts/dev.ts", [], { CLENOR_DATA: folder });
