/**
 * # The practice machine
 * Answers: what would a real machine have done. A seeded simulator with its own physics: a tube that fades with the hours, optics
 * that foul with smoke at rates of their own, faults that come and are mended, readings with noise. It shares nothing with the
 * engine that judges: no likelihoods, no catalog of effects. The seed of drills and of the demo history.
 */

export { type AimMachine, aimMachine, type Misalignment, USUAL_MISALIGNMENT } from "./aiming/machine";
export {
  historyStartMs,
  type SimulatedChore,
  type SimulatedEvent,
  type SimulatedHistory,
  type SimulatedRound,
  simulateHistory,
} from "./history";
export { BenchMachine, type SimulatedStation } from "./machine";
export { SIMULATED_PATHS } from "./paths";
export type { SideReadings } from "./readings";
export type { TroubleSpec } from "./trouble/body";
export { oddsOf, type TroubleUsage } from "./trouble/faults";
export { drawTroubled, mainFaults, mended, soundStrength, strength, type TroubledMachine } from "./trouble/machine";
export { answerFrom, type Report, reportOf } from "./trouble/reports";
