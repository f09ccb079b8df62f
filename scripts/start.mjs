/** `npm start`: installs and builds where needed, then serves the data folder (CLENOR_DATA, default ./data). */
import { ensureBuilt, ensureInstalled, serve } from "./setup.mjs";

ensureInstalled();
ensureBuilt();
serve();
