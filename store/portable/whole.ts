/** A whole workshop into the database: all of it or nothing, and what is known by its key is left as it is. */
import type { Insertable } from "kysely";
import type { MachineInFile, WorkshopFile } from "#core/exchange";
import { atOnce, type Store } from "../database";
import { slugFor } from "../machines";
import type { Tables } from "../tables";
import { ownKey } from "./keys";
import {
  CannotMerge,
  type Count,
  type Course,
  type ImportCounts,
  insertEvents,
  parts,
  STRAIGHT_ON,
  saysTheSame,
  unlessKeyTaken,
} from "./rows";

/** Undoes a trial run. */
class TrialOver extends Error {
  constructor(readonly counts: ImportCounts) {
    super("only tried");
  }
}

/** What an import would do, without doing it; `isSound` reads what would be there then, and throws where it cannot be read. */
export async function tryImport(
  store: Store,
  file: WorkshopFile,
  isSound: (tx: Store) => Promise<void>,
  course: Course = STRAIGHT_ON,
): Promise<ImportCounts> {
  try {
    return await unlessKeyTaken(
      atOnce(store, async (tx) => {
        const counts = await merge(tx, file, course);
        await isSound(tx);
        throw new TrialOver(counts);
      }),
    );
  } catch (error) {
    if (error instanceof TrialOver) return error.counts;
    throw error;
  }
}

/** Takes a checked file in, in one transaction. Throws CannotMerge, Stopped. */
export const importWorkshop = (store: Store, file: WorkshopFile, course: Course = STRAIGHT_ON): Promise<ImportCounts> =>
  unlessKeyTaken(atOnce(store, (tx) => merge(tx, file, course)));

async function merge(tx: Store, file: WorkshopFile, course: Course): Promise<ImportCounts> {
  const count: Count = { machines: 0, materials: 0, cases: 0, rounds: 0, events: 0, known: 0, differ: 0 };
  for (const m of file.machines) {
    const machineId = await mergeMachine(tx, m, count);
    const materialOf = await mergeMaterials(tx, machineId, m, count);
    const caseOf = await mergeCases(tx, machineId, m, count);
    const roundOf = await mergeRounds(tx, machineId, m, caseOf, count);
    await mergeAims(tx, machineId, m, caseOf, count);
    await mergeEvents(tx, machineId, m, { materialOf, caseOf, roundOf }, count, course);
  }
  return count;
}

async function mergeMachine(tx: Store, m: MachineInFile, count: Count): Promise<number> {
  const known = await tx.selectFrom("machine").select("id").where("request_key", "=", m.key).executeTakeFirst();
  if (known) {
    count.known++;
    return known.id;
  }
  const taken = await tx.selectFrom("machine").select("slug").execute();
  const slugs = new Set(taken.map((t) => t.slug));
  const { id } = await tx
    .insertInto("machine")
    .values({
      // An address may be taken, by another machine or by the application.
      slug: slugFor(m.slug, slugs),
      name: m.name,
      layout: m.layout,
      rated_power_w: m.ratedPowerW,
      rated_tube_hours: m.ratedTubeHours,
      path: m.path ? JSON.stringify(m.path) : null,
      fittings: m.fittings ? JSON.stringify(m.fittings) : null,
      created_ms: m.createdMs,
      request_key: m.key,
    })
    .returning("id")
    .executeTakeFirstOrThrow();
  if (m.declined)
    await tx
      .insertInto("setting")
      .values({ name: `declined-checks-${id}`, value: JSON.stringify(m.declined) })
      .onConflict((c) => c.doNothing())
      .execute();
  count.machines++;
  return id;
}

