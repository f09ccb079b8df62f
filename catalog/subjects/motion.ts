/** Rails, belts, bearings and the fan in the head. */
import type { Checks, Faults, Repairs, Signs } from "./definition";
import { shows } from "./showing";

export const motionChecks = {
  "raster-edge": {
    fires: true,
    title: "Engrave a block, look at its edges",
    how: "A small filled square at your usual speed.",
    caution: "Keep the exhaust on and stay with it.",
    kind: "ordinal",
    minutes: 5,
    symptom: "motion",
    outcomes: {
      straight: { leak: 0.94, label: "straight", short: "edges straight" },
      wavy: { leak: 0.04, label: "wavy", short: "edges wavy" },
      stepped: { leak: 0.02, label: "stepped", short: "edges stepped" },
    },
  },
  "rail-touch": {
    title: "Feel the rails",
    how: "Unplugged. A finger along, to the ends of travel.",
    needs: "motion",
    kind: "ordinal",
    sight: true,
    minutes: 1,
    symptom: "motion",
    outcomes: {
      smooth: { leak: 0.93, label: "smooth", short: "rails smooth" },
      gritty: { leak: 0.07, label: "gritty", short: "rails gritty" },
    },
  },
  "bearing-push": {
    title: "Push the head by hand",
    how: "Unplugged, slowly, over the whole travel.",
    needs: "motion",
    kind: "ordinal",
    sight: true,
    minutes: 1,
    symptom: "motion",
    outcomes: {
      free: { leak: 0.95, label: "free", short: "head runs free" },
      drags: { leak: 0.04, label: "drags", short: "head drags" },
      skips: { leak: 0.01, label: "skips", short: "head skips" },
    },
  },
  belt: {
    title: "Press the belts",
    how: "Unplugged. Both, in the middle of their run.",
    needs: "motion",
    kind: "ordinal",
    sight: true,
    minutes: 2,
    symptom: "motion",
    outcomes: { taut: { leak: 0.96, label: "taut", short: "belts taut" }, slack: { leak: 0.04, label: "slack", short: "belt slack" } },
  },
} as const satisfies Checks;

export const motionRepairs = {
  "clean-rails": { name: "Wipe the rails", minutes: 15, parts: ["rails"] },
  "tension-belt": { name: "Take up the belt", minutes: 15 },
  "grease-bearings": { name: "Grease the bearings", minutes: 12, parts: ["bearings", "lubricate"] },
  "clean-head-fan": { name: "Clean the clogged fan", minutes: 15, parts: ["head-fan", "cabinet-fan"] },
} as const satisfies Repairs;

export const motionFaults = {
  "rails-dirty": {
    name: "Rails dirty",
    says: "the rails are dirty",
    station: "motion",
    loss: [0, 0],
    baseRate: 0.05,
    usage: "dose",
    repair: "clean-rails",
    reason: "Film and debris gather at the ends of travel.",
    symptoms: { motion: 1 },
    effects: {
      "rail-touch": shows([0.12, 0.88], [0.04, 0.96]),
      "raster-edge": shows([0.45, 0.5, 0.05], [0.15, 0.7, 0.15]),
      "bearing-push": shows([0.4, 0.57, 0.03], [0.15, 0.72, 0.13]),
    },
  },
  "belt-loose": {
    name: "Belt slack",
    says: "a belt is slack",
    station: "motion",
    loss: [0, 0],
    baseRate: 0.02,
    repair: "tension-belt",
    reason: "Belts stretch; a slack one lets lines shift.",
    symptoms: { motion: 1 },
    effects: {
      belt: shows([0.12, 0.88], [0.04, 0.96]),
      "raster-edge": shows([0.3, 0.55, 0.15], [0.1, 0.4, 0.5]),
      "bearing-push": shows([0.8, 0.15, 0.05], [0.6, 0.2, 0.2]),
    },
  },
  "bearing-dry": {
    name: "Bearings dry",
    says: "the bearings run dry",
    station: "motion",
    loss: [0, 0],
    baseRate: 0.015,
    repair: "grease-bearings",
    reason: "Linear bearings run dry after months of wiping.",
    symptoms: { motion: 1 },
    effects: { "bearing-push": shows([0.12, 0.78, 0.1], [0.04, 0.6, 0.36]), "raster-edge": shows([0.55, 0.38, 0.07], [0.25, 0.5, 0.25]) },
  },
  "fan-clogged": {
    name: "Fan clogged",
    says: "a fan is clogged",
    station: "motion",
    loss: [0, 0],
    baseRate: 0.02,
    usage: "dose",
    repair: "clean-head-fan",
    reason: "Head and case fans draw dust until a guard stops the job.",
    symptoms: { cooling: 1 },
    effects: { pauses: shows([0.25, 0.75], [0.06, 0.94]) },
  },
} satisfies Faults;

export const motionSigns = {
  "raster-waves": {
    name: "Engraved edges wave, lines shift",
    title: "Wavy engraving",
    symptom: "motion",
    findings: [{ check: "raster-edge", outcome: "wavy" }],
  },
  jerky: {
    name: "Jerky travel, gaps in an engraved face",
    title: "Jerky travel",
    symptom: "motion",
    findings: [{ check: "bearing-push", outcome: "drags" }],
  },
} satisfies Signs;
