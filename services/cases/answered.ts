/** The engine's answer to a case, kept as long as its findings and the machine's use are the same: several places ask for it. */
import { LRUCache } from "lru-cache";
import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";

const KEPT = 12;
const answers = new WeakMap<TraceModel, LRUCache<string, TraceAnswer>>();

/** What `trace` answers. It is a pure function, so the same question has the same answer. */
export function answered(model: TraceModel, input: TraceInput): TraceAnswer {
  const known = answers.get(model) ?? new LRUCache<string, TraceAnswer>({ max: KEPT });
  answers.set(model, known);
  const question = JSON.stringify(input);
  const answer = known.get(question) ?? trace(model, input);
  known.set(question, answer);
  return answer;
}
