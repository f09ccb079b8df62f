import type { FromSchema } from "json-schema-to-ts";
import type { EventPayload } from "#core/events";
import type { Step } from "./step";

const photo = { type: "string", pattern: "^[0-9a-f]{64}$" } as const;

/** Answers that any look may offer besides its grades: it could not see the part; it is clear, and cleaned all the same. */
export const NOT_SEEN = "not-seen";
export const ANYWAY = "anyway";

/** Faster air is in no duct (m/s). */
export const MOST_AIR_MPS = 60;

/** Answer to one step. */
export const roundAnswerSchema = {
  type: "object",
  properties: {
    done: { const: true },
    grade: { type: "integer", minimum: 0, maximum: 4 },
    choice: { type: "string", maxLength: 40 },
    skipped: { type: "string", minLength: 2, maxLength: 200 },
    note: { type: "string", maxLength: 500 },
    /** Who did it, where several work. */
    by: { type: "string", maxLength: 8 },
    photos: { type: "array", maxItems: 8, items: photo },
    /** Speed of the air in the duct, at a step that reads it. */
    airMps: { type: "number", exclusiveMinimum: 0, maximum: MOST_AIR_MPS },
    /** When the step's timer runs out, on the server's clock. */
    timerEndsMs: { type: "number" },
    atMs: { type: "number" },
  },
  required: ["atMs"],
  additionalProperties: false,
} as const;
export type RoundAnswer = FromSchema<typeof roundAnswerSchema>;

/**
 * The answer to a step after a further one: what is said anew counts, what is not said again stays. A grade changed later leaves the
 * step done; done and skipped exclude each other; photos gather.
 */
export function mergeAnswer(before: RoundAnswer | undefined, next: RoundAnswer): RoundAnswer {
  const { done, skipped, ...rest } = before ?? { atMs: next.atMs };
  const kept = next.done === undefined && next.skipped === undefined ? { ...(done ? { done } : {}), ...(skipped ? { skipped } : {}) } : {};
  const photos = [...new Set([...(before?.photos ?? []), ...(next.photos ?? [])])].slice(0, 8);
  const merged = { ...rest, ...kept, ...next, ...(photos.length > 0 ? { photos } : {}) };
  // A grade picked after one of these takes it back.
  const takesBack = next.grade !== undefined && next.choice === undefined && (merged.choice === NOT_SEEN || merged.choice === ANYWAY);
  if (!takesBack) return merged;
  const { choice: _, ...plain } = merged;
  return plain;
}

/**
 * All answers of a round, each step's merged in the order they were *given*. An answer that was held back by a lost network
 * arrives late but does not undo what another device said after it.
 */
export function mergeAnswers(
  answers: readonly { readonly stepId: string; readonly answer: RoundAnswer }[],
): ReadonlyMap<string, RoundAnswer> {
  const merged = new Map<string, RoundAnswer>();
  const inOrder = answers.map((a, i) => ({ ...a, i })).sort((a, b) => a.answer.atMs - b.answer.atMs || a.i - b.i);
  for (const { stepId, answer } of inOrder) merged.set(stepId, mergeAnswer(merged.get(stepId), answer));
  return merged;
}

/** A step is behind us when it was done, graded or skipped. */
export function isAnswered(answer: RoundAnswer | undefined): boolean {
  return answer !== undefined && (answer.done === true || answer.skipped !== undefined);
}

/** Index of the first step of a walk still to do; the number of steps when all are answered. */
export function nextStep(steps: readonly Step[], answers: ReadonlyMap<string, RoundAnswer>): number {
  const i = steps.findIndex((s) => !isAnswered(answers.get(s.id)));
  return i < 0 ? steps.length : i;
}

export type RoundRecord = { readonly atMs: number; readonly key: string; readonly stepId: string } & {
  readonly [K in "grade" | "service" | "note" | "airflow"]: { readonly kind: K; readonly payload: EventPayload[K] };
}["grade" | "service" | "note" | "airflow"];

/** Whether a step was done, not passed over, and not answered with what leaves it undone; where such an answer is to be had, one is needed. */
export const isServed = (step: Step, answer: RoundAnswer | undefined): boolean =>
  answer?.done === true &&
  answer.skipped === undefined &&
  !isRefused(step, answer) &&
  (answer.choice !== undefined || !step.seen?.some((o) => o.served === false));

/** Whether the answer chosen at a step says that it could not be done. */
export const isRefused = (step: Step, answer: RoundAnswer | undefined): boolean =>
  step.seen?.find((o) => o.id === answer?.choice)?.served === false;

/**
 * What a round leaves in the log: every grade given, whether the step was then walked on, left or skipped (what was seen was seen), and
 * every service done.
 */
export function roundRecords(steps: readonly Step[], answers: ReadonlyMap<string, RoundAnswer>): RoundRecord[] {
  const records: RoundRecord[] = [];
  for (const step of steps) {
    const answer = answers.get(step.id);
    if (!answer) continue;
    const words = [answer.note, answer.by && `by ${answer.by}`].filter(Boolean).join(", ");
    const note = { ...(words ? { note: words } : {}), ...(answer.photos ? { photos: answer.photos } : {}) };
    const before = records.length;
    const said = step.seen?.find((o) => o.id === answer.choice);
    // What could not be seen was not graded, whatever had been picked before.
    const grade = step.kind !== "grade" ? said?.grade : answer.choice === NOT_SEEN ? undefined : answer.grade;
    if (step.station && grade !== undefined) {
      records.push({
        kind: "grade",
        atMs: answer.atMs,
        key: step.id,
        stepId: step.id,
        payload: {
          station: step.station,
          phase: step.phase ?? "as-found",
          grade,
          ...(said && step.kind !== "grade" ? { seen: said.label, choice: said.id } : {}),
          ...(step.thing !== undefined || step.kind !== "grade" ? { step: step.id } : {}),
          ...(said?.stops === "machine" ? { stops: true } : {}),
          ...note,
        },
      });
    }
    if (step.reading === "air" && answer.airMps !== undefined) {
      const payload = { ductSpeedMps: answer.airMps, ...(words ? { note: words } : {}) };
      records.push({ kind: "airflow", atMs: answer.atMs, key: `${step.id}:air`, stepId: step.id, payload });
    }
    if (said?.leavesOut !== undefined) {
      const payload = { station: said.leavesOut, what: "taken-out" as const, ...note };
      records.push({ kind: "service", atMs: answer.atMs, key: `${step.id}:out`, stepId: step.id, payload });
    }
    if (step.station && step.service && isServed(step, answer)) {
      const { what, task } = step.service;
      records.push({
        kind: "service",
        atMs: answer.atMs,
        key: `${step.id}:service`,
        stepId: step.id,
        payload: { station: step.station, what, ...(task ? { task } : {}), ...note },
      });
    }
    // What was noted at a step that leaves nothing else is noted by itself.
    if (answer.note && records.length === before) {
      records.push({
        kind: "note",
        atMs: answer.atMs,
        key: `${step.id}:note`,
        stepId: step.id,
        payload: { note: `${step.title} ${words}`.slice(0, 500) },
      });
    }
  }
  return records;
}
