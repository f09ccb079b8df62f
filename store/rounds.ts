import type { Selectable } from "kysely";
import { mergeAnswer, mergeAnswers, type RoundAnswer, type RoundPlan } from "#core/rounds";
import { atOnce, type Store } from "./database";
import { appendEvents, type NewEvent } from "./events";
import { KeptBeside } from "./kept";
import type { Tables } from "./tables";

/** A service round: open while the machine is apart. */
export interface Round {
  readonly id: number;
  readonly title: string;
  /** Procedure parts it was planned from, e.g. `lens`, `nozzle`, `mirror-3`. */
  readonly parts: readonly string[];
  readonly status: "open" | "closed" | "abandoned";
  readonly startedMs: number;
  readonly endedMs: number | undefined;
  readonly caseId: number | undefined;
  /** Plan it is walked by; undefined for rounds older than plans. */
  readonly plan: RoundPlan | undefined;
  /** The answer to each step, later ones merged over earlier. */
  readonly answers: ReadonlyMap<string, RoundAnswer>;
}

export interface NewRound {
  readonly title: string;
  readonly parts: readonly string[];
  /** The plan as it stands now: the round is walked by it to its end, whatever is edited meanwhile. */
  readonly plan?: RoundPlan | undefined;
  readonly caseId?: number | undefined;
  readonly requestKey: string;
}

