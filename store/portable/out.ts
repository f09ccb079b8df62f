/** A whole workshop out of the database, as the one file holds it. */
import { type MachineInFile, WORKSHOP_FORMAT, WORKSHOP_VERSION, type WorkshopFile } from "#core/exchange";
import type { Store } from "../database";
import { fileKey } from "./keys";

const parsed = <T>(text: string | null): T | undefined => (text === null ? undefined : (JSON.parse(text) as T));
/** Without what is not there: a file says nothing of it. */
const told = <T extends object>(values: T): T =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined && v !== null)) as T;

/** Everything that was ever written down, in the order it was; devices, forms that were sent and the server's own settings stay. */
export async function readWorkshop(
  store: Store,
  settingsOf: (name: string) => Promise<unknown>,
  names: {
    currency: string;
    units: string;
    supplies: string;
    declined: (machineId: number) => string;
    unknown: (caseId: number) => string;
  },
): Promise<WorkshopFile> {
  const machines = await store.selectFrom("machine").selectAll().orderBy("id").execute();
  const currency = (await settingsOf(names.currency)) as string | undefined;
  const units = await settingsOf(names.units);
  const supplies = await settingsOf(names.supplies);
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
    const sittings = await store.selectFrom("aim_sitting").selectAll().where("machine_id", "=", m.id).orderBy("id").execute();
    const marks = await store
      .selectFrom("aim_entry")
      .innerJoin("aim_sitting", "aim_sitting.id", "aim_entry.sitting_id")
      .selectAll("aim_entry")
      .where("aim_sitting.machine_id", "=", m.id)
      .orderBy("aim_entry.id")
      .execute();
    const unknown = new Map<number, string[]>();
    for (const c of cases) {
      const checks = (await settingsOf(names.unknown(c.id))) as string[] | undefined;
      if (checks?.length) unknown.set(c.id, checks);
    }
    const caseKey = new Map(cases.map((c) => [c.id, c.request_key]));
    const roundKey = new Map(rounds.map((r) => [r.id, r.request_key]));
    const eventKey = new Map(events.map((e) => [e.id, e.request_key]));
    const by = <T>(list: readonly T[], id: (item: T) => number) => {
      const groups = new Map<number, T[]>();
      for (const item of list) groups.set(id(item), [...(groups.get(id(item)) ?? []), item]);
      return groups;
    };
    const findingsOf = by(findings, (f) => f.case_id);
    const marksOf = by(marks, (e) => e.sitting_id);
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
            unknown: unknown.get(c.id),
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
        aims: sittings.map((a) =>
          told({
            key: a.request_key,
            case: a.case_id === null ? undefined : caseKey.get(a.case_id),
            startedMs: a.started_ms,
            endedMs: a.ended_ms,
            ending: parsed<object>(a.ending),
            entries: (marksOf.get(a.id) ?? []).map((e) =>
              told({ key: e.request_key, entry: JSON.parse(e.entry) as object, atMs: e.at_ms, withdrawnMs: e.withdrawn_ms }),
            ),
          }),
        ),
      }) as unknown as MachineInFile,
    );
  }
  return told({ format: WORKSHOP_FORMAT, version: WORKSHOP_VERSION, currency, units, supplies, machines: inFile }) as WorkshopFile;
}
