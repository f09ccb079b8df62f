/** The engine's answer to a case, kept as long as its findings and the machine's use are the same: several places ask for it. */
import { LRUCache } from "lru-cache";
import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";
import type { Services } from "../context";

const KEPT = 12;
const answers = new WeakMap<TraceModel, LRUCache<string, Promise<TraceAnswer>>>();

/** What `trace` answers. It is a pure function, so the same question has the same answer, also to who asks while it is worked out. */
export function answered({ tracer }: Pick<Services, "tracer">, model: TraceModel, input: TraceInput): Promise<TraceAnswer> {
  const known = answers.get(model) ?? new LRUCache<string, Promise<TraceAnswer>>({ max: KEPT });
  answers.set(model, known);
  const question = JSON.stringify(input);
  const kept = known.get(question);
  if (kept) return kept;
  const answer = tracer ? tracer(model, input) : Promise.resolve(trace(model, input));
  known.set(question, answer);
  // What failed is asked again.
  answer.catch(() => known.delete(question));
  return answer;
}
