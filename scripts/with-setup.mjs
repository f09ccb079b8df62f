/** Installs and builds where needed, then runs the script named first. */
import { ensureBuilt, ensureInstalled, runScript } from "./setup.mjs";

const [file, ...args] = process.argv.slice(2);
ensureInstalled();
ensureBuilt();
runScript(file, args, { NODE_ENV: "production" });
