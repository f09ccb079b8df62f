/** Exhaust: fan, duct, filters. */
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { BUILDS_UP, PUT_BACK_WRONG, shifts, shows } from "./showing";

export const exhaustChecks = {
  smoke: {
    title: "Where does the smoke go?",
    how: "Watch a cut through the lid.",
    needs: "exhaust",
    kind: "ordinal",
    minutes: 0,
    symptom: "smoke",
    outcomes: {
      clears: { leak: 0.93, label: "straight away", short: "smoke clears" },
      swirls: { leak: 0.05, label: "swirls", short: "smoke swirls" },
      lingers: { leak: 0.02, label: "lingers", short: "smoke lingers" },
    },
  },
  "duct-speed": {
    title: "Measure the air in the duct",
    how: "Vane in the middle of the duct.",
    tools: "air speed meter",
    needs: "exhaust",
    kind: "ordinal",
    minutes: 2,
    value: { unit: "m/s", usual: { baseline: "ductSpeedMps" }, compare: "ratio", spread: 0.06, sd: 0.05, min: 0.05, max: 60 },
    symptom: "smoke",
    outcomes: {},
    valueShort: "{value} m/s in the duct",
    valueLabel: "m/s",
  },
  "prefilter-out": {
    title: "Take the pre-filter out for a moment",
    how: "Does the smoke leave better without it?",
    needs: "exhaust",
    kind: "ordinal",
    sight: true,
    minutes: 2,
    symptom: "smoke",
    outcomes: {
      same: { leak: 0.95, label: "the same", short: "same without pre-filter" },
      better: { leak: 0.05, label: "better", short: "better without pre-filter" },
    },
  },
  "fan-spin": {
    title: "Spin the fan by hand",
    how: "Unplugged. It should run on freely.",
    caution: "Unplugged: blades and duct edges are sharp.",
    needs: "exhaust",
    kind: "ordinal",
    sight: true,
    minutes: 2,
    symptom: "smoke",
    outcomes: {
      free: { leak: 0.96, label: "free", short: "fan free" },
      drags: { leak: 0.03, label: "drags", short: "fan drags" },
      stopped: { leak: 0.01, label: "stuck", short: "fan stuck" },
    },
  },
  "fan-arrow": {
    title: "Which way does the fan's arrow point?",
    how: "Away from the machine is right.",
    needs: "exhaust",
    kind: "ordinal",
    sight: true,
    minutes: 1,
    symptom: "smoke",
    outcomes: {
      right: { leak: 0.998, label: "away, right", short: "fan arrow right" },
      reversed: { leak: 0.002, label: "towards it", short: "fan reversed" },
    },
  },
} as const satisfies Checks;

export const exhaustRepairs = {
  "clean-exhaust": { name: "Clean fan and duct", minutes: 25, parts: ["cabinet-fan", "inline-fan", "duct", "exhaust-draws"] },
  "turn-fan": { name: "Turn the fan round", minutes: 15, parts: ["turn-fan", "exhaust-draws"] },
  "swap-prefilter": { madeSafe: false, name: "Swap the pre-filter", minutes: 6, parts: ["prefilter", "exhaust-draws"] },
} as const satisfies Repairs;

export const exhaustFaults = {
  "exhaust-weak": {
    name: "Exhaust weak",
    says: "the exhaust is weak",
    station: "exhaust",
    loss: [0.02, 0.06],
    lossSd: [0.01, 0.03],
    baseRate: 0.035,
    repair: "clean-exhaust",
    reason: "Fan and duct cake up with resin; smoke then stays in the beam and on the optics.",
    symptoms: { smoke: 1, power: 0.3, "cut-quality": 0.4 },
    effects: {
      ...BUILDS_UP,
      smoke: shows([0.25, 0.6, 0.15], [0.05, 0.4, 0.55]),
      "duct-speed": shifts(-0.2, -0.55, 0.08, 0.2),
      "fan-spin": shows([0.5, 0.45, 0.05], [0.25, 0.5, 0.25]),
    },
  },
  "fan-reversed": {
    name: "Fan wrong way round",
    says: "the fan sits the wrong way round",
    station: "exhaust",
    loss: [0.03, 0.06],
    lossSd: [0.01, 0.03],
    baseRate: 0.004,
    usage: "seat",
    repair: "turn-fan",
    reason: "An in-line fan refitted with its arrow towards the machine.",
    symptoms: { smoke: 1, power: 0.2 },
    effects: {
      ...PUT_BACK_WRONG,
      smoke: shows([0.05, 0.35, 0.6], [0.02, 0.28, 0.7]),
      "fan-arrow": shows([0.03, 0.97], [0.02, 0.98]),
      "duct-speed": shifts(-0.7, -1.2, 0.2, 0.3),
    },
  },
  "prefilter-clogged": {
    name: "Pre-filter full",
    says: "the pre-filter is full",
    station: "exhaust",
    loss: [0.02, 0.05],
    lossSd: [0.01, 0.02],
    baseRate: 0.04,
    usage: "dose",
    repair: "swap-prefilter",
    reason: "The pre-filter pad fills in weeks of smoky work.",
    symptoms: { smoke: 1, power: 0.2 },
    effects: {
      ...BUILDS_UP,
      smoke: shows([0.25, 0.6, 0.15], [0.06, 0.44, 0.5]),
      "duct-speed": shifts(-0.2, -0.5, 0.08, 0.2),
      "prefilter-out": shows([0.08, 0.92], [0.03, 0.97]),
    },
  },
} satisfies Faults;

export const exhaustSigns = {
  smoke: { name: "Smoke swirls or lingers", title: "Smoke lingers", symptom: "smoke", findings: [{ check: "smoke", outcome: "lingers" }] },
} satisfies Signs;
