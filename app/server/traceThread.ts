/** Cases answered by a thread of their own. */

import { type TraceAnswer, type TraceInput, type TraceModel, trace } from "#core/trace";
import type { Services } from "#services/context";
import type { TraceThread } from "../../workers/trace";
import { threadOf } from "./thread";

/** `start` is the file the thread begins with; `warn` is told when it fell. Then a case is answered here: later is better than not. */
export function threadTracer(start: URL, warn: (error: unknown) => void): NonNullable<Services["tracer"]> {
  const ask = threadOf<TraceThread>(start, undefined);
  const keys = new WeakMap<TraceModel, number>();
  let next = 1;
  const inThread = async (model: TraceModel, input: TraceInput): Promise<TraceAnswer> => {
    const key = keys.get(model) ?? next++;
    const known = keys.has(model) ? await ask((thread) => thread.answer(key, input)) : undefined;
    if (known) return known;
    keys.set(model, key);
    await ask((thread) => thread.know(key, model));
    const answer = await ask((thread) => thread.answer(key, input));
    if (!answer) throw new Error("the trace thread forgot a model it was just told");
    return answer;
  };
  return (model, input) =>
    inThread(model, input).catch((error: unknown) => {
      warn(error);
      return trace(model, input);
    });
}
