/** Loads Larkspur of Fernhollow Reedworks: fourteen months of simulated history ending on the day it is loaded. */
import { existsSync, mkdirSync, renameSync, rmSync } from "node:fs";
import { resolve } from "node:path";
import { sql } from "kysely";
import { materialKinds } from "#catalog/materials";
import { signs } from "#catalog/signs";
import { GRADES } from "#core/beam";
import { type SimulatedHistory, type SimulatedRound, simulateHistory } from "#core/practice";
import { type RoundAnswer, roundRecords } from "#core/rounds";
import { addFinding, closeCase, openCase } from "#store/cases";
import { closeStore, databaseFile, openStore, type Store } from "#store/database";
import { appendEvents, type NewEvent } from "#store/events";
import { addMachine, addMaterial, listMachines, listMaterials } from "#store/machines";
import { endRound, saveAnswer, startRound } from "#store/rounds";
import { planOf, tradeOf } from "../app/workshop/trade";

const SEED = 20260;
const HOUR_MS = 3_600_000;

const MATERIALS = [
  { name: "birch ply", kind: "birch-ply", thicknessMm: 3, usualSpeedMmPerS: 14, usualSetPercent: 60, share: 0.5 },
  { name: "cast acrylic, jigs", kind: "cast-acrylic", thicknessMm: 4, usualSpeedMmPerS: 8, usualSetPercent: 65, share: 0.16 },
  { name: "card, templates", kind: "card", thicknessMm: 0.8, usualSpeedMmPerS: 60, usualSetPercent: 25, share: 0.14 },
  { name: "wool felt", kind: "felt", thicknessMm: 2, usualSpeedMmPerS: 35, usualSetPercent: 35, share: 0.12 },
  { name: "pear veneer", kind: "veneer", thicknessMm: 0.6, usualSpeedMmPerS: 90, usualSetPercent: 30, share: 0.08 },
] as const;

async function loadLarkspur(store: Store, nowMs: number): Promise<void> {
  const startTubeHours = 912;
  const months = 14;
  const [first, ...others] = MATERIALS;
  const startMs = simulate(nowMs, months, startTubeHours, [1]).startMs;
  await addMachine(
    store,
    { name: "Larkspur", layout: "three-mirror", ratedPowerW: 80, ratedTubeHours: 3000, tubeHours: startTubeHours, material: first },
    "demo-larkspur",
    startMs - HOUR_MS,
  );
  const machine = (await listMachines(store)).find((m) => m.slug === "larkspur");
  if (!machine) throw new Error("the demo machine was not added");
  for (const material of others) await addMaterial(store, machine.id, material);
  const ids = (await listMaterials(store, machine.id)).map((m) => m.id);
  const history = simulate(nowMs, months, startTubeHours, ids);

  const cases = await loadCases(store, machine.id, history);
  const events = history.events.filter((e) => e.atMs <= nowMs).map((e, i): NewEvent => ({ ...e, requestKey: `demo-${i}` }));
  await appendEvents(store, machine.id, events, nowMs);
  for (const [i, round] of history.rounds.entries()) await loadRound(store, machine.id, round, i, cases);
}

function simulate(endMs: number, months: number, startTubeHours: number, ids: readonly number[]): SimulatedHistory {
  return simulateHistory({
    seed: SEED,
    endMs,
    months,
    tubePowerW: 79,
    startTubeHours,
    v50: 15.4,
    setPercent: 60,
    materials: ids.map((materialId, i) => {
      const m = MATERIALS[i];
      const kind = materialKinds.find((k) => k.id === m?.kind);
      return { materialId, share: m?.share ?? 1, optics: kind?.optics ?? 1, nozzle: kind?.nozzle ?? 1 };
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

async function loadCases(store: Store, machineId: number, history: SimulatedHistory): Promise<Map<string, number>> {
  const ids = new Map<string, number>();
  for (const simulated of history.cases) {
    const story = CASES[simulated.id];
    const sign = signs.find((s) => s.id === story?.sign);
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
    const closing = CLOSINGS[simulated.id];
    if (closing && simulated.closedMs !== undefined) await closeCase(store, machineId, id, closing, simulated.closedMs);
    ids.set(simulated.id, id);
  }
  return ids;
}

async function loadRound(
  store: Store,
  machineId: number,
  round: SimulatedRound,
  n: number,
  cases: ReadonlyMap<string, number>,
): Promise<void> {
  const plan = planOf(tradeOf("three-mirror"), round.parts);
  const caseId = round.forCase === undefined ? undefined : cases.get(round.forCase);
  const id = await startRound(
    store,
    machineId,
    { title: round.title, parts: round.parts, caseId, requestKey: `demo-round-${n}` },
    round.atMs,
  );
  const answers = new Map<string, RoundAnswer>();
  const step = (round.minutes * 60_000) / plan.steps.length;
  for (const [i, s] of plan.steps.entries()) {
    if (s.kind === "proof") continue;
    const atMs = Math.round(round.atMs + i * step);
    const given = s.station === undefined ? undefined : round.grades[s.station];
    const grade = s.kind === "grade" && given ? (s.phase === "as-found" ? given.found : given.left) : undefined;
    if (grade !== undefined && GRADES[grade] === undefined) throw new RangeError(`no grade ${grade}`);
    const answer: RoundAnswer = { done: true, atMs, ...(grade === undefined ? {} : { grade }) };
    answers.set(s.id, answer);
    await saveAnswer(store, id, s.id, answer, `demo-round-${n}-${s.id}`, atMs);
  }
  const endMs = round.atMs + round.minutes * 60_000;
  const records = roundRecords(plan.steps, answers).map(
    (r): NewEvent => ({ kind: r.kind, atMs: r.atMs, payload: r.payload, requestKey: `demo-round-${n}:${r.key}` }),
  );
  const proof: NewEvent[] = round.ladder
    ? [{ kind: "ladder", atMs: endMs, payload: round.ladder, requestKey: `demo-round-${n}:proof`, caseId }]
    : [];
  await endRound(store, machineId, id, "closed", [...records, ...proof], endMs);
}

/** Builds the demo database beside its place and moves it in whole, so that a stopped load leaves nothing half done. */
export async function loadDemo(folder: string, nowMs: number, fresh: boolean): Promise<boolean> {
  const file = databaseFile(folder);
  if (existsSync(file) && !fresh) return false;
  const building = resolve(folder, "..", `.${folder.split("/").at(-1)}-building`);
  rmSync(building, { recursive: true, force: true });
  const store = openStore(building);
  await sql`PRAGMA synchronous = OFF`.execute(store);
  await loadLarkspur(store, nowMs);
  await closeStore(store);
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(resolve(folder, ".."), { recursive: true });
  renameSync(building, folder);
  return true;
}
