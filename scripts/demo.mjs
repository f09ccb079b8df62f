/** `npm run demo`: from a fresh machine to the running application with demo data. `-- --fresh` makes the data anew. */
import { ensureBuilt, ensureInstalled, runScript, serve } from "./setup.mjs";

ensureInstalled();
ensureBuilt();
const data = { CLENOR_DATA: process.env.CLENOR_DATA ?? "demo-data" };
runScript("scripts/demo-data.ts", process.argv.slice(2), data);
serve(data, process.argv.slice(2));
