/** A whole workshop out of the database and into it: all of it or nothing, and what is known by its key is left as it is. */
import type { Insertable } from "kysely";
import { type MachineInFile, WORKSHOP_FORMAT, WORKSHOP_VERSION, type WorkshopFile } from "#core/exchange";
import { atOnce, type Store } from "./database";
import { slugFor } from "./machines";
import type { Tables } from "./tables";

const parsed = <T>(text: string | null): T | undefined => (text === null ? undefined : (JSON.parse(text) as T));
/** Without what is not there: a file says nothing of it. */
const told = <T extends object>(values: T): T =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined && v !== null)) as T;

/** Everything that was ever written down, in the order it was; devices, forms that were sent and the server's own settings stay. */
export async function readWorkshop(
  store: Store,
  settingsOf: (name: string) => Promise<unknown>,
  names: { currency: string; declined: (machineId: number) => string },
): Promise<WorkshopFile> {
  const machines = await store.selectFrom("machine").selectAll().orderBy("id").execute();
  const currency = (await settingsOf(names.currency)) as string | undefined;
  const inFile: MachineInFile[] = [];
  for (const m of machines) {
    const of = { machine_id: m.id };
    const cases = await store.selectFrom("trace_case").selectAll().where("machine_id", "=", of.machine_id).orderBy("id").execute();
    const rounds = await store.selectFrom("round").selectAll().where("machine_id", "=", of.machine_id).orderBy("id").execute();
    const events = await store.selectFrom("event").selectAll().where("machine_id", "=", of.machine_id).orderBy("id").execute();
    const materials = await store.selectFrom("material").selectAll().where("machine_id", "=", of.machine_id).orderBy("id").execute();
    const findings = await store
      .selectFrom("finding")
      .innerJoin("trace_case", "trace_case.id", "finding.case_id")
      .selectAll("finding")
      .where("trace_case.machine_id", "=", m.id)
      .orderBy("finding.id")
      .execute();
    const answers = await store
      .selectFrom("round_answer")
      .innerJoin("round", "round.id", "round_answer.round_id")
      .selectAll("round_answer")
      .where("round.machine_id", "=", m.id)
      .orderBy("round_answer.id")
      .execute();
    const caseKey = new Map(cases.map((c) => [c.id, c.request_key]));
    const roundKey = new Map(rounds.map((r) => [r.id, r.request_key]));
    const eventKey = new Map(events.map((e) => [e.id, e.request_key]));
    const by = <T>(list: readonly T[], id: (item: T) => number) => {
      const groups = new Map<number, T[]>();
      for (const item of list) groups.set(id(item), [...(groups.get(id(item)) ?? []), item]);
      return groups;
    };
    const findingsOf = by(findings, (f) => f.case_id);
    const answersOf = by(answers, (a) => a.round_id);
    inFile.push(
      told({
        key: m.request_key,
        slug: m.slug,
        name: m.name,
        layout: m.layout,
        ratedPowerW: m.rated_power_w,
        ratedTubeHours: m.rated_tube_hours,
        path: parsed<MachineInFile["path"]>(m.path),
        fittings: parsed<MachineInFile["fittings"]>(m.fittings),
        createdMs: m.created_ms,
        declined: (await settingsOf(names.declined(m.id))) as string[] | undefined,
        materials: materials.map((x) =>
          told({
            id: x.id,
            name: x.name,
            kind: x.kind,
            thicknessMm: x.thickness_mm,
            beta: x.beta,
            usualSpeedMmPerS: x.usual_speed_mm_per_s,
            usualSetPercent: x.usual_set_percent,
            smokeOptics: x.smoke_optics,
            smokeNozzle: x.smoke_nozzle,
            hidden: x.hidden === 1 ? true : undefined,
          }),
        ),
        cases: cases.map((c) =>
          told({
            key: c.request_key,
            number: c.number,
            title: c.title,
            sign: c.sign,
            symptom: c.symptom,
            onsetMs: c.onset_ms,
            openedMs: c.opened_ms,
            closedMs: c.closed_ms,
            closing: parsed<object>(c.closing),
            findings: (findingsOf.get(c.id) ?? []).map((f) =>
              told({
                key: f.request_key,
                check: f.check_id,
                outcome: f.outcome,
                value: f.value,
                setPercent: f.set_percent,
                atMs: f.at_ms,
                withdrawnMs: f.withdrawn_ms,
              }),
            ),
          }),
        ),
        rounds: rounds.map((r) =>
          told({
            key: r.request_key,
            title: r.title,
            parts: JSON.parse(r.parts) as string[],
            plan: parsed<object>(r.plan),
            status: r.status,
            startedMs: r.started_ms,
            endedMs: r.ended_ms,
            case: r.case_id === null ? undefined : caseKey.get(r.case_id),
            answers: (answersOf.get(r.id) ?? []).map((a) => ({
              // Its number here is not its number there.
              key: a.request_key.startsWith(`${r.id}/`) ? a.request_key.slice(`${r.id}/`.length) : a.request_key,
              stepId: a.step_id,
              answer: JSON.parse(a.answer) as object,
              atMs: a.at_ms,
            })),
          }),
        ),
        events: events.map((e) =>
          told({
            key: fileKey(e.request_key, roundKey),
            kind: e.kind,
            atMs: e.at_ms,
            recordedMs: e.recorded_ms,
            payload: JSON.parse(e.payload) as object,
            corrects: e.corrects === null ? undefined : fileKey(eventKey.get(e.corrects) ?? "", roundKey),
            voids: e.voids === 1 ? true : undefined,
            round: e.round_id === null ? undefined : roundKey.get(e.round_id),
            case: e.case_id === null ? undefined : caseKey.get(e.case_id),
          }),
        ),
      }) as unknown as MachineInFile,
    );
  }
  return told({ format: WORKSHOP_FORMAT, version: WORKSHOP_VERSION, currency, machines: inFile }) as WorkshopFile;
}

