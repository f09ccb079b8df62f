/**
 * # Aim (M7)
 * Answers: from marks on tape, how far each leg of the beam points off, which screw to turn by how much and where the mark will sit
 * then; what a screw does, learned from the marks before and after it was turned; and when it is good enough to stop. Relations:
 * reflection of a ray at a plane mirror and the thin lens in ray-transfer algebra (Hecht, "Optics", ch. 4 and 6), small rotations of
 * the mirror's normal, and the linear Gaussian filter for marks and turns (Gelb, "Applied Optimal Estimation", ch. 4).
 */
export * from "./directions";
export * from "./filter";
export * from "./mounts";
export * from "./path";
export * from "./reach";
export * from "./schemas";
export * from "./session";
export * from "./solve";
export * from "./trials";
