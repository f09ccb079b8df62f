/** What a machine's owner may speak of in one line: materials, places and parts with their names. */

import type { Units } from "#core/units";

export interface SpokenMaterial {
  readonly id: number;
  /** "3 mm birch ply". */
  readonly label: string;
  readonly name: string;
  readonly thicknessMm: number;
  /** Usual setting, to complete with. */
  readonly speedMmPerS?: number | undefined;
  readonly setPercent: number;
  /** Speeds of the ladder that would be cut next, slowest first (mm/s). */
  readonly rungs: readonly number[];
}

export interface SpokenPlace {
  readonly id: string;
  readonly label: string;
  /** All it may be called, in lower case. */
  readonly names: readonly string[];
  /** Watts can be read after it. */
  readonly isMetered?: boolean;
}

export interface Vocabulary {
  readonly materials: readonly SpokenMaterial[];
  /** Stations of the path. */
  readonly stations: readonly SpokenPlace[];
  /** Parts something can be done to, stations among them, by the id that the log's form gives them. */
  readonly parts: readonly SpokenPlace[];
  /** Last reading of the hour counter. */
  readonly counterHours: number | undefined;
  /** Units the workshop reads: a figure without one is in them. */
  readonly units?: Units;
  /** Grades from clear to damaged. */
  readonly grades: readonly string[];
}

/** What a line was understood as: fields of the log's form of that kind, and the same in words. */
export interface Understood {
  readonly kind: string;
  readonly fields: Readonly<Record<string, string>>;
  readonly says: string;
  /** What is still missing, in words; empty when it can be kept. */
  readonly missing: readonly string[];
  /** A word or sign of it is not understood: it is kept as a note, or put otherwise. */
  readonly unclear?: boolean;
}

/** Words of results, and all they are called. The first of each is how it is completed. */
export const RESULTS: Readonly<Record<string, "through" | "hangs" | "part-through" | "surface-only">> = {
  through: "through",
  hangs: "hangs",
  part: "part-through",
  surface: "surface-only",
  dropped: "through",
  drops: "through",
  fell: "through",
  falls: "through",
  hang: "hangs",
  hung: "hangs",
  partly: "part-through",
  scratched: "surface-only",
};
export const RESULT_WORDS = {
  through: "dropped through",
  hangs: "it hangs",
  "part-through": "part of the way",
  "surface-only": "only the surface",
};

export const DONE: Readonly<Record<string, "cleaned" | "replaced" | "adjusted" | "aimed" | "checked">> = {
  cleaned: "cleaned",
  replaced: "replaced",
  adjusted: "adjusted",
  aimed: "aimed",
  checked: "checked",
  wiped: "cleaned",
  washed: "cleaned",
  vacuumed: "cleaned",
  changed: "replaced",
  new: "replaced",
  fitted: "replaced",
  greased: "adjusted",
  oiled: "adjusted",
  tightened: "adjusted",
  levelled: "adjusted",
};
export const DONE_WORDS = {
  cleaned: "cleaned",
  replaced: "replaced",
  adjusted: "adjusted or greased",
  aimed: "aimed",
  checked: "looked at",
};

/** A figure as it is said and sent: no more digits than it has. */
export const said = (value: number): string => String(Number(value.toFixed(3)));
