/**
 * How often, in three schools. Amounts are starting values with a reason each, which an owner may change or have learned. `by-use`
 * optics count smoke (ply-hours), the rest firing hours or days.
 */
import type { CarePlace, School } from "#core/machine";
import type { Every, TaskRule } from "#core/schedule";

export interface Task extends TaskRule {
  readonly name: string;
  readonly does: string;
  readonly reason: string;
  /** When it falls due by each school; undefined where that school never does it. */
  readonly schools: Readonly<Record<School, Every | undefined>>;
}

/** A task for any machine; `part` is the procedure that carries it out. */
export interface TaskTemplate {
  readonly part: string;
  readonly does: string;
  readonly every: Readonly<Record<School, Every | undefined>>;
  readonly reason: string;
  /** Done by a look as well as by a clean. */
  readonly look?: boolean;
  /** What its smoke is counted for, where that is not the optics. */
  readonly counts?: TaskRule["counts"];
  readonly byOthers?: TaskRule["byOthers"];
  /** Falls due before winter, where the owner said when that is. */
  readonly season?: boolean;
}

const days = (n: number): Every => ({ days: n });
const hours = (n: number): Every => ({ firingHours: n });
const smoke = (n: number): Every => ({ plyHours: n });
const losing = (every: Every): Every => ({ ...every, airflowLoss: 0.15 });
const newTube = (every: Every): Every => ({ ...every, afterNew: ["tube"] });
const AFTER_WORK: Every = { afterNew: ["tube"], afterOpened: true };
/** Half a lens's interval on one day is heavy smoke. */
const smoky = (every: Every): Every => ({ ...every, smokyDay: 4 });

/** Ply-hours after which an optic is due by the by-use school, by where it stands. The trace takes them as its expectation. */
export const INTERVAL_PLY_HOURS = {
  lens: 8,
  nozzle: 16,
  headMirror: 16,
  backMirror: 40,
  sideWindow: 40,
  enclosed: 120,
  window: 120,
  travellingWindow: 120,
} as const satisfies Record<CarePlace, number>;

/** Optics in the path, by where they stand. */
export const opticTasks = {
  lens: {
    does: "inspect, then clean",
    every: { careful: smoky(days(1)), "by-use": smoky(smoke(INTERVAL_PLY_HOURS.lens)), minimal: smoky(days(7)) },
    reason: "Nearest to the smoke: about 8 hours of cutting ply, and within the day after 4.",
  },
  nozzle: {
    does: "swab and gauge",
    every: { careful: days(1), "by-use": smoke(INTERVAL_PLY_HOURS.nozzle), minimal: days(7) },
    reason: "The head is open for the lens anyway; acrylic gums it fast.",
  },
  headMirror: {
    does: "clean",
    every: { careful: days(1), "by-use": smoke(INTERVAL_PLY_HOURS.headMirror), minimal: days(7) },
    reason: "In the smoke with the lens: every other day of use.",
  },
  backMirror: {
    does: "inspect, clean if hazed",
    every: { careful: days(7), "by-use": smoke(INTERVAL_PLY_HOURS.backMirror), minimal: days(30) },
    reason: "Out of the smoke, in its drift; seldom inspected.",
  },
  enclosed: {
    does: "inspect, clean if hazed",
    every: { careful: days(30), "by-use": smoke(INTERVAL_PLY_HOURS.enclosed), minimal: days(182) },
    reason: "In a housing of its own: dust gets in slowly.",
  },
  sideWindow: {
    does: "both faces",
    every: { careful: days(14), "by-use": smoke(INTERVAL_PLY_HOURS.sideWindow), minimal: days(60) },
    reason: "The head's first glass: smoke drifts onto it.",
  },
  window: {
    does: "inspect, clean if hazed",
    every: { careful: days(30), "by-use": hours(INTERVAL_PLY_HOURS.window), minimal: days(60) },
    reason: "Far from the smoke; a burnt exit window means a new tube.",
  },
  travellingWindow: {
    does: "inspect, clean if hazed",
    every: { careful: days(7), "by-use": days(7), minimal: days(14) },
    reason: "The tube travels with the gantry, through the smoke.",
  },
} as const satisfies Record<CarePlace, Omit<TaskTemplate, "part">>;