/** What an import did, or would do. */
export interface ImportCounts {
  readonly machines: number;
  readonly materials: number;
  readonly cases: number;
  readonly rounds: number;
  readonly events: number;
  /** Records that are here already. */
  readonly known: number;
  /** Of those, records that say something else here; they are left as they are here. */
  readonly differ: number;
}

/** What is in the file cannot stand beside what is here; nothing was written. */
export class CannotMerge extends Error {
  override readonly name = "CannotMerge";
}

/** Undoes a trial run. */
class TrialOver extends Error {
  constructor(readonly counts: ImportCounts) {
    super("only tried");
  }
}

/** What an import would do, without doing it. */
export async function tryImport(store: Store, file: WorkshopFile): Promise<ImportCounts> {
  try {
    return await unlessKeyTaken(
      atOnce(store, async (tx) => {
        throw new TrialOver(await merge(tx, file));
      }),
    );
  } catch (error) {
    if (error instanceof TrialOver) return error.counts;
    throw error;
  }
}

/** Takes a checked file in, in one transaction. Throws CannotMerge. */
export const importWorkshop = (store: Store, file: WorkshopFile): Promise<ImportCounts> =>
  unlessKeyTaken(atOnce(store, (tx) => merge(tx, file)));

/** A key that stands for something else already is a refusal, not a failure. The transaction it happened in is undone. */
async function unlessKeyTaken<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (error instanceof Error && /UNIQUE constraint failed/.test(error.message))
      throw new CannotMerge("A record in it has the key of another one, in the file or of another machine here. Nothing was taken in.");
    throw error;
  }
}

type Count = { -readonly [K in keyof ImportCounts]: number };