/** Starts a round, or gives back the one that is open already: a machine has at most one. */
export async function startRound(store: Store, machineId: number, round: NewRound, nowMs: number): Promise<number> {
  return atOnce(store, async (tx) => {
    const open = await tx
      .selectFrom("round")
      .select("id")
      .where("machine_id", "=", machineId)
      .where("status", "=", "open")
      .executeTakeFirst();
    if (open) return open.id;
    const same = await tx.selectFrom("round").select("id").where("request_key", "=", round.requestKey).executeTakeFirst();
    if (same) return same.id;
    const { id } = await tx
      .insertInto("round")
      .values({
        machine_id: machineId,
        title: round.title,
        parts: JSON.stringify(round.parts),
        plan: round.plan === undefined ? null : JSON.stringify(round.plan),
        status: "open",
        started_ms: nowMs,
        ended_ms: null,
        case_id: round.caseId ?? null,
        request_key: round.requestKey,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    return id;
  });
}

export async function findRound(store: Store, machineId: number, id: number): Promise<Round | undefined> {
  const row = await store.selectFrom("round").selectAll().where("id", "=", id).where("machine_id", "=", machineId).executeTakeFirst();
  if (!row) return undefined;
  return {
    id: row.id,
    title: row.title,
    parts: JSON.parse(row.parts) as string[],
    plan: row.plan === null ? undefined : (JSON.parse(row.plan) as RoundPlan),
    status: row.status,
    startedMs: row.started_ms,
    endedMs: row.ended_ms ?? undefined,
    caseId: row.case_id ?? undefined,
    answers: await answersOf(store, id),
  };
}

export async function statusOfRound(store: Store, id: number): Promise<Round["status"] | undefined> {
  return (await store.selectFrom("round").select("status").where("id", "=", id).executeTakeFirst())?.status;
}

/** Answers to one step as they came, and when the last of them was given. */
interface StepAnswers {
  readonly list: { readonly stepId: string; readonly answer: RoundAnswer }[];
  lastMs: number;
}

/** Answers of a round as far as they were read: each step's as they came, and merged. */
interface ReadAnswers {
  lastId: number;
  readonly byStep: Map<string, StepAnswers>;
  merged: ReadonlyMap<string, RoundAnswer>;
}

/** Of a few rounds: those that are open or were just looked at. */
const answersRead = new KeptBeside<ReadAnswers>({ most: 20 });

/**
 * The answer to each step, later ones merged over earlier. Answers are only ever appended, so a round is read on from its last one.
 * Within a transaction they are read anew: what it wrote may not stay.
 */
async function answersOf(store: Store, roundId: number): Promise<ReadonlyMap<string, RoundAnswer>> {
  const known = store.isTransaction ? undefined : answersRead.get(store, roundId);
  const read = known ?? { lastId: 0, byStep: new Map(), merged: new Map<string, RoundAnswer>() };
  const rows = await store
    .selectFrom("round_answer")
    .select(["id", "step_id", "answer"])
    .where("round_id", "=", roundId)
    .where("id", ">", read.lastId)
    .orderBy("id")
    .execute();
  // Two who asked at once may have read the same rows.
  const fresh = rows.filter((row) => row.id > read.lastId);
  if (fresh.length > 0) {
    const merged = new Map(read.merged);
    for (const row of fresh) {
      const answer = JSON.parse(row.answer) as RoundAnswer;
      const step = read.byStep.get(row.step_id) ?? { list: [], lastMs: 0 };
      read.byStep.set(row.step_id, step);
      const isLast = step.lastMs <= answer.atMs;
      step.lastMs = Math.max(step.lastMs, answer.atMs);
      step.list.push({ stepId: row.step_id, answer });
      const before = merged.get(row.step_id);
      // One that was given after all others goes on top; one that was held back makes its step anew.
      const now = isLast ? mergeAnswer(before, answer) : mergeAnswers(step.list).get(row.step_id);
      if (now) merged.set(row.step_id, now);
      read.lastId = row.id;
    }
    read.merged = merged;
  }
  if (!store.isTransaction) answersRead.set(store, roundId, read);
  return read.merged;
}

export interface RoundLine {
  readonly id: number;
  readonly title: string;
  readonly status: Round["status"];
  readonly startedMs: number;
  readonly endedMs: number | undefined;
  readonly caseId: number | undefined;
}

/** The round that is open on a machine, if one is. */
export async function openRoundOf(store: Store, machineId: number): Promise<RoundLine | undefined> {
  const row = await store
    .selectFrom("round")
    .select(LINE)
    .where("machine_id", "=", machineId)
    .where("status", "=", "open")
    .executeTakeFirst();
  return row && lineOf(row);
}

/** The newest rounds of a machine that ended, newest first. */
export async function endedRounds(store: Store, machineId: number, count: number): Promise<RoundLine[]> {
  const rows = await store
    .selectFrom("round")
    .select(LINE)
    .where("machine_id", "=", machineId)
    .where("status", "!=", "open")
    .orderBy("started_ms", "desc")
    .orderBy("id", "desc")
    .limit(count)
    .execute();
  return rows.map(lineOf);
}

/** When rounds of a machine were started (ms), from one time to another, rising. */
export async function roundTimes(store: Store, machineId: number, fromMs: number, toMs: number): Promise<number[]> {
  const rows = await store
    .selectFrom("round")
    .select("started_ms")
    .where("machine_id", "=", machineId)
    .where("started_ms", ">=", fromMs)
    .where("started_ms", "<=", toMs)
    .orderBy("started_ms")
    .execute();
  return rows.map((r) => r.started_ms);
}

const LINE = ["id", "title", "status", "started_ms", "ended_ms", "case_id"] as const;

function lineOf(r: Pick<Selectable<Tables["round"]>, (typeof LINE)[number]>): RoundLine {
  return {
    id: r.id,
    title: r.title,
    status: r.status,
    startedMs: r.started_ms,
    endedMs: r.ended_ms ?? undefined,
    caseId: r.case_id ?? undefined,
  };
}

/** A round that was walked for a case, with the parts it was for. */
export type CaseRound = RoundLine & Pick<Round, "parts">;
type Opened = { readonly id: number; readonly openedMs: number };

/** Rounds of a machine that were walked for a case, newest first. */
export const roundsOfCase = async (store: Store, machineId: number, of: Opened): Promise<CaseRound[]> =>
  (await roundsOfCases(store, machineId, [of])).get(of.id) ?? [];

/** Those of several cases by case; a case without any is not in it. None can have begun before its case was opened. */
export async function roundsOfCases(store: Store, machineId: number, of: readonly Opened[]): Promise<ReadonlyMap<number, CaseRound[]>> {
  const rows = await store
    .selectFrom("round")
    .select([...LINE, "parts"])
    .where("machine_id", "=", machineId)
    .where("started_ms", ">=", Math.min(...of.map((c) => c.openedMs)))
    .where(
      "case_id",
      "in",
      of.map((c) => c.id),
    )
    .orderBy("id", "desc")
    .execute();
  const byCase = new Map<number, CaseRound[]>();
  for (const row of rows) {
    const round = { ...lineOf(row), parts: JSON.parse(row.parts) as string[] };
    if (row.case_id === null) continue;
    const others = byCase.get(row.case_id);
    if (others) others.push(round);
    else byCase.set(row.case_id, [round]);
  }
  return byCase;
}

/** An answer as a device sent it. */
export interface SentAnswer {
  readonly stepId: string;
  readonly answer: RoundAnswer;
  readonly requestKey: string;
}

/** What became of a sent answer: kept (now or before), or its key used for another one. `worse` where it was kept over a later, better grade. */
export interface KeptAnswer {
  readonly requestKey: string;
  readonly kept: boolean;
  readonly worse?: { readonly stepId: string; readonly grade: number; readonly over: number };
}

/**
 * Keeps answers to steps of a round, all of them or none. Answers are appended and merged when read. A grade that was given before
 * another device's better one but arrives after it was not known there: the worse counts until somebody looks again.
 */
export async function saveAnswers(store: Store, roundId: number, sent: readonly SentAnswer[], nowMs: number): Promise<KeptAnswer[]> {
  if (sent.length === 0) return [];
  return atOnce(store, async (tx) => {
    const keys = sent.flatMap(({ requestKey }) => [requestKey, `${roundId}/${requestKey}`]);
    const graded = sent.filter(({ answer }) => answer.grade !== undefined).map(({ stepId }) => stepId);
    const rows = await tx
      .selectFrom("round_answer")
      .selectAll()
      .where("round_id", "=", roundId)
      .where((e) => e.or([e("request_key", "in", keys), e("step_id", "in", graded)]))
      .orderBy("id")
      .execute();
    const held = rows.map((a) => ({ stepId: a.step_id, key: a.request_key, answer: JSON.parse(a.answer) as RoundAnswer }));
    const outcomes: KeptAnswer[] = [];
    for (const { stepId, answer, requestKey } of sent) {
      const key = `${roundId}/${requestKey}`;
      const same = held.find((h) => h.key === key || h.key === requestKey);
      if (same) {
        outcomes.push({ requestKey, kept: same.stepId === stepId && saysTheSame(same.answer, answer) });
        continue;
      }
      const known = mergeAnswers(held.filter((h) => h.stepId === stepId)).get(stepId);
      const over = known?.grade !== undefined && answer.grade !== undefined && answer.grade > known.grade && answer.atMs < known.atMs;
      const kept = over ? { ...answer, atMs: known.atMs + 1 } : answer;
      held.push({ stepId, key, answer: kept });
      await tx
        .insertInto("round_answer")
        .values({ round_id: roundId, step_id: stepId, answer: JSON.stringify(kept), at_ms: nowMs, request_key: key })
        .execute();
      outcomes.push({
        requestKey,
        kept: true,
        ...(over ? { worse: { stepId, grade: answer.grade as number, over: known.grade as number } } : {}),
      });
    }
    return outcomes;
  });
}

/** Whether two answers say the same, whenever they were given. */
function saysTheSame(a: RoundAnswer, b: RoundAnswer): boolean {
  const said = ({ atMs: _, ...what }: RoundAnswer) => JSON.stringify(Object.entries(what).sort(([x], [y]) => (x < y ? -1 : 1)));
  return said(a) === said(b);
}

/** Ends an open round and writes what it found and did to the log, at once. False when it had ended before; then nothing is changed. */
export async function endRound(
  store: Store,
  machineId: number,
  roundId: number,
  status: "closed" | "abandoned",
  events: readonly NewEvent[],
  nowMs: number,
): Promise<boolean> {
  return atOnce(store, async (tx) => {
    const ended = await tx
      .updateTable("round")
      .set({ status, ended_ms: nowMs })
      .where("id", "=", roundId)
      .where("machine_id", "=", machineId)
      .where("status", "=", "open")
      .executeTakeFirst();
    if (Number(ended.numUpdatedRows) === 0) return false;
    await appendEvents(
      tx,
      machineId,
      events.map((e) => ({ ...e, roundId })),
      nowMs,
    );
    return true;
  });
}
