/** The tube's exit window, and the window where the beam enters a moving head. */

import { grades, OPEN_HEAD } from "./asking";
import type { Checks, Faults, Repairs } from "./definition";
import { BREAKS, BROKEN_LOOK, BUILDS_UP, DIRTY_LOOK, HEAT, ODD_MARK, POWER, shows } from "./showing";

export const windowChecks = {
  "window-look": {
    title: "Look at the exit window",
    how: "Unplugged, torch on the bed, small inspection mirror. Look only.",
    caution: "Keep clear of the tube's terminals: charged long after power off.",
    tools: "torch, small mirror",
    needs: "window",
    kind: "ordinal",
    sight: true,
    minutes: 8,
    needsOpen: "window",
    minutesOpened: 1,
    graded: true,
    outcomes: grades("exit window", [0.66, 0.318, 0.017, 0.004, 0.001]),
  },
  "side-window-look": {
    title: "Look at the side window",
    how: "Unplugged, torch at an angle.",
    caution: OPEN_HEAD,
    tools: "torch",
    needs: "side-window",
    kind: "ordinal",
    sight: true,
    minutes: 4,
    needsOpen: "side-window",
    minutesOpened: 1,
    graded: true,
    outcomes: grades("side window", [0.62, 0.357, 0.018, 0.004, 0.001]),
  },
} as const satisfies Checks;

export const windowRepairs = {
  "clean-window": { opens: "window", name: "Clean the exit window", minutes: 12, parts: ["window"] },
  "clean-side-window": { opens: "side-window", name: "Clean the side window", minutes: 8, parts: ["side-window"] },
  "replace-side-window": { opens: "side-window", movesBeam: true, name: "Fit a spare window", minutes: 12, needlessMinutes: 15 },
} as const satisfies Repairs;

export const windowFaults = {
  "window-dirty": {
    name: "Exit window dirty",
    says: "the exit window is dirty",
    station: "window",
    lossAt: "window",
    heavyShare: 0.65,
    baseRate: 0.03,
    usage: "dose",
    repair: "clean-window",
    mendedBy: ["tube-supplier"],
    reason: "Far from the smoke, so it fouls slowly.",
    symptoms: POWER,
    effects: { ...BUILDS_UP, "window-look": DIRTY_LOOK, "tube-mark": shows([0.82, 0.06, 0.12], [0.6, 0.14, 0.26]) },
  },
  "window-damaged": {
    name: "Exit window damaged",
    says: "the exit window is damaged",
    station: "window",
    lossAt: "window",
    loss: [0.08, 0.26],
    lossSd: [0.04, 0.14],
    baseRate: 0.006,
    heavyShare: 0.65,
    repair: "tube-supplier",
    reason: "Dirt burnt into the exit window; it ends the tube.",
    symptoms: POWER,
    effects: {
      ...BREAKS,
      ...HEAT,
      "window-look": BROKEN_LOOK,
      "tape@after": ODD_MARK,
      "tube-mark": shows([0.5, 0.35, 0.15], [0.2, 0.5, 0.3]),
    },
  },
  "side-window-dirty": {
    name: "Side window dirty",
    says: "the side window is dirty",
    station: "side-window",
    lossAt: "side-window",
    heavyShare: 0.65,
    baseRate: 0.06,
    usage: "dose",
    repair: "clean-side-window",
    mendedBy: ["replace-side-window"],
    reason: "The head's own window sits in the smoke.",
    symptoms: POWER,
    effects: { ...BUILDS_UP, "side-window-look": DIRTY_LOOK },
  },
  "side-window-damaged": {
    name: "Side window damaged",
    says: "the side window is damaged",
    station: "side-window",
    lossAt: "side-window",
    loss: [0.08, 0.26],
    lossSd: [0.04, 0.14],
    baseRate: 0.01,
    heavyShare: 0.65,
    repair: "replace-side-window",
    reason: "Burnt-in dirt cracks small windows.",
    symptoms: POWER,
    effects: { ...BREAKS, ...HEAT, "side-window-look": BROKEN_LOOK, "tape@after": ODD_MARK },
  },
} satisfies Faults;
