/** The engine's answer to a case, kept as long as its findings and the machine's use are the same: several places ask for it. */
import { setTimeout as wait } from "node:timers/promises";
import { LRUCache } from "lru-cache";
import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";
import { KeptBeside } from "#store/kept";
import type { Services } from "../context";

const KEPT = 12;
/** Answers kept of each model: those to come among them. */
const KEPT_ANSWERS = 40;
/** After so long (ms) without another question the answers to the next one are worked out ahead, while its asker walks to the machine. */
const QUIET_MS = 600;
/** A page in haste waits so long (ms) for a new answer. */
const PATIENCE_MS = 30;

type Answers = LRUCache<string, Promise<TraceAnswer>>;
const answersOf = new WeakMap<TraceModel, Answers>();
/** The question asked last of all: what is worked out ahead gives way to it. */
let newest = "";
/** The newest answer there is to each case of a store, and by which model. */
const last = new KeptBeside<{ readonly model: TraceModel; readonly answer: TraceAnswer }>({ most: KEPT });

/**
 * What `trace` answers. It is a pure function, so the same question has the same answer, also to who asks while it is worked out. A page in
 * haste gets the newest answer to the case `caseId` there is, and is told so.
 */
export async function answered(
  { tracer, haste, store, onlyAsked }: Partial<Pick<Services, "tracer" | "haste" | "store" | "onlyAsked">>,
  model: TraceModel,
  input: TraceInput,
  caseId?: number,
): Promise<TraceAnswer> {
  const answers: Answers = answersOf.get(model) ?? new LRUCache({ max: KEPT_ANSWERS });
  answersOf.set(model, answers);
  const question = JSON.stringify(input);
  const known = answers.get(question);
  const answer = known ?? (tracer ? tracer(model, input) : Promise.resolve(trace(model, input)));
  if (!known) answers.set(question, answer);
  const isAsked = caseId !== undefined && tracer !== undefined && !onlyAsked && newest !== question;
  if (isAsked) newest = question;
  answer.then(
    (made) => {
      if (caseId !== undefined && store) last.set(store, caseId, { model, answer: made });
      if (isAsked) void workAhead({ tracer, model, input, answers }, made, () => newest === question);
    },
    // What failed is asked again.
    () => answers.delete(question),
  );
  const before = caseId === undefined || !haste || !store ? undefined : last.get(store, caseId);
  if (!haste || before?.model !== model) return answer;
  const soon = await Promise.race([answer, wait(PATIENCE_MS, undefined, { ref: false })]);
  if (!soon) haste.isBehind = true;
  return soon ?? before.answer;
}

interface Asked {
  readonly tracer: NonNullable<Services["tracer"]>;
  readonly model: TraceModel;
  readonly input: TraceInput;
  readonly answers: Answers;
}

/** Works out what each answer to the question that is asked next would lead to, one after the other, until something else is asked. */
async function workAhead({ tracer, model, input, answers }: Asked, made: TraceAnswer, isStill: () => boolean): Promise<void> {
  const next = made.repair === null ? made.nextChecks.find((c) => c.helps) : undefined;
  const outcomes = model.checks.find((c) => c.id === next?.check)?.outcomes ?? [];
  await wait(QUIET_MS, undefined, { ref: false });
  for (const outcome of outcomes) {
    if (!isStill()) return;
    const then: TraceInput = { ...input, findings: [...(input.findings ?? []), { check: next?.check as string, outcome }] };
    const question = JSON.stringify(then);
    if (answers.has(question)) continue;
    const answer = tracer(model, then);
    answers.set(question, answer);
    // What failed is asked again when it is asked.
    await answer.catch(() => answers.delete(question));
  }
}
