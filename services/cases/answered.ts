/** The engine's answer to a case, kept as long as its findings and the machine's use are the same: several places ask for it. */
import { setTimeout as wait } from "node:timers/promises";
import { LRUCache } from "lru-cache";
import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";
import type { Services } from "../context";

const KEPT = 12;
/** A page in haste waits so long (ms) for a new answer. */
const PATIENCE_MS = 30;

interface Kept {
  readonly answers: LRUCache<string, Promise<TraceAnswer>>;
  /** The newest answer there is to each case. */
  readonly last: LRUCache<number, TraceAnswer>;
}
const keptOf = new WeakMap<TraceModel, Kept>();

/**
 * What `trace` answers. It is a pure function, so the same question has the same answer, also to who asks while it is worked out. A page in
 * haste gets the newest answer to the case `caseId` there is, and is told so.
 */
export async function answered(
  { tracer, haste }: Pick<Services, "tracer" | "haste">,
  model: TraceModel,
  input: TraceInput,
  caseId?: number,
): Promise<TraceAnswer> {
  const kept = keptOf.get(model) ?? { answers: new LRUCache({ max: KEPT }), last: new LRUCache({ max: KEPT }) };
  keptOf.set(model, kept);
  const question = JSON.stringify(input);
  const answer = kept.answers.get(question) ?? (tracer ? tracer(model, input) : Promise.resolve(trace(model, input)));
  if (!kept.answers.has(question)) {
    kept.answers.set(question, answer);
    // What failed is asked again.
    answer.then(
      (made) => caseId !== undefined && kept.last.set(caseId, made),
      () => kept.answers.delete(question),
    );
  }
  const last = caseId === undefined || !haste ? undefined : kept.last.get(caseId);
  if (!last || !haste) return answer;
  const soon = await Promise.race([answer, wait(PATIENCE_MS, undefined, { ref: false })]);
  if (!soon) haste.isBehind = true;
  return soon ?? last;
}
