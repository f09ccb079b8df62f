/**
 * # The practice machine
 * Answers: what would a real machine have done. A seeded simulator with its own physics: a tube that fades with the hours, optics
 * that foul with smoke at rates of their own, faults that come and are mended, readings with noise. It shares nothing with the
 * engine that judges: no likelihoods, no catalog of effects. The seed of the demo history and of the devices that stand in.
 */

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
