/** A whole workshop out of the database, as the one file holds it. */
import type { Selectable } from "kysely";
import { type MachineInFile, WORKSHOP_FORMAT, WORKSHOP_VERSION, type WorkshopFile } from "#core/exchange";
import type { Store } from "../database";
import type { Tables } from "../tables";
import { fileKey, keysOf } from "./keys";

type Row<T extends keyof Tables> = Selectable<Tables[T]>;
type Keys = ReadonlyMap<number, string>;

const parsed = <T>(text: string | null): T | undefined => (text === null ? undefined : (JSON.parse(text) as T));
/** Without what is not there: a file says nothing of it. */
const told = <T extends object>(values: T): T =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined && v !== null)) as T;
const keyOf = (keys: Keys, id: number | null) => (id === null ? undefined : keys.get(id));

function grouped<T>(list: readonly T[], id: (item: T) => number): (of: number) => readonly T[] {
  const groups = new Map<number, T[]>();
  for (const item of list) {
    const group = groups.get(id(item)) ?? [];
    group.push(item);
    groups.set(id(item), group);
  }
  return (of) => groups.get(of) ?? [];
}

/** Names under which settings of a workshop, a machine and a case are kept. */
interface SettingNames {
  readonly currency: string;
  readonly units: string;
  readonly supplies: string;
  readonly declined: (machineId: number) => string;
  readonly unknown: (caseId: number) => string;
}
type SettingOf = (name: string) => Promise<unknown>;

/** Everything that was ever written down, in the order it was; devices, forms that were sent and the server's own settings stay. */
export async function readWorkshop(store: Store, settingOf: SettingOf, names: SettingNames): Promise<WorkshopFile> {
  const rows = await store.selectFrom("machine").selectAll().orderBy("id").execute();
  const currency = await settingOf(names.currency);
  const units = await settingOf(names.units);
  const supplies = await settingOf(names.supplies);
  const machines: MachineInFile[] = [];
  for (const row of rows) machines.push(await readMachine(store, row, settingOf, names));
  return told({ format: WORKSHOP_FORMAT, version: WORKSHOP_VERSION, currency, units, supplies, machines }) as WorkshopFile;
}

async function readMachine(store: Store, machine: Row<"machine">, settingOf: SettingOf, names: SettingNames): Promise<MachineInFile> {
  const { id } = machine;
  const cases = await store.selectFrom("trace_case").selectAll().where("machine_id", "=", id).orderBy("id").execute();
  const rounds = await store.selectFrom("round").selectAll().where("machine_id", "=", id).orderBy("id").execute();
  const events = await store.selectFrom("event").selectAll().where("machine_id", "=", id).orderBy("id").execute();
  const materials = await store.selectFrom("material").selectAll().where("machine_id", "=", id).orderBy("id").execute();
  const sittings = await store.selectFrom("aim_sitting").selectAll().where("machine_id", "=", id).orderBy("id").execute();
  const findings = await store
    .selectFrom("finding")
    .innerJoin("trace_case", "trace_case.id", "finding.case_id")
    .selectAll("finding")
    .where("trace_case.machine_id", "=", id)
    .orderBy("finding.id")
    .execute();
  const answers = await store
    .selectFrom("round_answer")
    .innerJoin("round", "round.id", "round_answer.round_id")
    .selectAll("round_answer")
    .where("round.machine_id", "=", id)
    .orderBy("round_answer.id")
    .execute();
  const marks = await store
    .selectFrom("aim_entry")
    .innerJoin("aim_sitting", "aim_sitting.id", "aim_entry.sitting_id")
    .selectAll("aim_entry")
    .where("aim_sitting.machine_id", "=", id)
    .orderBy("aim_entry.id")
    .execute();
  const unknown = new Map<number, string[]>();
  for (const c of cases) {
    const checks = (await settingOf(names.unknown(c.id))) as string[] | undefined;
    if (checks?.length) unknown.set(c.id, checks);
  }
  const keys = { cases: keysOf(cases), rounds: keysOf(rounds), events: keysOf(events) };
  const findingsOf = grouped(findings, (f) => f.case_id);
  const answersOf = grouped(answers, (a) => a.round_id);
  const marksOf = grouped(marks, (e) => e.sitting_id);
  return told({
    key: machine.request_key,
    slug: machine.slug,
    name: machine.name,
    layout: machine.layout,
    ratedPowerW: machine.rated_power_w,
    ratedTubeHours: machine.rated_tube_hours,
    path: parsed<MachineInFile["path"]>(machine.path),
    fittings: parsed<MachineInFile["fittings"]>(machine.fittings),
    createdMs: machine.created_ms,
    declined: (await settingOf(names.declined(id))) as string[] | undefined,
    materials: materials.map(materialOut),
    cases: cases.map((c) => caseOut(c, unknown.get(c.id), findingsOf(c.id))),
    rounds: rounds.map((r) => roundOut(r, keys.cases, answersOf(r.id))),
    events: events.map((e) => eventOut(e, keys)),
    aims: sittings.map((s) => aimOut(s, keys.cases, marksOf(s.id))),
  }) as unknown as MachineInFile;
}

const materialOut = (m: Row<"material">) =>
  told({
    id: m.id,
    name: m.name,
    kind: m.kind,
    thicknessMm: m.thickness_mm,
    beta: m.beta,
    usualSpeedMmPerS: m.usual_speed_mm_per_s,
    usualSetPercent: m.usual_set_percent,
    smokeOptics: m.smoke_optics,
    smokeNozzle: m.smoke_nozzle,
    hidden: m.hidden === 1 ? true : undefined,
  });

const caseOut = (c: Row<"trace_case">, unknown: readonly string[] | undefined, findings: readonly Row<"finding">[]) =>
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
    unknown,
    findings: findings.map((f) =>
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
  });

const roundOut = (r: Row<"round">, cases: Keys, answers: readonly Row<"round_answer">[]) =>
  told({
    key: r.request_key,
    title: r.title,
    parts: JSON.parse(r.parts) as string[],
    plan: parsed<object>(r.plan),
    status: r.status,
    startedMs: r.started_ms,
    endedMs: r.ended_ms,
    case: keyOf(cases, r.case_id),
    answers: answers.map((a) => ({
      // Its number here is not its number there.
      key: a.request_key.startsWith(`${r.id}/`) ? a.request_key.slice(`${r.id}/`.length) : a.request_key,
      stepId: a.step_id,
      answer: JSON.parse(a.answer) as object,
      atMs: a.at_ms,
    })),
  });

const eventOut = (e: Row<"event">, keys: Readonly<Record<"cases" | "rounds" | "events", Keys>>) =>
  told({
    key: fileKey(e.request_key, keys.rounds),
    kind: e.kind,
    atMs: e.at_ms,
    recordedMs: e.recorded_ms,
    payload: JSON.parse(e.payload) as object,
    corrects: e.corrects === null ? undefined : fileKey(keys.events.get(e.corrects) ?? "", keys.rounds),
    voids: e.voids === 1 ? true : undefined,
    round: keyOf(keys.rounds, e.round_id),
    case: keyOf(keys.cases, e.case_id),
  });

const aimOut = (s: Row<"aim_sitting">, cases: Keys, marks: readonly Row<"aim_entry">[]) =>
  told({
    key: s.request_key,
    case: keyOf(cases, s.case_id),
    startedMs: s.started_ms,
    endedMs: s.ended_ms,
    ending: parsed<object>(s.ending),
    entries: marks.map((e) =>
      told({ key: e.request_key, entry: JSON.parse(e.entry) as object, atMs: e.at_ms, withdrawnMs: e.withdrawn_ms }),
    ),
  });