async function merge(tx: Store, file: WorkshopFile): Promise<ImportCounts> {
  const count: Count = { machines: 0, materials: 0, cases: 0, rounds: 0, events: 0, known: 0, differ: 0 };
  for (const m of file.machines) {
    const machineId = await mergeMachine(tx, m, count);
    const materialOf = await mergeMaterials(tx, machineId, m, count);
    const caseOf = await mergeCases(tx, machineId, m, count);
    const roundOf = await mergeRounds(tx, machineId, m, caseOf, count);
    await mergeEvents(tx, machineId, m, { materialOf, caseOf, roundOf }, count);
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
      slug: slugs.has(m.slug) ? slugFor(m.name, slugs) : m.slug,
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
  const here = await tx
    .selectFrom("trace_case")
    .select(["id", "request_key", "number", "closed_ms"])
    .where("machine_id", "=", machineId)
    .execute();
  const ids = new Map(here.map((c) => [c.request_key, c.id]));
  const numbers = new Set(here.map((c) => c.number));
  let isOpen = here.some((c) => c.closed_ms === null);
  for (const c of m.cases) {
    if (ids.has(c.key)) {
      count.known++;
      continue;
    }
    if (c.closedMs === undefined) {
      if (isOpen) throw new CannotMerge(`${m.name} has an open case here and another one in the file. Close one of them first.`);
      isOpen = true;
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

/** Records of a round are known by its number; in a file by its key. */
const OF_ROUND = /^round-(\d+):/;
const OF_ROUND_IN_FILE = /^round\((.*?)\):/;
const fileKey = (key: string, roundKey: ReadonlyMap<number, string>): string =>
  key.replace(OF_ROUND, (all, id) => (roundKey.has(Number(id)) ? `round(${roundKey.get(Number(id))}):` : all));
const ownKey = (key: string, roundOf: ReadonlyMap<string, number>): string =>
  key.replace(OF_ROUND_IN_FILE, (all, round) => (roundOf.has(round) ? `round-${roundOf.get(round)}:` : all));

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
  await insertEvents(tx, rows);
  count.events += rows.length;
}

/** Rows of one statement: many enough to be fast, few enough for its parameters. */
const TOGETHER = 250;
function* parts<T>(rows: readonly T[]): Generator<T[]> {
  for (let i = 0; i < rows.length; i += TOGETHER) yield rows.slice(i, i + TOGETHER);
}

/** Writes checked rows, many at a time. */
export async function insertEvents(tx: Store, rows: readonly Insertable<Tables["event"]>[]): Promise<void> {
  for (const part of parts(rows)) await tx.insertInto("event").values(part).execute();
}

/** A payload with the material it names as it is numbered here. */
function withMaterial(payload: object, materialOf: ReadonlyMap<number, number>): object {
  if (!("materialId" in payload)) return payload;
  const id = materialOf.get(payload.materialId as number);
  if (id === undefined) throw new CannotMerge(`A record names material ${String(payload.materialId)}, which the file does not have.`);
  return { ...payload, materialId: id };
}

/** The key of each record as a file gives it, by its id: one that names its round by the round's own key. */
export async function keysInFile(store: Store, machineId: number, kind: string): Promise<Map<number, string>> {
  const rounds = await store.selectFrom("round").select(["id", "request_key"]).where("machine_id", "=", machineId).execute();
  const roundKey = new Map(rounds.map((r) => [r.id, r.request_key]));
  const events = await store
    .selectFrom("event")
    .select(["id", "request_key"])
    .where("machine_id", "=", machineId)
    .where("kind", "=", kind)
    .execute();
  return new Map(events.map((e) => [e.id, fileKey(e.request_key, roundKey)]));
}

/** Records that another machine has: its table was taken for this one's. Throws CannotMerge. */
async function refuseForeign(tx: Store, machineId: number, rows: readonly Insertable<Tables["event"]>[]): Promise<void> {
  for (const part of parts(rows)) {
    const keys = part.map((r) => r.request_key);
    const other = await tx
      .selectFrom("event")
      .innerJoin("machine", "machine.id", "event.machine_id")
      .select("machine.name")
      .where("event.request_key", "in", keys)
      .where("event.machine_id", "!=", machineId)
      .executeTakeFirst();
    if (other) throw new CannotMerge(`These records are ${other.name}'s: take the table in there, or leave its column "key" out.`);
  }
}

/** A record of a table, checked. */
export interface TableRecord {
  readonly kind: string;
  readonly key: string;
  readonly atMs: number;
  readonly payload: object;
}

/** Takes checked records of one machine in: those whose key is known are left as they are. `isTrial` only counts. */
export async function importRecords(
  store: Store,
  machineId: number,
  records: readonly TableRecord[],
  nowMs: number,
  isTrial: boolean,
): Promise<ImportCounts> {
  return atOnce(store, async (tx) => {
    const rounds = await tx.selectFrom("round").select(["id", "request_key"]).where("machine_id", "=", machineId).execute();
    const roundOf = new Map(rounds.map((r) => [r.request_key, r.id]));
    const here = await tx.selectFrom("event").select(["request_key", "payload"]).where("machine_id", "=", machineId).execute();
    const known = new Map(here.map((e) => [e.request_key, e.payload]));
    const count: Count = { machines: 0, materials: 0, cases: 0, rounds: 0, events: 0, known: 0, differ: 0 };
    const rows: Insertable<Tables["event"]>[] = [];
    for (const r of records) {
      const key = ownKey(r.key, roundOf);
      const payload = JSON.stringify(r.payload);
      const before = known.get(key);
      if (before === undefined) {
        rows.push({
          machine_id: machineId,
          kind: r.kind,
          at_ms: r.atMs,
          recorded_ms: nowMs,
          payload,
          corrects: null,
          round_id: null,
          case_id: null,
          request_key: key,
        });
        continue;
      }
      count.known++;
      if (!saysTheSame(before, r.payload)) count.differ++;
    }
    await refuseForeign(tx, machineId, rows);
    count.events = rows.length;
    if (!isTrial) await insertEvents(tx, rows);
    return count;
  });
}

/** Whether a kept payload says what another one says, in whatever order. */
function saysTheSame(kept: string, payload: object): boolean {
  const sorted = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(sorted)
      : value !== null && typeof value === "object"
        ? Object.fromEntries(
            Object.entries(value)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([k, v]) => [k, sorted(v)]),
          )
        : value;
  return JSON.stringify(sorted(JSON.parse(kept))) === JSON.stringify(sorted(payload));
}
