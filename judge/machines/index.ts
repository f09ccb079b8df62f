/**
 * # Machines that judge
 * Simulated machines with a physics of their own, that the product is judged by and practised on: one with hidden faults that answers any
 * check, charges its minutes and lets itself be repaired; one out of alignment. They share no likelihood with what they judge.
 */
export { type AimMachine, aimMachine, type Misalignment, USUAL_MISALIGNMENT } from "./aimed";
export type { TroubleSpec } from "./body";
export { oddsOf, type TroubleUsage } from "./faults";
export { answerFrom, type Report, reportOf } from "./reports";
export { drawTroubled, mainFaults, mended, soundStrength, strength, type TroubledMachine } from "./troubled";
