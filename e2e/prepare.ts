/** Before all browser tests: the demo data, once; each test takes a copy. */
import { spawnSync } from "node:child_process";
import { DEMO_MASTER, TODAY } from "./server";

export default function prepare(): void {
  const made = spawnSync(process.execPath, ["--import", "tsx", "scripts/demo-data.ts", "--fresh"], {
    env: { ...process.env, CLENOR_DATA: DEMO_MASTER, CLENOR_NOW: TODAY },
    encoding: "utf8",
  });
  if (made.status !== 0) throw new Error(`the demo data could not be made: ${made.stderr}`);
}
