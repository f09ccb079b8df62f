/**
 * # The machine and its path
 * Answers: which stations light passes in which order, what each of them is and how it is held, and whether a path can be one. Edits
 * are plain functions from path to path; a station's id is its own for life, so that history keeps its subject whatever is moved.
 */
export * from "./condition";
export * from "./ids";
export * from "./layoutIds";
export * from "./names";
export * from "./path";
export * from "./places";
export * from "./spec";
export * from "./sums";
export * from "./types";
export * from "./upkeep";
