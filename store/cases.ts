import { type Selectable, sql } from "kysely";
import type { Symptom } from "#core/trace";
import { atOnce, type Store } from "./database";
import type { Tables } from "./tables";

/** A trace from a complaint to its repair. */
export interface TraceCase {
  readonly id: number;
  readonly number: number;
  readonly title: string;
  readonly sign: string;
  readonly symptom: Symptom;
  readonly onsetMs: number;
  readonly openedMs: number;
  readonly closedMs: number | undefined;
  readonly closing: CaseClosing | undefined;
}

/** How a case ended: the repair, and the proof that it was right. */
export interface CaseClosing {
  readonly repair: string | null;
  readonly faults: readonly string[];
  readonly proof: string;
  /** The case as it stood at its closing, for its report; older cases have none. */
  readonly report?: object;
}

export interface Finding {
  readonly id: number;
  readonly check: string;
  readonly outcome: string | undefined;
  readonly value: number | undefined;
  readonly setPercent: number | undefined;
  readonly atMs: number;
  readonly withdrawn: boolean;
}

export interface NewCase {
  readonly title: string;
  readonly sign: string;
  readonly symptom: Symptom;
  readonly onsetMs: number;
  readonly requestKey: string;
  readonly findings: readonly { readonly check: string; readonly outcome?: string | undefined; readonly value?: number | undefined }[];
}

