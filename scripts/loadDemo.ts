/** Loads the machines of Fernhollow Reedworks: fourteen months of simulated history each, ending on the day they are loaded. */

import { existsSync, mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { sql } from "kysely";
import { materialKinds } from "#catalog/materials";
import { signList } from "#catalog/subjects/index";
import { GRADES } from "#core/beam";
import { historyStartMs, type SimulatedHistory, type SimulatedRound, simulateHistory } from "#core/practice";
import { type RoundAnswer, roundRecords, walkOf } from "#core/rounds";
import { HOUR_MS } from "#core/time";
import { answerView } from "#services/cases/answerView";
import type { Services } from "#services/context";
import { gather } from "#services/machine/gather";
import { partsOfRepair, planOf } from "#services/machine/plans";
import { BENCH, CURRENCY } from "#services/machine/settingNames";
import { type Trade, tradeOf } from "#services/machine/trade";
import { addFinding, closeCase, listFindings, openCase } from "#store/cases";
import { closeStore, databaseFile, openStore, type Store } from "#store/database";
import { appendEvents, type NewEvent } from "#store/events";
import { DEMO_MARKER, isDemoFolder, isOurs, lockFolder } from "#store/folder";
import { addMachine, addMaterial, listMachines, listMaterials, type Machine } from "#store/machines";
import { endRound, type SentAnswer, saveAnswers, startRound } from "#store/rounds";
import { writeSettings } from "#store/settings";
import { type DemoMachine, demoMachines } from "./demoMachines";

const MONTHS = 14;

async function loadMachine(store: Store, demo: DemoMachine, nowMs: number): Promise<void> {
  const { slug } = demo;
  const [first, ...others] = demo.materials;
  await addMachine(
    store,
    {
      name: demo.name,
      layout: demo.layout,
      ratedPowerW: demo.ratedPowerW,
      ratedTubeHours: demo.ratedTubeHours,
      tubeHours: demo.startTubeHours,
      material: first,
    },
    `demo-${slug}`,
    historyStartMs(nowMs, MONTHS) - HOUR_MS,
  );
  const machine = (await listMachines(store)).find((m) => m.slug === slug);
  if (!machine) throw new Error(`the demo machine ${slug} was not added`);
  for (const material of others) await addMaterial(store, machine.id, material);
  const ids = (await listMaterials(store, machine.id)).map((m) => m.id);
  const history = simulateDemo(demo, nowMs, ids);

  const events = history.events.filter((e) => e.atMs <= nowMs).map((e, i): NewEvent => ({ ...e, requestKey: `demo-${slug}-${i}` }));
  const rounds = history.rounds.map((round, i) => ({ round, i }));
  const cases = new Map<string, number>();
  let fromMs = Number.NEGATIVE_INFINITY;
  /** What happened since the last call, up to a moment. */
  const until = async (ms: number) => {
    const isNext = (at: { readonly atMs: number }) => at.atMs > fromMs && at.atMs <= ms;
    await appendEvents(store, machine.id, events.filter(isNext), nowMs);
    for (const { round, i } of rounds.filter((r) => isNext(r.round))) await loadRound(store, machine, tradeOf(machine), round, i, cases);
    fromMs = ms;
  };
  // In the order of time, so that the report of a case is of what was known when it was closed.
  for (const simulated of history.cases) {
    const id = await loadCase(store, machine, simulated);
    cases.set(simulated.id, id);
    const closing = CLOSINGS[simulated.id];
    if (!closing || simulated.closedMs === undefined) continue;
    const repairMs = history.rounds.find((r) => r.forCase === simulated.id)?.atMs ?? simulated.closedMs;
    await until(repairMs - 1);
    const report = await reportOf(store, slug, id, repairMs);
    await until(simulated.closedMs);
    await closeCase(store, machine.id, id, { ...closing, report }, simulated.closedMs);
  }
  await until(nowMs);
}

/** A case as it stood at a moment. */
async function reportOf(store: Store, slug: string, caseId: number, nowMs: number) {
  const services: Services = { store, folder: "", nowMs: () => nowMs };
  const g = await gather(services, slug);
  if (!g.openCase) throw new Error(`case ${caseId} of the demo is not open`);
  return answerView(services, g, g.openCase, await listFindings(store, caseId));
}

/** The history of a demo machine whose materials have these ids. */
export function simulateDemo(demo: DemoMachine, endMs: number, ids: readonly number[]): SimulatedHistory {
  return simulateHistory({
    ...demo,
    endMs,
    months: MONTHS,
    setPercent: demo.materials[0].usualSetPercent,
    side: {
      ...demo.side,
      sheets: demo.side.sheets.map((s) => ({ ...s, materialId: ids[s.materialId - 1] ?? s.materialId })),
      settings: demo.side.settings.map((s) => ({ ...s, materialId: ids[s.materialId - 1] ?? s.materialId })),
    },
    materials: demo.materials.map((m, i) => {
      const kind = materialKinds.find((k) => k.id === m.kind);
      return { materialId: ids[i] ?? i + 1, share: m.share, optics: kind?.optics ?? 1, nozzle: kind?.nozzle ?? 1 };
    }),
  });
}

const CLOSINGS: Readonly<Record<string, { repair: string; faults: string[]; proof: string }>> = {
  flipped: { repair: "Turn the lens bulge up", faults: ["lens-flipped"], proof: "ladder back where it was before the clean" },
  hose: { repair: "Get the air back", faults: ["air-weak"], proof: "ladder back, no more flame" },
};

const CASES: Readonly<Record<string, { sign: string; findings: readonly { check: string; outcome: string }[] }>> = {
  flipped: {
    sign: "after-cleaning",
    findings: [
      { check: "focus-gauge", outcome: "right" },
      { check: "lens-side", outcome: "flipped" },
    ],
  },
  hose: {
    sign: "flame",
    findings: [
      { check: "onset", outcome: "gradual" },
      { check: "nozzle-bore", outcome: "clear" },
      { check: "air-feel", outcome: "weak" },
    ],
  },
  "far-corner": {
    sign: "far-corner",
    findings: [
      { check: "onset", outcome: "sudden" },
      { check: "mirror-look@2", outcome: "film" },
      { check: "lens-look", outcome: "clear" },
    ],
  },
};

/** Opens a case of the history with its findings. */
async function loadCase(store: Store, { id: machineId }: Machine, simulated: SimulatedHistory["cases"][number]): Promise<number> {
  const story = CASES[simulated.id];
  const sign = signList.find((s) => s.id === story?.sign);
  if (!story || !sign) throw new Error(`the demo has no story for case ${simulated.id}`);
  // The earlier cases are closed before the next one opens; a machine has one open case at most.
  const id = await openCase(
    store,
    machineId,
    {
      title: sign.title,
      sign: sign.id,
      symptom: sign.symptom,
      onsetMs: simulated.onsetMs,
      requestKey: `demo-case-${simulated.id}`,
      findings: sign.findings,
    },
    simulated.openedMs,
  );
  for (const [i, finding] of story.findings.entries()) {
    await addFinding(store, id, finding, `demo-case-${simulated.id}-${i}`, simulated.openedMs + (i + 1) * 5 * 60_000);
  }
  return id;
}

async function loadRound(
  store: Store,
  { id: machineId, slug }: Machine,
  trade: Trade,
  round: SimulatedRound,
  index: number,
  cases: ReadonlyMap<string, number>,
): Promise<void> {
  const n = `${slug}-${index}`;
  const parts = round.parts.flatMap((p) => (trade.procedures.has(p) ? [p] : partsOfRepair(trade, p)));
  const plan = planOf(trade, parts);
  const caseId = round.forCase === undefined ? undefined : cases.get(round.forCase);
  const id = await startRound(store, machineId, { title: round.title, parts, plan, caseId, requestKey: `demo-round-${n}` }, round.atMs);
  const answers = new Map<string, RoundAnswer>();
  const sent: SentAnswer[] = [];
  const step = (round.minutes * 60_000) / plan.steps.length;
  for (const [i, s] of plan.steps.entries()) {
    if (s.kind === "proof" || !walkOf(plan.steps, answers).includes(s)) continue;
    const atMs = Math.round(round.atMs + i * step);
    const given = s.station === undefined ? undefined : round.grades[s.station];
    // The simulated owner cleaned what this round names, so it was found with haze at least.
    const grade = s.kind === "grade" && given ? (s.phase === "as-found" ? Math.max(1, given.found) : given.left) : undefined;
    if (grade !== undefined && GRADES[grade] === undefined) throw new RangeError(`no grade ${grade}`);
    const answer: RoundAnswer = {
      done: true,
      atMs,
      ...(grade === undefined ? {} : { grade }),
      ...(s.seen?.[0] ? { choice: s.seen[0].id } : {}),
    };
    answers.set(s.id, answer);
    sent.push({ stepId: s.id, answer, requestKey: `demo-${s.id}` });
  }
  await saveAnswers(store, id, sent, round.atMs);
  const endMs = round.atMs + round.minutes * 60_000;
  // Under the keys a round's own end would give them, so that an answer that comes late finds its record.
  const records = roundRecords(plan.steps, answers).map(
    (r): NewEvent => ({ kind: r.kind, atMs: r.atMs, payload: r.payload, requestKey: `round-${id}:${r.key}` }),
  );
  const proof: NewEvent[] = round.ladder
    ? [{ kind: "ladder", atMs: endMs, payload: round.ladder, requestKey: `round-${id}:proof`, caseId }]
    : [];
  await endRound(store, machineId, id, "closed", [...records, ...proof], endMs);
}

/** The folder holds something that is not the demo's: nothing of it is touched. */
export class NotTheDemos extends Error {
  override readonly name = "NotTheDemos";
}

/**
 * Builds the demo data beside its place and moves it in whole, so that a stopped load leaves nothing half done. A folder with data in it
 * that does not carry the demo's marker is somebody's own and is refused; in one that does, only Clenor's own files are replaced. True
 * when the data were made, false when they were there. Throws NotTheDemos, or FolderInUse while a server has them.
 */
export async function loadDemo(folder: string, nowMs: number, fresh: boolean): Promise<boolean> {
  const names = existsSync(folder) ? readdirSync(folder) : [];
  const marked = isDemoFolder(folder);
  const loaded = existsSync(databaseFile(folder));
  if (!marked && (loaded || (fresh && names.length > 0)))
    throw new NotTheDemos(
      `${folder} is not a folder of demo data (it has no ${DEMO_MARKER}), so nothing in it was touched. Point CLENOR_DATA at another folder, or leave it unset; "npm start" serves data of your own. Demo data of an older version: delete the folder yourself.`,
    );
  if (loaded && !fresh) return false;
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const lock = lockFolder(folder);
  const building = mkdtempSync(join(folder, "..", ".clenor-demo-"));
  try {
    const store = await openStore(building);
    await sql`PRAGMA synchronous = OFF`.execute(store);
    for (const demo of demoMachines) await loadMachine(store, demo, nowMs);
    await writeSettings(store, { [CURRENCY]: "EUR", [BENCH]: true });
    await closeStore(store);
    // The marker first: stopped from here on, the folder is still known as the demo's and is made anew.
    writeFileSync(join(folder, DEMO_MARKER), `${JSON.stringify({ demo: true, loaded: new Date(nowMs).toISOString() })}\n`);
    for (const name of names.filter((n) => isOurs(n) && n !== DEMO_MARKER && !n.startsWith("in-use")))
      rmSync(join(folder, name), { recursive: true, force: true });
    renameSync(databaseFile(building), databaseFile(folder));
  } finally {
    rmSync(building, { recursive: true, force: true });
    lock.release();
  }
  return true;
}
