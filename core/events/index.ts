/**
 * # Events: what happened at a machine
 * Answers: which records exist and what each must hold. One JSON Schema per shape; the TypeScript type is derived from it and
 * every boundary validates with it. Events are append-only: a correction is a further record that names the one it replaces
 * or voids, so history explains itself.
 */
export * from "./chain";
export * from "./corrections";
export * from "./inTime";
export * from "./log";
export * from "./schemas";
