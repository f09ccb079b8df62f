/**
 * # Trace: from a weak cut back to a fault (M6)
 * Answers: which faults explain what was found, how sure that is, what to check next and when to stop checking.
 * Exact Bayesian inference over every set of up to `maxFaults` simultaneous faults, light or heavy; noisy-MAX for ordinal
 * checks (Henrion, 1989), leaky mixtures for nominal ones, a joint Gaussian with shared losses for watts and ladders
 * (matrix inversion lemma), weight of evidence in decibans (Good, "Probability and the Weighing of Evidence"),
 * minutes saved by a further check (value of information; Howard, 1966). The engine is general: the trade comes in as a `TraceModel`.
 */
export { type TraceDepth, trace } from "./answer";
export { type CaseFile, caseFileSchema } from "./caseFile";
export { SURE } from "./decision";
export type { CheckTemplate, FaultTemplate, LayoutSpec, RepairTemplate } from "./expand";
export { expandModel } from "./expand";
export { coversOf, isMendedBy } from "./mending";
export { BIT_SHARE, LEAST_BITS, LEAST_MINUTES, leastFor } from "./nextChecks";
export { afterRepair } from "./past";
export { isDear, type Planner, planner } from "./plan";
export { usageFactor } from "./prior";
export { clearedFaults } from "./seen";
export type * from "./types";
export { SYMPTOMS } from "./types";
