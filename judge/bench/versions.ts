/**
 * `npm run bench -- versions --beside=FOLDER [--rounds=40]`: this version against another checkout of the same tree, in one run and in turns:
 * what owners wait for, in milliseconds. Figures of one line that two versions work out differently are told.
 */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { parseArgs } from "node:util";
import { seededRandom } from "#core/random";
import { loadDemo } from "../../scripts/loadDemo";
import { randomWorkshop } from "../plan/workshops";
import { simulateWear } from "../power/histories";

const { values } = parseArgs({
  args: process.argv.slice(3),
  options: { beside: { type: "string" }, rounds: { type: "string", default: "40" } },
});
const rounds = Number(values.rounds);
if (!values.beside || !(rounds >= 3)) {
  process.stderr.write("Say which checkout to measure beside: npm run bench -- versions --beside=FOLDER [--rounds=40]\n");
  process.exit(2);
}

const NOW = Date.UTC(2026, 10, 24, 9);

/** One version: what it does for each line, the same for both by its turn. */
async function versionAt(root: string): Promise<Readonly<Record<string, (turn: number) => unknown>>> {
  const from = async <T>(path: string) => (await import(pathToFileURL(resolve(root, path)).href)) as T;
  const { trace } = await from<typeof import("#core/trace")>("core/trace/index.ts");
  const { tradeOf } = await from<typeof import("#services/machine/trade")>("services/machine/trade.ts");
  const { fitWear } = await from<typeof import("#core/wear")>("core/wear/index.ts");
  const { firstPlan } = await from<typeof import("#core/plan")>("core/plan/index.ts");
  const { readLadder } = await from<typeof import("#core/cuts")>("core/cuts/index.ts");
  const { openStore } = await from<typeof import("#store/database")>("store/database.ts");
  const { appendEvents } = await from<typeof import("#store/events")>("store/events.ts");
  const { gather } = await from<typeof import("#services/machine/gather")>("services/machine/gather.ts");
  const { todayView } = await from<typeof import("#services/today/todayView")>("services/today/todayView.ts");
  const { shellView } = await from<typeof import("#services/machine/shellView")>("services/machine/shellView.ts");

  const { model } = tradeOf({ layout: "three-mirror" });
  const told = (turn: number, watts: boolean) => {
    const random = seededRandom(turn);
    const asked = model.checks.filter((c) => c.measures === undefined && c.outcomes.length > 1 && !c.tries);
    const findings = Array.from({ length: 5 }, () => {
      const { id, outcomes } = random.pick(asked);
      return { check: id, outcome: random.pick(outcomes) };
    });
    const readings = watts ? [{ check: "power@lens", value: 44 + 8 * random.uniform(), setPercent: 100 }] : [];
    const answer = trace(model, {
      usage: { tubeHours: 1500, smokeDoseSinceClean: { lens: 6, "mirror-3": 9 } },
      baseline: { powerW: { tube: 62, "mirror-1": 61, "mirror-2": 60, "mirror-3": 59, lens: 57 } },
      findings: [{ check: "known-cut", outcome: "part-through" }, ...new Map(findings.map((f) => [f.check, f])).values(), ...readings],
      maxFaults: 3,
    });
    return answer.faults.slice(0, 3).map((f) => [f.id, f.probability.toFixed(4)]);
  };

  const folder = mkdtempSync(join(tmpdir(), "clenor-versions-"));
  await loadDemo(folder, NOW, true);
  process.once("exit", () => rmSync(folder, { recursive: true, force: true }));
  const store = await openStore(folder);
  const services = { store, folder, nowMs: () => NOW };
  const cutToday = async (turn: number) => {
    const { machine, materials } = await gather(services, "larkspur");
    const payload = { materialId: materials[0]?.id ?? 1, speedMmPerS: 12, setPercent: 60, result: "through" as const };
    await appendEvents(store, machine.id, [{ kind: "cut", atMs: NOW - 100_000 + turn, payload, requestKey: `versions-${turn}` }], NOW);
    return gather(services, "larkspur");
  };
  return {
    "a machine nobody asked about: its procedures and its trace model": (turn) =>
      tradeOf({ layout: "periscope", path: tradeOf({ layout: "periscope" }).layout.path.map((s) => ({ ...s, spares: turn })) }).model.faults
        .length,
    "an answer in a case, three faults": (turn) => told(turn, false),
    "the same with watts": (turn) => told(turn + 1000, true),
    "wear of 25 ladders over 400 hours": (turn) => fitWear(simulateWear(turn, 25, 400).evidence).mean[0]?.toFixed(6),
    "a first plan of sixty days": (turn) => firstPlan(randomWorkshop(turn)).totalMinutes,
    "a ladder of eight rungs": (turn) =>
      readLadder(
        Array.from({ length: 8 }, (_, i) => ({ speedMmPerS: 8 + i, end: i < 2 + (turn % 5) ? ("dropped" as const) : ("stays" as const) })),
      ).kind,
    "the frame of any page after a cut was told": async (turn) => shellView(await cutToday(3 * turn), "key").beam.stations.length,
    "Today after a cut was told": async (turn) => (await todayView(services, await cutToday(3 * turn + 1))).verdict !== undefined,
  };
}

const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] as number;
const [before, now] = [await versionAt(values.beside), await versionAt(".")];
const lines = [["", "before, ms", "now, ms", "now / before"]];
for (const name of Object.keys(now)) {
  const times: (readonly [number, number])[] = [];
  let differing = 0;
  for (let turn = 0; turn < rounds + 3; turn++) {
    const took: number[] = [];
    const said: string[] = [];
    for (const version of turn % 2 === 0 ? [before, now] : [now, before]) {
      const start = performance.now();
      said.push(JSON.stringify(await version[name]?.(turn)));
      took.push(performance.now() - start);
    }
    if (turn % 2 === 1) took.reverse();
    if (said[0] !== said[1]) differing++;
    // The first turns warm up.
    if (turn >= 3) times.push([took[0] as number, took[1] as number]);
  }
  const ratio = median(times.map(([b, n]) => n / b));
  const differ = differing > 0 ? `, ${differing} of ${rounds + 3} differ` : "";
  lines.push([name, median(times.map(([b]) => b)).toFixed(1), median(times.map(([, n]) => n)).toFixed(1), `${ratio.toFixed(2)}${differ}`]);
}
const width = Math.max(...lines.map(([name]) => (name as string).length));
for (const [name, ...figures] of lines)
  process.stdout.write(`${(name as string).padEnd(width)}  ${figures.map((f) => f.padStart(14)).join("")}\n`);
