/** Ids of the layouts to start from. This is the one list of them: the compiler asks for each where something is needed of every one. */
export const LAYOUT_IDS = ["three-mirror", "moving-head", "periscope"] as const;
export type LayoutId = (typeof LAYOUT_IDS)[number];
