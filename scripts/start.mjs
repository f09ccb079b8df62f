/** `npm start`: installs and builds where needed, then serves the data folder (CLENOR_DATA, default ./data). `--lan` serves the workshop's network. */
import { ensureBuilt, ensureInstalled, serve } from "./setup.mjs";

ensureInstalled();
ensureBuilt();
serve({}, process.argv.slice(2));
