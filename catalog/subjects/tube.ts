/** The tube and its supply. Nobody opens either but who is trained for it. */

import { INSIDE } from "./asking";
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { AGES, BREAKS, POWER, shifts, shows, TUBE_LOSS } from "./showing";

export const tubeChecks = {
  "tube-current": {
    title: "Read the tube current",
    how: "The machine's own meter, at your usual power.",
    caution: "Only by the machine's own meter. Never open the supply.",
    needs: "supply",
    kind: "ordinal",
    minutes: 1,
    value: { unit: "mA", usual: { baseline: "tubeCurrentMa" }, compare: "difference", spread: 0.3, sd: 0.4, min: 0, max: 60 },
    symptom: "power",
    outcomes: {
      normal: { leak: 0.96, label: "as usual", short: "current as usual" },
      low: { leak: 0.025, label: "low", short: "current low" },
      unsteady: { leak: 0.015, label: "unsteady", short: "current unsteady" },
    },
    valueShort: "{value} mA",
    valueLabel: "mA",
  },
  "tube-mark": {
    fires: true,
    speaksOf: "beam",
    title: "Mark right after the tube",
    how: "Tape on the frame of the first mirror, 15 to 20 % power, one short pulse. Only if it can be reached with panels on.",
    caution: INSIDE,
    tools: "packing tape",
    drawing: "tape",
    kind: "ordinal",
    minutes: 6,
    symptom: "power",
    outcomes: {
      round: { leak: 0.95, label: "round", short: "tube's mark round" },
      distorted: { leak: 0.03, label: "distorted", short: "tube's mark distorted" },
      weak: { leak: 0.02, label: "weak", short: "tube's mark weak" },
    },
  },
} as const satisfies Checks;

export const tubeRepairs = {
  "tube-supplier": { madeSafe: false, movesBeam: true, name: "Ask the tube's supplier", minutes: 45, needlessMinutes: 240 },
  "supply-qualified": { madeSafe: false, name: "Have the supply looked at", minutes: 60, needlessMinutes: 120 },
} as const satisfies Repairs;

export const tubeFaults = {
  "tube-aged": {
    // A worn tube may have lost anything up to half, so no loss at the tube, however large, speaks against it.
    name: "Tube worn",
    says: "the tube is worn",
    station: "tube",
    ...TUBE_LOSS,
    loss: [0.06, 0.32],
    lossSd: [0.03, 0.17],
    baseRate: 0.25,
    usage: "tube-hours",
    heavyShare: 0.4,
    repair: "tube-supplier",
    reason: "At its rated hours about one tube in four is worn enough to notice; far below them hardly any is.",
    symptoms: POWER,
    effects: {
      ...AGES,
      "tube-mark": shows([0.75, 0.08, 0.17], [0.35, 0.15, 0.5]),
      "tube-current": shows([0.95, 0.03, 0.02], [0.88, 0.06, 0.06]),
    },
  },
  "tube-mode": {
    name: "Tube's mode off",
    says: "the mirrors inside the tube have shifted",
    station: "tube",
    ...TUBE_LOSS,
    cutGain: 1.5,
    baseRate: 0.01,
    repair: "tube-supplier",
    reason: "The tube's own mirrors shift rarely, but a blow or a frozen winter can do it.",
    symptoms: { power: 1, "cut-quality": 0.8 },
    effects: {
      ...BREAKS,
      "tube-mark": shows([0.25, 0.72, 0.03], [0.06, 0.88, 0.06]),
      kerf: [shows([0.72, 0.28], [0.45, 0.55]), shifts(0.02, 0.05, 0.02, 0.04)],
      engraving: shows([0.5, 0.42, 0.08], [0.2, 0.6, 0.2]),
      "tape@after": shows([0.35, 0.08, 0.04, 0.53, 0], [0.12, 0.06, 0.05, 0.75, 0.02]),
    },
  },
  "supply-weak": {
    name: "Supply weak",
    says: "the tube supply is weak",
    station: "supply",
    ...TUBE_LOSS,
    baseRate: 0.02,
    repair: "supply-qualified",
    reason: "Supplies fail seldom and mostly at once; only a qualified person opens one.",
    symptoms: POWER,
    effects: {
      ...BREAKS,
      "tube-current": [shows([0.2, 0.55, 0.25], [0.06, 0.62, 0.32]), shifts(-1.6, -5, 0.8, 2)],
      "tube-mark": shows([0.7, 0.05, 0.25], [0.35, 0.08, 0.57]),
      "in-run": shows([0.8, 0.2], [0.65, 0.35]),
    },
  },
} satisfies Faults;

export const tubeSigns = {
  "odd-mark": {
    name: "Mark not round: crescent or double",
    title: "Odd mark",
    symptom: "power",
    findings: [{ check: "nozzle-mark", outcome: "crescent" }],
  },
  "current-low": {
    name: "Tube current below its usual",
    title: "Tube current low",
    symptom: "power",
    findings: [{ check: "tube-current", outcome: "low" }],
  },
  "tube-weak": {
    name: "Current as usual, but weak at the tube",
    title: "Weak at the tube",
    symptom: "power",
    findings: [
      { check: "tube-current", outcome: "normal" },
      { check: "tube-mark", outcome: "weak" },
    ],
  },
} satisfies Signs;
