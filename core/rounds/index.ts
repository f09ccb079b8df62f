/**
 * # Service rounds
 * Answers: which steps a round has on this machine and in which order, with what, how many minutes it takes, and what it leaves in the
 * log. Procedures are written once for any machine and made ready for one by its mounts, coatings and fittings; a round is a frame
 * (make safe first, proof last) around the parts chosen; the frame bends to what the parts open.
 */
export * from "./advice";
export * from "./answers";
export * from "./broken";
export * from "./minutes";
export * from "./plan";
export * from "./resolve";
export * from "./standing";
export * from "./state";
export * from "./step";
export * from "./walk";
