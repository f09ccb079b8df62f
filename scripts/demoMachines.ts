/** The three machines of Fernhollow Reedworks: what they cut, how their owner keeps them, and the truth the simulator gives them. */
import type { LayoutId } from "#core/machine";
import { SIMULATED_PATHS, type SideReadings, type SimulatedChore, type SimulatedStation } from "#core/practice";

export interface DemoMaterial {
  readonly name: string;
  readonly kind: string;
  readonly thicknessMm: number;
  readonly usualSpeedMmPerS: number;
  readonly usualSetPercent: number;
  /** Share of the jobs. */
  readonly share: number;
}

export interface DemoMachine {
  readonly name: string;
  readonly slug: string;
  readonly layout: LayoutId;
  readonly seed: number;
  readonly ratedPowerW: number;
  readonly ratedTubeHours: number;
  readonly startTubeHours: number;
  readonly tubePowerW: number;
  /** v50 of the first material on a perfect machine (mm/s), at its usual power. */
  readonly v50: number;
  readonly materials: readonly [DemoMaterial, ...DemoMaterial[]];
  readonly stations: readonly SimulatedStation[];
  readonly habits: readonly { readonly part: string; readonly plyHours: number }[];
  readonly walk: readonly string[];
  readonly chores: readonly SimulatedChore[];
  readonly weeklyLook?: string;
  readonly hasCoolant: boolean;
  readonly jobsPerDay: readonly [number, number];
  readonly withCases: boolean;
  /** What is read and noted beside; sheets and settings name a material by its place in the list. */
  readonly side: SideReadings;
}

const chore = (station: string, task: string, everyDays: number, what: SimulatedChore["what"] = "cleaned"): SimulatedChore => ({
  station,
  task,
  what,
  everyDays,
});
/** What is done every sixth day, up to the last week. */
const weekly = (station: string, task: string, what: SimulatedChore["what"] = "cleaned"): SimulatedChore => ({
  ...chore(station, task, 6, what),
  onDay: 1,
});
const habit = (part: string, plyHours: number) => ({ part, plyHours });

/** What any of the three owners spends, and now and then loses. */
const costs: SideReadings["costs"] = [
  { everyDays: 68, cost: { what: "supplies", money: 14.5, note: "lens wipes and swabs" } },
  { everyDays: 131, cost: { what: "spoiled", money: 9.8, minutes: 35, note: "sheet that did not drop" } },
  { everyDays: 300, cost: { what: "service", money: 120, note: "preventive visit" } },
];

/** What any of the three owners does by the calendar. */
const chores = [
  chore("tray", "tray", 4),
  chore("cabinet", "cabinet", 5),
  weekly("lid", "lid"),
  weekly("cabinet", "panel"),
  weekly("air", "air"),
  chore("motion", "belts", 16),
  chore("exhaust", "cabinet-fan", 30),
  chore("tube", "tube-look", 52, "checked"),
  chore("bed", "bed", 70),
  chore("settings", "controller", 61, "checked"),
  chore("supply", "visit", 300, "checked"),
  chore("motion", "lubricate", 75, "adjusted"),
];
const waterChores = [chore("coolant", "coolant-level", 19, "checked"), chore("coolant", "antifreeze", 350, "checked")];

const larkspur: DemoMachine = {
  name: "Larkspur",
  slug: "larkspur",
  layout: "three-mirror",
  seed: 20260,
  ratedPowerW: 80,
  ratedTubeHours: 3000,
  startTubeHours: 912,
  tubePowerW: 79,
  v50: 15.4,
  materials: [
    { name: "birch ply", kind: "birch-ply", thicknessMm: 3, usualSpeedMmPerS: 14, usualSetPercent: 60, share: 0.5 },
    { name: "cast acrylic, jigs", kind: "cast-acrylic", thicknessMm: 4, usualSpeedMmPerS: 8, usualSetPercent: 65, share: 0.16 },
    { name: "card, templates", kind: "card", thicknessMm: 0.8, usualSpeedMmPerS: 60, usualSetPercent: 25, share: 0.14 },
    { name: "wool felt", kind: "felt", thicknessMm: 2, usualSpeedMmPerS: 35, usualSetPercent: 35, share: 0.12 },
    { name: "pear veneer", kind: "veneer", thicknessMm: 0.6, usualSpeedMmPerS: 90, usualSetPercent: 30, share: 0.08 },
  ],
  stations: SIMULATED_PATHS["three-mirror"],
  habits: [
    habit("lens", 8),
    habit("nozzle", 11.2),
    habit("mirror-3", 11.2),
    habit("mirror-2", 38),
    habit("mirror-1", 42),
    habit("window", 140),
  ],
  walk: ["tube", "mirror-1", "mirror-2", "mirror-3", "lens"],
  chores: [...chores, ...waterChores, chore("exhaust", "inline-fan", 84), chore("exhaust", "duct", 180)],
  hasCoolant: true,
  jobsPerDay: [2, 4],
  withCases: true,
  side: {
    seed: 771,
    currentMa: 22.2,
    coolant: { temperatureC: 20.4, flowLpm: 2.1 },
    ductSpeedMps: 6.2,
    sheets: [
      { materialId: 2, v50: 8.9, setPercent: 65 },
      { materialId: 4, v50: 39, setPercent: 35 },
    ],
    bed: { widthMm: 900, depthMm: 600 },
    lenses: [],
    costs,
    settings: [
      { materialId: 1, purpose: "engrave", speedMmPerS: 300, setPercent: 18, air: "low", lineMm: 0.1 },
      { materialId: 2, purpose: "cut", speedMmPerS: 8, setPercent: 65, air: "low", focusMm: 1 },
      { materialId: 4, purpose: "cut", speedMmPerS: 34, setPercent: 35, air: "full" },
    ],
  },
};

