/**
 * # Use and what is due
 * Answers: how many hours the beam has fired, how much smoke each station has seen since it was last cleaned, and which tasks
 * that makes due. Derived from the event log alone, never stored, so it can always be rebuilt. What interval a task has is the owner's to
 * choose: a school's, the one its own history bears out, the cheapest, or a figure of his own.
 */
export * from "./cheapest";
export * from "./doses";
export * from "./due";
export * from "./learned";
export * from "./rules";
export * from "./services";
export * from "./usage";
