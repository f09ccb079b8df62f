/** The engine's answer to a case, kept as long as its findings and the machine's use are the same: several places ask for it. */
import { setTimeout as wait } from "node:timers/promises";
import { LRUCache } from "lru-cache";
import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";
import { KeptBeside } from "#store/kept";
import type { Services } from "../context";

const KEPT = 12;
/** A page in haste waits so long (ms) for a new answer. */
const PATIENCE_MS = 30;

const answersOf = new WeakMap<TraceModel, LRUCache<string, Promise<TraceAnswer>>>();
/** The newest answer there is to each case of a store, and by which model. */
const last = new KeptBeside<{ readonly model: TraceModel; readonly answer: TraceAnswer }>({ most: KEPT });

/**
 * What `trace` answers. It is a pure function, so the same question has the same answer, also to who asks while it is worked out. A page in
 * haste gets the newest answer to the case `caseId` there is, and is told so.
 */
export async function answered(
  { tracer, haste, store }: Partial<Pick<Services, "tracer" | "haste" | "store">>,
  model: TraceModel,
  input: TraceInput,
  caseId?: number,
): Promise<TraceAnswer> {
  const answers = answersOf.get(model) ?? new LRUCache<string, Promise<TraceAnswer>>({ max: KEPT });
  answersOf.set(model, answers);
  const question = JSON.stringify(input);
  const known = answers.get(question);
  const answer = known ?? (tracer ? tracer(model, input) : Promise.resolve(trace(model, input)));
  if (!known) answers.set(question, answer);
  answer.then(
    (made) => {
      if (caseId !== undefined && store) last.set(store, caseId, { model, answer: made });
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
