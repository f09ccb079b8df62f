/**
 * # Use and what is due
 * Answers: how many hours the beam has fired, how much smoke each station has seen since it was last cleaned, and which tasks
 * that makes due. Derived from the event log alone, never stored, so it can always be rebuilt. Learned intervals (M5) come
 * later; until then an interval is the one of the school chosen.
 */
export * from "./due";
export * from "./services";
export * from "./usage";
