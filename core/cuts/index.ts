/**
 * # Effective power from cuts (M2)
 * Answers: how strong is the beam, told by what it cuts. A speed ladder is a dose-response experiment: the chance that a
 * rung drops falls with ln speed along a probit curve of known slope, and v50 is its maximum-likelihood middle
 * (Finney, "Probit Analysis"). Ratios of two v50 give effective power against a baseline known to be good.
 */
export * from "./bedMap";
export * from "./effective";
export * from "./gate";
export * from "./ladder";
