/**
 * # Beam path and power budget (M1)
 * Answers: how many watts are left after each station, and what an aperture cuts off. Relations: transmissions
 * multiply along the path (Beer-Lambert in log power), the TEM00 intensity profile of a Gaussian beam (Siegman,
 * "Lasers", ch. 17) and its propagation with a beam quality factor M².
 */
export * from "./clipping";
export * from "./grades";
export * from "./lens";
export * from "./lensPicture";
export * from "./path";
export * from "./roles";
