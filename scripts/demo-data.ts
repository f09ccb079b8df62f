/** Puts the demo data into CLENOR_DATA (default ./demo-data) unless it is there; `--fresh` makes it anew. */
import { resolve } from "node:path";
import { loadDemo } from "./loadDemo";

const nowMs = process.env.CLENOR_NOW ? Date.parse(process.env.CLENOR_NOW) : Date.now();
const loaded = await loadDemo(resolve(process.env.CLENOR_DATA ?? "demo-data"), nowMs, process.argv.includes("--fresh"));
process.stdout.write(
  loaded
    ? "Demo data loaded: fourteen months of Larkspur, Teasel and Burdock, ending today.\n"
    : "Demo data is there already (npm run demo -- --fresh makes it anew).\n",
);
