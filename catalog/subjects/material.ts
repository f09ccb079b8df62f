/** The sheet and the bed it lies on. */
import { tried } from "./asking";
import type { Checks, Faults, Repairs } from "./definition";
import { FAINT, shifts, shows } from "./showing";

export const materialChecks = {
  "material-swap": {
    fires: true,
    title: "Try another sheet",
    how: "One known to cut, flat and dry, same setting.",
    caution: "Keep the exhaust on and stay with it.",
    tools: "known sheet",
    kind: "ordinal",
    sight: true,
    tries: { outcome: "cuts-now", repair: "other-sheet" },
    minutes: 4,
    outcomes: tried("other sheet the same", "other sheet cuts"),
  },
  "bed-level": {
    title: "Level the bed?",
    how: "Gauge at four corners and the middle.",
    tools: "focus gauge",
    needs: "bed",
    kind: "ordinal",
    sight: true,
    minutes: 3,
    value: { unit: "mm", usual: 0, compare: "magnitude", spread: 0.4, sd: 0.3, min: 0, max: 30 },
    outcomes: { level: { leak: 0.95, label: "level", short: "bed level" }, off: { leak: 0.05, label: "off", short: "bed not level" } },
    valueShort: "bed {value} mm off",
    valueLabel: "mm off",
  },
} as const satisfies Checks;

export const materialRepairs = {
  "level-bed": { movesBeam: true, name: "Level the bed", minutes: 12 },
  "other-sheet": { madeSafe: false, movesBeam: true, name: "Take another sheet", minutes: 4 },
} as const satisfies Repairs;

export const materialFaults = {
  "bed-uneven": {
    name: "Bed not level",
    says: "the bed is not level",
    station: "bed",
    loss: [0.1, 0.3],
    lossSd: [0.04, 0.14],
    heavyShare: 0.75,
    baseRate: 0.055,
    repair: "level-bed",
    reason: "A crumb under the honeycomb or a bent slat lifts one side out of focus.",
    symptoms: { power: 0.8, "cut-quality": 0.8 },
    effects: {
      onset: shows([0.6, 0.3, 0.1], [0.68, 0.22, 0.1]),
      "last-touched": shows([0.5, 0.42, 0.08], [0.46, 0.46, 0.08]),
      "bed-map": shows([0.06, 0.07, 0.5, 0.29, 0.08], [0.02, 0.07, 0.54, 0.29, 0.08]),
      // The gauge stands where the head is, and finds some of it.
      "focus-gauge": [shows([0.8, 0.2], [0.5, 0.5]), shifts(0.4, 0.9, 0.3, 0.4)],
      "bed-level": [shows([0.15, 0.85], [0.04, 0.96]), shifts(1.8, 4, 0.7, 1.5)],
      kerf: [shows([0.8, 0.2], [0.5, 0.5]), shifts(0.02, 0.06, 0.02, 0.04)],
      engraving: shows([0.6, 0.35, 0.05], [0.4, 0.52, 0.08]),
    },
  },
  "material-varies": {
    name: "The sheet itself",
    says: "it is the sheet, not the machine",
    station: "material",
    loss: [0.07, 0.22],
    heavyShare: 0.6,
    baseRate: 0.075,
    repair: "other-sheet",
    reason: "Glue, knots, moisture or a warped sheet: the work, not the machine.",
    symptoms: { power: 0.9, "cut-quality": 0.5 },
    effects: {
      ...FAINT,
      onset: shows([0.3, 0.08, 0.62], [0.25, 0.04, 0.71]),
      "last-touched": shows([0.85, 0.12, 0.03], [0.85, 0.12, 0.03]),
      "bed-map": shows([0.3, 0.05, 0.06, 0.06, 0.53], [0.34, 0.04, 0.05, 0.05, 0.52]),
      "material-swap": shows([0.25, 0.75], [0.15, 0.85]),
      flame: shows([0.85, 0.15], [0.75, 0.25]),
    },
  },
} satisfies Faults;
