/** When a fault of a case is at work: before a repair, since one, or all along. */
import type { FaultSpec, TraceModel } from "./types";

/** Whether a fault is at work at a time of the case; what has no span always is. */
export const isAtWork = ({ span }: Pick<FaultSpec, "span">, time: number): boolean =>
  span === undefined || (time >= span.from && time <= span.until);

/** Which of the machine's own faults each fault of a case is now, by its place; -1 for what is gone. */
export const presentOf = ({ faults }: TraceModel, now: number): Int16Array =>
  Int16Array.from(faults, (fault, f) => (isAtWork(fault, now) ? (fault.span?.of ?? f) : -1));