/** Opens a case with the findings its signs bring, or gives back the one in which the same is being traced already. */
export async function openCase(store: Store, machineId: number, input: NewCase, nowMs: number): Promise<number> {
  return atOnce(store, async (tx) => {
    const same = await tx.selectFrom("trace_case").select("id").where("request_key", "=", input.requestKey).executeTakeFirst();
    if (same) return same.id;
    const open = await tx
      .selectFrom("trace_case")
      .select("id")
      .where("machine_id", "=", machineId)
      .where("closed_ms", "is", null)
      .where("sign", "=", input.sign)
      .executeTakeFirst();
    if (open) return open.id;
    const last = await tx
      .selectFrom("trace_case")
      .select((e) => e.fn.max("number").as("number"))
      .where("machine_id", "=", machineId)
      .executeTakeFirst();
    const { id } = await tx
      .insertInto("trace_case")
      .values({
        machine_id: machineId,
        number: Number(last?.number ?? 0) + 1,
        title: input.title,
        sign: input.sign,
        symptom: input.symptom,
        onset_ms: input.onsetMs,
        opened_ms: nowMs,
        closed_ms: null,
        closing: null,
        request_key: input.requestKey,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    for (const [i, finding] of input.findings.entries()) {
      await tx
        .insertInto("finding")
        .values(findingRow(id, finding, `${input.requestKey}:${i}`, nowMs))
        .execute();
    }
    return id;
  });
}

function findingRow(
  caseId: number,
  finding: { check: string; outcome?: string | undefined; value?: number | undefined; setPercent?: number | undefined },
  requestKey: string,
  nowMs: number,
) {
  return {
    case_id: caseId,
    check_id: finding.check,
    outcome: finding.outcome ?? null,
    value: finding.value ?? null,
    set_percent: finding.setPercent ?? null,
    at_ms: nowMs,
    withdrawn_ms: null,
    request_key: requestKey,
  };
}

export async function addFinding(
  store: Store,
  caseId: number,
  finding: { check: string; outcome?: string | undefined; value?: number | undefined; setPercent?: number | undefined },
  requestKey: string,
  nowMs: number,
): Promise<void> {
  await store
    .insertInto("finding")
    .values(findingRow(caseId, finding, requestKey, nowMs))
    .onConflict((c) => c.column("request_key").doNothing())
    .execute();
}

/** Looks at optics in any case of a machine that were not taken back: what was seen was seen, whatever became of the case. */
export async function lookFindings(store: Store, machineId: number): Promise<{ check: string; outcome: string; atMs: number }[]> {
  const rows = await store
    .selectFrom("finding")
    .innerJoin("trace_case", "trace_case.id", "finding.case_id")
    .select(["check_id", "outcome", "at_ms"])
    .where("trace_case.machine_id", "=", machineId)
    .where("withdrawn_ms", "is", null)
    .where((e) => e.or([e("check_id", "like", "%-look"), e("check_id", "like", "mirror-look@%")]))
    .orderBy("at_ms")
    .execute();
  return rows.flatMap((row) => (row.outcome === null ? [] : [{ check: row.check_id, outcome: row.outcome, atMs: row.at_ms }]));
}

/** Takes a finding back; it stays in the history, struck out. */
export async function withdrawFinding(store: Store, caseId: number, findingId: number, nowMs: number): Promise<void> {
  await store
    .updateTable("finding")
    .set({ withdrawn_ms: nowMs })
    .where("id", "=", findingId)
    .where("case_id", "=", caseId)
    .where("withdrawn_ms", "is", null)
    .execute();
}

/** Brings a finding back that was taken out by mistake. */
export async function restoreFinding(store: Store, caseId: number, findingId: number): Promise<void> {
  await store.updateTable("finding").set({ withdrawn_ms: null }).where("id", "=", findingId).where("case_id", "=", caseId).execute();
}

export const listFindings = async (store: Store, caseId: number): Promise<Finding[]> =>
  (await findingsOfCases(store, [caseId])).get(caseId) ?? [];

/** Findings of several cases by case, each in the order they were given; a case without any is not in it. */
export async function findingsOfCases(store: Store, caseIds: readonly number[]): Promise<ReadonlyMap<number, Finding[]>> {
  const rows = await store.selectFrom("finding").selectAll().where("case_id", "in", caseIds).orderBy("id").execute();
  const byCase = new Map<number, Finding[]>();
  for (const row of rows) {
    const finding = {
      id: row.id,
      check: row.check_id,
      outcome: row.outcome ?? undefined,
      value: row.value ?? undefined,
      setPercent: row.set_percent ?? undefined,
      atMs: row.at_ms,
      withdrawn: row.withdrawn_ms !== null,
    };
    const others = byCase.get(row.case_id);
    if (others) others.push(finding);
    else byCase.set(row.case_id, [finding]);
  }
  return byCase;
}

/** Cases of a machine that were closed, newest first, at most `count`; without the report of each, which is long. */
export async function closedCases(store: Store, machineId: number, count: number): Promise<TraceCase[]> {
  const rows = await store
    .selectFrom("trace_case")
    .selectAll()
    .select(sql<string | null>`json_remove(closing, '$.report')`.as("closing"))
    .where("machine_id", "=", machineId)
    .where("closed_ms", "is not", null)
    .orderBy("number", "desc")
    .limit(count)
    .execute();
  return rows.map(caseOfRow);
}

/** From when to when a machine had a fault that a case found, by its closed cases. */
export async function faultSpans(store: Store, machineId: number): Promise<{ fromMs: number; toMs: number }[]> {
  const rows = await store
    .selectFrom("trace_case")
    .select(["onset_ms", "closed_ms"])
    .where("machine_id", "=", machineId)
    .where("closed_ms", "is not", null)
    .where(sql<string | null>`json_extract(closing, '$.repair')`, "is not", null)
    .execute();
  return rows.flatMap((row) => (row.closed_ms === null ? [] : [{ fromMs: row.onset_ms, toMs: row.closed_ms }]));
}

/** Cases that are open on a machine, oldest first. */
export async function openCasesOf(store: Store, machineId: number): Promise<TraceCase[]> {
  const rows = await store
    .selectFrom("trace_case")
    .selectAll()
    .where("machine_id", "=", machineId)
    .where("closed_ms", "is", null)
    .orderBy("id")
    .execute();
  return rows.map(caseOfRow);
}

/** How often each fault ended a case of the workshop, and how many cases ended with a fault that was found. */
export async function foundFaults(store: Store): Promise<{ readonly cases: number; readonly faults: Readonly<Record<string, number>> }> {
  // Only the faults of each: the report beside them is long.
  const rows = await store
    .selectFrom("trace_case")
    .select(sql<string | null>`json_extract(closing, '$.faults')`.as("faults"))
    .where("closed_ms", "is not", null)
    .execute();
  const found = rows.map((row) => JSON.parse(row.faults ?? "[]") as string[]).filter((ids) => ids.length > 0);
  const faults: Record<string, number> = {};
  for (const id of found.flat()) faults[id] = (faults[id] ?? 0) + 1;
  return { cases: found.length, faults };
}

/** Opens a closed case again; what it was closed as is given back, to be written into the log. Undefined where it is open. */
export async function reopenCase(store: Store, machineId: number, caseId: number): Promise<CaseClosing | undefined> {
  return atOnce(store, async (tx) => {
    const closed = await findCase(tx, machineId, caseId);
    if (closed?.closedMs === undefined) return undefined;
    await tx.updateTable("trace_case").set({ closed_ms: null, closing: null }).where("id", "=", caseId).execute();
    return closed.closing ?? { repair: null, faults: [], proof: "" };
  });
}

export async function findCase(store: Store, machineId: number, caseId: number): Promise<TraceCase | undefined> {
  const row = await store
    .selectFrom("trace_case")
    .selectAll()
    .where("machine_id", "=", machineId)
    .where("id", "=", caseId)
    .executeTakeFirst();
  return row && caseOfRow(row);
}

function caseOfRow(row: Selectable<Tables["trace_case"]>): TraceCase {
  return {
    id: row.id,
    number: row.number,
    title: row.title,
    sign: row.sign,
    symptom: row.symptom as Symptom,
    onsetMs: row.onset_ms,
    openedMs: row.opened_ms,
    closedMs: row.closed_ms ?? undefined,
    closing: row.closing === null ? undefined : (JSON.parse(row.closing) as CaseClosing),
  };
}

export async function closeCase(store: Store, machineId: number, caseId: number, closing: CaseClosing, nowMs: number): Promise<boolean> {
  const { numUpdatedRows } = await store
    .updateTable("trace_case")
    .set({ closed_ms: nowMs, closing: JSON.stringify(closing) })
    .where("id", "=", caseId)
    .where("machine_id", "=", machineId)
    .where("closed_ms", "is", null)
    .executeTakeFirst();
  return numUpdatedRows > 0n;
}