export const systemTasks: readonly TaskTemplate[] = [
  {
    part: "tray",
    does: "embers, vacuum",
    every: { careful: days(3), "by-use": smoke(12), minimal: days(7) },
    reason: "Under the bed is where fires start.",
  },
  {
    part: "rails",
    does: "wipe",
    every: { careful: days(7), "by-use": hours(40), minimal: days(30) },
    reason: "Film and crumbs gather at the ends of travel.",
  },
  { part: "belts", does: "wipe, inspect", every: { careful: days(7), "by-use": hours(40), minimal: days(30) }, reason: "With the rails." },
  {
    part: "lubricate",
    does: "a trace, by kind of rail",
    every: { careful: days(30), "by-use": { firingHours: 160, nth: { station: "motion", task: "rails", times: 4 } }, minimal: days(182) },
    reason: "Only on clean rails, every fourth wipe.",
  },
  {
    part: "head-fan",
    does: "brush",
    every: { careful: days(30), "by-use": hours(60), minimal: days(60) },
    reason: "Clogged, it makes the machine stop to cool.",
  },
  {
    part: "cabinet",
    does: "wipe",
    every: { careful: days(3), "by-use": days(7), minimal: days(30) },
    reason: "Dust in the cabinet ends on the optics.",
  },
  {
    part: "cabinet-fan",
    does: "wipe blades",
    every: { careful: days(7), "by-use": hours(60), minimal: days(60) },
    reason: "Smoke leaves only with flow and pressure.",
  },
  {
    part: "inline-fan",
    does: "blades and housing",
    every: { careful: days(30), "by-use": losing(hours(160)), minimal: days(60) },
    reason: "When the duct has lost 15 % of its clean air; until that is measured, by hours.",
  },
  {
    part: "duct",
    does: "vacuum",
    every: { careful: days(90), "by-use": losing(hours(320)), minimal: days(182) },
    reason: "Soot in a duct chokes and burns.",
  },
  {
    part: "prefilter",
    does: "inspect the pad",
    every: { careful: days(7), "by-use": losing({ days: 14, plyHours: 40 }), minimal: days(30) },
    counts: "filter",
    reason: "Cheaper than the main filter it saves. Powder of stone or rubber counts double.",
  },
  {
    part: "filter-unit",
    does: "read its display",
    every: { careful: days(7), "by-use": days(7), minimal: days(30) },
    reason: "It shows when its filters are full.",
  },
  {
    part: "air",
    does: "hose end, pump or fan",
    every: { careful: days(7), "by-use": smoke(24), minimal: days(30) },
    reason: "Gum in the air line makes flame and char.",
  },
  {
    part: "slats-wipe",
    does: "wipe",
    every: { careful: days(7), "by-use": days(7), minimal: days(30) },
    reason: "Sticky slats mark the back of the sheet.",
  },
  {
    part: "lid",
    does: "both faces",
    every: { careful: days(7), "by-use": days(7), minimal: days(30) },
    reason: "What you cannot see through you do not watch.",
  },
  {
    part: "panel",
    does: "damp cloth",
    every: { careful: days(7), "by-use": days(7), minimal: days(30) },
    reason: "Gloves leave on it what they touched.",
  },
  {
    part: "small-glass",
    does: "inspect, wipe",
    every: { careful: days(1), "by-use": days(7), minimal: days(30) },
    reason: "Sensors and camera look through it: every daily round inspects it too.",
  },
  {
    part: "coolant-level",
    does: "level, colour, bubbles",
    every: { careful: newTube(days(7)), "by-use": newTube(days(25)), minimal: newTube(days(30)) },
    reason: "Evaporates; a dry pump cracks a tube. After a new tube there is air in the loop.",
  },
  {
    part: "coolant-change",
    does: "change",
    every: { careful: days(45), "by-use": days(182), minimal: days(365) },
    reason: "Closed chiller: twice a year; an open bucket every one to two months; yearly at the latest.",
  },
  {
    part: "antifreeze",
    does: "freezing point",
    // Where the first frost month is known, before winter takes the place of the days.
    every: { careful: days(91), "by-use": days(365), minimal: days(365) },
    season: true,
    reason: "Four weeks before the first frost month: frozen water breaks the tube.",
  },
  {
    part: "fins",
    does: "air through",
    every: { careful: days(30), "by-use": hours(120), minimal: days(182) },
    reason: "A warm tube is weaker and ages faster.",
  },
  {
    part: "tube-look",
    does: "wires, hoses, scorch marks",
    every: { careful: days(30), "by-use": hours(120), minimal: days(182) },
    reason: "A crack seen early is a leak avoided.",
  },
  {
    part: "encoder",
    does: "both faces",
    every: { careful: days(30), "by-use": hours(120), minimal: undefined },
    reason: "Times the firing: dust makes edges wave.",
  },
  {
    part: "encoder-reader",
    does: "soaked strip through",
    every: {
      careful: { days: 150, nth: { station: "encoder", task: "encoder", times: 5 } },
      "by-use": { firingHours: 600, nth: { station: "encoder", task: "encoder", times: 5 } },
      minimal: undefined,
    },
    reason: "Every fifth time of the strip: what the strip has, the reader gets.",
  },
  {
    part: "bearings",
    does: "a little grease",
    every: { careful: days(60), "by-use": hours(240), minimal: days(365) },
    reason: "Reachable ones only.",
  },
  {
    part: "camera",
    does: "wipe",
    every: { careful: days(7), "by-use": hours(40), minimal: days(60) },
    reason: "Cloudy, it places engravings wrong.",
  },
  {
    part: "bed",
    does: "deep clean",
    every: { careful: days(91), "by-use": smoke(160), minimal: days(365) },
    reason: "Resin in the cells marks the back and burns.",
  },
  {
    part: "aim-check",
    does: "near and far marks",
    every: { careful: { days: 30, ...AFTER_WORK }, "by-use": AFTER_WORK, minimal: undefined },
    reason: "After a mount was opened or a new tube fitted, nothing else tells whether the beam still meets the mirrors.",
  },
  {
    part: "controller",
    does: "delete one-offs",
    every: { careful: days(30), "by-use": days(91), minimal: undefined },
    reason: "Some controllers stop at 99 stored jobs.",
  },
  {
    part: "visit",
    byOthers: true,
    does: "by a qualified person",
    every: { careful: days(365), "by-use": days(365), minimal: undefined },
    reason: "Dust in the power supply is not yours to reach.",
  },
];

