/**
 * How faults of a kind show: what builds up, what breaks, what was put back wrong. Outcomes stand in the order of their check's. Rates
 * are authored starting values.
 */
import type { Effects } from "./definition";

/** P(outcome) caused by the light and by the heavy form, in the order of the check's outcomes. */
export const shows = (light: readonly number[], heavy: readonly number[]) => ({ kind: "outcomes", light, heavy }) as const;
/** Shift of a numeric reading with its spread. */
export const shifts = (light: number, heavy: number, sdLight: number, sdHeavy: number) =>
  ({ kind: "shift", mean: [light, heavy], sd: [sdLight, sdHeavy] }) as const;

/** onset: sudden, gradual, new material; last-touched: nothing, cleaned, seat opened; bed-map: even, falls, side, corner, patchy. */
/** Whatever takes much of the light makes an engraving faint. */
export const FAINT = { engraving: shows([0.88, 0.03, 0.09], [0.4, 0.03, 0.57]) } satisfies Effects;
export const BUILDS_UP = {
  ...FAINT,
  onset: shows([0.1, 0.85, 0.05], [0.2, 0.76, 0.04]),
  "last-touched": shows([0.82, 0.11, 0.07], [0.82, 0.11, 0.07]),
  "bed-map": shows([0.84, 0.02, 0.03, 0.03, 0.08], [0.88, 0.02, 0.03, 0.02, 0.05]),
} satisfies Effects;
export const BREAKS = {
  ...FAINT,
  onset: shows([0.55, 0.42, 0.03], [0.8, 0.17, 0.03]),
  "last-touched": shows([0.55, 0.3, 0.15], [0.5, 0.33, 0.17]),
  "bed-map": shows([0.85, 0.02, 0.04, 0.04, 0.05], [0.87, 0.02, 0.03, 0.03, 0.05]),
} satisfies Effects;
export const PUT_BACK_WRONG = {
  onset: shows([0.9, 0.06, 0.04], [0.94, 0.03, 0.03]),
  "last-touched": shows([0.06, 0.22, 0.72], [0.04, 0.18, 0.78]),
  "bed-map": shows([0.87, 0.02, 0.04, 0.04, 0.03], [0.89, 0.02, 0.03, 0.03, 0.03]),
} satisfies Effects;
/** The lens comes out to be cleaned, and that is what is remembered of it. */
export const AFTER_A_CLEAN = { "last-touched": shows([0.06, 0.52, 0.42], [0.04, 0.5, 0.46]) } satisfies Effects;
export const AGES = {
  ...FAINT,
  onset: shows([0.04, 0.93, 0.03], [0.08, 0.89, 0.03]),
  "last-touched": shows([0.62, 0.3, 0.08], [0.62, 0.3, 0.08]),
  "bed-map": shows([0.88, 0.03, 0.03, 0.02, 0.04], [0.88, 0.03, 0.03, 0.02, 0.04]),
} satisfies Effects;
export const DRIFTS = {
  ...FAINT,
  onset: shows([0.6, 0.36, 0.04], [0.8, 0.16, 0.04]),
  "last-touched": shows([0.5, 0.2, 0.3], [0.4, 0.2, 0.4]),
} satisfies Effects;
export const HEAT = { "in-run": shows([0.82, 0.18], [0.6, 0.4]) } satisfies Effects;
/**
 * A film of 6 % lies between haze and film, one of 22 % among the spots (M1's losses by grade), each graded half a grade off at times, and
 * by every fifth owner a whole grade milder: nobody likes to see dirt on what he has just cleaned.
 */
export const DIRTY_LOOK = shows([0.1, 0.362, 0.47, 0.066, 0.002], [0.02, 0.106, 0.386, 0.48, 0.008]);
export const BROKEN_LOOK = shows([0.1, 0.1, 0.12, 0.28, 0.4], [0.08, 0.04, 0.06, 0.22, 0.6]);
/** How a mark so far out is told: centred, off, clipped, misshapen, none. Less than two millimetres are hardly ever called off. */
export const MARK_OUT = {
  kind: "mark",
  of: "mark",
  rows: [
    { mm: 0.6, outcomes: [0.92, 0.05, 0.02, 0.01, 0] },
    { mm: 1.8, outcomes: [0.47, 0.47, 0.04, 0.02, 0] },
    { mm: 3, outcomes: [0.1, 0.82, 0.06, 0.02, 0] },
    { mm: 5, outcomes: [0.02, 0.81, 0.14, 0.02, 0.01] },
    { mm: 8, outcomes: [0.01, 0.55, 0.36, 0.03, 0.05] },
  ],
} as const;
/** A cracked or burnt optic before it gives a mark an odd shape. */
export const ODD_MARK = shows([0.74, 0.04, 0.04, 0.18, 0], [0.46, 0.04, 0.05, 0.45, 0]);
/** Near and far marks lie apart by tilt times travel, at every leg behind the mirror that moves: together, apart. */
export const MARKS_APART = {
  kind: "mark",
  of: "apart",
  rows: [
    { mm: 0.5, outcomes: [0.9, 0.1] },
    { mm: 1.3, outcomes: [0.5, 0.5] },
    { mm: 2.5, outcomes: [0.1, 0.9] },
    { mm: 5, outcomes: [0.03, 0.97] },
  ],
} as const;
/** The beam so far out in the nozzle: centred, off, crescent, double; and cool, warm, hot. A bore of 2.5 mm clips 4 % at 0.4 mm, 10 % at half. */
export const NOZZLE_OUT = {
  kind: "mark",
  of: "tip",
  rows: [
    { mm: 0.15, outcomes: [0.88, 0.08, 0.02, 0.02] },
    { mm: 0.4, outcomes: [0.46, 0.4, 0.12, 0.02] },
    { mm: 0.6, outcomes: [0.12, 0.3, 0.56, 0.02] },
    { mm: 1, outcomes: [0.03, 0.08, 0.87, 0.02] },
  ],
} as const;
export const NOZZLE_HEATED = {
  kind: "mark",
  of: "tip",
  rows: [
    { mm: 0.15, outcomes: [0.86, 0.12, 0.02] },
    { mm: 0.4, outcomes: [0.55, 0.39, 0.06] },
    { mm: 0.6, outcomes: [0.2, 0.5, 0.3] },
    { mm: 1, outcomes: [0.06, 0.2, 0.74] },
  ],
} as const;
/**
 * A tilted beam wanders in step with the way it has to go: over both axes when gantry and head legs follow, over one axis when
 * only the head leg does, and not at all after the last moving leg. Where one leg is all that travels, further from the tube and to one
 * side are the same place, and owners say either.
 */
export const OVER_THE_BED = [
  shows([0.86, 0.03, 0.04, 0.04, 0.03], [0.86, 0.03, 0.04, 0.04, 0.03]),
  shows([0.26, 0.2, 0.42, 0.09, 0.03], [0.1, 0.24, 0.53, 0.1, 0.03]),
  shows([0.2, 0.56, 0.1, 0.11, 0.03], [0.08, 0.68, 0.1, 0.11, 0.03]),
  shows([0.22, 0.35, 0.31, 0.09, 0.03], [0.08, 0.42, 0.37, 0.1, 0.03]),
] as const;
export const POWER = { power: 1, "cut-quality": 0.4 } as const;
export const TUBE_LOSS = { lossAt: "tube", loss: [0.06, 0.22], lossSd: [0.03, 0.09] } as const;
