/**
 * `npm run bench -- trace`: simulated machines with hidden faults through two fixed routines, Clenor's own way and an oracle that knows the
 * simulator, spread over the cores. `-- --machines=2000` a layout (the report's), `--short` for a quick look, `--seeds=tune` for those that
 * numbers may be tuned on: never those of the report; `--oracle-every=54` machines the oracle is asked as well; `--mistakes=0.05` of the
 * answers are plain mistakes, for all routines, which the engine is not told; `--strange` in many worlds in which other faults are
 * frequent and owners tell otherwise; `--faults=3` at once weighed, as the application does, which takes longer.
 */

import { spawn } from "node:child_process";
import { writeFileSync } from "node:fs";
import { cpus } from "node:os";
import { LAYOUT_IDS } from "#core/machine";
import type { Judged } from "../trace/run";
import { tables } from "../trace/tables";

const asked = (name: string) => process.argv.find((a) => a.startsWith(`--${name}=`))?.split("=")[1];
const short = process.argv.includes("--short");
const machines = Number(asked("machines") ?? (short ? 60 : 2000));
const particles = Number(asked("particles") ?? (short ? 8000 : 15_000));
const every = Number(asked("oracle-every") ?? (short ? 3 : 54));
const mistakes = Number(asked("mistakes") ?? 0);
const faults = asked("faults") === "3" ? 3 : 2;
const strange = process.argv.includes("--strange");
const firstSeed = asked("seeds") === "tune" ? 5_000_000 : 1;

/** One share of a layout in a process of its own. */
function share(layout: string, from: number, to: number): Promise<Judged[]> {
  const child = spawn(
    process.execPath,
    ["--import", "tsx", "judge/trace/run.ts", layout, ...[from, to, particles, every, mistakes, faults, strange].map(String)],
    {
      stdio: ["ignore", "pipe", "inherit"],
    },
  );
  let said = "";
  child.stdout.on("data", (chunk: Buffer) => {
    said += chunk.toString();
  });
  return new Promise((done, fail) =>
    child.once("exit", (code) =>
      code === 0
        ? done(
            said
              .trim()
              .split("\n")
              .map((l) => JSON.parse(l) as Judged),
          )
        : fail(new Error(`${layout} from ${from} ended with ${code}`)),
    ),
  );
}

const cores = cpus().length;
const each = Math.ceil(machines / cores);
const jobs = LAYOUT_IDS.flatMap((layout) =>
  Array.from({ length: cores }, (_, i) => () => share(layout, firstSeed + i * each, firstSeed + Math.min(machines, (i + 1) * each))),
);
const started = performance.now();
const all: Judged[] = [];
await Promise.all(
  Array.from({ length: cores }, async () => {
    for (let job = jobs.shift(); job; job = jobs.shift()) all.push(...(await job()));
  }),
);
all.sort((a, b) => a.layout.localeCompare(b.layout) || a.seed - b.seed);
const dump = asked("dump");
if (dump) writeFileSync(dump, all.map((j) => JSON.stringify(j)).join("\n"));
process.stdout.write(
  `${tables(all)}\n\n${all.length} machines, ${((performance.now() - started) / 60_000).toFixed(1)} minutes on ${cores} cores\n`,
);