/** An open bucket is changed far more often than a closed chiller. */
export const OPEN_BUCKET_CHANGE_DAYS: Readonly<Record<School, number>> = { careful: 30, "by-use": 45, minimal: 60 };

/** When on a day of work something small is done that no round is planned for. */
export const HABIT_TIMES = ["each-job", "first-job", "closing", "never"] as const;
export type HabitTime = (typeof HABIT_TIMES)[number];

/** A habit of a day of work: the daily round does it, or the hand that closes the lid. */
export interface Habit {
  readonly id: string;
  readonly name: string;
  readonly does: string;
  readonly station: string;
  readonly when: Readonly<Record<School, HabitTime>>;
  readonly reason: string;
  /** Only where other work makes dust beside the machine. */
  readonly dustyOnly?: true;
}

export const habits: readonly Habit[] = [
  {
    id: "lens-look",
    name: "Lens",
    does: "inspect it",
    station: "lens",
    when: { careful: "each-job", "by-use": "first-job", minimal: "first-job" },
    reason: "A minute with a torch finds the film before it burns in.",
  },
  {
    id: "dust-sheet",
    name: "Dust sheet",
    does: "over the machine",
    station: "cabinet",
    when: { careful: "closing", "by-use": "closing", minimal: "never" },
    reason: "Dust of other work settles on open optics overnight.",
    dustyOnly: true,
  },
];
