import { mergeAnswers, type RoundAnswer, type RoundPlan } from "#core/rounds";
import type { Store } from "./database";
import { eventRow, type NewEvent } from "./events";

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
  return store.transaction().execute(async (tx) => {
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
  const answers = await store.selectFrom("round_answer").selectAll().where("round_id", "=", id).orderBy("id").execute();
  return {
    id: row.id,
    title: row.title,
    parts: JSON.parse(row.parts) as string[],
    plan: row.plan === null ? undefined : (JSON.parse(row.plan) as RoundPlan),
    status: row.status,
    startedMs: row.started_ms,
    endedMs: row.ended_ms ?? undefined,
    caseId: row.case_id ?? undefined,
    answers: mergeAnswers(answers.map((a) => ({ stepId: a.step_id, answer: JSON.parse(a.answer) as RoundAnswer }))),
  };
}

export interface RoundLine {
  readonly id: number;
  readonly title: string;
  readonly status: Round["status"];
  readonly startedMs: number;
  readonly endedMs: number | undefined;
  readonly caseId: number | undefined;
}

/** Rounds of a machine, newest first. */
export async function listRounds(store: Store, machineId: number): Promise<RoundLine[]> {
  const rows = await store
    .selectFrom("round")
    .select(["id", "title", "status", "started_ms", "ended_ms", "case_id"])
    .where("machine_id", "=", machineId)
    .orderBy("started_ms", "desc")
    .orderBy("id", "desc")
    .execute();
  return rows.map((r) => ({
    id: r.id,
    title: r.title,
    status: r.status,
    startedMs: r.started_ms,
    endedMs: r.ended_ms ?? undefined,
    caseId: r.case_id ?? undefined,
  }));
}

/** Keeps the answer to one step of an open round. Answers are appended and merged when read. */
export async function saveAnswer(
  store: Store,
  roundId: number,
  stepId: string,
  answer: RoundAnswer,
  requestKey: string,
  nowMs: number,
): Promise<void> {
  await store
    .insertInto("round_answer")
    .values({ round_id: roundId, step_id: stepId, answer: JSON.stringify(answer), at_ms: nowMs, request_key: requestKey })
    .onConflict((c) => c.column("request_key").doNothing())
    .execute();
}

/** Ends an open round and writes what it found and did to the log, in one transaction. Ending it twice changes nothing. */
export async function endRound(
  store: Store,
  machineId: number,
  roundId: number,
  status: "closed" | "abandoned",
  events: readonly NewEvent[],
  nowMs: number,
): Promise<void> {
  await store.transaction().execute(async (tx) => {
    const ended = await tx
      .updateTable("round")
      .set({ status, ended_ms: nowMs })
      .where("id", "=", roundId)
      .where("machine_id", "=", machineId)
      .where("status", "=", "open")
      .executeTakeFirst();
    if (Number(ended.numUpdatedRows) === 0) return;
    for (const event of events) {
      await tx
        .insertInto("event")
        .values(eventRow(machineId, { ...event, roundId }, nowMs))
        .onConflict((c) => c.column("request_key").doNothing())
        .execute();
    }
  });
}