const teasel: DemoMachine = {
  name: "Teasel",
  slug: "teasel",
  layout: "moving-head",
  seed: 20261,
  ratedPowerW: 45,
  ratedTubeHours: 2500,
  startTubeHours: 210,
  tubePowerW: 44,
  v50: 66,
  materials: [
    { name: "card, templates", kind: "card", thicknessMm: 0.8, usualSpeedMmPerS: 52, usualSetPercent: 45, share: 0.45 },
    { name: "wool felt", kind: "felt", thicknessMm: 2, usualSpeedMmPerS: 18, usualSetPercent: 60, share: 0.3 },
    { name: "pear veneer", kind: "veneer", thicknessMm: 0.6, usualSpeedMmPerS: 50, usualSetPercent: 55, share: 0.25 },
  ],
  stations: SIMULATED_PATHS["moving-head"],
  habits: [habit("lens", 7.5), habit("nozzle", 14), habit("side-window", 38), habit("mirror-1", 110), habit("window", 100)],
  walk: ["tube", "mirror-1", "lens"],
  weeklyLook: "window",
  chores: [
    ...chores,
    ...waterChores,
    chore("camera", "camera", 26),
    weekly("camera", "small-glass"),
    weekly("exhaust", "filter-unit", "checked"),
    chore("head-fan", "head-fan", 40),
    chore("exhaust", "duct", 200),
  ],
  hasCoolant: true,
  jobsPerDay: [1, 3],
  withCases: false,
  side: {
    seed: 772,
    coolant: { temperatureC: 21.2, flowLpm: 1.1 },
    ductSpeedMps: 5.1,
    sheets: [{ materialId: 2, v50: 22.5, setPercent: 60 }],
    bed: { widthMm: 500, depthMm: 300 },
    lenses: [{ day: 74, source: "the maker", price: 48, focalMm: 50.8 }],
    costs,
    settings: [{ materialId: 3, purpose: "score", speedMmPerS: 150, setPercent: 22, air: "full" }],
  },
};

const burdock: DemoMachine = {
  name: "Burdock",
  slug: "burdock",
  layout: "periscope",
  seed: 20262,
  ratedPowerW: 60,
  ratedTubeHours: 10000,
  startTubeHours: 3320,
  tubePowerW: 61,
  v50: 13.2,
  materials: [
    { name: "birch ply", kind: "birch-ply", thicknessMm: 3, usualSpeedMmPerS: 10, usualSetPercent: 75, share: 0.55 },
    { name: "vegetable-tanned leather", kind: "leather", thicknessMm: 1.6, usualSpeedMmPerS: 19, usualSetPercent: 60, share: 0.3 },
    { name: "pear veneer", kind: "veneer", thicknessMm: 0.6, usualSpeedMmPerS: 80, usualSetPercent: 35, share: 0.15 },
  ],
  stations: SIMULATED_PATHS.periscope,
  habits: [
    habit("lens", 7.5),
    habit("nozzle", 12),
    habit("mirror-4", 13),
    habit("mirror-3", 38),
    habit("side-window", 116),
    habit("mirror-2", 116),
  ],
  walk: ["tube", "mirror-2", "mirror-3", "mirror-4", "lens"],
  chores: [
    ...chores,
    chore("fins", "fins", 55),
    weekly("bed", "slats-wipe"),
    weekly("exhaust", "filter-unit", "checked"),
    chore("encoder", "encoder", 50),
    chore("encoder", "encoder-reader", 210),
    chore("motion", "bearings", 110, "adjusted"),
    chore("exhaust", "duct", 170),
    // Behind a panel that is not for owners: done by the maker's service.
    { station: "mirror-1", what: "cleaned", everyDays: 140, note: "by the maker's service" },
    { station: "window", what: "cleaned", everyDays: 140, note: "by the maker's service" },
  ],
  hasCoolant: false,
  jobsPerDay: [1, 3],
  withCases: false,
  side: {
    seed: 773,
    ductSpeedMps: 5.6,
    sheets: [{ materialId: 2, v50: 24, setPercent: 60 }],
    bed: { widthMm: 700, depthMm: 450 },
    lenses: [
      { day: 40, source: "an unbranded box of three", price: 17, focalMm: 50.8 },
      { day: 128, source: "the maker", price: 62, focalMm: 50.8 },
    ],
    costs,
    settings: [{ materialId: 2, purpose: "engrave", speedMmPerS: 260, setPercent: 20, air: "low", lineMm: 0.12 }],
  },
};

export const demoMachines: readonly DemoMachine[] = [larkspur, teasel, burdock];
