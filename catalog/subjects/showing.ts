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
export const FAINT = { engraving: shows([0.9, 0.04, 0.06], [0.48, 0.05, 0.47]) } satisfies Effects;
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
/** A film of 6 % lies between haze and film, one of 22 % among the spots (M1's losses by grade), each graded half a grade off at times. */
export const DIRTY_LOOK = shows([0.04, 0.31, 0.568, 0.08, 0.002], [0.01, 0.05, 0.332, 0.6, 0.008]);
export const BROKEN_LOOK = shows([0.1, 0.1, 0.12, 0.28, 0.4], [0.08, 0.04, 0.06, 0.22, 0.6]);
/**
 * A tilt moves the mark by its way: little at the next mirror, which may look centred, and more at each after it. A loss there takes some
 * 4 mm (M1: a 20 mm mirror, 4 mm off: 0.954).
 */
export const MARK_OFF = [shows([0.42, 0.49, 0.06, 0.03, 0], [0.2, 0.53, 0.22, 0.04, 0.01]), shifts(2, 3, 1.2, 1.8)];
export const MARK_FURTHER_OFF = [shows([0.1, 0.8, 0.07, 0.03, 0], [0.04, 0.67, 0.24, 0.03, 0.02]), shifts(3.4, 5.5, 1.3, 2.5)];
/** A cracked or burnt optic before it gives a mark an odd shape. */
export const ODD_MARK = shows([0.74, 0.04, 0.04, 0.18, 0], [0.46, 0.04, 0.05, 0.45, 0]);
/** Near and far marks lie apart by tilt times travel, at every leg behind the mirror that moves. */
export const MARKS_APART = [shows([0.12, 0.88], [0.04, 0.96]), shifts(3.2, 5.8, 1.5, 2.4)];
/**
 * A tilted beam wanders in step with the way it has to go: over both axes when gantry and head legs follow, over one axis when
 * only the head leg does, and not at all after the last moving leg.
 */
export const OVER_THE_BED = [
  shows([0.86, 0.03, 0.04, 0.04, 0.03], [0.86, 0.03, 0.04, 0.04, 0.03]),
  shows([0.26, 0.2, 0.42, 0.09, 0.03], [0.1, 0.24, 0.53, 0.1, 0.03]),
  shows([0.2, 0.56, 0.1, 0.11, 0.03], [0.08, 0.68, 0.1, 0.11, 0.03]),
] as const;
export const POWER = { power: 1, "cut-quality": 0.4 } as const;
export const TUBE_LOSS = { lossAt: "tube", loss: [0.06, 0.22], lossSd: [0.03, 0.09] } as const;
