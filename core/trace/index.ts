/**
 * # Trace: from a weak cut back to a fault (M6)
 * Answers: which faults explain what was found, how sure that is, what to check next and when to stop checking.
 * Exact Bayesian inference over every set of up to `maxFaults` simultaneous faults, light or heavy; noisy-MAX for ordinal
 * checks (Henrion, 1989), leaky mixtures for nominal ones, a joint Gaussian with shared losses for watts and ladders
 * (matrix inversion lemma), weight of evidence in decibans (Good, "Probability and the Weighing of Evidence"),
 * minutes saved by a further check (value of information; Howard, 1966). The engine is general: the trade comes in as a `TraceModel`.
 */
export { type TraceDepth, trace } from "./answer";
export { BIT_SHARE, LEAST_BITS, LEAST_MINUTES, leastFor } from "./asking/nextChecks";
export { isDear, type Planner, planner } from "./asking/plan";
export { clearedFaults } from "./asking/seen";
export { SURE } from "./belief/decision";
export { usageFactor } from "./belief/prior";
export { type CaseFile, caseFileSchema } from "./caseFile";
export { expandModel } from "./model/expand";
export { coversOf, isMendedBy } from "./model/mending";
export type { CheckTemplate, FaultTemplate, RepairTemplate } from "./model/templates";
export type * from "./model/types";
export { SYMPTOMS } from "./model/types";
export { afterRepair } from "./time/past";
