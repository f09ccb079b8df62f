/** Names of the settings that are kept beside a machine and its workshop. */

/** Setting that puts the practice bench at hand. */
export const BENCH = "practice-bench";

/** Setting that keeps the workshop's currency. */
export const CURRENCY = "currency";

/** Settings that keep which checks cannot be made on a machine, and what nobody knows in a case. */
export const declinedSetting = (machineId: number): string => `declined-checks-${machineId}`;
export const unknownSetting = (caseId: number): string => `unknown-checks-case-${caseId}`;
