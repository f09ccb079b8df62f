/** Puts the demo data into CLENOR_DATA (default ./demo-data) unless they are there; `--fresh` makes them anew. */
import { resolve } from "node:path";
import { FolderInUse } from "#store/folder";
import { loadDemo, NotTheDemos } from "./loadDemo";

const nowMs = process.env.CLENOR_NOW ? Date.parse(process.env.CLENOR_NOW) : Date.now();
const fresh = process.argv.includes("--fresh");
process.umask(0o077);
try {
  const loaded = await loadDemo(resolve(process.env.CLENOR_DATA ?? "demo-data"), nowMs, fresh);
  process.stdout.write(
    loaded
      ? "Demo data loaded: fourteen months of Larkspur, Teasel and Burdock, ending today.\n"
      : "Demo data is there already (npm run demo -- --fresh makes it anew).\n",
  );
} catch (error) {
  if (!(error instanceof NotTheDemos) && !(error instanceof FolderInUse)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
}
