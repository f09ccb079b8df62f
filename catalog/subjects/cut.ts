/** The cut itself, and when and where it fails: what a trace begins with. */

import { METER } from "./asking";
import type { Checks, Signs } from "./definition";

export const cutChecks = {
  "known-cut": {
    title: "Cut your usual square",
    how: "Known sheet, usual speed and power, one small square. Poke it once.",
    caution: "Exhaust on, stay with it.",
    tools: "known sheet",
    kind: "loss",
    measures: "cut",
    minutes: 3,
    symptom: "power",
    outcomes: {
      through: { leak: 0.94, label: "drops through", short: "usual cut drops" },
      hangs: { leak: 0.04, label: "hangs", short: "usual cut hangs" },
      "part-through": { leak: 0.015, label: "part through", short: "usual cut part through" },
      "surface-only": { leak: 0.005, label: "surface only", short: "usual cut only marks" },
    },
  },
  ladder: {
    title: "Cut a speed ladder",
    how: "Enter it in the log: a row of shapes at one power, each a step faster.",
    caution: "Exhaust on, stay with it.",
    tools: "known sheet",
    kind: "loss",
    measures: "ladder",
    minutes: 6,
    symptom: "power",
    outcomes: {},
    valueShort: "ladder at {value}",
    valueLabel: "of best",
  },
  power: {
    title: "Watts after {part}",
    how: "Probe in the beam after {part}, the same setting as for the baseline.",
    caution: METER,
    tools: "power probe",
    needs: "power",
    kind: "loss",
    measures: "power",
    minutes: 7,
    gated: true,
    symptom: "power",
    outcomes: {},
    valueShort: "{value} W after {part}",
    valueLabel: "watts",
  },
  "bed-map": {
    title: "The same cut at four corners and the middle",
    how: "One small ladder or your usual square in each. Compare them.",
    caution: "Exhaust on, stay with it.",
    tools: "scrap sheet",
    kind: "nominal",
    leakWeight: 0.03,
    minutes: 15,
    symptom: "power",
    outcomes: {
      even: { leak: 0.72, label: "even", short: "even over the bed" },
      "falls-with-distance": { leak: 0.05, label: "weaker with distance", short: "worse with distance" },
      "one-side": { leak: 0.05, label: "one side", short: "worse on one side" },
      "one-corner": { leak: 0.05, label: "one corner", short: "worse in one corner" },
      patchy: { leak: 0.13, label: "patchy", short: "patchy" },
    },
  },
  onset: {
    title: "How did it start?",
    how: "From memory and the log.",
    kind: "nominal",
    leakWeight: 0.05,
    minutes: 0,
    outcomes: {
      sudden: { leak: 0.34, label: "all at once", short: "came at once" },
      gradual: { leak: 0.4, label: "slowly", short: "came slowly" },
      "new-material": { leak: 0.26, label: "with a new material", short: "came with new material" },
    },
  },
  "last-touched": {
    title: "What was done last before it?",
    how: "A clean, or something taken out of its seat?",
    kind: "nominal",
    leakWeight: 0.05,
    minutes: 0,
    outcomes: {
      nothing: { leak: 0.6, label: "nothing", short: "nothing was touched" },
      cleaned: { leak: 0.3, label: "cleaned", short: "cleaned just before" },
      "seat-opened": { leak: 0.1, label: "a seat was opened", short: "a seat was opened" },
    },
  },
  "in-run": {
    title: "Does it fade in a long run?",
    how: "Compare the start and the end of a long job.",
    kind: "ordinal",
    minutes: 0,
    symptom: "power",
    outcomes: {
      steady: { leak: 0.95, label: "steady", short: "steady in long runs" },
      fades: { leak: 0.05, label: "fades, then recovers", short: "fades in long runs" },
    },
  },
  kerf: {
    title: "Measure the kerf",
    how: "Feeler or calliper in a fresh cut.",
    tools: "feeler gauge",
    kind: "ordinal",
    minutes: 2,
    value: { unit: "mm", usual: 0.18, compare: "difference", spread: 0.025, sd: 0.03, min: 0.02, max: 2 },
    symptom: "cut-quality",
    outcomes: { usual: { leak: 0.93, label: "as usual", short: "kerf as usual" }, wide: { leak: 0.07, label: "wide", short: "kerf wide" } },
    valueShort: "kerf {value} mm",
    valueLabel: "mm wide",
  },
  engraving: {
    title: "Engrave a small text",
    how: "Known material and setting.",
    caution: "Exhaust on, stay with it.",
    kind: "ordinal",
    minutes: 3,
    symptom: "cut-quality",
    outcomes: {
      crisp: { leak: 0.93, label: "crisp", short: "engraving crisp" },
      blurred: { leak: 0.04, label: "blurred", short: "engraving blurred" },
      faint: { leak: 0.03, label: "faint", short: "engraving faint" },
    },
  },
} as const satisfies Checks;

export const cutSigns = {
  "slowly-weaker": {
    name: "No longer cuts through, slowly worse",
    title: "Slowly weaker",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "hangs" },
      { check: "onset", outcome: "gradual" },
    ],
  },
  "suddenly-weaker": {
    name: "No longer cuts through, all at once",
    title: "Suddenly weaker",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "part-through" },
      { check: "onset", outcome: "sudden" },
    ],
  },
  "after-cleaning": {
    name: "Weak right after cleaning",
    title: "Weak after cleaning",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "part-through" },
      { check: "onset", outcome: "sudden" },
      { check: "last-touched", outcome: "seat-opened" },
    ],
  },
  "far-corner": {
    name: "Weaker far from the tube, or in one corner",
    title: "Weak at the far corner",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "hangs" },
      { check: "bed-map", outcome: "falls-with-distance" },
    ],
  },
  "random-patches": {
    name: "Weaker in random patches",
    title: "Weak in patches",
    symptom: "power",
    findings: [
      { check: "known-cut", outcome: "hangs" },
      { check: "bed-map", outcome: "patchy" },
    ],
  },
  fades: {
    name: "Fades in a long run, recovers after a rest",
    title: "Fades in long runs",
    symptom: "power",
    findings: [{ check: "in-run", outcome: "fades" }],
  },
} satisfies Signs;