async function mergeMaterials(tx: Store, machineId: number, m: MachineInFile, count: Count): Promise<Map<number, number>> {
  const here = await tx.selectFrom("material").select(["id", "name", "thickness_mm"]).where("machine_id", "=", machineId).execute();
  const known = new Map(here.map((x) => [`${x.thickness_mm} ${x.name}`, x.id]));
  const ids = new Map<number, number>();
  for (const x of m.materials) {
    const found = known.get(`${x.thicknessMm} ${x.name}`);
    if (found !== undefined) {
      count.known++;
      ids.set(x.id, found);
      continue;
    }
    const { id } = await tx
      .insertInto("material")
      .values({
        machine_id: machineId,
        name: x.name,
        kind: x.kind,
        thickness_mm: x.thicknessMm,
        beta: x.beta,
        usual_speed_mm_per_s: x.usualSpeedMmPerS ?? null,
        usual_set_percent: x.usualSetPercent ?? null,
        smoke_optics: x.smokeOptics ?? null,
        smoke_nozzle: x.smokeNozzle ?? null,
        hidden: x.hidden ? 1 : 0,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    count.materials++;
    ids.set(x.id, id);
  }
  return ids;
}

async function mergeCases(tx: Store, machineId: number, m: MachineInFile, count: Count): Promise<Map<string, number>> {
  const here = await tx.selectFrom("trace_case").select(["id", "request_key", "number"]).where("machine_id", "=", machineId).execute();
  const ids = new Map(here.map((c) => [c.request_key, c.id]));
  const numbers = new Set(here.map((c) => c.number));
  for (const c of m.cases) {
    if (ids.has(c.key)) {
      count.known++;
      continue;
    }
    const number = numbers.has(c.number) ? Math.max(...numbers) + 1 : c.number;
    numbers.add(number);
    const { id } = await tx
      .insertInto("trace_case")
      .values({
        machine_id: machineId,
        number,
        title: c.title,
        sign: c.sign,
        symptom: c.symptom,
        onset_ms: c.onsetMs,
        opened_ms: c.openedMs,
        closed_ms: c.closedMs ?? null,
        closing: c.closing ? JSON.stringify(c.closing) : null,
        request_key: c.key,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    ids.set(c.key, id);
    count.cases++;
    if (c.unknown)
      await tx
        .insertInto("setting")
        .values({ name: `unknown-checks-case-${id}`, value: JSON.stringify(c.unknown) })
        .onConflict((e) => e.doNothing())
        .execute();
    const rows = c.findings.map((f) => ({
      case_id: id,
      check_id: f.check,
      outcome: f.outcome ?? null,
      value: f.value ?? null,
      set_percent: f.setPercent ?? null,
      at_ms: f.atMs,
      withdrawn_ms: f.withdrawnMs ?? null,
      request_key: f.key,
    }));
    for (const part of parts(rows)) await tx.insertInto("finding").values(part).execute();
  }
  return ids;
}

async function mergeRounds(
  tx: Store,
  machineId: number,
  m: MachineInFile,
  caseOf: ReadonlyMap<string, number>,
  count: Count,
): Promise<Map<string, number>> {
  const here = await tx.selectFrom("round").select(["id", "request_key", "status"]).where("machine_id", "=", machineId).execute();
  const ids = new Map(here.map((r) => [r.request_key, r.id]));
  let isOpen = here.some((r) => r.status === "open");
  for (const r of m.rounds) {
    if (ids.has(r.key)) {
      count.known++;
      continue;
    }
    if (r.status === "open") {
      if (isOpen) throw new CannotMerge(`${m.name} has an open round here and another one in the file. End one of them first.`);
      isOpen = true;
    }
    const { id } = await tx
      .insertInto("round")
      .values({
        machine_id: machineId,
        title: r.title,
        parts: JSON.stringify(r.parts),
        plan: r.plan ? JSON.stringify(r.plan) : null,
        status: r.status,
        started_ms: r.startedMs,
        ended_ms: r.endedMs ?? null,
        case_id: r.case === undefined ? null : (caseOf.get(r.case) ?? null),
        request_key: r.key,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    ids.set(r.key, id);
    count.rounds++;
    const rows = r.answers.map((a) => ({
      round_id: id,
      step_id: a.stepId,
      answer: JSON.stringify(a.answer),
      at_ms: a.atMs,
      request_key: `${id}/${a.key}`,
    }));
    for (const part of parts(rows)) await tx.insertInto("round_answer").values(part).execute();
  }
  return ids;
}

async function mergeAims(tx: Store, machineId: number, m: MachineInFile, caseOf: ReadonlyMap<string, number>, count: Count): Promise<void> {
  const here = await tx.selectFrom("aim_sitting").select(["request_key", "ended_ms"]).where("machine_id", "=", machineId).execute();
  const known = new Set(here.map((a) => a.request_key));
  const isOpen = here.some((a) => a.ended_ms === null);
  for (const a of m.aims ?? []) {
    if (known.has(a.key)) {
      count.known++;
      continue;
    }
    if (a.endedMs === undefined && isOpen)
      throw new CannotMerge(`${m.name} is being aimed here and in the file as well. End one of the two first.`);
    const { id } = await tx
      .insertInto("aim_sitting")
      .values({
        machine_id: machineId,
        case_id: a.case === undefined ? null : (caseOf.get(a.case) ?? null),
        started_ms: a.startedMs,
        ended_ms: a.endedMs ?? null,
        ending: a.ending ? JSON.stringify(a.ending) : null,
        request_key: a.key,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    count.events += a.entries.length;
    const rows = a.entries.map((e) => ({
      sitting_id: id,
      entry: JSON.stringify(e.entry),
      at_ms: e.atMs,
      withdrawn_ms: e.withdrawnMs ?? null,
      request_key: e.key,
    }));
    for (const part of parts(rows)) await tx.insertInto("aim_entry").values(part).execute();
  }
}

interface Ids {
  readonly materialOf: ReadonlyMap<number, number>;
  readonly caseOf: ReadonlyMap<string, number>;
  readonly roundOf: ReadonlyMap<string, number>;
}

async function mergeEvents(
  tx: Store,
  machineId: number,
  m: MachineInFile,
  { materialOf, caseOf, roundOf }: Ids,
  count: Count,
  course: Course,
): Promise<void> {
  const here = await tx.selectFrom("event").select(["id", "request_key", "payload"]).where("machine_id", "=", machineId).execute();
  const known = new Map(here.map((e) => [e.request_key, e]));
  const ids = new Map(here.map((e) => [e.request_key, e.id]));
  const last = await tx
    .selectFrom("event")
    .select((e) => e.fn.max("id").as("id"))
    .executeTakeFirst();
  let next = Number(last?.id ?? 0) + 1;
  const rows: Insertable<Tables["event"]>[] = [];
  for (const e of m.events) {
    const payload = JSON.stringify(withMaterial(e.payload, materialOf));
    const key = ownKey(e.key, roundOf);
    const before = known.get(key);
    if (before) {
      count.known++;
      if (!saysTheSame(before.payload, JSON.parse(payload) as object)) count.differ++;
      continue;
    }
    const id = next++;
    ids.set(key, id);
    rows.push({
      id,
      machine_id: machineId,
      kind: e.kind,
      at_ms: e.atMs,
      recorded_ms: e.recordedMs,
      payload,
      corrects: e.corrects === undefined ? null : (ids.get(ownKey(e.corrects, roundOf)) ?? null),
      voids: e.voids ? 1 : 0,
      round_id: e.round === undefined ? null : (roundOf.get(e.round) ?? null),
      case_id: e.case === undefined ? null : (caseOf.get(e.case) ?? null),
      request_key: key,
    });
  }
  await insertEvents(tx, rows, course);
  count.events += rows.length;
}

/** A payload with the material it names as it is numbered here. */
function withMaterial(payload: object, materialOf: ReadonlyMap<number, number>): object {
  if (!("materialId" in payload)) return payload;
  const id = materialOf.get(payload.materialId as number);
  if (id === undefined) throw new CannotMerge(`A record names material ${String(payload.materialId)}, which the file does not have.`);
  return { ...payload, materialId: id };
}
